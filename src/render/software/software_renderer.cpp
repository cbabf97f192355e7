// SPDX-License-Identifier: MIT
// Finds the pixels of each glyph by the inverse of its map, shades and blends them.
#include "grafema/render/software_renderer.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "base/light.hpp"
#include "draw/layer_record.hpp"
#include "grafema/base/color.hpp"
#include "render/batch_walk.hpp"
#include "render/software/blender.hpp"
#include "render/software/composite_quads.hpp"
#include "render/software/quad_drawer.hpp"
#include "render/software/scene_quads.hpp"

namespace grafema {
namespace {

using detail::Blender;
using detail::ByteOfLight;
using detail::GlyphQuad;
using detail::light_of;
using detail::Page;
using detail::Place;
using detail::Planes;
using detail::QuadDrawer;
using detail::to_byte;

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

/// What a quad of that batch shows.
detail::QuadLayer layer_of(std::span<const LayerRecord> records, std::size_t record, const SceneBatch& batch,
                           const GlyphQuad& quad, const Place& place) {
  detail::QuadLayer what{records[record], detail::fill_of(records, record)};
  what.pixelated = has_any(batch.features, SceneFeature::pixelated);
  if (const std::optional<PanelRecord> panel = detail::panel_of(records, record)) {
    what.panel = panel_in_cell(*panel, quad, records[record].reach);
  }
  const bool is_image = what.fill && static_cast<int>(what.fill->kind) == static_cast<int>(FillKind::image);
  what.image = is_image ? batch.images.fill : nullptr;
  what.grain = batch.images.grain, what.mirror = batch.images.mirror;
  what.per_texel = {std::abs(place[2] - place[0]) / static_cast<float>(quad.cell[2] + 1),
                    std::abs(place[3] - place[1]) / static_cast<float>(quad.cell[3] + 1)};
  return what;
}

/// The pages of a source's kind and part by their layers, with the smaller pictures where they are wanted:
/// sources make those now, so that bands may be drawn on several threads.
class PagesOf {
 public:
  PagesOf(const GlyphSource& source, TexelKind kind, std::uint8_t part, bool with_far) {
    const std::span<const PageInfo> infos = source.pages();
    for (std::size_t i = 0; i < infos.size(); ++i) {
      const PageInfo& info = infos[i];
      if (texel_kind(info.kind) != kind || info.part != part || info.width == 0) continue;
      if (pages_.size() <= info.array_layer) pages_.resize(std::size_t{info.array_layer} + 1);
      const auto number = static_cast<std::uint16_t>(i);
      pages_[info.array_layer] = {source.pixels(number),
                                  with_far ? source.mipmap_pixels(number) : ImageView{}};
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
    return bad_value("an rgba8 target of the view's size");
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

namespace {

/// Makes room for what batches paint beside the target.
Result<Planes> make_planes(std::span<const SceneBatch> batches, const Image& target) {
  Planes planes;
  planes.width = target.width();
  for (const SceneBatch& batch : batches) {
    if (batch.target == RenderTarget::mask && has_any(batch.features, SceneFeature::lit))
      planes.reads_beside = true;
    if (batch.target == RenderTarget::mask && planes.shape.empty()) {
      planes.shape.resize(static_cast<std::size_t>(target.width()) *
                          static_cast<std::size_t>(target.height()));
    }
    if (batch.target == RenderTarget::intermediate && !planes.sheet) {
      Result<Image> sheet = Image::make(target.width(), target.height(), PixelFormat::rgba8);
      if (!sheet) return fail(sheet.error());
      planes.sheet = *std::move(sheet);
    }
  }
  return planes;
}

Image& plane_of(RenderTarget onto, Planes& planes, Image& target) {
  return onto == RenderTarget::intermediate ? *planes.sheet : target;
}

/// Entries of a scene, in a band of rows.
class ScenePainter {
 public:
  ScenePainter(const SceneMemory& scene, std::span<const PagesOf> pages, const View& view, Image& target,
               Planes& planes, const detail::LightVectors& lights)
      : scene_(scene), pages_(pages), view_(view), target_(target), planes_(planes), lights_(lights) {}

  void paint(Blender& blender, const PixelRect& rows) {
    const auto empty = [&](RenderTarget, const SceneBatch& composite) {
      each_quad(composite, [&](const detail::SceneQuad& q, const detail::QuadLayer& what) {
        detail::CompositeDrawer(q.quad, what, q.place, q.array.kind, view_, planes_).empty(rows);
      });
    };
    const auto draw = [&](const SceneBatch& batch) { paint(batch, blender, rows); };
    detail::walk_batches(scene_, empty, draw);
  }

 private:
  template <class Draw>
  void each_quad(const SceneBatch& batch, Draw draw) const {
    for (const std::uint32_t entry : scene_.order().subspan(batch.first, batch.count)) {
      const std::optional<detail::SceneQuad> q = detail::find_scene_quad(scene_, entry, batch);
      if (!q || q->array.is_free()) continue;
      draw(*q, layer_of(scene_.layers(), q->quad.record, batch, q->quad, q->place));
    }
  }

  void paint(const SceneBatch& batch, Blender& blender, const PixelRect& rows) {
    Image& onto = plane_of(batch.target, planes_, target_);
    each_quad(batch, [&](const detail::SceneQuad& q, const detail::QuadLayer& what) {
      if (is_composite(q.array.kind)) {
        detail::CompositeDrawer(q.quad, what, q.place, q.array.kind, view_, planes_, q.cut)
            .draw(onto, rows, blender, lights_);
        return;
      }
      const bool is_bar = !has_page(q.array.kind);
      const Page* page = pages_[q.array_number].find(is_bar ? 0 : q.quad.page);
      if (page == nullptr || (page->pixels.data == nullptr && !is_bar)) return;
      const bool is_of_shape = batch.target == RenderTarget::mask;  // the composite is cut off
      QuadDrawer drawer(q.quad, what, q.place, q.array.kind, *page, view_, blender, lights_,
                        is_of_shape ? std::nullopt : q.cut);
      if (is_of_shape) drawer.go_onto(planes_);
      drawer.draw(onto, rows);
    });
  }

  const SceneMemory& scene_;
  std::span<const PagesOf> pages_;  // of each array
  const View& view_;
  Image& target_;
  Planes& planes_;
  const detail::LightVectors& lights_;
};

}  // namespace

Result<void> draw_in_software(const SceneMemory& scene, Blending blending, Image& target, Workers* workers) {
  const View& view = scene.view();
  std::uint32_t far = 0;  // arrays, as SceneBatch::arrays
  for (const SceneBatch& batch : scene.batches())
    far |= has_any(batch.features, SceneFeature::mipmapped) ? batch.arrays : 0U;
  const detail::LightVectors lights =
      detail::light_vectors(scene.lighting(), view.content_scale, view.width, view.height);
  std::vector<PagesOf> pages;  // of each array
  for (const SceneArray& array : scene.arrays()) {
    const bool with_far = pages.size() < 32 && (far >> pages.size() & 1U) != 0;
    pages.push_back(array.source != nullptr ? PagesOf(*array.source, array.kind, array.part, with_far)
                                            : PagesOf());
  }
  Result<Planes> planes = make_planes(scene.batches(), target);
  if (!planes) return fail(planes.error());
  ScenePainter painter(scene, pages, view, target, *planes, lights);
  return draw_in_bands(view, blending, target, planes->reads_beside ? nullptr : workers,
                       [&](Blender& blender, const PixelRect& rows) { painter.paint(blender, rows); });
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
