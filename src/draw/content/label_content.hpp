// SPDX-License-Identifier: MIT
// What a label shows: its text, layout and pictures.
#pragma once

#include <optional>
#include <vector>

#include "draw/glyph_move.hpp"
#include "grafema/draw/label.hpp"
#include "grafema/draw/panel.hpp"
#include "grafema/draw/scene_memory.hpp"
#include "grafema/draw/text_context.hpp"

namespace grafema {

namespace detail {

/// Keeps the images of a layer.
struct HeldLayerImages {
  std::shared_ptr<const FillImage> fill, grain, mirror;
  HeldLayerImages() = default;
  explicit HeldLayerImages(const Layer& layer)
      : fill(layer.fill.image), grain(layer.surface.grain), mirror(layer.surface.mirror) {}
  LayerImages get() const { return {fill.get(), grain.get(), mirror.get()}; }
};
Rect box_with_panel(const Rect& box, const std::optional<Panel>& panel);
/// The same without keeping them.
inline LayerImages images_of(const Layer& layer) {
  return {layer.fill.image.get(), layer.surface.grain.get(), layer.surface.mirror.get()};
}

}  // namespace detail

/// A glyph's picture in the label's own pixels, before it is placed.
struct LocalQuad {
  float x, y, width, height;  ///< the cell, half a texel wider on every side
  std::array<std::uint16_t, 4> cell;
};

/// What a moving label needs to know of each quad.
struct QuadInfo {
  static constexpr std::uint32_t kBar = 0xFFFFFFFF;
  std::uint32_t glyph;  ///< index into the paragraph's glyphs, or kBar
};

/// Layer records that hold for all pictures of one size, reach and look in a label.
struct Variant {
  float size = 0;  ///< of the text, pixels per em
  float texels_per_pixel = 1, reach = 0;
  float grow = 0;  ///< of a made bold, pixels
  float lean = 0;  ///< of a made italic: see PlacedFace
  TexelKind kind = TexelKind::distance;
  std::uint8_t part = 0;   ///< PageInfo::part
  std::uint8_t array = 0;  ///< index of its SceneArray
  bool own_look = true;    ///< the label's look, else `look`
  LookId look{};
  std::optional<PanelRecord> panel = {};  ///< of a panel, whose layers are painted before all others
  std::uint16_t first_record = 0;
};

/// Whether records of one serve the other.
inline bool are_alike(const Variant& a, const Variant& b) {
  return a.size == b.size && a.texels_per_pixel == b.texels_per_pixel && a.reach == b.reach &&
         a.grow == b.grow && a.lean == b.lean && a.kind == b.kind && a.panel == b.panel;
}

/// Quads in a row of one variant on pages of one number.
struct QuadRun {
  std::uint32_t first = 0, count = 0;
  std::uint16_t variant = 0, page = 0;
};

/// What contents of a scene work in, one at a time.
struct ContentMemory {
  std::vector<GlyphKey> keys_wanted;  ///< what a label asks the source for, and what it gets
  std::vector<GlyphPicture> pictures;
  std::vector<Rect> boxes;  ///< of what is revealed of a line under letters
  Notes notes{64};          ///< of the label that is being laid out
  std::uint64_t layouts = 0;
};

/// A text with all that it shows: layout, pictures and where they stand in the label's own pixels. Changing
/// one thing marks what depends on that; `prepare_pictures` does it.
class LabelContent {
 public:
  explicit LabelContent(TextContext& of, ContentMemory& work) : context(&of), memory(&work) {}

  TextContext* context;
  ContentMemory* memory;
  bool layout_stale = true, quads_stale = true;
  bool moving = false;  ///< whether there is a motion or a path
  bool is_rich = false, has_bars = false;
  bool unsettled = false;  ///< a picture is on its way, or may yet come
  LookId look{};
  std::uint64_t context_revision = 0, source_epoch = 0, looks_revision = 0;
  std::vector<LocalQuad> quads;
  std::vector<QuadRun> runs;
  std::vector<QuadInfo> infos;  ///< one for each quad
  Rect box;                     ///< the paragraph's advance box
  Rect extent;                  ///< around all quads

