// SPDX-License-Identifier: MIT
// Orders glyphs, follows their parts, and checks what 16 bits must hold.
#include "write/font_plan.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

constexpr int kFarthest = 16000;
/// Parts that a glyph may have, those of its parts included.
constexpr std::size_t kMaxParts = 64;

bool fits_16_bits(float units) { return units >= -32768 && units <= 32767; }

/// Line metrics and weight, which their tables hold in 16 bits.
Result<void> check_numbers(const FontDrawing& drawing) {
  const LineMetrics& lines = drawing.lines;
  for (const float v : {lines.ascent, -lines.descent, lines.line_gap}) {
    if (!fits_16_bits(v))
      return bad_value("ascent, descent and line gap within 32767 font units", fmt::format("{}", v));
  }
  if (drawing.weight_class < 1 || drawing.weight_class > 1000) {
    return bad_value("a weight of 1 to 1000", fmt::format("{}", drawing.weight_class));
  }
  if (drawing.units_per_em < 16 || drawing.units_per_em > 16384) {
    return bad_value("units per em of 16 to 16384", fmt::format("{}", drawing.units_per_em));
  }
  if (drawing.glyphs.empty() || drawing.glyphs.size() > 65535) {
    return bad_value("1 to 65535 glyphs", fmt::format("{}", drawing.glyphs.size()));
  }
  return {};
}

std::string name_of(const DrawnGlyph& glyph, std::size_t index) {
  if (!glyph.name.empty()) return glyph.name;
  if (index == 0) return ".notdef";
  if (glyph.characters.empty()) return fmt::format("glyph{}", index);
  const auto c = static_cast<unsigned>(glyph.characters[0]);
  return c > 0xFFFF ? fmt::format("u{:X}", c) : fmt::format("uni{:04X}", c);
}

bool is_good_name(std::string_view name) {
  return !name.empty() && name.size() <= 63 && std::all_of(name.begin(), name.end(), [](char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '.' || c == '_';
  });
}

class Planner {
 public:
  explicit Planner(FontPlan& plan) : plan_(plan) {}

  Result<void> run() {
    if (Result<void> checked = check_numbers(*plan_.drawing); !checked) return checked;
    if (Result<void> added = add_glyphs(); !added) return added;
    if (Result<void> added = add_layers(); !added) return added;
    if (Result<void> named = name_glyphs(); !named) return named;
    if (Result<void> checked = check_masters(); !checked) return checked;
    for (std::size_t i = 0; i < plan_.glyphs.size(); ++i) {
      if (Result<void> drawn = follow_parts(i); !drawn) return drawn;
    }
    if (Result<void> checked = check_bearings(); !checked) return checked;
    if (Result<void> checked = check_runs(); !checked) return checked;
    return add_pairs();
  }

 private:
  Result<void> add_glyphs() {
    for (const DrawnGlyph& glyph : plan_.drawing->glyphs) {
      if (!(glyph.advance >= 0 && glyph.advance <= 65535)) {
        return bad_value("advances of 0 to 65535 font units", fmt::format("{}", glyph.advance));
      }
      plan_.glyphs.emplace_back().drawn = &glyph;
    }
    // After the missing-glyph shape glyphs stand in the order of their characters: cmap needs fewer segments.
    std::stable_sort(plan_.glyphs.begin() + 1, plan_.glyphs.end(),
                     [](const FontPlan::Glyph& a, const FontPlan::Glyph& b) {
                       return a.drawn->characters < b.drawn->characters;
                     });
    for (std::size_t i = 0; i < plan_.glyphs.size(); ++i) {
      for (const char32_t c : plan_.glyphs[i].drawn->characters) {
        if (c > 0x10FFFF)
          return bad_value("characters up to U+10FFFF", fmt::format("U+{:X}", static_cast<unsigned>(c)));
        plan_.characters.emplace_back(c, static_cast<std::uint16_t>(i));
      }
    }
    std::sort(plan_.characters.begin(), plan_.characters.end());
    for (std::size_t i = 1; i < plan_.characters.size(); ++i) {
      if (plan_.characters[i].first != plan_.characters[i - 1].first) continue;
      return bad_value("each character once",
                       fmt::format("U+{:04X} twice", static_cast<unsigned>(plan_.characters[i].first)));
    }
    return {};
  }

  std::uint16_t color_index(Color color) {
    const auto at = std::find(plan_.palette.begin(), plan_.palette.end(), color);
    if (at == plan_.palette.end()) plan_.palette.push_back(color);
    return static_cast<std::uint16_t>(at - plan_.palette.begin());
  }

