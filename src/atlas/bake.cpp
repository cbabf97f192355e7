// SPDX-License-Identifier: MIT
// Bakes a recipe: glyphs chosen, cells packed, pictures made.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <cstring>

#include "atlas/pack.hpp"
#include "atlas/select.hpp"
#include "base/hash.hpp"
#include "grafema/raster.hpp"

namespace grafema {
namespace {

using detail::Selection;

tl::unexpected<Error> bad(const char* expected, float found) {
  return fail(make_error(ErrorKind::bad_value, expected, fmt::format("{}", found)));
}

Result<void> check(const AtlasRecipe& r) {
  if (r.faces.empty()) return fail(make_error(ErrorKind::bad_value, "at least one face"));
  if (r.kind == PictureKind::color) return fail(make_error(ErrorKind::unsupported, "pictures of kind coverage or distance", "color"));
  if (!r.fit && !(r.size >= kMinSize && r.size <= kMaxSize)) return bad("a size of 0.25 to 8192 pixels per em", r.size);
  if (!(r.reach >= 0.5F && r.reach <= 128)) return bad("a reach of 0.5 to 128 pixels", r.reach);
  if (!(r.padding >= 0 && r.padding <= 128)) return bad("a padding of 0 to 128 pixels", r.padding);
  if (r.gap < 0 || r.gap > 64) return bad("a gap of 0 to 64 pixels", static_cast<float>(r.gap));
  if (r.bits != 8 && r.bits != 16) return bad("8 or 16 bits", static_cast<float>(r.bits));
  const PageSize page = r.fit.value_or(r.max_page);
  for (const int side : {page.width, page.height}) {
    if (side < 1 || side > 16384) return bad("page sides of 1 to 16384 pixels", static_cast<float>(side));
  }
  return {};
}

/// A picture of a face's glyphs is one use of its outlines: a face that says "no embedding" or "bitmaps of mine only"
/// is taken at its word.
Result<void> check_permission(const AtlasRecipe& recipe) {
  for (const std::shared_ptr<const Face>& face : recipe.faces) {
    if (face->facts().embedding != Embedding::restricted) continue;
    return fail(make_error(ErrorKind::forbidden, "a face whose OS/2 table permits embedding",
                           fmt::format("restricted license embedding (fsType) in {}", face->names().full_name)));
  }
  return {};
}

struct Packed {
  detail::PackResult pages;
  std::vector<detail::PackItem> items;  // for the glyphs that have a cell, in their order
};

std::optional<Packed> pack_cells(const AtlasRecipe& recipe, const Selection& selection) {
  Packed packed;
  for (const AtlasGlyph& glyph : selection.glyphs) {
    if (!glyph.cell.empty()) packed.items.push_back({glyph.cell.width, glyph.cell.height});
  }
  const PageSize page = recipe.fit.value_or(recipe.max_page);
  const auto result = detail::pack(packed.items, recipe.gap, page.width, page.height, recipe.fit.has_value());
  if (!result) return std::nullopt;
  packed.pages = *result;
  return packed;
}

/// The largest size in steps of a quarter pixel at which everything stands on the one page that `fit` names.
Result<float> find_fitting_size(const AtlasRecipe& recipe, Selection& selection) {
  const auto fits = [&](int quarters) {
    detail::size_cells(recipe, static_cast<float>(quarters) / 4, selection);
    const bool absurd = std::any_of(selection.glyphs.begin(), selection.glyphs.end(), [&](const AtlasGlyph& g) {
      return g.cell.width > recipe.fit->width || g.cell.height > recipe.fit->height;
    });
    return !absurd && pack_cells(recipe, selection).has_value();
  };
  int low = 0, high = 4 * std::min(static_cast<int>(kMaxSize), 4 * std::max(recipe.fit->width, recipe.fit->height));
  while (high - low > 1) {
    const int middle = (low + high) / 2;
    (fits(middle) ? low : high) = middle;
  }
  // Packing is not quite monotonic: a slightly larger size may fall into better rows.
  for (int more = low + 8; more > low; --more) {
    if (fits(more)) low = more;
  }
  if (low == 0) {
    return fail(make_error(ErrorKind::does_not_fit, "a page that holds all glyphs at some size",
                           fmt::format("{}x{}", recipe.fit->width, recipe.fit->height)));
  }
  return static_cast<float>(low) / 4;
}

/// Says which glyph is too large for the page and how large a page it needs.
tl::unexpected<Error> too_large(const AtlasRecipe& recipe, const Selection& selection) {
  const auto largest = std::max_element(selection.glyphs.begin(), selection.glyphs.end(), [&](const AtlasGlyph& a, const AtlasGlyph& b) {
    const auto over = [&](const AtlasGlyph& g) {
      return std::max(g.cell.width - recipe.max_page.width, g.cell.height - recipe.max_page.height);
    };
    return over(a) < over(b);
  });
  return fail(make_error(ErrorKind::does_not_fit, "pages that hold the largest glyph",
                         fmt::format("glyph {} needs a page of {}x{}", index_of(largest->glyph),
                                     largest->cell.width + 2 * recipe.gap, largest->cell.height + 2 * recipe.gap)));
}

void store(Image& page, const PixelRect& cell, std::span<const float> values, const AtlasRecipe& recipe) {
  const bool wide = recipe.bits == 16;
  const unsigned max = wide ? 65535 : 255;
  for (int y = 0; y < cell.height; ++y) {
    std::uint8_t* row = page.row(cell.y + y);
    for (int x = 0; x < cell.width; ++x) {
      const float v = values[static_cast<std::size_t>(y) * static_cast<std::size_t>(cell.width) + static_cast<std::size_t>(x)];
      const unsigned value = recipe.kind == PictureKind::coverage ? coverage_value(v, max) : distance_value(v, recipe.reach, max);
      const auto at = static_cast<std::size_t>(cell.x + x);
      if (wide) {
        const auto narrow = static_cast<std::uint16_t>(value);
        std::memcpy(row + at * 2, &narrow, 2);
      } else {
        row[at] = static_cast<std::uint8_t>(value);
      }
    }
  }
}

/// Makes the picture of one glyph and puts it on its page.
void paint_glyph(const AtlasRecipe& recipe, const Face& face, float size, const AtlasGlyph& glyph, Image& page, RasterScratch& scratch) {
  Contours outline;
  std::vector<float> values(static_cast<std::size_t>(glyph.cell.width) * static_cast<std::size_t>(glyph.cell.height));
  const PixelRect cell{static_cast<int>(glyph.offset.x), static_cast<int>(glyph.offset.y), glyph.cell.width, glyph.cell.height};
  const Transform map = glyph_transform(size / face.units_per_em());
  Result<void> done = face.read_outline(glyph.glyph, outline);
  if (done && recipe.kind == PictureKind::coverage) done = rasterize_coverage(outline, map, cell, values, scratch);
  if (done && recipe.kind == PictureKind::distance) done = rasterize_distance(outline, map, cell, recipe.reach, values, scratch);
  if (done) store(page, glyph.cell, values, recipe);
}

std::string key_of(const AtlasRecipe& recipe, float size, const Selection& selection) {
  detail::Fnv1a hash;
  for (const std::size_t face : selection.faces) hash.add_number(static_cast<std::uint64_t>(recipe.faces[face]->id()));
  for (const AtlasGlyph& glyph : selection.glyphs) {
    hash.add_number(glyph.strike << 32U | index_of(glyph.glyph));
    for (const char32_t c : glyph.codepoints) hash.add_number(c);
  }
  hash.add(fmt::format("{} {} {} {} {} {} {}x{}", to_string(recipe.kind), size, recipe.reach, recipe.padding, recipe.gap,
                       recipe.bits, recipe.max_page.width, recipe.max_page.height));
  return fmt::format("{:016x}", hash.result());
}

Strike make_strike(const AtlasRecipe& recipe, const Face& face, std::size_t index, float size) {
  const float scale = size / face.units_per_em();
  const LineMetrics m = face.line_metrics();
  const bool has_reach = recipe.kind == PictureKind::distance;
  return {index, recipe.kind, size, has_reach ? recipe.reach : 0, has_reach ? 0 : std::ceil(recipe.padding),
          {m.ascent * scale, m.descent * scale, m.line_gap * scale}};
}

}  // namespace

std::string to_string(PictureKind kind) {
  constexpr const char* kNames[kPictureKinds] = {"coverage", "distance", "color"};
  return kNames[static_cast<std::size_t>(kind)];
}

std::optional<PictureKind> find_picture_kind(std::string_view name) {
  for (const PictureKind kind : {PictureKind::coverage, PictureKind::distance, PictureKind::color}) {
    if (to_string(kind) == name) return kind;
  }
  return std::nullopt;
}

double Atlas::used_area(int gap) const {
  double used = 0, whole = 0;
  for (const AtlasPage& page : pages) whole += static_cast<double>(page.image.width()) * page.image.height();
  for (const AtlasGlyph& glyph : glyphs) {
    if (glyph.page) used += static_cast<double>(glyph.cell.width + gap) * (glyph.cell.height + gap);
  }
  return whole > 0 ? used / whole : 0;
}

Result<Atlas> bake(const AtlasRecipe& recipe, Notes* notes) {
  if (const Result<void> checked = check(recipe); !checked) return fail(checked.error());
  if (const Result<void> permitted = check_permission(recipe); !permitted) return fail(permitted.error());
  Selection selection = detail::select_glyphs(recipe, notes);
  float size = recipe.size;
  if (recipe.fit) {
    const Result<float> found = find_fitting_size(recipe, selection);
    if (!found) return fail(found.error());
    size = *found;
  }
  detail::size_cells(recipe, size, selection);
  const std::optional<Packed> packed = pack_cells(recipe, selection);
  if (!packed) return too_large(recipe, selection);
  Atlas atlas;
  atlas.key = key_of(recipe, size, selection);
  for (std::size_t i = 0; i < packed->pages.page_count; ++i) {
    Result<Image> image = Image::make(packed->pages.page_width, packed->pages.page_height, recipe.bits == 16 ? PixelFormat::r16 : PixelFormat::r8);
    if (!image) return fail(image.error());
    atlas.pages.push_back({*std::move(image), recipe.kind});
  }
  RasterScratch scratch;
  std::size_t item = 0;
  for (AtlasGlyph& glyph : selection.glyphs) {
    if (glyph.cell.empty()) continue;
    const detail::PackItem& place = packed->items[item++];
    glyph.page = place.page;
    glyph.cell.x = place.x;
    glyph.cell.y = place.y;
    paint_glyph(recipe, *recipe.faces[selection.faces[glyph.strike]], size, glyph, atlas.pages[place.page].image, scratch);
  }
  for (std::size_t i = 0; i < selection.faces.size(); ++i) {
    const Face& face = *recipe.faces[selection.faces[i]];
    const FaceNames names = face.names();
    atlas.faces.push_back({face.id(), names.family, names.style, names.copyright, names.license});
    atlas.strikes.push_back(make_strike(recipe, face, i, size));
    atlas.kerning.push_back(detail::make_kerning(face, size, i, selection.glyphs));
  }
  atlas.glyphs = std::move(selection.glyphs);
  return atlas;
}

}  // namespace grafema
