// SPDX-License-Identifier: MIT
// How often a part repeats, and where each part stands.
#include "text/shaping/scripts/stretched_signs.hpp"

#include <unicode/uchar.h>

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

// In `ShapeItem::category`, which scripts with syllables use otherwise.
enum StretchedPart : std::uint8_t { no_part, first_part, fixed_part, repeated_part };

constexpr float kMaxCopies = 256;  // of one part; beyond, gaps show

bool stands_under_sign(char32_t c) {
  return (U_MASK(u_charType(static_cast<UChar32>(c))) & (U_GC_L_MASK | U_GC_M_MASK | U_GC_N_MASK)) != 0;
}

float natural_width(const GlyphMetrics& metrics, GlyphId glyph) {
  float advance = 0;
  metrics.advances({&glyph, 1}, {&advance, 1});
  return advance;
}

/// Of one sign: what its parts need and the room that there is.
struct Stretch {
  float fixed = 0, repeated = 0;  ///< sums of natural widths
  float room = 0;                 ///< of the letters, and of outer parts that take room themselves
  std::size_t kinds = 0;          ///< parts that repeat
  float copies() const {
    return repeated > 0 && room > fixed ? std::min(std::ceil((room - fixed) / repeated), kMaxCopies) : 0;
  }
  /// By how much each copy lies over its neighbor, so that the sign ends with its letters.
  float overlap(float copies) const {
    return copies > 0 ? (fixed + repeated * copies - room) / (copies * static_cast<float>(kinds)) : 0;
  }
};

}  // namespace

void mark_stretched(ShapeBuffer& buffer) {
  for (std::size_t i = 0; i < buffer.size();) {
    const std::size_t first = i;
    while (i < buffer.size() && buffer[i].is(ShapeItem::kMultiplied) &&
           buffer[i].cluster == buffer[first].cluster) {
      buffer[i].category = i == first ? first_part : (i - first) % 2 == 0 ? fixed_part : repeated_part;
      ++i;
    }
    if (i == first) ++i;
  }
}

void stretch_signs(ShapeBuffer& buffer, const GlyphMetrics& metrics, bool left_to_right,
                   std::vector<ShapeItem>& parts) {
  for (std::size_t first = 0; first < buffer.size(); ++first) {
    if (buffer[first].category != first_part) continue;
    std::size_t end = first;
    Stretch stretch;
    while (end < buffer.size() && (end == first || buffer[end].category > first_part)) {
      const float width = natural_width(metrics, buffer[end].glyph);
      const bool repeats = buffer[end].category == repeated_part;
      (repeats ? stretch.repeated : stretch.fixed) += width;
      stretch.kinds += repeats ? 1 : 0;
      ++end;
    }
    std::size_t covered = end;
    for (; covered < buffer.size() && stands_under_sign(buffer[covered].character); ++covered) {
      stretch.room += buffer[covered].advance;
    }
    // Outer parts that are letters, not marks, take room before and behind what they embrace.
    const float before = buffer[first].advance, behind = end > first + 1 ? buffer[end - 1].advance : 0;
    stretch.room += before + behind;
    if (covered > end && behind != 0) {
      buffer[covered - 1].advance += behind;
      if (!left_to_right) buffer[covered - 1].x += behind;
    }
    const float copies = stretch.copies(), overlap = stretch.overlap(copies);
    // Fixed parts alone stand at equal distances, the last one where the letters end.
    const bool alone = copies == 0 && end > first + 1 && stretch.room > 0;
    const std::size_t fixed = (end - first + 1) / 2;
    const auto fixed_count = static_cast<float>(fixed);
    const float between = alone ? (stretch.room - stretch.fixed) / std::max(1.0F, fixed_count - 1) : 0;
    parts.clear();
    float along = 0, pen = 0;
    for (std::size_t i = first; i < end; ++i) {
      const bool repeats = buffer[i].category == repeated_part;
      const float width = natural_width(metrics, buffer[i].glyph);
      for (float n = repeats ? copies : 1; n > 0; --n) {
        ShapeItem part = buffer[i];
        part.category = no_part;
        part.advance = i == first ? before : covered == end && i + 1 == end ? behind : 0;
        if (left_to_right) part.x = along - pen;
        pen += part.advance;
        if (!left_to_right) part.x = pen - along - width;
        parts.push_back(part);
        along += width + (repeats ? -overlap : between);
      }
    }
    if (!buffer.replace(first, end - first, parts)) return;
    buffer.keep_together(first, first + parts.size() + (covered - end));
    first += parts.size() - 1;
  }
}

}  // namespace grafema::detail