  /// Layers become glyphs of their own behind all others.
  Result<void> add_layers() {
    const std::size_t bases = plan_.glyphs.size();
    for (std::size_t i = 0; i < bases; ++i) {
      const DrawnGlyph& drawn = *plan_.glyphs[i].drawn;
      for (const DrawnLayer& layer : drawn.layers) {
        DrawnGlyph& made = plan_.made.emplace_back();
        made.outline = layer.outline, made.advance = drawn.advance;
        plan_.layers.push_back({static_cast<std::uint16_t>(i),
                                static_cast<std::uint16_t>(plan_.glyphs.size()), color_index(layer.color)});
        plan_.glyphs.emplace_back().drawn = &made;
        if (plan_.glyphs.size() > 65535 || plan_.palette.size() > 65535)
          return bad_value("at most 65535 glyphs, those of color layers included",
                           fmt::format("{}", plan_.glyphs.size()));
      }
    }
    return {};
  }

  Result<void> name_glyphs() {
    for (std::size_t i = 0; i < plan_.glyphs.size(); ++i) {
      FontPlan::Glyph& glyph = plan_.glyphs[i];
      glyph.name = name_of(*glyph.drawn, i);
      if (!is_good_name(glyph.name))
        return bad_value("names of glyphs of 1 to 63 letters, digits, points and underscores", glyph.name);
      if (!plan_.names.emplace(glyph.name, static_cast<std::uint16_t>(i)).second)
        return bad_value("each name of a glyph once", glyph.name);
      for (const DrawnAnchor& anchor : glyph.drawn->anchors) glyph.mark = glyph.mark || anchor.attaches;
    }
    return {};
  }

  Result<void> follow_parts(std::size_t index) {
    FontPlan::Glyph& glyph = plan_.glyphs[index];
    glyph.outline = glyph.drawn->outline;
    if (Result<void> added = add_parts(glyph, *glyph.drawn, 0, 0, 0); !added) return added;
    plan_.most_parts = std::max(plan_.most_parts, glyph.parts.size());
    for (std::size_t w = 0; w < plan_.drawing->masters.size(); ++w) {
      list_master_parts(*glyph.drawn, w, 0, 0, glyph.master_parts.emplace_back());
    }
    for (const FontPoint p : glyph.outline.points) {
      if (!(std::abs(p.x) <= kFarthest && std::abs(p.y) <= kFarthest))
        return bad_value("coordinates within 16000 font units",
                         fmt::format("{}, {} in {}", p.x, p.y, glyph.name));
    }
    glyph.box = bounds(glyph.outline);
    return {};
  }

  /// As `add_parts`, which has looked that all of them are there.
  void list_master_parts(const DrawnGlyph& drawn, std::size_t weight, int dx, int dy,
                         std::vector<FontPlan::Part>& out) const {
    if (drawn.parts.empty()) return;
    for (const DrawnPart& part : drawn.masters[weight].parts) {
      const auto other = static_cast<std::size_t>(plan_.find(part.glyph));
      const DrawnGlyph& shape = *plan_.glyphs[other].drawn;
      const int x = dx + to_units(part.dx), y = dy + to_units(part.dy);
      if (!shape.outline.points.empty()) out.push_back({static_cast<std::uint16_t>(other), x, y});
      list_master_parts(shape, weight, x, y, out);
    }
  }

  /// Weights must answer each other point by point and part by part.
  Result<void> check_masters() const {
    const std::size_t count = plan_.drawing->masters.size();
    if (count > 0 && plan_.drawing->cff)
      return fail(make_error(ErrorKind::unsupported, "variable faces in glyf", "CFF"));
    for (const FontMaster& m : plan_.drawing->masters) {
      if (m.weight_class < 1 || m.weight_class > 1000)
        return bad_value("a weight of 1 to 1000", fmt::format("{}", m.weight_class));
      for (const FontMaster& other : plan_.drawing->masters) {
        const bool twice = (&m != &other && m.weight_class == other.weight_class) ||
                           m.weight_class == plan_.drawing->weight_class;
        if (twice) return bad_value("each weight once", fmt::format("{}", m.weight_class));
      }
    }
    for (const FontPlan::Glyph& glyph : plan_.glyphs) {
      const DrawnGlyph& drawn = *glyph.drawn;
      if (count > 0 && drawn.masters.size() != count)
        return bad_value("every weight of each glyph", glyph.name);
      for (const DrawnMaster& m : drawn.masters) {
        bool same = m.outline.commands == drawn.outline.commands && m.parts.size() == drawn.parts.size();
        for (std::size_t i = 0; same && i < m.parts.size(); ++i)
          same = m.parts[i].glyph == drawn.parts[i].glyph;
        if (!same) return bad_value("weights of the same points and parts", glyph.name);
        if (!(m.advance >= 0 && m.advance <= 65535))
          return bad_value("advances of 0 to 65535 font units", glyph.name);
        for (const FontPoint p : m.outline.points) {
          if (!(std::abs(p.x) <= kFarthest && std::abs(p.y) <= kFarthest))
            return bad_value("coordinates within 16000 font units", glyph.name);
        }
        for (const DrawnPart& part : m.parts) {
          if (!(std::abs(part.dx) <= kFarthest && std::abs(part.dy) <= kFarthest))
            return bad_value("parts moved by at most 16000 font units", glyph.name);
        }
      }
    }
    return {};
  }

