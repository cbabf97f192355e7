// SPDX-License-Identifier: MIT
// Sides of letters, band by band; those alike in groups; the white between them.
#include "grafema/write/propose_kerning.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "grafema/base/utf8.hpp"
#include "grafema/unicode/characters.hpp"

namespace grafema {
namespace {

constexpr std::size_t kBands = 72;  // from a third of an em below the baseline to one above it
constexpr float kLowest = -1.0F / 3, kHighest = 1;

/// How far the ink of a band stands off the glyph's origin or advance; `kEmpty` where there is none.
constexpr float kEmpty = 1e9F;
using Profile = std::array<float, kBands>;

enum class Kind : std::uint8_t { none, lower, upper, mark };

struct Shape {
  std::string member;  // as groups name it
  Tag script;
  Kind kind = Kind::none;
  Profile left, right;
};

/// Letters by case, and punctuation that stands beside letters.
Kind kind_of(char32_t c) {
  constexpr std::u32string_view kMarks =
      U".,:;'\"-\u2018\u2019\u201C\u201D\u201E\u2013\u2014\u2026\u00AB\u00BB";
  if (kMarks.find(c) != std::u32string_view::npos) return Kind::mark;
  if ((c >= U'a' && c <= U'z') || (c >= 0xDF && c <= 0xFF && c != 0xF7) || (c >= 0x3AC && c <= 0x3CE) ||
      (c >= 0x430 && c <= 0x45F))
    return Kind::lower;
  if ((c >= U'A' && c <= U'Z') || (c >= 0xC0 && c <= 0xDE && c != 0xD7) || (c >= 0x386 && c <= 0x3AB) ||
      (c >= 0x400 && c <= 0x42F))
    return Kind::upper;
  if ((c >= 0x100 && c <= 0x17F) || c == 0x490 || c == 0x491) return c % 2 == 0 ? Kind::upper : Kind::lower;
  return Kind::none;
}

class Proposer {
 public:
  Proposer(const FontDrawing& drawing, const KerningTaste& taste) : taste_(taste), em_(drawing.units_per_em) {
    for (const DrawnGlyph& glyph : drawing.glyphs) {
      if (glyph.characters.empty() || glyph.outline.points.empty()) continue;
      Shape shape;
      shape.kind = kind_of(glyph.characters[0]);
      if (shape.kind == Kind::none) continue;
      shape.script = script_of(glyph.characters[0]);
      append_utf8(shape.member, glyph.characters[0]);
      measure(glyph, shape);
      shapes_.push_back(std::move(shape));
    }
  }

  Result<KerningProposal> run() {
    if (!find_target()) {
      return bad_value("any of the letters n, o, H and O to compare with");
    }
    KerningProposal out;
    const std::vector<std::size_t> left = group(out.left_groups, true),
                                   right = group(out.right_groups, false);
    for (std::size_t a = 0; a < left.size(); ++a) {
      for (std::size_t b = 0; b < right.size(); ++b) {
        const Shape &first = shapes_[left[a]], &second = shapes_[right[b]];
        if (!may_meet(first, second)) continue;
        const float value = std::floor(kern(first, second) * em_ + 0.5F);
        if (std::abs(value) >= taste_.least * em_)
          out.pairs.push_back({out.left_groups[a].name, out.right_groups[b].name, value});
      }
    }
    std::stable_sort(out.pairs.begin(), out.pairs.end(), [](const GroupPair& a, const GroupPair& b) {
      return std::abs(a.value) > std::abs(b.value);
    });
    return out;
  }

 private:
  void measure(const DrawnGlyph& glyph, Shape& shape) const {
    shape.left.fill(kEmpty), shape.right.fill(kEmpty);
    std::vector<Segment> pieces;
    const float scale = 1 / em_;
    flatten(glyph.outline, {scale, 0, 0, scale, 0, 0}, 1.0 / 2000, pieces);
    const float advance = glyph.advance * scale;
    for (const Segment& s : pieces) {
      // Short enough steps that each band on the way sees one.
      const double height = std::abs(s.y1 - s.y0) * kBands / (kHighest - kLowest);
      const int steps = 1 + static_cast<int>(height * 2);
      for (int i = 0; i <= steps; ++i) {
        const double t = static_cast<double>(i) / steps, x = s.x0 + (s.x1 - s.x0) * t,
                     y = s.y0 + (s.y1 - s.y0) * t;
        const double at = (y - kLowest) / (kHighest - kLowest) * kBands;
        if (!(at >= 0 && at < kBands)) continue;
        const auto band = static_cast<std::size_t>(at);
        shape.left[band] = std::min(shape.left[band], static_cast<float>(x));
        shape.right[band] = std::min(shape.right[band], advance - static_cast<float>(x));
      }
    }
  }

  struct White {
    float mean, nearest;
    float beside;  ///< the height where both have ink, as a share of an em
  };

