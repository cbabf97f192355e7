// SPDX-License-Identifier: MIT
// One face of a font file: metrics, characters, outlines, kerning, names, license.
#pragma once

#include <atomic>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "grafema/base/notes.hpp"
#include "grafema/font/color_glyphs.hpp"
#include "grafema/font/face_facts.hpp"
#include "grafema/font/font_data.hpp"
#include "grafema/font/glyph_metrics.hpp"
#include "grafema/font/layout_tables.hpp"
#include "grafema/font/variations.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema {

/// An immutable face. It may be used from any thread. Opening checks the tables that every use needs; other
/// tables are checked when they are first asked for.
class GRAFEMA_API Face final : public GlyphMetrics, public std::enable_shared_from_this<Face> {
 public:
  /// Opens face `index` of the file; web fonts are unpacked first. Fails with `not_a_font`, `damaged` (with
  /// table and offset) or `bad_value` where the file has no such face.
  static Result<std::shared_ptr<const Face>> open(FontData data, std::size_t index = 0);
  /// Opens a variable face at a place on its axes; see `instance`.
  static Result<std::shared_ptr<const Face>> open(FontData data, std::size_t index,
                                                  std::span<const AxisValue> place, Notes* notes = nullptr);
  /// How many faces the file holds. Fails as `open` does.
  static Result<std::size_t> count(const FontData& data);
  /// The same face at another place on its axes: a face of its own, which shares the bytes of the file. Axes
  /// that are not named stand at their default. A value outside its axis is clamped and noted; an axis that
  /// the face does not have is noted.
  std::shared_ptr<const Face> instance(std::span<const AxisValue> place, Notes* notes = nullptr) const;

  ~Face() override;
  Face(const Face&) = delete;
  Face& operator=(const Face&) = delete;

  FaceId id() const noexcept override;
  std::string title() const override;
  float units_per_em() const noexcept override;
  LineMetrics line_metrics() const noexcept override;
  GlyphId find_glyph(char32_t character) const noexcept override {
    const GlyphId* quick = quick_glyphs_.load(std::memory_order_acquire);
    return quick != nullptr && character < kQuickCharacters ? quick[character] : search_glyph(character);
  }
  /// The glyph for a character that a variation selector follows (cmap format 14); the glyph of the character
  /// alone where the face has no such variant.
  GlyphId find_variant(char32_t character, char32_t selector) const noexcept override;
  void advances(std::span<const GlyphId> glyphs, std::span<float> out) const noexcept override;
  void kern(std::span<const GlyphId> glyphs, Tag script, Tag language,
            std::span<float> out) const noexcept override;
  /// As GlyphMetrics has it, without a virtual call.
  float kerning(GlyphId left, GlyphId right, Tag script, Tag language = Tag{}) const noexcept {
    const QuickKerning* quick = quick_kerning_.load(std::memory_order_acquire);
    if (quick != nullptr && script == quick->script && language == Tag{} &&
        index_of(left) < quick->glyph_count && index_of(right) < quick->glyph_count) {
      const std::uint32_t row = quick->rows[index_of(left)];
      if ((row & QuickKerning::kHasPairs) == 0) {
        return quick->values[std::size_t{row} * quick->column_count + quick->columns[index_of(right)]];
      }
    }
    return search_kerning(left, right, script, language);
  }
  FontRect glyph_box(GlyphId glyph) const noexcept override;
  const Face* face() const noexcept override { return this; }

  float advance(GlyphId glyph) const noexcept;
  /// The height that the glyph takes in vertical text (vmtx, VVAR); ascent and descent together where the
  /// face does not say.
  float vertical_advance(GlyphId glyph) const noexcept;
  /// The glyph's origin in vertical text, seen from its pen in horizontal text (VORG, else vmtx, else the
  /// ascent).
  FontPoint vertical_origin(GlyphId glyph) const noexcept;
  /// Metrics of vertical lines; nothing where the face is not made for them.
  std::optional<LineMetrics> vertical_line_metrics() const;
  std::uint32_t glyph_count() const noexcept;
  /// Replaces the contents of `out` with the glyph's outline, its left edge where the left side bearing says.
  /// A glyph that paints nothing gives empty contours. Fails with `damaged` where the glyph can't be read,
  /// `bad_value` where the face has no such glyph. Of a face of pixels alone (OutlineKind::strikes) it is the
  /// edges of those that are crisp at `pixels_per_em`; 0 asks for the largest.
  Result<void> read_outline(GlyphId glyph, Contours& out, float pixels_per_em = 0) const;