  /// Parts of parts are taken apart: TrueType readers need not follow them.
  Result<void> add_parts(FontPlan::Glyph& glyph, const DrawnGlyph& drawn, int dx, int dy, int depth) {
    if (depth > 8) return bad_value("parts that do not contain each other", glyph.name);
    for (const DrawnPart& part : drawn.parts) {
      const int other = plan_.find(part.glyph);
      if (other < 0)
        return bad_value("parts that are glyphs", fmt::format("'{}' in {}", part.glyph, glyph.name));
      if (!(std::abs(part.dx) <= kFarthest && std::abs(part.dy) <= kFarthest))
        return bad_value("parts moved by at most 16000 font units", glyph.name);
      const DrawnGlyph& shape = *plan_.glyphs[static_cast<std::size_t>(other)].drawn;
      const int x = dx + to_units(part.dx), y = dy + to_units(part.dy);
      if (!shape.outline.points.empty()) {
        if (!shape.parts.empty()) return bad_value("glyphs of an outline or of parts, not both", shape.name);
        if (glyph.parts.size() == kMaxParts) return bad_value("at most 64 parts", glyph.name);
        glyph.parts.push_back({static_cast<std::uint16_t>(other), x, y});
        Contours& to = glyph.outline;
        to.commands.insert(to.commands.end(), shape.outline.commands.begin(), shape.outline.commands.end());
        for (const FontPoint p : shape.outline.points) {
          to.points.push_back({p.x + static_cast<float>(x), p.y + static_cast<float>(y)});
        }
        to.united = false;
      }
      if (Result<void> added = add_parts(glyph, shape, x, y, depth + 1); !added) return added;
    }
    if (!drawn.parts.empty() && !drawn.outline.points.empty())
      return bad_value("glyphs of an outline or of parts, not both", glyph.name);
    return {};
  }

  /// What hmtx, hhea and OS/2 derive from glyphs, in 16 bits as well.
  Result<void> check_bearings() const {
    double sum = 0;
    for (std::size_t i = 0; i < plan_.glyphs.size(); ++i) {
      const float advance = plan_.glyphs[i].drawn->advance;
      const FontRect& box = plan_.glyphs[i].box;
      sum += advance;
      if (box.empty() || fits_16_bits(advance - box.x_max)) continue;
      return bad_value("bearings within 32767 font units",
                       fmt::format("{} in glyph {}", advance - box.x_max, i));
    }
    const double mean = sum / static_cast<double>(plan_.glyphs.size());
    if (mean > 32767) return bad_value("a mean advance of at most 32767 font units", fmt::format("{}", mean));
    return {};
  }

  /// Format 4 of `cmap` counts its bytes in 16 bits.
  Result<void> check_runs() const {
    constexpr std::size_t kMax = (65535 - 16) / 8 - 1;
    const auto& characters = plan_.characters;
    std::size_t runs = 0;
    for (std::size_t i = 0; i < characters.size() && characters[i].first <= 0xFFFF; ++i) {
      const bool goes_on = i > 0 && characters[i].first == characters[i - 1].first + 1 &&
                           characters[i].second == characters[i - 1].second + 1;
      runs += goes_on ? 0 : 1;
    }
    if (runs > kMax) return bad_value("at most 8188 runs of characters", fmt::format("{}", runs));
    return {};
  }

  Result<void> add_pairs() {
    constexpr std::size_t kMaxPairs = 10920;  // a format 0 subtable says its length in 16 bits
    if (plan_.drawing->kerning.size() > kMaxPairs) {
      return bad_value("at most 10920 kerning pairs", fmt::format("{}", plan_.drawing->kerning.size()));
    }
    for (const DrawnPair& pair : plan_.drawing->kerning) {
      for (const char32_t c : {pair.left, pair.right}) {
        if (plan_.glyph_of(c) == 0) {
          return bad_value("kerning pairs of characters that are drawn",
                           fmt::format("U+{:04X}", static_cast<unsigned>(c)));
        }
      }
      if (!(std::abs(pair.value) <= 32767)) {
        return bad_value("kerning within 32767 font units", fmt::format("{}", pair.value));
      }
      plan_.pairs[std::uint32_t{plan_.glyph_of(pair.left)} << 16U | plan_.glyph_of(pair.right)] =
          to_units(pair.value);
    }
    return {};
  }

  FontPlan& plan_;
};

}  // namespace

std::uint16_t FontPlan::glyph_of(char32_t character) const {
  const auto at =
      std::lower_bound(characters.begin(), characters.end(), std::pair(character, std::uint16_t{0}));
  return at != characters.end() && at->first == character ? at->second : std::uint16_t{0};
}

int FontPlan::find(std::string_view name) const {
  const auto at = names.find(name);
  return at == names.end() ? -1 : at->second;
}

Result<FontPlan> make_plan(const FontDrawing& drawing) {
  FontPlan plan;
  plan.drawing = &drawing;
  if (const Result<void> made = Planner(plan).run(); !made) return fail(made.error());
  return plan;
}

}  // namespace grafema::detail
