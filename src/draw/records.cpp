// SPDX-License-Identifier: MIT
// Layer records: looks in texels of the pictures that they are drawn from.
#include <algorithm>
#include <cmath>

#include "draw/label_state.hpp"
#include "draw/layer_record.hpp"
#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/atlas_source.hpp"

namespace grafema {

TextContext::TextContext(FontStack fonts, std::shared_ptr<GlyphSource> source)
    : records_(std::make_shared<Records>()) {
  set_fonts(std::move(fonts));
  set_source(std::move(source));
  records_->keys.reserve(Records::kMostKeys);
  records_->list.reserve(Records::kMostKeys * Look::kMaxLayers);
}

TextContext::~TextContext() = default;

void TextContext::set_fonts(FontStack fonts) {
  fonts_ = std::move(fonts);
  if (fonts_.empty()) fonts_.add(built_in_face());
  ++revision_;
}

void TextContext::set_fonts_by_name(FontBook book) {
  book_ = std::move(book);
  ++revision_;
}

void TextContext::expect(std::shared_ptr<LateFace> late, std::size_t place) {
  if (late) expected_.push_back({std::move(late), place});
}

bool TextContext::take_arrivals() {
  bool any = false;
  for (std::size_t i = 0; i < expected_.size();) {
    LateFace::Arrival arrival = expected_[i].late->take();
    if (!arrival.face) {
      ++i;
      continue;
    }
    any = true;
    fonts_.insert(expected_[i].place, std::move(arrival.face));
    ++revision_;
    if (arrival.source) set_source(std::move(arrival.source));
    expected_.erase(expected_.begin() + static_cast<std::ptrdiff_t>(i));
  }
  return any;
}

void TextContext::set_source(std::shared_ptr<GlyphSource> source) {
  source_ = std::move(source);
  own_cache_.reset();
  ++revision_;
  if (source_) return;
  GlyphCacheOptions options;
  options.frame_bytes = options.budget;
  options.frame_time = std::chrono::hours(1);  // whole at once: nothing is shown as a bar
  if (Result<std::unique_ptr<GlyphCache>> made = GlyphCache::make(options)) own_cache_ = *std::move(made);
  source_ =
      own_cache_ ? std::shared_ptr<GlyphSource>(own_cache_) : std::make_shared<AtlasSource>(built_in_atlas());
}

void TextContext::offer(const FontStack& fonts) {
  if (!own_cache_) return;
  for (const StackFace& face : fonts) {
    if (face->face() == nullptr) continue;
    // What its license forbids is shown as its missing pictures are: noted, and as the missing-glyph shape.
    (void)own_cache_->add(std::shared_ptr<const Face>(face.metrics, face->face()));
  }
}

void TextContext::begin_frame() {
  if (own_cache_) own_cache_->begin_frame();
}

namespace {

std::array<float, 4> premultiplied(const Color& c, float opacity) {
  const float alpha = c.alpha * opacity;
  return {c.red * alpha, c.green * alpha, c.blue * alpha, alpha};
}

}  // namespace

LayerRecord detail::layer_record(const Look& look, std::size_t index, const Variant& variant) {
  const Layer& layer = look.layers[index];
  const float texels_per_pixel = variant.texels_per_pixel, reach = variant.reach;
  LayerRecord record;
  record.reach = reach;
  if (reach > 0) {
    record.grow = (layer.grow + variant.grow) * texels_per_pixel;
    record.blur = layer.blur * texels_per_pixel;
    // What the pictures can't see is cut evenly from both, so that paint ends inside the cell.
    const float needed = std::abs(record.grow) + record.blur, there = std::max(reach - 0.5F, 0.0F);
    if (needed > there) {
      record.grow *= there / needed;
      record.blur *= there / needed;
    }
    record.hollow = layer.hollow ? 1.0F : 0.0F;
  }
  // On the page letters of a made italic stand upright.
  record.shift_x = (layer.shift.x + variant.lean * layer.shift.y) * texels_per_pixel;
  record.shift_y = layer.shift.y * texels_per_pixel;
  record.front = index + 1 == look.count ? 1.0F : 0.0F;
  for (std::size_t i = 0; i < 4; ++i) record.corners[i] = premultiplied(layer.fill.corners[i], look.opacity);
  record.pixel = 1 / texels_per_pixel;
  record.lean = variant.lean;
  return record;
}

void TextContext::Records::write(const Look& look, const Key& key) {
  const Look pixels = in_pixels(look, key.variant.size);
  for (std::size_t i = 0; i < std::min<std::size_t>(look.count, key.room); ++i) {
    list[key.first + i] = detail::layer_record(pixels, i, key.variant);
  }
}

void TextContext::Records::refresh(const LookBook& looks) {
  if (looks_revision == looks.revision()) return;
  looks_revision = looks.revision();
  const bool grown = std::any_of(keys.begin(), keys.end(),
                                 [&](const Key& key) { return looks.get(key.look).count > key.room; });
  if (grown) {  // no room where it stands: everybody asks anew
    keys.clear();
    list.clear();
    ++generation;
  }
  for (const Key& key : keys) write(looks.get(key.look), key);
}

std::uint32_t TextContext::Records::find(const LookBook& looks, LookId look, const Variant& v) {
  for (const Key& key : keys) {
    const Variant& k = key.variant;
    if (key.look == look && k.size == v.size && k.texels_per_pixel == v.texels_per_pixel &&
        k.reach == v.reach && k.grow == v.grow && k.lean == v.lean && k.kind == v.kind) {
      return key.first;
    }
  }
  if (keys.size() >= limit) {  // sizes that change every frame: start over, labels that are drawn ask again
    keys.clear();
    list.clear();
    ++generation;
  }
  const Look& wanted = looks.get(look);
  keys.push_back({look, v, static_cast<std::uint32_t>(list.size()), wanted.count});
  list.resize(list.size() + wanted.count);
  write(wanted, keys.back());
  return keys.back().first;
}

}  // namespace grafema
