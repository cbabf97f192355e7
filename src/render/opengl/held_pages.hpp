// SPDX-License-Identifier: MIT
// Pages of sources on the device.
#pragma once

#include <epoxy/gl.h>

#include <vector>

#include "grafema/atlas/glyph_source.hpp"
#include "grafema/draw/layer_record.hpp"

namespace grafema::detail {

/// All pages of a part and kind of one source: layers of one texture.
struct PageArray {
  std::uint8_t part = 0;
  TexelKind kind = TexelKind::distance;
  GLuint texture = 0;
  int width = 0, height = 0, layers = 0;
  PixelFormat format = PixelFormat::r8;
  GLuint far = 0;  ///< the texture of its smaller pictures (GlyphSource::mipmap_pixels); 0: none yet
};

/// What the device holds of one source.
struct HeldSource {
  std::weak_ptr<const SourceId> life;
  SourceId id{};
  std::vector<PageArray> arrays;
  std::vector<std::uint64_t> revisions;         // of its pages, as they were sent; 0: not yet
  std::vector<std::uint64_t> mipmap_revisions;  // of their smaller pictures
  const GlyphSource* source = nullptr;          // while it lives

  const PageArray* find(TexelKind kind, std::uint8_t part) const;
  void free();
};

class HeldPages {
 public:
  /// As OpenGLRenderer::sync; the state of the game is kept by the caller. Counts what it sends.
  Result<void> sync(GlyphSource& source, std::uint64_t& bytes_sent);
  /// Sends the smaller pictures of a source's pages, where it has any, or what changed on them.
  void sync_mipmaps(SourceId id, std::uint64_t& bytes_sent);
  /// SourceId 0: the source that was synchronized last.
  const HeldSource* find(SourceId id) const;
  void free();
  void forget() { sources_.clear(); }

 private:
  HeldSource& hold(const GlyphSource& source);
  void send(const ImageView& pixels, const PageArray& array, std::uint16_t layer, const PixelRect& rect);
  bool make_far(const GlyphSource& source, HeldSource& held, PageArray& array);
  void widen(const ImageView& pixels, const PixelRect& rect, int channels);
  void premultiply(const ImageView& pixels, const PixelRect& rect);
  void send_changes(const GlyphSource& source, HeldSource& held);

  std::vector<HeldSource> sources_;  // the one synchronized last stands last
  std::vector<float> wide_texels_;
  std::vector<std::uint8_t> lit_texels_;
  std::uint64_t sent_ = 0;
};

void set_nearest_and_clamped(GLenum target);
/// What of an image the next call of glTexSubImage reads.
void unpack_rows(int row_length, int x, int y);

}  // namespace grafema::detail
