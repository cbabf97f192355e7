// SPDX-License-Identifier: MIT
// Finds the pixels of each quad by the inverse of its map, shades and blends them.
#include "grafema/render/software_renderer.hpp"

#include <Eigen/Core>
#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "base/light.hpp"
#include "draw/layer_record.hpp"
#include "grafema/base/color.hpp"
#include "render/software/blender.hpp"
#include "render/software/quad_levels.hpp"
#include "render/software/seen_quad.hpp"
#include "render/software/set_quads.hpp"

namespace grafema {
namespace {

using Eigen::Vector3d;

using detail::Blender;
using detail::ByteOfLight;
using detail::Cutter;
using detail::footprint_at;
using detail::light_of;
using detail::Seen;
using detail::to_byte;

/// Where the cell's sides lie on a fill: left, top, right, bottom.
using Place = std::array<float, 4>;

Place place_of(const GlyphQuad& quad) {
  const auto part = [](std::int16_t v) { return static_cast<float>(v) / 4096.0F; };
  return {part(quad.box[0]), part(quad.box[1]), part(quad.box[2]), part(quad.box[3])};
}

float mixed(float low, float high, double t) { return low + (high - low) * static_cast<float>(t); }

/// A panel's outline in texels: the cell holds it, its pointer and the reach.
PanelShape panel_in_cell(const PanelRecord& panel, const GlyphQuad& quad, float reach) {
  const auto cell = [&quad](std::size_t i) { return static_cast<float>(quad.cell[i]); };
  PanelShape shape;
  shape.box = {cell(0) + reach + panel.beyond[0], cell(1) + reach + panel.beyond[1],
               cell(0) + cell(2) - reach - panel.beyond[2], cell(1) + cell(3) - reach - panel.beyond[3]};
  shape.radii = panel.radii, shape.has_pointer = panel.has_pointer > 0;
  for (std::size_t i = 0; i < 3; ++i) {
    shape.pointer[i] = {shape.box.left + panel.pointer[2 * i], shape.box.top + panel.pointer[2 * i + 1]};
  }
  return shape;
}

detail::QuadLayer layer_of(std::span<const LayerRecord> records, std::size_t record, const FillImage* image,
                           const GlyphQuad& quad, const Place& place) {
  detail::QuadLayer what{records[record], detail::fill_of(records, record)};
  if (const std::optional<PanelRecord> panel = detail::panel_of(records, record)) {
    what.panel = panel_in_cell(*panel, quad, records[record].reach);
  }
  const bool is_image = what.fill && static_cast<int>(what.fill->kind) == static_cast<int>(FillKind::image);
  what.image = is_image ? image : nullptr;
  what.per_texel = {std::abs(place[2] - place[0]) / static_cast<float>(quad.cell[2] + 1),
                    std::abs(place[3] - place[1]) / static_cast<float>(quad.cell[3] + 1)};
  return what;
}

/// What a quad takes its texels from: nothing, for a bar.
struct Page {
  ImageView pixels, far;
};

/// Draws the part of a quad that lies in some rows of the target.
class QuadDrawer {
  using Choice = detail::QuadLevels::Choice;

 public:
  QuadDrawer(const GlyphQuad& quad, const detail::QuadLayer& what, const Place& place, QuadKind kind,
             const Page& page, const View& view, Blender& blender, const detail::LightVectors& lights,
             const std::optional<detail::QuadCut>& cut = {})
      : quad_(quad),
        place_(place),
        seen_(quad, view),
        levels_(quad, what, kind, page.pixels, page.far),
        blender_(blender),
        lights_(lights) {
    if (cut) cutter_.emplace(*cut, seen_);
  }

  void draw(Image& target, const PixelRect& rows) {
    if (!seen_.valid()) return;
    if (seen_.affine()) {
      draw_affine(target, rows);
    } else {
      draw_in_perspective(target, rows);
    }
  }

 private:
  /// The quad with so many texels left out at its sides, and what its layer draws out.
  detail::PlanePart part_without(double x, double y) const {
    const double width = quad_.cell[2] + 1, height = quad_.cell[3] + 1;
    const detail::Texel swept = levels_.own().swept();
    return {(x + std::min(swept.x, 0.0F)) / width, (y + std::min(swept.y, 0.0F)) / height,
            1 - (x - std::max(swept.x, 0.0F)) / width, 1 - (y - std::max(swept.y, 0.0F)) / height};
  }

