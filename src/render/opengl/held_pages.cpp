// SPDX-License-Identifier: MIT
// Sends pages of sources to the device, and then only what changed on them.
#include "render/opengl/held_pages.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cstring>

#include "base/light.hpp"
#include "grafema/base/color.hpp"

namespace grafema::detail {

void set_nearest_and_clamped(GLenum target) {
  glTexParameteri(target, GL_TEXTURE_MIN_FILTER, GL_NEAREST);
  glTexParameteri(target, GL_TEXTURE_MAG_FILTER, GL_NEAREST);
  glTexParameteri(target, GL_TEXTURE_WRAP_S, GL_CLAMP_TO_EDGE);
  glTexParameteri(target, GL_TEXTURE_WRAP_T, GL_CLAMP_TO_EDGE);
}

void unpack_rows(int row_length, int x, int y) {
  glPixelStorei(GL_UNPACK_ROW_LENGTH, row_length);
  glPixelStorei(GL_UNPACK_SKIP_PIXELS, x);
  glPixelStorei(GL_UNPACK_SKIP_ROWS, y);
}

const PageArray* HeldSource::find(TexelKind kind, std::uint8_t part) const {
  for (const PageArray& array : arrays) {
    if (array.kind == kind && array.part == part) return &array;
  }
  return nullptr;
}

void HeldSource::free() {
  for (const PageArray& array : arrays) {
    glDeleteTextures(1, &array.texture);
    if (array.far != 0) glDeleteTextures(1, &array.far);
  }
}

void HeldPages::free() {
  for (HeldSource& held : sources_) held.free();
  sources_.clear();
}

namespace {

/// What pages of a format become on the device. 16-bit channels become floats, which ES 3.0 can hold, with
/// all their bits where they can be mixed. Pictures in color become light.
struct DeviceFormat {
  GLint internal;
  GLenum format, type;
};

/// Whether floats of 32 bits are mixed by texture units: always in OpenGL 3.3, by an extension in ES 3.0.
bool mixes_floats() { return epoxy_is_desktop_gl() || epoxy_has_gl_extension("GL_OES_texture_float_linear"); }

DeviceFormat device_format(const PageArray& array) {
  const bool whole = bits_per_channel(array.format) == 16 && mixes_floats();
  switch (array.format) {
    case PixelFormat::r16:
      return {whole ? GL_R32F : GL_R16F, GL_RED, GL_FLOAT};
    case PixelFormat::rgb16:
      return {whole ? GL_RGB32F : GL_RGB16F, GL_RGB, GL_FLOAT};
    case PixelFormat::rgba16:
      return {whole ? GL_RGBA32F : GL_RGBA16F, GL_RGBA, GL_FLOAT};
    case PixelFormat::rgb8:
      return {GL_RGB8, GL_RGB, GL_UNSIGNED_BYTE};
    case PixelFormat::rgba8:
      return {array.kind == TexelKind::color ? GL_SRGB8_ALPHA8 : GL_RGBA8, GL_RGBA, GL_UNSIGNED_BYTE};
    default:
      return {GL_R8, GL_RED, GL_UNSIGNED_BYTE};
  }
}

void make_array(PageArray& array) {
  if (array.texture == 0) glGenTextures(1, &array.texture);
  glBindTexture(GL_TEXTURE_2D_ARRAY, array.texture);
  set_nearest_and_clamped(GL_TEXTURE_2D_ARRAY);
  // Nothing beyond the page is ever read; with this way of going on there, the software driver mixes in
  // floats and not in bytes, which would show.
  glTexParameteri(GL_TEXTURE_2D_ARRAY, GL_TEXTURE_MIN_FILTER, GL_LINEAR);
  glTexParameteri(GL_TEXTURE_2D_ARRAY, GL_TEXTURE_MAG_FILTER, GL_LINEAR);
  glTexParameteri(GL_TEXTURE_2D_ARRAY, GL_TEXTURE_WRAP_S, GL_MIRRORED_REPEAT);
  glTexParameteri(GL_TEXTURE_2D_ARRAY, GL_TEXTURE_WRAP_T, GL_MIRRORED_REPEAT);
  const DeviceFormat f = device_format(array);
  unpack_rows(0, 0, 0);
  glTexImage3D(GL_TEXTURE_2D_ARRAY, 0, f.internal, array.width, array.height, array.layers, 0, f.format,
               f.type, nullptr);
}

/// The arrays that all pages of a source make. Fails where one is larger than the device allows.
Result<std::vector<PageArray>> arrays_of(const GlyphSource& source) {
  GLint most_side = 0, most_layers = 0;
  glGetIntegerv(GL_MAX_TEXTURE_SIZE, &most_side);
  glGetIntegerv(GL_MAX_ARRAY_TEXTURE_LAYERS, &most_layers);
  std::vector<PageArray> wanted;
  for (const PageInfo& page : source.pages()) {
    if (page.width == 0) continue;  // given back
    const TexelKind kind = texel_kind(page.kind);
    auto at = std::find_if(wanted.begin(), wanted.end(),
                           [&](const PageArray& a) { return a.kind == kind && a.part == page.part; });
    if (at == wanted.end()) at = wanted.insert(at, {page.part, kind});
    at->width = page.width, at->height = page.height, at->format = page.format;
    at->layers = std::max(at->layers, page.array_layer + 1);
    if (page.width > most_side || page.height > most_side || at->layers > most_layers) {
      return fail(make_error(ErrorKind::does_not_fit,
                             "pages that the device can hold; bake with a smaller --page",
                             fmt::format("{}x{}, the device allows {} a side and {} layers", page.width,
                                         page.height, most_side, most_layers)));
    }
  }
  return wanted;
}

}  // namespace

Result<void> HeldPages::sync(GlyphSource& source, std::uint64_t& bytes_sent) {
  const HeldSource* known = find(source.id());
  const std::span<const PageInfo> pages = source.pages();
  const bool same = known != nullptr && known == &sources_.back() &&
                    known->revisions.size() == pages.size() &&
                    std::equal(pages.begin(), pages.end(), known->revisions.begin(),
                               [](const PageInfo& page, std::uint64_t had) { return page.revision == had; });
  if (same) return {};
  Result<std::vector<PageArray>> wanted = arrays_of(source);
  if (!wanted) return fail(wanted.error());
  HeldSource& held = hold(source);
  held.revisions.resize(pages.size());
  held.mipmap_revisions.resize(pages.size());
  glActiveTexture(GL_TEXTURE0);
  for (PageArray& want : *wanted) {
    const PageArray* found = held.find(want.kind, want.part);
    if (found == nullptr) {
      held.arrays.push_back({want.part, want.kind});
      found = &held.arrays.back();
    }
    PageArray& have = held.arrays[static_cast<std::size_t>(found - held.arrays.data())];
    want.texture = have.texture, want.far = have.far;
    const bool fits = have.width == want.width && have.height == want.height && have.layers == want.layers &&
                      have.format == want.format;
    if (fits) continue;
    have = want;
    make_array(have);
    if (have.far != 0) glDeleteTextures(1, &have.far);
    have.far = 0;
    for (std::size_t i = 0; i < held.revisions.size(); ++i) {
      const bool is_on_it = texel_kind(pages[i].kind) == want.kind && pages[i].part == want.part;
      if (is_on_it) held.revisions[i] = held.mipmap_revisions[i] = 0;
    }
  }
  sent_ = 0;
  send_changes(source, held);
  bytes_sent += sent_;
  return {};
}

/// The entry of a source, which is then the last; frees those whose source is gone.
HeldSource& HeldPages::hold(const GlyphSource& source) {
  std::erase_if(sources_, [](HeldSource& held) {
    const bool gone = held.life.expired();
    if (gone) held.free();
    return gone;
  });
  const auto at = std::find_if(sources_.begin(), sources_.end(),
                               [&source](const HeldSource& held) { return held.id == source.id(); });
  if (at != sources_.end()) {
    std::rotate(at, at + 1, sources_.end());
  } else {
    sources_.push_back({source.life(), source.id(), {}, {}, {}, nullptr});
  }
  sources_.back().source = &source;
  return sources_.back();
}

const HeldSource* HeldPages::find(SourceId id) const {
  if (sources_.empty()) return nullptr;
  if (id == SourceId{}) return &sources_.back();
  const auto at =
      std::find_if(sources_.begin(), sources_.end(), [id](const HeldSource& held) { return held.id == id; });
  return at != sources_.end() ? &*at : nullptr;
}

void HeldPages::send_changes(const GlyphSource& source, HeldSource& held) {
  PixelRect changes[32];
  for (std::size_t i = 0; i < held.revisions.size(); ++i) {
    const PageInfo& page = source.pages()[i];
    if (page.width == 0) continue;
    const auto number = static_cast<std::uint16_t>(i);
    const std::size_t count = source.changes_since(number, held.revisions[i], changes);
    for (const PixelRect& rect : std::span(changes).first(count)) {
      send(source.pixels(number), *held.find(texel_kind(page.kind), page.part), page.array_layer, rect);
    }
    held.revisions[i] = page.revision;
  }
}

namespace {

/// An array as its smaller pictures are kept.
PageArray far_of(const PageArray& array) {
  PageArray far = array;
  far.texture = array.far;
  far.width = (array.width + 1) / 2, far.height = (array.height + 1) / 2;
  far.format = array.kind == TexelKind::coverage ? PixelFormat::r8 : PixelFormat::rgba8;
  return far;
}

}  // namespace

/// Makes the texture of an array's smaller pictures, where its source has any.
bool HeldPages::make_far(const GlyphSource& source, HeldSource& held, PageArray& array) {
  if (array.far != 0) return true;
  const std::span<const PageInfo> pages = source.pages();
  for (std::size_t i = 0; i < held.mipmap_revisions.size(); ++i) {
    if (texel_kind(pages[i].kind) != array.kind || pages[i].part != array.part) continue;
    held.mipmap_revisions[i] = 0;
    const bool is_missing =
        pages[i].width != 0 && source.mipmap_pixels(static_cast<std::uint16_t>(i)).data == nullptr;
    if (is_missing) return false;
  }
  PageArray far = far_of(array);
  make_array(far);
  array.far = far.texture;
  return true;
}

void HeldPages::sync_mipmaps(SourceId id, std::uint64_t& bytes_sent) {
  const HeldSource* found = find(id);
  if (found == nullptr || found->life.expired()) return;
  HeldSource& held = sources_[static_cast<std::size_t>(found - sources_.data())];
  const GlyphSource& source = *held.source;
  const std::span<const PageInfo> pages = source.pages();
  if (pages.size() != held.mipmap_revisions.size()) return;  // it was not synchronized since
  if (held.mipmap_revisions == held.revisions) return;
  glActiveTexture(GL_TEXTURE0);
  sent_ = 0;
  for (PageArray& array : held.arrays) {
    if (!make_far(source, held, array)) continue;
    for (std::size_t i = 0; i < pages.size(); ++i) {
      const PageInfo& page = pages[i];
      const bool is_on_it = texel_kind(page.kind) == array.kind && page.part == array.part && page.width != 0;
      if (!is_on_it || held.mipmap_revisions[i] == page.revision) continue;
      const auto number = static_cast<std::uint16_t>(i);
      PixelRect changes[32];
      const std::size_t count = source.changes_since(number, held.mipmap_revisions[i], changes);
      const PageArray far = far_of(array);
      for (const PixelRect& rect : std::span(changes).first(count)) {
        const int x = rect.x / 2, y = rect.y / 2;
        send(source.mipmap_pixels(number), far, page.array_layer,
             {x, y, (rect.x + rect.width + 1) / 2 - x, (rect.y + rect.height + 1) / 2 - y});
      }
      held.mipmap_revisions[i] = page.revision;
    }
  }
  bytes_sent += sent_;
}

void HeldPages::widen(const ImageView& pixels, const PixelRect& rect, int channels) {
  wide_texels_.clear();
  const auto each = static_cast<std::size_t>(channels);
  for (int y = rect.y; y < rect.y + rect.height; ++y) {
    for (std::size_t i = 0; i < static_cast<std::size_t>(rect.width) * each; ++i) {
      std::uint16_t wide = 0;
      std::memcpy(&wide, pixels.row(y) + (static_cast<std::size_t>(rect.x) * each + i) * 2, 2);
      wide_texels_.push_back(static_cast<float>(wide) / 65535.0F);
    }
  }
}

/// Straight alpha becomes light that is weakened by it, since only that can be mixed; stored as sRGB.
void HeldPages::premultiply(const ImageView& pixels, const PixelRect& rect) {
  lit_texels_.clear();
  for (int y = rect.y; y < rect.y + rect.height; ++y) {
    const std::uint8_t* p = pixels.row(y) + static_cast<std::size_t>(rect.x) * 4;
    for (int x = 0; x < rect.width; ++x, p += 4) {
      const float alpha = static_cast<float>(p[3]) / 255.0F;
      for (std::size_t c = 0; c < 3; ++c) {
        lit_texels_.push_back(p[3] == 255 ? p[c] : to_byte(to_srgb(light_of(p[c]) * alpha)));
      }
      lit_texels_.push_back(p[3]);
    }
  }
}

void HeldPages::send(const ImageView& pixels, const PageArray& array, std::uint16_t layer,
                     const PixelRect& rect) {
  const DeviceFormat f = device_format(array);
  glBindTexture(GL_TEXTURE_2D_ARRAY, array.texture);
  const void* data = pixels.data;
  const bool is_wide = bits_per_channel(array.format) == 16;
  unpack_rows(rect.width, 0, 0);
  if (is_wide) {
    widen(pixels, rect, channel_count(array.format));
    data = wide_texels_.data();
  } else if (array.kind == TexelKind::color) {
    premultiply(pixels, rect);
    data = lit_texels_.data();
  } else {
    unpack_rows(pixels.width, rect.x, rect.y);
  }
  glTexSubImage3D(GL_TEXTURE_2D_ARRAY, 0, rect.x, rect.y, layer, rect.width, rect.height, 1, f.format, f.type,
                  data);
  const std::size_t texel = bytes_per_pixel(array.format) * (is_wide ? 2 : 1);
  sent_ += static_cast<std::uint64_t>(rect.width) * static_cast<std::uint64_t>(rect.height) * texel;
}

}  // namespace grafema::detail
