// SPDX-License-Identifier: MIT
// Keeps the faces of a stack, matches the sizes of its fallback.
#include "grafema/font/font_stack.hpp"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace grafema {
namespace {

float checked_scale(float scale) {
  const bool good = std::isfinite(scale) && scale > 0;
  assert(good && "the scale of a face is above 0 and finite");
  return good ? scale : 1.0F;
}

}  // namespace

FontStack::FontStack(std::initializer_list<std::shared_ptr<const GlyphMetrics>> faces) {
  faces_.reserve(faces.size());
  for (const auto& face : faces) add(face);
}

void FontStack::insert(std::size_t place, std::shared_ptr<const GlyphMetrics> face, float scale) {
  assert(face && "a face of a stack is not null");
  if (!face) return;
  const auto at = faces_.begin() + static_cast<std::ptrdiff_t>(std::min(place, faces_.size()));
  faces_.insert(at, {std::move(face), checked_scale(scale)});
}

void FontStack::add(StackFace face) {
  constexpr float kMaxGrow = 0.2F, kMaxSlant = 45;
  insert(size(), std::move(face.metrics), face.scale);
  if (faces_.empty()) return;
  faces_.back().widens = face.widens;
  faces_.back().grow = std::isfinite(face.grow) ? std::clamp(face.grow, -kMaxGrow, kMaxGrow) : 0;
  faces_.back().slant = std::isfinite(face.slant) ? std::clamp(face.slant, -kMaxSlant, kMaxSlant) : 0;
}

void FontStack::set_scale(std::size_t index, float scale) { faces_[index].scale = checked_scale(scale); }

void match_x_heights(FontStack& stack) {
  constexpr float kMax = 4;  // a face whose small letters are a quarter of the other's is no text face
  const auto relative_height = [](const StackFace& face) {
    const Face* tables = face->face();
    return tables == nullptr ? 0.0F : tables->facts().x_height / tables->units_per_em();
  };
  const float wanted = stack.empty() ? 0.0F : relative_height(stack[0]);
  for (std::size_t i = 0; i < stack.size(); ++i) {
    const float own = i == 0 || wanted <= 0 ? 0.0F : relative_height(stack[i]);
    stack.set_scale(i, own > 0 ? std::clamp(wanted / own, 1 / kMax, kMax) : 1.0F);
  }
}

}  // namespace grafema
