// SPDX-License-Identifier: MIT
// Places lines under, through and over letters: one for each span and line, with room for descenders.
#include <algorithm>
#include <cmath>

#include "text/lines/line_layout.hpp"

namespace grafema::detail {
namespace {

struct Stretch {
  float left, right;
};

/// Where a face draws a line, in ems, y up.
struct LinePlace {
  float top, thickness;
};

struct FaceLines {
  LinePlace underline, strike, overline;
};

/// From `post` and OS/2; shares of the em where a face does not say.
FaceLines lines_of(const GlyphMetrics& metrics) {
  constexpr float kThickness = 0.06F, kBelow = -0.08F, kThrough = 0.28F;
  FaceLines out{{kBelow, kThickness}, {kThrough, kThickness}, {0, kThickness}};
  const float em = metrics.units_per_em();
  if (const Face* face = metrics.face(); face != nullptr) {
    const FaceFacts facts = face->facts();
    const auto sound = [&](float thickness) { return thickness > 0 && thickness < em / 4; };
    if (sound(facts.underline_thickness)) {
      out.underline = {facts.underline_position / em, facts.underline_thickness / em};
    }
    if (sound(facts.strikeout_thickness)) {
      out.strike = {facts.strikeout_position / em, facts.strikeout_thickness / em};
    }
  }
  const LineMetrics line = metrics.line_metrics();
  out.overline = {line.ascent / em, out.underline.thickness};
  return out;
}

class BarPlacer {
 public:
  BarPlacer(const ShapedText::State& state, float baseline_shift, Paragraph& out)
      : state_(state), baseline_shift_(baseline_shift), out_(out) {}

  void add(const Decoration& d) {
    const ShapingStyle& shaping = state_.styles.shaping[d.shaping];
    const StackFace& face = shaping.fonts[0];
    const FaceLines lines = lines_of(*face.metrics);
    em_ = out_.size * shaping.scale * face.scale;
    raise_ = baseline_shift_ + shaping.raise * out_.size;
    grow_ = face.grow;
    for (const Line& line : out_.lines) {
      if (line.end <= d.start || line.start >= d.end) continue;
      find_stretches(d, line);
      if (d.underline) add_line(d, line, lines.underline, d.skip_descenders);
      if (d.strike) add_line(d, line, lines.strike, false);
      if (d.overline) add_line(d, line, lines.overline, false);
    }
  }

 private:
  /// The clusters of the span on a line, those that stand side by side as one. Spaces that hang out of the
  /// line are left out.
  void find_stretches(const Decoration& d, const Line& line) {
    constexpr float kTouching = 1.0F / 64;
    stretches_.clear();
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) {
      const PlacedGlyph& glyph = out_.glyphs[g];
      if (glyph.text_start < d.start || glyph.text_start >= d.end) continue;
      const float left = std::max(glyph.pen.x, line.left),
                  right = std::min(glyph.pen.x + glyph.advance, line.left + line.width);
      if (!(right > left)) continue;
      if (!stretches_.empty() && std::abs(stretches_.back().right - left) <= kTouching) {
        stretches_.back().right = right;
      } else {
        stretches_.push_back({left, right});
      }
    }
  }

  void add_line(const Decoration& d, const Line& line, const LinePlace& place, bool skips) {
    const float thickness = std::max((place.thickness + grow_) * em_, 1.0F / 8);
    const float top = line.baseline - raise_ - place.top * em_;
    gaps_.clear();
    // Upright letters of vertical lines do not stand yet where they will.
    if (skips && state_.writing == WritingMode::horizontal) find_gaps(line, top, thickness);
    for (const Stretch& stretch : stretches_) {
      float left = stretch.left;
      for (const Stretch& gap : gaps_) {
        if (gap.right <= left || gap.left >= stretch.right) continue;
        add_bar(d, left, gap.left, top, thickness);
        left = gap.right;
      }
      add_bar(d, left, stretch.right, top, thickness);
    }
  }

  void add_bar(const Decoration& d, float left, float right, float top, float thickness) {
    if (!(right - left >= thickness)) return;  // a speck between two letters
    out_.bars.push_back({{left, top, right, top + thickness}, d.placed, d.start, d.end});
  }

  /// Where letters of the line come so near to the line that they would touch it.
  void find_gaps(const Line& line, float top, float thickness) {
    const FontStack& fonts = state_.stack();
    const float near = thickness / 2, low = top + thickness + near, high = top - near;
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) {
      const PlacedGlyph& glyph = out_.glyphs[g];
      const Face* face = fonts[glyph.face]->face();
      if (face == nullptr) continue;
      const float scale = out_.glyph_size(glyph) / face->units_per_em();
      const FontRect box = face->glyph_box(glyph.glyph);
      const PixelPoint at = glyph.origin();
      // Round letters stand a hair below the baseline; only those that cross the line make room.
      const float middle = top + thickness / 2;
      if (box.empty() || at.y - box.y_min * scale <= middle || at.y - box.y_max * scale >= low) continue;
      if (!face->read_outline(glyph.glyph, outline_)) continue;
      Transform map;
      map.xx = scale, map.yy = -scale;
      map.xy = out_.faces[glyph.face].lean * scale;
      map.dx = at.x, map.dy = at.y;
      flatten(outline_, map, 0.25, pieces_);
      add_gap(high, low, thickness);
    }
    std::sort(gaps_.begin(), gaps_.end(), [](const Stretch& a, const Stretch& b) { return a.left < b.left; });
    // What would stay between two strokes of a letter looks like dirt.
    std::size_t kept = 0;
    for (std::size_t i = 1; i < gaps_.size(); ++i) {
      if (gaps_[i].left - gaps_[kept].right < thickness) {
        gaps_[kept].right = std::max(gaps_[kept].right, gaps_[i].right);
      } else {
        gaps_[++kept] = gaps_[i];
      }
    }
    if (!gaps_.empty()) gaps_.resize(kept + 1);
  }

  void add_gap(float high, float low, float thickness) {
    double left = 1e30, right = -1e30;
    for (const Segment& s : pieces_) {
      const double upper = std::min(s.y0, s.y1), lower = std::max(s.y0, s.y1);
      if (lower < static_cast<double>(high) || upper > static_cast<double>(low)) continue;
      const auto x_at = [&](double y) {
        return s.y1 == s.y0 ? s.x0 : s.x0 + (s.x1 - s.x0) * std::clamp((y - s.y0) / (s.y1 - s.y0), 0.0, 1.0);
      };
      for (const double x : {x_at(static_cast<double>(high)), x_at(static_cast<double>(low))}) {
        left = std::min(left, x), right = std::max(right, x);
      }
    }
    if (left > right) return;
    gaps_.push_back({static_cast<float>(left) - thickness, static_cast<float>(right) + thickness});
  }

  const ShapedText::State& state_;
  float baseline_shift_;
  Paragraph& out_;
  float em_ = 0, raise_ = 0, grow_ = 0;
  std::vector<Stretch> stretches_, gaps_;
  Contours outline_;
  std::vector<Segment> pieces_;
};

}  // namespace

void place_bars(const ShapedText::State& state, float baseline_shift, Paragraph& out) {
  out.bars.clear();
  if (state.styles.decorations.empty()) return;
  BarPlacer placer(state, baseline_shift, out);
  for (const Decoration& d : state.styles.decorations) placer.add(d);
}

}  // namespace grafema::detail