  void draw_affine(Image& target, const PixelRect& rows) {
    const Choice choice = levels_.choose(footprint_at(seen_, 0, 0));
    // The quad is half a texel wider than its cell.
    const float empty = choice.level == 0 ? levels_.own().margin(choice.footprint) : 0;
    const detail::Texel beyond = choice.beyond();
    const detail::PlanePart part =
        empty > 0 ? part_without(empty + 0.5, empty + 0.5) : part_without(-beyond.x, -beyond.y);
    if (part.empty()) return;
    const PixelRect area = seen_.bounds(rows, part);
    const Vector3d across = seen_.across(), down = seen_.down();
    if (across.y() == 0 && down.x() == 0 && choice.level == 0 && levels_.own().can_shade_rows()) {
      draw_upright(target, area, choice.footprint, part);
      return;
    }
    for (int y = area.y; y < area.y + area.height; ++y) {
      std::uint8_t* row = target.row(y);
      const double a0 = across.y() * (y + 0.5) + across.z(), b0 = down.y() * (y + 0.5) + down.z();
      for (int x = area.x; x < area.x + area.width; ++x) {
        const double a = a0 + across.x() * (x + 0.5), b = b0 + down.x() * (x + 0.5);
        if (part.holds(a, b)) paint(row, x, y, a, b, choice);
      }
    }
  }

  /// Its rows are those of the target.
  void draw_upright(Image& target, PixelRect area, const detail::Footprint& footprint,
                    const detail::PlanePart& part) {
    const Vector3d across = seen_.across(), down = seen_.down();
    const auto a_at = [&](int x) { return across.x() * (x + 0.5) + across.z(); };
    const auto is_shown = [&](int x) { return a_at(x) >= part.left && a_at(x) < part.right; };
    while (area.width > 0 && !is_shown(area.x)) ++area.x, --area.width;
    while (area.width > 0 && !is_shown(area.x + area.width - 1)) --area.width;
    if (area.width == 0) return;
    strengths_.resize(static_cast<std::size_t>(area.width));
    for (int y = area.y; y < area.y + area.height; ++y) {
      const double b = down.y() * (y + 0.5) + down.z();
      if (!(b >= part.top && b < part.bottom)) continue;
      levels_.own().shade_row(texel_of(a_at(area.x), b), footprint, strengths_);
      std::uint8_t* pixel = target.row(y) + static_cast<std::size_t>(area.x) * 4;
      for (int x = 0; x < area.width; ++x, pixel += 4) {
        const float strength = strengths_[static_cast<std::size_t>(x)];
        if (strength > 0) put(pixel, a_at(area.x + x), b, strength * share_at(area.x + x, y), footprint);
      }
    }
  }

  void put(std::uint8_t* pixel, double a, double b, float strength, const detail::Footprint& footprint) {
    const PixelPoint at = on_fill(a, b);
    const detail::Shade shade = levels_.own().with_strength(strength, footprint, at.x, at.y);
    if (shade.alpha > 0) blender_.blend(pixel, shade);
  }

  PixelPoint on_fill(double a, double b) const {
    if (levels_.own().is_solid()) return {};
    return {mixed(place_[0], place_[2], a), mixed(place_[1], place_[3], b)};
  }

  detail::Texel texel_of(double a, double b) const {
    return {static_cast<float>(quad_.cell[0] - 0.5 + a * (quad_.cell[2] + 1)),
            static_cast<float>(quad_.cell[1] - 0.5 + b * (quad_.cell[3] + 1))};
  }

  void draw_in_perspective(Image& target, const PixelRect& rows) {
    // Paint goes less than two pixels beyond a quad, and beyond one that is not small none at all.
    const bool is_small = seen_.is_small();
    const detail::PlanePart part = part_without(0, 0);
    const PixelRect area = is_small ? widened(seen_.bounds(rows, part), rows) : seen_.bounds(rows, part);
    for (int y = area.y; y < area.y + area.height; ++y) {
      std::uint8_t* row = target.row(y);
      for (int x = area.x; x < area.x + area.width; ++x) {
        double a = 0, b = 0;
        if (!seen_.find(x + 0.5, y + 0.5, a, b)) continue;
        const bool is_on_quad = part.holds(a, b);
        if (!is_on_quad && !is_small) continue;
        const Choice choice = levels_.choose(footprint_at(seen_, x, y));
        if (is_on_quad || is_near(choice, a, b)) paint(row, x, y, a, b, choice);
      }
    }
  }

