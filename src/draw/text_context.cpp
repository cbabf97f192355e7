// SPDX-License-Identifier: MIT
// Contexts: fonts, pictures of glyphs, and faces that arrive later.
#include "grafema/draw/text_context.hpp"

#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/atlas_source.hpp"

namespace grafema {

TextContext::TextContext(FontStack fonts, std::shared_ptr<GlyphSource> source) {
  set_fonts(std::move(fonts));
  set_source(std::move(source));
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

}  // namespace grafema
