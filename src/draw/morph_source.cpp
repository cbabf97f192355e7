// SPDX-License-Identifier: MIT
// Cells in rows on one page, painted again while letters change.
#include "draw/morph_source.hpp"

#include <algorithm>
#include <cmath>

#include "grafema/raster/raster.hpp"

namespace grafema::detail {
namespace {

class MorphMetrics final : public GlyphMetrics {
 public:
  MorphMetrics(std::size_t letters, float size, PixelPoint box, FaceId id)
      : letters_(letters), size_(size), box_(box), id_(id) {}

  FaceId id() const noexcept override { return id_; }
  float units_per_em() const noexcept override { return size_; }
  LineMetrics line_metrics() const noexcept override { return {box_.y, 0, 0}; }
  GlyphId find_glyph(char32_t character) const noexcept override {
    constexpr char32_t kFirst = 0xF0000;
    const bool has = character >= kFirst && character - kFirst <= letters_;
    return has ? GlyphId{static_cast<std::uint16_t>(character - kFirst + 1)} : kMissingGlyph;
  }
  void advances(std::span<const GlyphId> glyphs, std::span<float> out) const noexcept override {
    for (std::size_t i = 0; i < glyphs.size(); ++i) out[i] = index_of(glyphs[i]) == letters_ + 1 ? box_.x : 0;
  }
  void kern(std::span<const GlyphId>, Tag, Tag, std::span<float> out) const noexcept override {
    std::fill(out.begin(), out.end(), 0.0F);
  }
  FontRect glyph_box(GlyphId) const noexcept override { return {}; }
  const Face* face() const noexcept override { return nullptr; }

 private:
  std::size_t letters_;
  float size_;
  PixelPoint box_;
  FaceId id_;
};

}  // namespace

std::shared_ptr<const GlyphMetrics> make_morph_metrics(std::size_t letters, float size, PixelPoint box) {
  return std::make_shared<MorphMetrics>(letters, size, box, FaceId{0x6D6F727068});
}

MorphSource::MorphSource(std::size_t letters, float size, PictureKind kind, PixelPoint box)
    : size_(size), kind_(kind), box_(box), cells_(letters), corners_(letters), sprites_(letters) {
  page_.kind = kind;
  page_.format = page_format(kind, 8);
  grow(1, 1);
}

bool MorphSource::grow(int width, int height) {
  constexpr int kMaxSide = 8192;
  width = std::max(page_.width, width), height = std::max(page_.height, height);
  if (width > kMaxSide || height > kMaxSide) return false;
  if (width == page_.width && height == page_.height) {
    for (int y = 0; y < height; ++y) std::fill_n(image_.row(y), width, std::uint8_t{0});
    return true;
  }
  Result<Image> image = Image::make(width, height, page_.format);
  if (!image) return false;
  image_ = *std::move(image);
  page_.width = width, page_.height = height;
  return true;
}

bool MorphSource::set_cells(const std::vector<Rect>& boxes) {
  constexpr int kGap = 1, kWidest = 2048;
  int x = kGap, y = kGap, row = 0, widest = 1;
  for (std::size_t i = 0; i < cells_.size(); ++i) {
    const PixelRect box = rounded_out(boxes[i]);
    cells_[i] = {};
    sprites_[i] = {};
    sprites_[i].state = PictureState::empty;
    if (box.empty()) continue;
    if (x > kGap && x + box.width + kGap > kWidest) x = kGap, y += row + kGap, row = 0;
    cells_[i] = {x, y, box.width, box.height};
    corners_[i] = {static_cast<float>(box.x), static_cast<float>(box.y)};
    GlyphPicture& sprite = sprites_[i];
    sprite.state = PictureState::ready;
    sprite.kind = kind_;
    sprite.cell = {static_cast<std::uint16_t>(x), static_cast<std::uint16_t>(y),
                   static_cast<std::uint16_t>(box.width), static_cast<std::uint16_t>(box.height)};
    sprite.offset = {corners_[i].x, corners_[i].y - box_.y};
    sprite.size = size_;
    x += box.width + kGap;
    row = std::max(row, box.height), widest = std::max(widest, x);
  }
  is_new_ = true;
  ++epoch_;
  return grow(widest, y + row + kGap);
}

void MorphSource::begin() {
  changed_.clear();
  is_new_ = false;
}

void MorphSource::end() {
  if (is_new_ || !changed_.empty()) ++page_.revision;
}

void MorphSource::store(std::size_t letter, const std::vector<float>& values, float reach) {
  const PixelRect& cell = cells_[letter];
  const auto width = static_cast<std::size_t>(cell.width);
  for (int y = 0; y < cell.height; ++y) {
    std::uint8_t* const to = image_.row(cell.y + y) + cell.x;
    const float* const from = values.data() + static_cast<std::size_t>(y) * width;
    for (std::size_t x = 0; x < width; ++x) {
      to[x] = static_cast<std::uint8_t>(reach > 0 ? distance_value(from[x], reach, 255)
                                                  : coverage_value(from[x], 255));
    }
  }
  sprites_[letter].reach = reach;
  changed_.push_back(cell);
}

void MorphSource::resolve(std::span<const GlyphKey> keys, std::span<GlyphPicture> out) {
  for (std::size_t i = 0; i < keys.size(); ++i) {
    const std::size_t glyph = index_of(keys[i].glyph);
    const bool has = glyph > 0 && glyph <= sprites_.size();
    out[i] = has ? sprites_[glyph - 1] : GlyphPicture{};
    if (glyph == sprites_.size() + 1) out[i].state = PictureState::empty;
  }
}

std::size_t MorphSource::changes_since(std::uint16_t, std::uint64_t revision,
                                       std::span<PixelRect> out) const noexcept {
  if (revision == page_.revision || out.empty()) return 0;
  const bool known = revision + 1 == page_.revision && !is_new_ && changed_.size() <= out.size();
  if (!known) {
    out[0] = {0, 0, page_.width, page_.height};
    return 1;
  }
  std::copy(changed_.begin(), changed_.end(), out.begin());
  return changed_.size();
}

}  // namespace grafema::detail