  FaceFacts facts() const;
  FaceNames names() const;
  /// The glyph's name (post, CFF), such as "eacute"; empty where it has none.
  std::string glyph_name(GlyphId glyph) const;
  KerningSource kerning_source() const;
  /// The glyphs that stand on the left of at least one kerned pair, ascending.
  std::vector<GlyphId> left_glyphs() const;
  /// How GPOS moves both glyphs of a pair. `pixels_per_em` adds the corrections that the face has for that
  /// size (Device tables); 0: none.
  PairAdjustment pair_adjustment(GlyphId left, GlyphId right, Tag script, Tag language = Tag{},
                                 std::uint16_t pixels_per_em = 0) const;
  /// Every character that has a glyph, with its glyph, ascending.
  std::vector<std::pair<char32_t, GlyphId>> characters() const;
  /// The variation selectors that it has sequences for (cmap format 14), ascending.
  std::vector<char32_t> variation_selectors() const;
  /// Script and feature tags of GSUB and GPOS, sorted, each once.
  std::vector<Tag> scripts() const;
  std::vector<Tag> features() const;

  std::vector<Axis> axes() const;  ///< empty where the face is not variable
  std::vector<NamedInstance> instances() const;
  StyleAttributes style_attributes() const;
  std::span<const AxisValue> place()
      const noexcept;  ///< the place that `instance` was asked for; empty for a face at its default

  const LayoutTable& substitutions() const noexcept;  ///< GSUB
  const LayoutTable& positions() const noexcept;      ///< GPOS
  const GlyphDefinitions& definitions() const noexcept;

  ColorKinds color_kinds() const;
  std::vector<Palette> palettes() const;
  /// The layers of a glyph of COLR version 0, from bottom to top; empty where it has none.
  std::vector<ColorLayer> color_layers(GlyphId glyph) const;
  /// The paint graph of a glyph of COLR version 1; nothing where it has none. Fails with `damaged` where the
  /// graph can't be read, refers to itself or has too many nodes.
  Result<std::optional<PaintGraph>> read_paint(GlyphId glyph) const;
  /// The sizes of embedded pictures in pixels per em, ascending (CBDT, sbix).
  std::vector<std::uint16_t> bitmap_sizes() const;
  std::optional<GlyphBitmap> find_bitmap(GlyphId glyph, std::uint16_t pixels_per_em) const;

  /// The bytes of any table as they stand in the file; empty where there is none. Good while the face lives.
  std::span<const std::byte> table(Tag tag) const noexcept;
  std::vector<Tag> table_tags() const;  ///< of all tables that the face has, ascending

  /// Kerning of one script as a matrix, compiled for `kerning`: glyphs that kern alike on the left share a
  /// row, those that kern alike on the right a column.
  struct QuickKerning {
    static constexpr std::uint32_t kHasPairs =
        0x8000;  ///< bit of a row: the glyph also stands in listed pairs, which have to be searched
    Tag script{};
    std::uint32_t glyph_count = 0, column_count = 0;
    const std::uint16_t *rows = nullptr, *columns = nullptr;
    const float* values = nullptr;
  };

 private:
  struct Tables;
  explicit Face(std::unique_ptr<Tables> tables);
  GlyphId search_glyph(char32_t character) const noexcept;
  float search_kerning(GlyphId left, GlyphId right, Tag script, Tag language) const noexcept;

  /// Characters below this are found by one look: Latin with its common accents.
  static constexpr char32_t kQuickCharacters = 0x250;
  std::unique_ptr<Tables> tables_;
  // Set when first asked for; what every letter asks must not cost a call.
  mutable std::atomic<const GlyphId*> quick_glyphs_{nullptr};
  mutable std::atomic<const QuickKerning*> quick_kerning_{nullptr};
};

/// Quillmere Dot, opened anew. It can't fail: the bytes are part of the library and a test opens them.
GRAFEMA_API std::shared_ptr<const Face> built_in_face();

/// Quillmere Sans, regular, with the Latin letters of European languages and Vietnamese, opened anew: for a
/// first screen that is not to look like pixels. Programs that do not ask for it do not carry its bytes.
GRAFEMA_API std::shared_ptr<const Face> built_in_sans_face();

/// The face that was opened; where that failed, Quillmere Dot and a note, so that a game goes on with words
/// that can be read.
GRAFEMA_API std::shared_ptr<const Face> or_built_in(const Result<std::shared_ptr<const Face>>& face,
                                                    Notes* notes = nullptr);

}  // namespace grafema
