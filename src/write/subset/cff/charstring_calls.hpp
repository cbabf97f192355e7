// SPDX-License-Identifier: MIT
// Which subroutines charstrings call, and the same charstrings with subroutines renumbered.
#pragma once

#include <vector>

#include "write/subset/cff/cff_source.hpp"

namespace grafema::detail {

/// Walks charstrings as a machine would, without drawing.
class CharstringCalls {
 public:
  explicit CharstringCalls(const CffSource& source);

  /// Notes what the glyph's charstring calls.
  void visit(std::uint32_t glyph);
  /// After all visits, before anything is asked for.
  void finish();
  /// Whether each call's number stands right before it, as in all fonts that tools wrote; where not, no
  /// subroutine can be renumbered.
  bool plain() const { return plain_; }

  /// The glyph's charstring with its calls renumbered.
  std::vector<std::byte> charstring(std::uint32_t glyph) const;
  /// The subroutines that are called, in their order, renumbered among themselves.
  std::vector<std::vector<std::byte>> global() const;
  std::vector<std::vector<std::byte>> local(std::size_t font) const;

 private:
  static constexpr std::uint32_t kNone = ~std::uint32_t{0};
  struct Call {
    std::uint32_t number_at = 0, operator_at = 0;
    std::uint32_t target = kNone;  ///< which subroutine; kNone where the font has none of that number
    bool global = false;
  };
  struct Body {
    bool seen = false;
    std::vector<Call> calls;
    std::vector<std::uint8_t> mask_bytes;  ///< of each hint mask; the same in every context, or not plain
  };
  struct State {
    std::size_t font = 0, depth = 0, hints = 0, group = 0, steps = 0;
    bool ended = false;
  };
  void walk(const TableView& code, Body& body, bool is_global, State& state, int nested);
  void call(bool global, double number, State& state, int nested, Call& out);
  bool operate(unsigned op, double last, bool has_last, State& state) const;
  std::vector<std::byte> rewrite(const TableView& code, const Body& body, std::size_t font) const;

  const CffSource& source_;
  std::vector<std::size_t> group_regions_;  ///< how many regions each group of deltas blends
  std::vector<Body> glyphs_, global_;
  std::vector<std::vector<Body>> local_;
  struct Numbers {
    std::vector<std::uint32_t> of;  ///< of each subroutine; kNone where nothing calls it
    std::uint32_t count = 0;
  };
  Numbers global_numbers_;
  std::vector<Numbers> local_numbers_;
  std::size_t steps_ = 0;  ///< of all glyphs
  bool plain_ = true;
};

}  // namespace grafema::detail
