// SPDX-License-Identifier: MIT
// What a label keeps between frames.
#pragma once

#include <vector>

#include "grafema/label.hpp"
#include "grafema/quads.hpp"

namespace grafema {

/// A glyph's picture in the label's own pixels, before it is placed.
struct LocalQuad {
  float x, y, width, height;  ///< the cell, half a texel wider on every side
  std::array<std::uint16_t, 4> cell;
  std::array<std::int16_t, 4> box;
  std::uint16_t page, variant;
  PictureKind kind;
  std::uint32_t glyph;  ///< index into the paragraph's glyphs
};

/// Layer records that hold for all pictures of one size and reach in a label.
struct Variant {
  float size = 0;  ///< of the label, pixels per em
  float texels_per_pixel = 1, reach = 0;
  PictureKind kind = PictureKind::distance;
  std::uint32_t first_record = 0;
};

struct Label::State {
  TextContext* context = nullptr;
  std::string text;
  TextStyle style;
  std::shared_ptr<const FontStack> own_fonts;
  LookId look{};
  Placement placement;
  bool visible = true;
  float opacity = 1;
  Motion motion;
  double seconds = 0;

  bool layout_stale = true;
  std::uint64_t context_revision = 0, source_epoch = 0, records_generation = 0;
  Paragraph paragraph;
  bool quads_stale = true;
  std::vector<LocalQuad> quads;
  std::vector<Variant> variants;
  LookId records_look{};
  std::vector<GlyphKey> keys;
  std::vector<Sprite> sprites;
  LabelWork work;

  const FontStack& fonts() const { return own_fonts ? *own_fonts : context->fonts(); }
  /// Brings layout, quads and records up to date.
  void prepare(Notes* notes);

 private:
  void lay_out_text(Notes* notes);
  void resolve_glyphs(Notes* notes);
  void add_quad(const Sprite& sprite, std::uint32_t glyph);
  std::uint16_t find_variant(const Sprite& sprite);
};

/// All layer records that labels of a context use; a record stays at its index for one generation.
struct TextContext::Records {
  struct Key {
    LookId look;
    float size, texels_per_pixel, reach;
    PictureKind kind;
    std::uint32_t first;
    std::uint32_t room;  ///< layers that fit at `first`
  };
  static constexpr std::size_t kMostKeys = 256;  ///< at first; a frame that needs more raises the limit

  std::vector<Key> keys;
  std::vector<LayerRecord> list;
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