  bool is_near(const Choice& choice, double a, double b) const {
    const detail::Texel beyond = choice.beyond();
    return part_without(-beyond.x, -beyond.y).holds(a, b);
  }

  static PixelRect widened(const PixelRect& area, const PixelRect& rows) {
    constexpr int kBy = 2;
    const int left = std::max(area.x - kBy, 0), top = std::max(area.y - kBy, rows.y),
              right = std::min(area.x + area.width + kBy, rows.width),
              bottom = std::min(area.y + area.height + kBy, rows.y + rows.height);
    return {left, top, right - left, bottom - top};
  }

  float share_at(int x, int y) const { return cutter_ ? cutter_->at(x, y) : 1.0F; }

  void paint(std::uint8_t* row, int x, int y, double a, double b, const Choice& choice) {
    std::uint8_t* pixel = row + static_cast<std::size_t>(x) * 4;
    const PixelPoint at = on_fill(a, b);
    detail::Shade shade = levels_.shade(texel_of(a, b), choice, at.x, at.y);
    if (levels_.own().takes_light()) {
      const detail::Footprint own = choice.footprint.scaled(1 / choice.unit);
      shade = levels_.own().with_light(shade, texel_of(a, b), own,
                                       {static_cast<float>(x) + 0.5F, static_cast<float>(y) + 0.5F}, lights_);
    }
    if (cutter_) shade.cut(share_at(x, y));
    if (shade.strength > 0 && shade.alpha > 0) blender_.blend(pixel, shade);
  }

  const GlyphQuad& quad_;
  Place place_;
  Seen seen_;
  detail::QuadLevels levels_;
  Blender& blender_;
  const detail::LightVectors& lights_;
  std::optional<Cutter> cutter_;
  std::vector<float> strengths_;
};

/// The pages of a source's kind and part by their layers, with the smaller pictures where they are wanted:
/// sources make those now, so that bands may be drawn on several threads.
class PagesOf {
 public:
  PagesOf(const GlyphSource& source, QuadKind kind, std::uint8_t part, bool with_far) {
    const std::span<const PageInfo> infos = source.pages();
    for (std::size_t i = 0; i < infos.size(); ++i) {
      const PageInfo& info = infos[i];
      if (quad_kind(info.kind) != kind || info.part != part || info.width == 0) continue;
      if (pages_.size() <= info.array_layer) pages_.resize(std::size_t{info.array_layer} + 1);
      const auto number = static_cast<std::uint16_t>(i);
      pages_[info.array_layer] = {source.pixels(number), with_far ? source.far_pixels(number) : ImageView{}};
    }
  }
  PagesOf() : pages_(1) {}  // of bars

  const Page* find(std::size_t layer) const { return layer < pages_.size() ? &pages_[layer] : nullptr; }