  Motion motion;
  std::string text;
  TextStyle style;
  std::shared_ptr<const FontStack> own_fonts;
  Paragraph paragraph;
  RichText rich;  ///< where `is_rich`
  /// What a style of the paragraph shows and how it moves; `look` is the label's where `own_look`.
  struct DrawnStyle {
    bool own_look = true, own_motion = true;
    LookId look{};
    Motion motion;
  };
  std::optional<Panel> panel;
  OnPath on_path;
  std::vector<DrawnStyle> styles;  ///< as Paragraph::styles; empty for a plain text
  std::vector<std::uint32_t>
      clusters;  ///< where clusters with glyphs begin, ascending; filled when asked for
  std::size_t revealed = Label::kAll;
  std::vector<Variant> variants;
  std::vector<std::uint16_t> pages;  ///< of the source, that its pictures stand on
  std::string name;
  /// What the label shows from the context's book.
  struct Shown {
    std::string id;
    MessageValues values;
    RichText made;
    std::uint64_t book_revision = 0, values_revision = 0, styles_revision = 0;
    double next_change = 0;
    bool own_language = true;  ///< the style says the language, else the book does
    std::vector<Note> notes;
  };
  std::unique_ptr<Shown> message;  ///< null: the label has a text of its own
  std::string style_name;          ///< of the context's StyleBook; empty: none
  std::uint64_t styles_revision = 0;
  std::vector<Note> layout_notes, picture_notes;

  // What is set; each says whether something changed.
  bool set_text(std::string_view text);
  bool set_rich(const RichText& text);
  bool set_message(std::string_view id);
  bool set_path(const OnPath& path);
  void set_style(const TextStyle& style);
  Result<void> use_style(std::string_view name);
  void set_name(std::string_view name);
  void set_motion(const Motion& motion);
  void set_panel(const std::optional<Panel>& panel);

  /// Whether the books that it follows, of messages and styles, have something else for it now.
  bool has_news() const;
  const FontStack& base_fonts() const { return own_fonts ? *own_fonts : context->fonts(); }
  /// Those that glyphs of the paragraph count in.
  const FontStack& fonts() const { return paragraph.rich_fonts ? *paragraph.rich_fonts : base_fonts(); }
  LookId look_of(const Variant& variant) const { return variant.own_look ? look : variant.look; }
  /// The look of a style; null: the label's.
  const Look* style_look(std::size_t index) const {
    const bool own = index >= styles.size() || styles[index].own_look;
    return own ? nullptr : &context->looks().get(styles[index].look);
  }
  /// The motion of a glyph's style; empty for a line under letters, which stays where it is.
  const Motion& motion_of(std::size_t quad) const;
  detail::GlyphAtRest at_rest(std::size_t quad) const;
  /// What that motion, and then the path, does to the quad at a time.
  void move_glyph(std::size_t quad, double at, detail::GlyphMove& move) const;
  /// Fills `out` with what fills of lines and glyphs span, by `place_of`; nothing where no look asks for it.
  void find_fill_boxes(std::vector<FillBoxes>& out) const;
  /// A number of its own for each quad: that of its glyph, or one beyond those.
  std::size_t place_of(std::size_t quad) const {
    return infos[quad].glyph != QuadInfo::kBar ? infos[quad].glyph : paragraph.glyphs.size() + quad;
  }
  bool is_turned(std::size_t quad) const;
  /// Whether it paints several things in one place, which would show through each other as it fades.
  bool overlaps_itself() const;
  void find_clusters();
  void link_boxes(std::string_view link, std::vector<Rect>& out) const;
  /// At a point in the pixels of `box`; empty where none is.
  std::string_view link_at(PixelPoint point) const;
  /// Brings message and style up to date.
  void follow_books();
  /// Brings the layout up to date.
  void prepare_layout();
  /// Brings layout and quads up to date.
  void prepare_pictures();

 private:
  Result<void> follow_style();
  void follow_message();
  void lay_out_text();
  void resolve_glyphs();
  GlyphPicture resolve_missing_shape(std::size_t glyph, float size);
  void note_picture(const GlyphPicture& sprite, std::size_t glyph);
  void name_notes();
  void add_quad(const GlyphPicture& sprite, std::uint32_t glyph);
  void add_bars(std::uint32_t shown);
  void add_bar(const PlacedBar& bar, const Rect& rect);
  void add_panel();
  void put_quad(const LocalQuad& quad, const Variant& variant, std::uint16_t page, std::uint32_t glyph);
  void find_styles();
  std::uint32_t shown_bytes();
  /// Takes the quad to the label's path.
  void put_on_path(std::size_t quad, detail::GlyphMove& move) const;
  bool has_turned_letters() const;
  void turn_letter(std::size_t quad, detail::GlyphMove& move) const;
  Rect as_it_stands(std::size_t quad, const Rect& own) const;
  Rect on_its_path(std::size_t quad, const Rect& own) const;
  const Variant& variant_of(std::size_t quad) const;
  bool is_moving() const;
};

/// Where looks may paint: around the quads of every layer.
Rect painted_extent(const LabelContent& label, const LookBook& looks);
/// What layout and pictures had to be noted for, and looks that need more reach than the pictures have.
/// `scale` is that of its placement: how large its pictures are drawn.
void hand_out_label_notes(const LabelContent& label, float scale, Notes& notes);

}  // namespace grafema
