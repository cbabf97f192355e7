// SPDX-License-Identifier: MIT
// Finds room for pictures, doubles pages, and keeps account of what has changed.
#include "atlas/live_pages.hpp"

#include <algorithm>
#include <cstring>

namespace grafema::detail {
namespace {

std::size_t bytes_of(int width, int height, PixelFormat format) {
  return static_cast<std::size_t>(width) * static_cast<std::size_t>(height) * bytes_per_pixel(format);
}

void copy_rows(const Image& from, Image& to, int x, int y) {
  const std::size_t pixel = bytes_per_pixel(to.format());
  for (int row = 0; row < from.height(); ++row) {
    std::memcpy(to.row(y + row) + static_cast<std::size_t>(x) * pixel, from.row(row), from.row_bytes());
  }
}

}  // namespace

LivePages::LivePages(int gap, PageSize first, PageSize largest, std::size_t budget)
    : gap_(gap), first_(first), largest_(largest), budget_(budget) {
  constexpr std::size_t kMax = 4096;
  const std::size_t most = std::min(kMax, budget / bytes_of(first.width, first.height, PixelFormat::r8) + 4);
  pages_.reserve(most);
  infos_.reserve(most);
}

bool LivePages::fits_a_page(int width, int height) const {
  return width + 2 * gap_ <= largest_.width && height + 2 * gap_ <= largest_.height;
}

std::optional<LivePages::Place> LivePages::add(PictureKind kind, PixelFormat format, int width, int height) {
  if (!fits_a_page(width, height)) return std::nullopt;
  while (true) {
    for (std::size_t i = infos_.size(); i-- > 0;) {
      if (infos_[i].kind != kind || is_vacant(i)) continue;
      if (const auto place = add_to(static_cast<std::uint16_t>(i), width, height)) return place;
    }
    if (!grow(kind) && !open(kind, format)) return std::nullopt;
  }
}

std::optional<LivePages::Place> LivePages::add_to(std::uint16_t page, int width, int height) {
  const auto at = pages_[page].skyline.add(width + gap_, height + gap_);
  if (!at) return std::nullopt;
  const int x = at->x + gap_, y = at->y + gap_;
  change(page, {x, y, width, height});
  pages_[page].shown = frame_;
  const auto narrow = [](int v) { return static_cast<std::uint16_t>(v); };
  return Place{page, {narrow(x), narrow(y), narrow(width), narrow(height)}};
}

void LivePages::put(const Place& place, const Image& picture) {
  copy_rows(picture, pages_[place.page].image, place.cell[0], place.cell[1]);
}

/// Doubles the one page of a kind along its shorter side. More pages than one are opened at the largest size
/// only.
bool LivePages::grow(PictureKind kind) {
  const auto at = std::find_if(infos_.begin(), infos_.end(), [this, kind](const PageInfo& info) {
    return info.kind == kind && !is_vacant(static_cast<std::size_t>(&info - infos_.data()));
  });
  if (at == infos_.end()) return false;
  PageInfo& info = *at;
  if (info.width >= largest_.width && info.height >= largest_.height) return false;
  const bool wider =
      info.height >= largest_.height || (info.width <= info.height && info.width < largest_.width);
  const int width = wider ? std::min(info.width * 2, largest_.width) : info.width,
            height = wider ? info.height : std::min(info.height * 2, largest_.height);
  const std::size_t before = bytes_of(info.width, info.height, info.format),
                    after = bytes_of(width, height, info.format);
  if (bytes_ + after - before > budget_) return false;
  Result<Image> image = Image::make(width, height, info.format);
  if (!image) return false;
  Page& page = pages_[static_cast<std::size_t>(at - infos_.begin())];
  copy_rows(page.image, *image, 0, 0);
  copied_ += before;
  bytes_ += after - before;
  page.image = *std::move(image);
  page.skyline.grow(width - gap_, height - gap_);
  info.width = width, info.height = height;
  change(static_cast<std::uint16_t>(at - infos_.begin()), {0, 0, width, height});
  return true;
}

bool LivePages::open(PictureKind kind, PixelFormat format) {
  const auto of_kind = static_cast<std::size_t>(std::count_if(
      infos_.begin(), infos_.end(), [kind](const PageInfo& info) { return info.kind == kind; }));
  // All pages of a kind are of one size: the first grows alone, what is opened beside it is of the largest.
  const bool alone = std::all_of(infos_.begin(), infos_.end(), [this, kind](const PageInfo& info) {
    return info.kind != kind || is_vacant(static_cast<std::size_t>(&info - infos_.data()));
  });
  const PageSize size = alone ? first_ : largest_;
  const std::size_t bytes = bytes_of(size.width, size.height, format);
  if (bytes_ + bytes > budget_) return false;
  std::size_t slot = infos_.size();
  for (std::size_t i = 0; i < infos_.size(); ++i) {
    if (infos_[i].kind == kind && is_vacant(i)) slot = std::min(slot, i);
  }
  if (slot == infos_.capacity()) return false;
  Result<Image> image = Image::make(size.width, size.height, format);
  if (!image) return false;
  bytes_ += bytes;
  if (slot == infos_.size()) {
    pages_.push_back({{}, Skyline(0, 0), 0, {}});
    infos_.push_back({kind, format, 0, 0, static_cast<std::uint16_t>(of_kind % kMaxArrayLayers), 1, 1,
                      static_cast<std::uint8_t>(of_kind / kMaxArrayLayers)});
  }
  pages_[slot].image = *std::move(image);
  pages_[slot].skyline = Skyline(size.width - gap_, size.height - gap_);
  pages_[slot].shown = frame_;
  infos_[slot].width = size.width, infos_[slot].height = size.height;
  change(static_cast<std::uint16_t>(slot), {0, 0, size.width, size.height});
  return true;
}

std::optional<std::uint16_t> LivePages::find_oldest(PictureKind kind, bool others) const {
  std::optional<std::uint16_t> oldest;
  for (std::size_t i = 0; i < pages_.size(); ++i) {
    if ((infos_[i].kind != kind) != others || is_vacant(i)) continue;
    if (pages_[i].shown + kFramesShown >= frame_) continue;
    if (!oldest || pages_[i].shown < pages_[*oldest].shown) oldest = static_cast<std::uint16_t>(i);
  }
  return oldest;
}

std::optional<std::uint16_t> LivePages::find_oldest(PictureKind kind) const {
  return find_oldest(kind, false);
}
std::optional<std::uint16_t> LivePages::find_oldest_of_others(PictureKind kind) const {
  return find_oldest(kind, true);
}

void LivePages::vacate(std::uint16_t page) {
  bytes_ -= bytes_of(infos_[page].width, infos_[page].height, infos_[page].format);
  pages_[page].image = {};
  infos_[page].width = infos_[page].height = 0;
  ++infos_[page].revision, ++infos_[page].epoch;
}

bool LivePages::repack(std::uint16_t page, std::span<std::array<std::uint16_t, 4>*> cells) {
  std::sort(cells.begin(), cells.end(), [](const auto* a, const auto* b) { return (*a)[3] > (*b)[3]; });
  const PageInfo& info = infos_[page];
  Skyline skyline(info.width - gap_, info.height - gap_);
  std::vector<Skyline::Place> places;
  for (const auto* cell : cells) {
    const auto at = skyline.add((*cell)[2] + gap_, (*cell)[3] + gap_);
    if (!at) return false;
    places.push_back(*at);
  }
  Result<Image> image = Image::make(info.width, info.height, info.format);
  if (!image) return false;
  const Image& old = pages_[page].image;
  const std::size_t pixel = bytes_per_pixel(info.format);
  for (std::size_t i = 0; i < cells.size(); ++i) {
    auto& cell = *cells[i];
    const int x = places[i].x + gap_, y = places[i].y + gap_;
    for (int row = 0; row < cell[3]; ++row) {
      std::memcpy(image->row(y + row) + static_cast<std::size_t>(x) * pixel,
                  old.row(cell[1] + row) + std::size_t{cell[0]} * pixel, std::size_t{cell[2]} * pixel);
    }
    cell[0] = static_cast<std::uint16_t>(x), cell[1] = static_cast<std::uint16_t>(y);
  }
  pages_[page].image = *std::move(image);
  pages_[page].skyline = std::move(skyline);
  ++infos_[page].epoch;
  copied_ += bytes_of(info.width, info.height, info.format);
  change(page, {0, 0, info.width, info.height});
  return true;
}

void LivePages::clear(std::uint16_t page) {
  Page& p = pages_[page];
  p.skyline.clear();
  ++infos_[page].epoch;
  for (int y = 0; y < p.image.height(); ++y) std::memset(p.image.row(y), 0, p.image.row_bytes());
  change(page, {0, 0, p.image.width(), p.image.height()});
}

void LivePages::ask_again() {
  for (PageInfo& info : infos_) ++info.epoch;
}

void LivePages::change(std::uint16_t page, const PixelRect& rect) {
  const std::uint64_t revision = ++infos_[page].revision;
  pages_[page].changes[revision % Page::kChanges] = rect;
}

std::size_t LivePages::changes_since(std::uint16_t page, std::uint64_t revision,
                                     std::span<PixelRect> out) const {
  const PageInfo& info = infos_[page];
  if (revision == info.revision || out.empty()) return 0;
  const std::uint64_t count = info.revision - revision;
  if (revision == 0 || revision > info.revision || count > std::min(out.size(), Page::kChanges)) {
    out[0] = {0, 0, info.width, info.height};
    return 1;
  }
  for (std::uint64_t i = 0; i < count; ++i) {
    out[i] = pages_[page].changes[(revision + 1 + i) % Page::kChanges];
  }
  return count;
}

}  // namespace grafema::detail
