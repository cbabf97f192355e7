// SPDX-License-Identifier: MIT
// Shapes that melt into other shapes: any letters into any letters.
#pragma once

#include <cstdint>
#include <memory>
#include <span>
#include <vector>

#include "grafema/base/error.hpp"
#include "grafema/base/export.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema {

/// Which letter becomes which.
enum class MorphPairing : std::uint8_t {
  place,     ///< the way of all letters together is the shortest
  likeness,  ///< like becomes like where it can: the same outlines first, then as many holes and like
             ///< proportions
};

struct MorphOptions {
  MorphPairing pairing = MorphPairing::place;
  float tolerance = 0.5F;  ///< how far straight pieces may leave the curves, in the shapes' units, above 0
  /// How much later the last letter begins than the first, as a share of the whole time, 0 to below 1: each
  /// letter takes the rest. Letters begin from left to right.
  float stagger = 0;
};

/// Two rows of letters, and the way from one to the other. Letters are outlines where they stand: all in one
/// coordinate system, y up. Each letter of a pair is united first; contours are paired, filled ones with
/// filled ones and holes with holes; what is left over shrinks to a point inside in the first half of the
/// letter's time, or grows from one in the second. At time 0 it is exactly the first row's straight pieces,
/// at 1 the second's; in between points go straight from one to the other.
class GRAFEMA_API Morph {
 public:
  /// Rows may have different numbers of letters, and letters nothing to paint. Fails with `bad_value` where
  /// an option is out of its range or there are more than 1,000 letters, with `unsupported` where an outline
  /// crosses itself too often.
  static Result<Morph> make(std::span<const Contours> from, std::span<const Contours> to,
                            const MorphOptions& options = {});

  Morph(Morph&&) noexcept;
  Morph& operator=(Morph&&) noexcept;
  ~Morph();

  /// How many letters there are: pairs, and letters of either row that have no partner. Letters without
  /// anything to paint on either side are left out. From left to right, by where they begin.
  std::size_t size() const;
  /// Which letters of the rows the `i`-th is of; kNone where it has no partner there.
  static constexpr std::uint32_t kNone = 0xFFFFFFFF;
  struct Pair {
    std::uint32_t from = kNone, to = kNone;
    bool operator==(const Pair&) const = default;
  };
  Pair pair(std::size_t i) const;
  /// What the letter ever covers.
  FontRect reach(std::size_t i) const;
  /// The time of one letter while the whole is at `t` (clamped to 0..1): staggered, 0 to 1.
  float letter_time(std::size_t i, float t) const;
  /// Replaces `out` with a letter at its own time `t`, an eased `letter_time`. Times below 0 and above 1 go
  /// on beyond the ends, by a tenth at most. It is `united`: filled right by any rule. In steady state
  /// nothing is allocated.
  void letter(std::size_t i, float t, Contours& out);
  /// Replaces `out` with all letters while the whole is at `t`, without easing.
  void shape(float t, Contours& out);
  /// Replaces `out` with `count` points of a letter at its own time `t`, at both ends evenly along its
  /// contours. Each point keeps its number: it goes straight, without a jump, from the first row's outline to
  /// the second's. In steady state nothing is allocated. Empty for a letter without contours.
  void points(std::size_t i, std::size_t count, float t, std::vector<FontPoint>& out) const;
  /// Whether contours of the letter cross each other or themselves at that time, before they are united.
  bool crosses(std::size_t i, float t);

 private:
  struct Memory;
  explicit Morph(std::unique_ptr<Memory> memory);
  std::unique_ptr<Memory> memory_;
};

}  // namespace grafema
