// SPDX-License-Identifier: MIT
// Records of digits and signs that stand alone, so that a number is written without being laid out.
#pragma once

#include <array>
#include <memory>
#include <string_view>
#include <vector>

#include "draw/content/label_content.hpp"
#include "grafema/draw/scene_memory.hpp"
#include "grafema/text/shaped_text.hpp"

namespace grafema::detail {

struct SharedStyle;

/// What ASCII characters of numbers draw in one style and look.
struct NumberSigns {
  std::uint8_t context = 0;
  std::weak_ptr<const SharedStyle> style;
  LookId look{};
  bool alone = false;  ///< whether characters stand as they do alone; else numbers are laid out
  // Of ' ' and the 63 characters behind it: a bit each, and what is asked of those that are known.
  std::uint64_t known = 0, painted = 0;
  float even_step = 0;                       ///< the step of a zero
  std::uint64_t even = 0;                    ///< those of `painted` that have it
  std::array<float, 64> steps = {};          ///< pixels to the next pen, tracking included
  std::array<GlyphRecord, 64> records = {};  ///< seen from the pen, of those that paint
  float tracking = 0, height = 0, size = 0;
  Rect extent;  ///< around what any of them paints, seen from the pen
  std::uint32_t arrays = 0;
  SceneFeature features = SceneFeature::none;
  std::uint64_t pages = 0;  ///< as StillLabel::pages
  std::uint8_t layers = 0;

  static constexpr unsigned index_of(char c) { return static_cast<unsigned char>(c) - 32U; }
};

/// Characters that `write_number` writes by itself, and common separators.
constexpr std::string_view kNumberCharacters = "0123456789.,-+ '";

/// Whether each of them, in any order, is shaped to one glyph that depends on no other.
bool stand_alone(const FontStack& fonts, const TextStyle& style, ShapeCache& cache);

class SceneNumbers {
 public:
  const NumberSigns* find(std::uint8_t context, const std::shared_ptr<const SharedStyle>& style, LookId look);
  /// Keeps it until `clear`; a few, the oldest go.
  NumberSigns& add(std::uint8_t context, const std::shared_ptr<const SharedStyle>& style, LookId look);
  void clear() { known_.clear(), last_ = 0; }

 private:
  static constexpr std::size_t kMax = 64;
  std::vector<std::unique_ptr<NumberSigns>> known_;
  std::size_t last_ = 0;
};

}  // namespace grafema::detail
