// SPDX-License-Identifier: MIT
// Bakes a recipe: glyphs chosen, cells packed, pictures made.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "atlas/pack.hpp"
#include "atlas/select.hpp"
#include "base/hash.hpp"
#include "base/progress.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/font/license.hpp"

namespace grafema {
namespace {

using detail::Selection;

tl::unexpected<Error> bad(const char* expected, float found) {
  return fail(make_error(ErrorKind::bad_value, expected, fmt::format("{}", found)));
}

Result<void> check_kind(const AtlasRecipe& r) {
  if (r.phases != 1 && r.phases != 2 && r.phases != 4) {
    return bad("1, 2 or 4 phases", static_cast<float>(r.phases));
  }
  if (r.kind != PictureKind::coverage && r.phases != 1) {
    return bad("phases for pictures of kind coverage alone", static_cast<float>(r.phases));
  }
  if (r.kind != PictureKind::coverage && r.fit_rows) {
    return bad_value("fitted rows for pictures of kind coverage alone");
  }
  if (r.kind == PictureKind::color && r.bits != 8) {
    return bad("8 bits for pictures of kind color", static_cast<float>(r.bits));
  }
  for (const float side : {r.painter.left, r.painter.top, r.painter.right, r.painter.bottom}) {
    if (!(side >= 0 && side <= 1024)) return bad("paint that stands 0 to 1024 pixels outside", side);
  }
  return {};
}

}  // namespace

Result<void> detail::check_pictures(const AtlasRecipe& r) {
  if (r.fit && !r.other_sizes.empty()) {
    return bad_value("one size, or a page to fit");
  }
  std::vector<float> sizes = r.other_sizes;
  if (!r.fit) sizes.push_back(r.size);
  for (const float size : sizes) {
    if (!(size >= kMinSize && size <= kMaxSize)) return bad("a size of 0.25 to 8192 pixels per em", size);
  }
  if (!(r.reach >= 0.5F && r.reach <= 128)) return bad("a reach of 0.5 to 128 pixels", r.reach);
  if (!(r.padding >= 0 && r.padding <= 128)) return bad("a padding of 0 to 128 pixels", r.padding);
  if (r.gap < 0 || r.gap > 64) return bad("a gap of 0 to 64 pixels", static_cast<float>(r.gap));
  if (r.bits != 8 && r.bits != 16) return bad("8 or 16 bits", static_cast<float>(r.bits));
  const PageSize page = r.fit.value_or(r.max_page);
  for (const int side : {page.width, page.height}) {
    if (side < 1 || side > 16384) return bad("page sides of 1 to 16384 pixels", static_cast<float>(side));
  }
  return check_kind(r);
}

Result<void> detail::check_permission(const Face& face) {
  const FaceNames names = face.names();
  const FaceFacts facts = face.facts();
  const auto refuse = [&names](const char* expected, const char* found) {
    return fail(make_error(ErrorKind::forbidden, expected, fmt::format("{} in {}", found, names.full_name)));
  };
  if (facts.embedding == Embedding::restricted) {
    return refuse("a face whose OS/2 table permits embedding", "restricted license embedding (fsType)");
  }
  if (read_license(names, facts).ship_pictures == Allowed::no) {
    return refuse("a face whose license permits pictures of its glyphs", "a license that forbids them");
  }
  return {};
}

namespace {

/// A picture of a face's glyphs is one use of its outlines: a face that says "no embedding" or "bitmaps of
/// mine only" is taken at its word.
Result<void> check_permission(const AtlasRecipe& recipe) {
  for (const std::shared_ptr<const Face>& face : recipe.faces) {
    if (const Result<void> permitted = detail::check_permission(*face); !permitted) return permitted;
  }
  return {};
}

struct Packed {
  struct Pages {
    PictureKind kind;
    detail::PackResult result;
  };
  std::vector<Pages> pages;  // by kind
  std::vector<detail::PackItem>
      items;  // for the glyphs that have a cell, in their order; pages of all kinds counted through
};

/// Packs the cells of each kind on pages of its own.
std::optional<Packed> pack_cells(const AtlasRecipe& recipe, const Selection& selection) {
  const PageSize page = recipe.fit.value_or(recipe.max_page);
  Packed packed;
  std::vector<std::size_t> places;
  std::size_t first_page = 0, count = 0;
  for (const AtlasGlyph& glyph : selection.glyphs) count += glyph.cell.empty() ? 0 : 1;
  packed.items.resize(count);
  for (const PictureKind kind : {recipe.kind, PictureKind::color}) {
    if (!packed.pages.empty() && kind == recipe.kind) break;
    std::vector<detail::PackItem> items;
    places.clear();
    std::size_t place = 0;
    for (const AtlasGlyph& glyph : selection.glyphs) {
      if (glyph.cell.empty()) continue;
      if (selection.strikes[glyph.strike].kind == kind) {
        items.push_back({glyph.cell.width, glyph.cell.height}), places.push_back(place);
      }
      ++place;
    }
    const auto result =
        detail::pack(items, recipe.gap, page.width, page.height, recipe.fit.has_value() && !items.empty());
    if (!result) return std::nullopt;
    for (std::size_t i = 0; i < items.size(); ++i) {
      items[i].page += first_page;
      packed.items[places[i]] = items[i];
    }
    first_page += result->page_count;
    packed.pages.push_back({kind, *result});
  }
  return packed;
}

/// The largest size in steps of a quarter pixel at which everything stands on the one page that `fit` names.
Result<float> find_fitting_size(const AtlasRecipe& recipe, Selection& selection) {
  const auto fits = [&](int quarters) {
    for (Selection::Chosen& strike : selection.strikes) strike.size = static_cast<float>(quarters) / 4;
    detail::size_cells(recipe, selection);
    const bool absurd =
        std::any_of(selection.glyphs.begin(), selection.glyphs.end(), [&](const AtlasGlyph& g) {
          return g.cell.width > recipe.fit->width || g.cell.height > recipe.fit->height;
        });
    return !absurd && pack_cells(recipe, selection).has_value();
  };
  int low = 0,
      high = 4 * std::min(static_cast<int>(kMaxSize), 4 * std::max(recipe.fit->width, recipe.fit->height));
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
  const auto largest = std::max_element(
      selection.glyphs.begin(), selection.glyphs.end(), [&](const AtlasGlyph& a, const AtlasGlyph& b) {
        const auto over = [&](const AtlasGlyph& g) {
          return std::max(g.cell.width - recipe.max_page.width, g.cell.height - recipe.max_page.height);
        };
        return over(a) < over(b);
      });
  return fail(
      make_error(ErrorKind::does_not_fit, "pages that hold the largest glyph",
                 fmt::format("glyph {} needs a page of {}x{}", index_of(largest->glyph),
                             largest->cell.width + 2 * recipe.gap, largest->cell.height + 2 * recipe.gap)));
}

Strike make_strike(const AtlasRecipe& recipe, const Selection::Chosen& chosen, std::size_t face_index) {
  const Face& face = *recipe.faces[chosen.face];
  const float scale = chosen.size / face.units_per_em();
  const LineMetrics m = face.line_metrics();
  const bool has_reach = is_distance(chosen.kind);
  return {face_index,
          chosen.kind,
          chosen.size,
          has_reach ? recipe.reach : 0,
          has_reach ? 0 : std::ceil(recipe.padding),
          {m.ascent * scale, m.descent * scale, m.line_gap * scale}};
}

/// Makes all pictures, in blocks of glyphs on as many threads as there are. A glyph that fails costs its
/// picture.
Result<void> paint_all(const AtlasRecipe& recipe, const Selection& selection, const BakeControl& control,
                       std::vector<AtlasPage>& pages, std::vector<char>& failed) {
  constexpr std::size_t kBlock = 32;
  // Work on outlines whose parts cross without end is bounded for the whole bake, block by block, so that
  // what is left out does not depend on threads.
  constexpr std::uint64_t kSteps = 1'000'000'000;
  const std::size_t count = selection.glyphs.size(), blocks = (count + kBlock - 1) / kBlock;
  failed.assign(count, 0);
  detail::Progress progress(control.progress, count);
  const AtlasRecipe colored = detail::color_recipe(recipe);
  // Cells do not overlap, so threads write to one page side by side.
  run_parts(control.workers, blocks, [&](std::size_t block) {
    if (!progress.go_on()) return;
    detail::PictureMaker maker(recipe, kSteps / blocks), color_maker(colored, kSteps / blocks);
    const std::size_t end = std::min(count, (block + 1) * kBlock);
    for (std::size_t i = block * kBlock; i < end; ++i) {
      const AtlasGlyph& glyph = selection.glyphs[i];
      if (!glyph.page) continue;
      const Selection::Chosen& strike = selection.strikes[glyph.strike];
      detail::PictureMaker& with = strike.kind == recipe.kind ? maker : color_maker;
      failed[i] =
          with.paint(*recipe.faces[strike.face], strike.size, glyph, pages[*glyph.page].image) ? 0 : 1;
    }
    progress.add(end - block * kBlock);
  });
  if (!progress.go_on()) return fail(make_error(ErrorKind::interrupted, "leave to go on"));
  return {};
}

/// Gives transparent pixels the mean color of what stands beside them, twice: a renderer that mixes texels
/// then shows no dark fringe. What is seen stays as it is, for their alpha does.
void bleed_colors(Image& page) {
  const int width = page.width(), height = page.height();
  std::vector<std::uint8_t> known(static_cast<std::size_t>(width) * static_cast<std::size_t>(height));
  const auto at = [width](int x, int y) {
    return static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x);
  };
  for (int y = 0; y < height; ++y) {
    for (int x = 0; x < width; ++x) known[at(x, y)] = page.row(y)[x * 4 + 3] > 0 ? 1 : 0;
  }
  for (std::uint8_t pass = 2; pass <= 3; ++pass) {
    for (int y = 0; y < height; ++y) {
      for (int x = 0; x < width; ++x) {
        if (known[at(x, y)] != 0) continue;
        unsigned sum[3] = {}, count = 0;
        for (int j = std::max(y - 1, 0); j <= std::min(y + 1, height - 1); ++j) {
          for (int i = std::max(x - 1, 0); i <= std::min(x + 1, width - 1); ++i) {
            if (known[at(i, j)] == 0 || known[at(i, j)] >= pass) continue;
            for (int c = 0; c < 3; ++c) sum[c] += page.row(j)[i * 4 + c];
            ++count;
          }
        }
        if (count == 0) continue;
        for (int c = 0; c < 3; ++c) page.row(y)[x * 4 + c] = static_cast<std::uint8_t>(sum[c] / count);
        known[at(x, y)] = pass;
      }
    }
  }
}

AtlasFace describe_face(const Face& face) {
  const FaceNames names = face.names();
  const auto place = face.place();
  return {face.id(), names.family, names.style, names.copyright, names.license, {place.begin(), place.end()}};
}

}  // namespace

