// SPDX-License-Identifier: MIT
// What a label keeps between frames.
#pragma once

#include <vector>

#include "grafema/draw/label.hpp"
#include "grafema/draw/quads.hpp"

namespace grafema {

/// A glyph's picture in the label's own pixels, before it is placed.
struct LocalQuad {
  float x, y, width, height;  ///< the cell, half a texel wider on every side
  std::array<std::uint16_t, 4> cell;
  std::array<std::int16_t, 4> box;
};
static_assert(sizeof(LocalQuad) == 32);

/// What most labels have in common for all their quads, and so need not read for each.
struct QuadInfo {
  std::uint16_t page, variant;
  QuadKind kind;
  std::uint32_t glyph;  ///< index into the paragraph's glyphs
};

/// Layer records that hold for all pictures of one size and reach in a label.
struct Variant {
  float size = 0;  ///< of the label, pixels per em
  float texels_per_pixel = 1, reach = 0;
  QuadKind kind = QuadKind::distance;
  std::uint32_t first_record = 0;
};

struct Label::State {
  // What every frame looks at stands first and together: three lines of a cache.
  TextContext* context = nullptr;
  bool visible = true, layout_stale = true, quads_stale = true;
  bool alike = false;   ///< all quads are of `kind` and one variant, on `page`
  bool moving = false;  ///< whether there is a motion
  QuadKind kind = QuadKind::distance;
  std::uint16_t page = 0;
  float opacity = 1;
  LookId look{}, records_look{};
  std::uint32_t first_record = 0;  ///< of the first variant
  std::uint64_t context_revision = 0, source_epoch = 0, records_generation = 0;
  std::vector<LocalQuad> quads;
  Rect box;     ///< the paragraph's advance box
  Rect extent;  ///< around all quads
  Placement placement;

  Motion motion;
  double seconds = 0;
  std::string text;
  TextStyle style;
  std::shared_ptr<const FontStack> own_fonts;
  Paragraph paragraph;
  std::vector<QuadInfo> infos;  ///< one for each quad
  std::vector<Variant> variants;
  std::vector<std::uint16_t> pages;  ///< of the source, that its pictures stand on
  LabelWork work;
  std::string name;
  std::vector<Note> layout_notes, picture_notes;
  std::weak_ptr<const void> context_life;

  const FontStack& fonts() const { return own_fonts ? *own_fonts : context->fonts(); }
  /// Brings the layout up to date.
  void prepare_layout();
  /// Brings layout, quads and records up to date.
  void prepare();
  void name_notes();

 private:
  void lay_out_text();
  void resolve_glyphs();
  Sprite resolve_missing_shape(std::size_t glyph, float size);
  void note_picture(const Sprite& sprite, std::size_t glyph);
  void add_quad(const Sprite& sprite, std::uint32_t glyph);
  std::uint16_t find_variant(const Sprite& sprite, float size);
};

/// All layer records that labels of a context use; a record stays at its index for one generation.
struct TextContext::Records {
  struct Key {
    LookId look;
    float size, texels_per_pixel, reach;
    QuadKind kind;
    std::uint32_t first;
    std::uint32_t room;  ///< layers that fit at `first`
  };
  static constexpr std::size_t kMostKeys = 256;  ///< at first; a frame that needs more raises the limit

  std::vector<Key> keys;
  std::vector<LayerRecord> list;
  std::vector<GlyphKey> keys_wanted;  ///< what a label asks the source for, and what it gets: working memory
  std::vector<Sprite> sprites;
  std::vector<GlyphChange> changes;  ///< of a moving label's quads
  Notes notes{64};                   ///< of the label that is being laid out
  std::size_t limit = kMostKeys;
  std::uint64_t generation = 1, looks_revision = 0;

  /// The first of the records of a look for pictures of this kind.
  std::uint32_t find(const LookBook& looks, LookId look, const Variant& variant);
  /// Rewrites all records where a look changed.
  void refresh(const LookBook& looks);

 private:
  void write(const Look& look, const Key& key);
};

}  // namespace grafema