  White white(const Shape& first, const Shape& second) const {
    float sum = 0, nearest = kEmpty;
    std::size_t count = 0;
    const auto from = std::max(lowest(first.right), lowest(second.left)),
               to = std::min(highest(first.right), highest(second.left));
    for (std::size_t i = from; i <= to && i < kBands; ++i) {
      const float a = first.right[i], b = second.left[i];
      const bool both = a < kEmpty && b < kEmpty;
      sum += both ? std::min(a + b, taste_.deepest) : taste_.deepest;
      ++count;
    }
    // Corners that pass each other: the nearest of neighboring bands.
    for (std::size_t i = 0; i < kBands; ++i) {
      for (std::size_t k = i > 2 ? i - 2 : 0; k < std::min(i + 3, kBands); ++k) {
        if (first.right[i] < kEmpty && second.left[k] < kEmpty)
          nearest = std::min(nearest, first.right[i] + second.left[k]);
      }
    }
    const float height = static_cast<float>(count) * (kHighest - kLowest) / static_cast<float>(kBands);
    return {count > 0 ? sum / static_cast<float>(count) : target_, nearest, height};
  }

  static std::size_t lowest(const Profile& p) {
    return static_cast<std::size_t>(std::find_if(p.begin(), p.end(), [](float v) { return v < kEmpty; }) -
                                    p.begin());
  }
  static std::size_t highest(const Profile& p) {
    for (std::size_t i = kBands; i-- > 0;) {
      if (p[i] < kEmpty) return i;
    }
    return 0;
  }

  bool find_target() {
    std::vector<const Shape*> of;
    for (const Shape& shape : shapes_) {
      if (shape.member == "n" || shape.member == "o" || shape.member == "H" || shape.member == "O")
        of.push_back(&shape);
    }
    float sum = 0;
    std::size_t count = 0;
    for (const Shape* a : of) {
      for (const Shape* b : of) {
        if (a->kind == b->kind) sum += white(*a, *b).mean, ++count;
      }
    }
    if (count > 0) target_ = sum / static_cast<float>(count);
    return count > 0;
  }

  /// How far the second letter moves for the white to be that of the others; bands that are deep move without
  /// effect.
  float move_to_target(const Shape& first, const Shape& second) const {
    float low = -2 * taste_.most, high = 2 * taste_.most;
    Shape moved = second;
    for (int i = 0; i < 12; ++i) {
      const float middle = (low + high) / 2;
      for (std::size_t k = 0; k < kBands; ++k) {
        if (second.left[k] < kEmpty) moved.left[k] = second.left[k] + middle;
      }
      (white(first, moved).mean > target_ ? high : low) = middle;
    }
    return (low + high) / 2;
  }

  float kern(const Shape& first, const Shape& second) const {
    constexpr float kWholeHeight = 0.3F;  // letters beside each other over less of an em count for less
    const auto [mean, nearest, beside] = white(first, second);
    const float share = taste_.strength * std::min(1.0F, beside / kWholeHeight);
    float value = std::clamp(move_to_target(first, second) * share, -taste_.most, taste_.most);
    if (value < 0) value = std::min(std::max(value, taste_.closest - nearest), 0.0F);
    // Only what would touch is moved apart: letters with little white beside them were drawn so.
    if (value > 0) value = std::max(std::min(value, taste_.closest * 0.8F - nearest), 0.0F);
    return value;
  }

  static bool may_meet(const Shape& a, const Shape& b) {
    if (a.kind == Kind::mark && b.kind == Kind::mark) return false;
    if (a.kind == Kind::lower && b.kind == Kind::upper) return false;
    return a.script == Tag{} || b.script == Tag{} || a.script == b.script;
  }

  float difference(const Profile& a, const Profile& b) const {
    float sum = 0;
    std::size_t count = 0;
    for (std::size_t i = 0; i < kBands; ++i) {
      if (a[i] >= kEmpty && b[i] >= kEmpty) continue;
      const float x = std::min(a[i], taste_.deepest), y = std::min(b[i], taste_.deepest);
      sum += (x - y) * (x - y), ++count;
    }
    return count > 0 ? std::sqrt(sum / static_cast<float>(count)) : 0;
  }

  /// Gives back the letter that stands for each group: its first.
  std::vector<std::size_t> group(std::vector<KerningGroup>& groups, bool right_side) const {
    std::vector<std::size_t> leaders;
    for (std::size_t i = 0; i < shapes_.size(); ++i) {
      const Shape& shape = shapes_[i];
      std::size_t best = leaders.size();
      float least = taste_.alike;
      for (std::size_t k = 0; k < leaders.size(); ++k) {
        const Shape& leader = shapes_[leaders[k]];
        if (leader.kind != shape.kind || leader.script != shape.script) continue;
        const float off =
            difference(right_side ? leader.right : leader.left, right_side ? shape.right : shape.left);
        if (off < least) least = off, best = k;
      }
      if (best == leaders.size()) {
        leaders.push_back(i);
        groups.push_back({shape.member, {}});
      }
      groups[best].members.push_back(shape.member);
    }
    return leaders;
  }

  const KerningTaste& taste_;
  float em_;
  float target_ = 0;
  std::vector<Shape> shapes_;
};

}  // namespace

Result<KerningProposal> propose_kerning(const FontDrawing& drawing, const KerningTaste& taste) {
  return Proposer(drawing, taste).run();
}

}  // namespace grafema
