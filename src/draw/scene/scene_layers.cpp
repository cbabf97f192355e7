// SPDX-License-Identifier: MIT
// Layer records of scenes, found by look and picture and kept up with their books.
#include "draw/scene/scene_layers.hpp"

#include <algorithm>

#include "draw/content/composites.hpp"
#include "draw/layer_record.hpp"

namespace grafema::detail {
namespace {

/// Whether glyphs that were written for one look serve another.
bool keeps_glyphs(const Look& a, const Look& b) {
  if (a.count != b.count || a.in_ems != b.in_ems) return false;
  for (std::size_t i = 0; i < a.count; ++i) {
    const Layer &x = a.layers[i], &y = b.layers[i];
    if (x.shift != y.shift || x.grow != y.grow || x.blur != y.blur || x.line != y.line || x.sweep != y.sweep)
      return false;  // bars reach as far as these
    if (x.fill.box != y.fill.box || x.join != y.join || images_of(x) != images_of(y)) return false;
  }
  return true;
}

}  // namespace

SceneFeature features_of(const Look& look, float made_bold) {
  SceneFeature features = made_bold != 0 ? SceneFeature::effects : SceneFeature::none;
  for (std::size_t i = 0; i < look.count; ++i) features |= features_of(look.layers[i]);
  return features;
}

std::optional<SceneLayers::Found> SceneLayers::find(std::uint8_t context, const LookBook& looks,
                                                    const Variant& variant, LookId look,
                                                    SceneTableOf<LayerRecord>& out, std::uint64_t revision,
                                                    std::uint32_t owner) {
  const auto is_wanted = [&](const Key& key) {
    return key.context == context && key.look == look && key.owner == owner &&
           (owner != kShared || are_alike(key.variant, variant));
  };
  if (last_ >= keys_.size() || !is_wanted(keys_[last_])) {
    last_ = static_cast<std::size_t>(std::find_if(keys_.begin(), keys_.end(), is_wanted) - keys_.begin());
  }
  if (last_ < keys_.size() && !are_alike(keys_[last_].variant, variant)) {
    keys_[last_].variant = variant;
    write(keys_[last_], out, revision);
  }
  if (last_ == keys_.size()) {
    const Look& wanted = looks.get(look);
    const std::size_t room = records_of(wanted) + (variant.panel ? 1 : 0);
    if (used_ + room > kMaxRecords) return std::nullopt;
    keys_.push_back({context, look, variant, static_cast<std::uint16_t>(used_),
                     static_cast<std::uint16_t>(room), features_of(wanted, variant.grow), wanted, owner});
    used_ += room;
    if (out.size() < used_) out.resize(used_);
    write(keys_.back(), out, revision);
  }
  return Found{keys_[last_].first, keys_[last_].features};
}

void SceneLayers::write(const Key& key, SceneTableOf<LayerRecord>& out, std::uint64_t revision) {
  write_records(key.as_written, key.variant, out.change(key.first, key.room, revision));
  images_.resize(std::max(images_.size(), used_));
  joins_.resize(images_.size());
  for (std::size_t i = 0; i < key.as_written.count; ++i) {
    images_[key.first + i] = HeldLayerImages(key.as_written.layers[i]);
    joins_[key.first + i] = !is_composite(key.variant.kind) && is_joined(key.as_written, i, key.variant);
  }
}

void SceneLayers::follow(std::uint8_t context, const LookBook& looks, SceneTableOf<LayerRecord>& out,
                         std::uint64_t revision, std::vector<LookId>& changed) {
  for (std::size_t i = 0; i < keys_.size();) {
    Key& key = keys_[i];
    const Look& now = looks.get(key.look);
    if (key.context != context || key.as_written == now) {
      ++i;
      continue;
    }
    const SceneFeature features = features_of(now, key.variant.grow);
    if (!keeps_glyphs(key.as_written, now) || features != key.features) changed.push_back(key.look);
    if (records_of(now) + (key.variant.panel ? 1 : 0) >
        key.room) {  // no room where it stands; it is found again at the end
      keys_.erase(keys_.begin() + static_cast<std::ptrdiff_t>(i));
      continue;
    }
    key.as_written = now;
    key.features = features;
    write(key, out, revision);
    ++i;
  }
}

void SceneLayers::clear() {
  keys_.clear();
  images_.clear();
  joins_.clear();
  last_ = used_ = 0;
}

}  // namespace grafema::detail