std::string to_string(PictureKind kind) {
  constexpr const char* kNames[kPictureKinds] = {"coverage", "distance", "distance_rgb", "distance_rgba",
                                                 "color"};
  return kNames[static_cast<std::size_t>(kind)];
}

std::optional<PictureKind> find_picture_kind(std::string_view name) {
  for (std::size_t i = 0; i < kPictureKinds; ++i) {
    if (to_string(static_cast<PictureKind>(i)) == name) return static_cast<PictureKind>(i);
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

std::string recipe_key(const AtlasRecipe& recipe) {
  constexpr int kPictures = 4;  // grows when the same recipe gives other pixels
  detail::Fnv1a hash;
  for (const std::shared_ptr<const Face>& face : recipe.faces) {
    hash.add_number(static_cast<std::uint64_t>(face->id()));
  }
  std::vector<char32_t> characters = recipe.characters;
  std::sort(characters.begin(), characters.end());
  characters.erase(std::unique(characters.begin(), characters.end()), characters.end());
  for (const char32_t c : characters) hash.add_number(c);
  std::vector<FaceCharacter> clusters = recipe.of_clusters;
  std::sort(clusters.begin(), clusters.end());
  clusters.erase(std::unique(clusters.begin(), clusters.end()), clusters.end());
  for (const FaceCharacter& c : clusters) {
    hash.add_number((std::uint64_t{1} << 63U) | std::uint64_t{c.face} << 32U | c.character);
  }
  hash.add_number(~std::uint64_t{0});
  for (const Tag feature : recipe.features) hash.add_number(static_cast<std::uint64_t>(feature));
  const PageSize page = recipe.fit.value_or(recipe.max_page);
  hash.add(fmt::format("{} {} {} {} {} {} {} {} {}x{}", kPictures, to_string(recipe.kind), recipe.all_glyphs,
                       recipe.closure, recipe.reach, recipe.padding, recipe.gap, recipe.bits, page.width,
                       page.height));
  hash.add(fmt::format(" {} {} {} {} {}", recipe.phases, recipe.fit_rows, recipe.palette, recipe.painter.name,
                       static_cast<bool>(recipe.read_picture)));
  hash.add(recipe.color_glyphs ? " colored" : " plain");
  if (!recipe.fit) hash.add(fmt::format(" {}", recipe.size));
  for (const float size : recipe.other_sizes) hash.add(fmt::format(" {}", size));
  return fmt::format("{:016x}", hash.result());
}

Result<Atlas> bake(const AtlasRecipe& recipe, Notes* notes, const BakeControl& control) {
  if (recipe.faces.empty()) return bad_value("at least one face");
  if (const Result<void> checked = detail::check_pictures(recipe); !checked) return fail(checked.error());
  if (const Result<void> permitted = check_permission(recipe); !permitted) return fail(permitted.error());
  Selection selection = detail::select_glyphs(recipe, notes);
  if (recipe.fit) {
    const Result<float> found = find_fitting_size(recipe, selection);
    if (!found) return fail(found.error());
    for (Selection::Chosen& strike : selection.strikes) strike.size = *found;
  }
  detail::size_cells(recipe, selection);
  const std::optional<Packed> packed = pack_cells(recipe, selection);
  if (!packed) return too_large(recipe, selection);
  Atlas atlas;
  atlas.key = recipe_key(recipe);
  for (const Packed::Pages& pages : packed->pages) {
    for (std::size_t i = 0; i < pages.result.page_count; ++i) {
      Result<Image> image = Image::make(pages.result.page_width, pages.result.page_height,
                                        page_format(pages.kind, recipe.bits));
      if (!image) return fail(image.error());
      atlas.pages.push_back({*std::move(image), pages.kind});
    }
  }
  std::size_t item = 0;
  for (AtlasGlyph& glyph : selection.glyphs) {
    if (glyph.cell.empty()) continue;
    const detail::PackItem& place = packed->items[item++];
    glyph.page = place.page, glyph.cell.x = place.x, glyph.cell.y = place.y;
  }
  std::vector<char> failed;
  if (const Result<void> painted = paint_all(recipe, selection, control, atlas.pages, failed); !painted) {
    return fail(painted.error());
  }
  for (AtlasPage& page : atlas.pages) {
    if (page.kind == PictureKind::color) bleed_colors(page.image);
  }
  for (std::size_t i = 0; i < failed.size(); ++i) {
    if (failed[i] != 0 && notes != nullptr) {
      const std::size_t face = selection.strikes[selection.glyphs[i].strike].face;
      notes->add({.kind = NoteKind::damaged_glyph,
                  .position = index_of(selection.glyphs[i].glyph),
                  .face = recipe.faces[face]->title()});
    }
  }
  const std::vector<std::size_t> faces = selection.faces();
  for (const std::size_t face : faces) atlas.faces.push_back(describe_face(*recipe.faces[face]));
  for (std::size_t i = 0; i < selection.strikes.size(); ++i) {
    const Selection::Chosen& strike = selection.strikes[i];
    atlas.strikes.push_back(make_strike(
        recipe, strike,
        static_cast<std::size_t>(std::lower_bound(faces.begin(), faces.end(), strike.face) - faces.begin())));
    atlas.kerning.push_back(
        detail::make_kerning(*recipe.faces[strike.face], strike.size, i, selection.glyphs));
  }
  atlas.glyphs = std::move(selection.glyphs);
  return atlas;
}

}  // namespace grafema