 private:
  std::vector<Page> pages_;
};

/// Bands of rows, each with all quads in their order: what each pixel becomes does not depend on threads.
template <class Draw>
Result<void> draw_in_bands(const View& view, Blending blending, Image& target, Workers* workers, Draw draw) {
  const bool same =
      static_cast<float>(target.width()) == view.width && static_cast<float>(target.height()) == view.height;
  if (!same || target.format() != PixelFormat::rgba8) {
    return fail(make_error(ErrorKind::bad_value, "an rgba8 target of the view's size"));
  }
  static const ByteOfLight byte_of_light;
  const int bands = workers == nullptr ? 1 : std::min(32, std::max(1, target.height() / 16));
  run_parts(workers, static_cast<std::size_t>(bands), [&](std::size_t band) {
    const int first = target.height() * static_cast<int>(band) / bands,
              last = target.height() * (static_cast<int>(band) + 1) / bands;
    const PixelRect rows{0, first, target.width(), last - first};
    Blender blender(blending, byte_of_light);
    draw(blender, rows);
  });
  return {};
}

}  // namespace

Result<void> draw_in_software(const QuadList& list, const GlyphSource& source, const View& view,
                              Blending blending, Image& target, Workers* workers) {
  const detail::LightVectors lights = detail::light_vectors(list.lighting, list.content_scale);
  std::vector<PagesOf> pages;  // of each batch
  for (const Batch& batch : list.batches.first(list.batch_count)) {
    pages.push_back(!has_page(batch.kind) ? PagesOf() : PagesOf(source, batch.kind, batch.part, batch.far));
  }
  return draw_in_bands(view, blending, target, workers, [&](Blender& blender, const PixelRect& rows) {
    for (std::size_t b = 0; b < list.batch_count; ++b) {
      const Batch& batch = list.batches[b];
      for (const GlyphQuad& quad : list.quads.subspan(batch.first, batch.count)) {
        const std::size_t record = std::size_t{batch.first_record} + quad.record;
        const Page* page = pages[b].find(has_page(batch.kind) ? quad.page : 0);
        if (record >= list.record_count || page == nullptr) continue;
        if (page->pixels.data == nullptr && has_page(batch.kind)) continue;
        const Place place = place_of(quad);
        const detail::QuadLayer what =
            layer_of(list.records.first(list.record_count), record, batch.image, quad, place);
        QuadDrawer(quad, what, place, batch.kind, *page, view, blender, lights).draw(target, rows);
      }
    }
  });
}

Result<void> draw_in_software(const SetMemory& set, const View& view, Blending blending, Image& target,
                              Workers* workers) {
  std::uint32_t far = 0;  // arrays, as SetBatch::arrays
  for (const SetBatch& batch : set.batches) far |= (batch.features & kFar) != 0 ? batch.arrays : 0U;
  const detail::LightVectors lights = detail::light_vectors(set.lighting, set.content_scale);
  std::vector<PagesOf> pages;  // of each array
  for (const SetArray& array : set.arrays) {
    const bool with_far = pages.size() < 32 && (far >> pages.size() & 1U) != 0;
    pages.push_back(array.source != nullptr ? PagesOf(*array.source, array.kind, array.part, with_far)
                                            : PagesOf());
  }
  return draw_in_bands(view, blending, target, workers, [&](Blender& blender, const PixelRect& rows) {
    for (const SetBatch& batch : set.batches) {
      for (const std::uint32_t entry : set.order.subspan(batch.first, batch.count)) {
        const std::optional<detail::SetQuad> q = detail::find_set_quad(set, entry);
        if (!q || q->array.is_free()) continue;
        const bool is_bar = !has_page(q->array.kind);
        const Page* page = pages[set.glyphs[entry / 8].page / 2048U].find(is_bar ? 0 : q->quad.page);
        if (page == nullptr || (page->pixels.data == nullptr && !is_bar)) continue;
        const detail::QuadLayer what = layer_of(set.layers, q->quad.record, batch.image, q->quad, q->place);
        QuadDrawer(q->quad, what, q->place, q->array.kind, *page, view, blender, lights, q->cut)
            .draw(target, rows);
      }
    }
  });
}

namespace {

/// Multiplies the colors of pixels that are neither empty nor opaque by what `factor` makes of their alpha.
template <class Factor>
void scale_colors(Image& target, Blending blending, Factor factor) {
  for (int y = 0; y < target.height(); ++y) {
    for (std::uint8_t* pixel = target.row(y); pixel < target.row(y) + target.row_bytes(); pixel += 4) {
      if (pixel[3] == 255) continue;
      const float by = factor(static_cast<float>(pixel[3]) / 255.0F);
      for (int c = 0; c < 3; ++c) {
        pixel[c] = blending == Blending::linear ? to_byte(to_srgb(light_of(pixel[c]) * by))
                                                : to_byte(static_cast<float>(pixel[c]) / 255.0F * by);
      }
    }
  }
}

}  // namespace

void to_premultiplied_alpha(Image& target, Blending blending) {
  scale_colors(target, blending, [](float alpha) { return alpha; });
}

void to_straight_alpha(Image& target, Blending blending) {
  scale_colors(target, blending, [](float alpha) { return alpha > 0 ? 1 / alpha : 0.0F; });
}

}  // namespace grafema
