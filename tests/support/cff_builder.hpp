// SPDX-License-Identifier: MIT
// CFF and CFF2 tables for tests: charstrings put together by hand.
#pragma once

#include <array>
#include <string>
#include <vector>

#include "support/bytes.hpp"

namespace grafema::test {

/// A Type 2 charstring: numbers and operators in order.
class Charstring {
 public:
  /// Numbers, then an operator; 12 NN is written as 1200 + NN.
  Charstring& op(std::initializer_list<double> numbers, int op);
  Charstring& number(double value);
  Charstring& raw(std::initializer_list<int> bytes);
  const std::vector<std::byte>& get() const { return out_.get(); }

 private:
  Bytes out_;
};

struct CffDrawing {
  std::vector<std::vector<std::byte>> glyphs;
  std::vector<std::vector<std::byte>> global, local;  ///< subroutines
  std::vector<std::string> names;  ///< of the glyphs after the first; standard strings or own ones
  std::vector<int>
      charset;         ///< string ids of the glyphs after the first; empty: those of `names` as own strings
  std::string matrix;  ///< the six numbers of FontMatrix with spaces between; empty: none
  // CID-keyed: glyphs by halves use the first and the second font dictionary.
  bool keyed = false;
  std::vector<std::string> dict_matrices;
  int select_format = 3;
};

std::vector<std::byte> make_cff(const CffDrawing& drawing);

/// CFF2 with one font dictionary and a variation store of one axis and one region that peaks at 1.
std::vector<std::byte> make_cff2(const std::vector<std::vector<std::byte>>& glyphs,
                                 const std::vector<std::vector<std::byte>>& global = {});

/// An item variation store: regions by axis (start, peak, end) and rows of deltas, one group.
std::vector<std::byte> make_variation_store(const std::vector<std::vector<std::array<double, 3>>>& regions,
                                            const std::vector<std::vector<int>>& rows);

}  // namespace grafema::test
