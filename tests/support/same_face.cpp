// SPDX-License-Identifier: MIT
// Compares faces glyph by glyph, pair by pair, text by text.
#include "support/same_face.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <catch2/catch.hpp>

#include "grafema/base/utf8.hpp"
#include "grafema/text/paragraph.hpp"
#include "grafema/text/shape_cache.hpp"

namespace grafema::test {
namespace {

bool same_points(const Contours& a, const Contours& b, float tolerance) {
  if (a.commands != b.commands || a.points.size() != b.points.size()) return false;
  return std::equal(a.points.begin(), a.points.end(), b.points.begin(), [&](FontPoint p, FontPoint q) {
    return std::abs(p.x - q.x) <= tolerance && std::abs(p.y - q.y) <= tolerance;
  });
}

bool same_picture(const std::optional<GlyphBitmap>& a, const std::optional<GlyphBitmap>& b) {
  if (!a || !b) return a.has_value() == b.has_value();
  return std::equal(a->bytes.begin(), a->bytes.end(), b->bytes.begin(), b->bytes.end()) &&
         a->format == b->format && a->pixels_per_em == b->pixels_per_em && a->offset == b->offset &&
         a->advance == b->advance && a->width == b->width && a->height == b->height;
}

bool same_paint(const Paint& a, const Paint& b, const Reduced& reduced) {
  const bool glyphs = a.kind != PaintKind::glyph || reduced.subset.glyphs.at(index_of(b.glyph)) == a.glyph;
  return glyphs && a.kind == b.kind && a.color == b.color && a.extend == b.extend && a.stops == b.stops &&
         a.points == b.points && a.radii == b.radii && a.angles == b.angles && a.transform == b.transform &&
         a.mode == b.mode && a.children == b.children && a.clip == b.clip;
}

bool same_colors(const Face& whole, GlyphId old, const Reduced& reduced, GlyphId own) {
  const std::vector<ColorLayer> a = whole.color_layers(old), b = reduced.face->color_layers(own);
  const auto same_layer = [&](const ColorLayer& x, const ColorLayer& y) {
    return reduced.subset.glyphs.at(index_of(y.glyph)) == x.glyph && x.color == y.color;
  };
  if (!std::equal(a.begin(), a.end(), b.begin(), b.end(), same_layer)) return false;
  const auto p = whole.read_paint(old), q = reduced.face->read_paint(own);
  if (!p || !q || p->has_value() != q->has_value()) return p.has_value() == q.has_value();
  if (!p->has_value()) return true;
  return std::equal((*p)->paints.begin(), (*p)->paints.end(), (*q)->paints.begin(), (*q)->paints.end(),
                    [&](const Paint& x, const Paint& y) { return same_paint(x, y, reduced); });
}

}  // namespace

Reduced reduce(const Face& whole, SubsetRecipe recipe, Notes* notes) {
  recipe.permit = true;
  Result<Subset> subset = make_subset(whole, recipe, notes);
  if (!subset) FAIL(describe(subset.error()));
  Result<std::shared_ptr<const Face>> face = Face::open(FontData::copy(subset->font));
  if (!face) FAIL(describe(face.error()));
  return {*std::move(subset), *std::move(face)};
}

Reduced reduce(const Face& whole, std::u32string_view characters) {
  SubsetRecipe recipe;
  recipe.characters.assign(characters.begin(), characters.end());
  return reduce(whole, recipe);
}

void check_glyphs(const Face& whole, const Reduced& reduced, std::span<const char32_t> characters,
                  float tolerance) {
  const std::vector<GlyphId>& glyphs = reduced.subset.glyphs;
  const Face& face = *reduced.face;
  REQUIRE(face.glyph_count() == glyphs.size());
  std::string wrong;
  Contours a, b;
  for (std::uint32_t i = 0; i < glyphs.size(); ++i) {
    const GlyphId old = glyphs[i], own{i};
    const auto check = [&](bool same, const char* what) {
      if (!same) wrong += fmt::format("{} of glyph {}\n", what, index_of(old));
    };
    const auto close = [&](float x, float y) { return std::abs(x - y) <= tolerance; };
    check(close(whole.advance(old), face.advance(own)), "advance");
    check(close(whole.vertical_advance(old), face.vertical_advance(own)), "vertical advance");
    const FontPoint p = whole.vertical_origin(old), q = face.vertical_origin(own);
    check(close(p.x, q.x) && close(p.y, q.y), "vertical origin");
    const bool read = whole.read_outline(old, a).has_value();
    check(face.read_outline(own, b).has_value(), "reading");
    if (read) check(same_points(a, b, tolerance), "outline");
    check(same_colors(whole, old, reduced, own), "colors");
    for (const std::uint16_t size : whole.bitmap_sizes()) {
      check(same_picture(whole.find_bitmap(old, size), face.find_bitmap(own, size)), "picture");
    }
  }
  for (const char32_t c : characters) {
    if (glyphs.at(index_of(face.find_glyph(c))) != whole.find_glyph(c)) {
      wrong += fmt::format("the glyph of U+{:04X}\n", static_cast<std::uint32_t>(c));
    }
  }
  CHECK(wrong == "");
}

void check_kerning(const Face& whole, const Reduced& reduced, std::span<const char32_t> characters,
                   float tolerance) {
  std::string wrong;
  for (const char32_t left : characters) {
    for (const char32_t right : characters) {
      for (const Tag script : {tag("latn"), tag("arab"), tag("DFLT")}) {
        const float a = whole.kerning(whole.find_glyph(left), whole.find_glyph(right), script),
                    b = reduced.face->kerning(reduced.face->find_glyph(left), reduced.face->find_glyph(right),
                                              script);
        if (std::abs(a - b) > tolerance) {
          wrong += fmt::format("U+{:04X} U+{:04X}: {} and {}\n", static_cast<std::uint32_t>(left),
                               static_cast<std::uint32_t>(right), a, b);
        }
      }
    }
  }
  CHECK(wrong == "");
}

void check_shaping(const std::shared_ptr<const Face>& whole, const Reduced& reduced,
                   std::span<const char32_t> characters, std::mt19937& random, float tolerance) {
  FontStack before, after;
  before.add(whole), after.add(reduced.face);
  ShapeCache one, other;
  std::vector<FeatureSetting> features;
  for (const Tag feature : whole->features()) features.push_back({feature, 1});
  std::string wrong;
  for (int i = 0; i < 12; ++i) {
    std::vector<char32_t> text;
    for (std::size_t k = 0; k < 2 + random() % 7; ++k)
      text.push_back(characters[random() % characters.size()]);
    TextStyle style;
    style.size = whole->units_per_em();
    if (i % 3 == 1) {
      std::shuffle(features.begin(), features.end(), random);
      style.features.assign(
          features.begin(),
          features.begin() + static_cast<std::ptrdiff_t>(std::min<std::size_t>(features.size(), 12)));
    }
    if (i % 4 == 2) style.direction = TextDirection::right_to_left;
    Paragraph a, b;
    const std::string letters = to_utf8(text);
    REQUIRE(lay_out(before, letters, style, one, a).has_value());
    REQUIRE(lay_out(after, letters, style, other, b).has_value());
    const auto same = [&](const PlacedGlyph& x, const PlacedGlyph& y) {
      return reduced.subset.glyphs.at(index_of(y.glyph)) == x.glyph && x.text_start == y.text_start &&
             x.text_end == y.text_end && std::abs(x.origin().x - y.origin().x) <= tolerance + 1e-3F &&
             std::abs(x.origin().y - y.origin().y) <= tolerance + 1e-3F;
    };
    if (!std::equal(a.glyphs.begin(), a.glyphs.end(), b.glyphs.begin(), b.glyphs.end(), same)) {
      wrong += fmt::format("text {}:", i);
      for (const char32_t c : text) wrong += fmt::format(" {:04X}", static_cast<std::uint32_t>(c));
      wrong += "\n";
    }
  }
  CHECK(wrong == "");
}

void check_same(const std::shared_ptr<const Face>& whole, const Reduced& reduced,
                std::span<const char32_t> characters, std::mt19937& random) {
  check_glyphs(*whole, reduced, characters);
  check_kerning(*whole, reduced, characters);
  check_shaping(whole, reduced, characters, random);
  CHECK(whole->line_metrics() == reduced.face->line_metrics());
  CHECK(whole->units_per_em() == reduced.face->units_per_em());
}

std::vector<char32_t> ten_of(const Face& face, std::mt19937& random, bool near) {
  const auto all = face.characters();
  REQUIRE_FALSE(all.empty());
  const std::size_t begin = random() % all.size(), stretch = near ? 60 : all.size();
  std::vector<char32_t> out;
  for (int i = 0; i < 10; ++i) out.push_back(all[(begin + random() % stretch) % all.size()].first);
  return out;
}

std::string to_utf8(std::span<const char32_t> text) {
  std::string out;
  for (const char32_t c : text) append_utf8(out, c);
  return out;
}

}  // namespace grafema::test
