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
#include "grafema/font/font_data.hpp"
#include "grafema/font/glyph_metrics.hpp"
#include "grafema/font/layout_tables.hpp"
#include "grafema/font/variations.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema {

/// Texts of the `name` table as UTF-8; empty where the face has none.
struct FaceNames {
  std::string family, style, full_name, version, copyright, license, license_url;
  std::string postscript_name, trademark, manufacturer, designer, description, sample;
  std::string design_languages, supported_languages;  ///< of `meta`: BCP 47 tags with commas between them
};

/// What the license bits of `OS/2.fsType` allow (OpenType, OS/2, fsType).
enum class Embedding : std::uint8_t { installable, editable, preview, restricted };

enum class OutlineKind : std::uint8_t { none, glyf, cff, cff2 };
enum class KerningSource : std::uint8_t { none, kern, gpos };

/// Facts of the whole face; lengths in font units.
struct FaceFacts {
  std::uint32_t glyph_count = 0;
  std::uint16_t weight_class = 400;  ///< 1..1000, 400 is regular
  std::uint16_t width_class = 5;     ///< 1..9, 5 is normal
  bool italic = false, monospaced = false;
  float cap_height = 0, x_height = 0;  ///< from OS/2, else measured from H and x; 0 where there are neither
  float underline_position = 0, underline_thickness = 0;  ///< `post`; position is the stroke's top, y up
  float strikeout_position = 0, strikeout_thickness = 0;  ///< OS/2; the same
  float slant = 0;  ///< degrees that upright strokes lean to the right (`post`, italic angle, turned over)
  /// Pixels per em at which every edge of a pixel face falls on a pixel edge, as do its multiples; 0: not a
  /// pixel face.
  float crisp_size = 0;
  OutlineKind outlines = OutlineKind::none;
  Embedding embedding = Embedding::installable;
  bool bitmap_only = false, subsetting = true;
};

/// An immutable face; may be used from any thread. Tables that are not needed to open it are checked when
/// first used.
class GRAFEMA_API Face final : public GlyphMetrics, public std::enable_shared_from_this<Face> {
 public:
  /// Opens face `index` of the file; web fonts are unpacked first. Fails with `not_a_font`, `damaged` (with
  /// table and offset) or `bad_value` where the file has no such face.
  static Result<std::shared_ptr<const Face>> open(FontData data, std::size_t index = 0);
  /// The same at a place on the axes of a variable face; see `instance`.
  static Result<std::shared_ptr<const Face>> open(FontData data, std::size_t index,
                                                  std::span<const AxisValue> place, Notes* notes = nullptr);
  /// How many faces the file holds. Fails as `open` does.
  static Result<std::size_t> count(const FontData& data);
  /// The same face at another place on its axes, a face like any other. Axes that are not named stand at
  /// their standard; values outside an axis are clamped with a note, values for axes that there are not are
  /// noted.
  std::shared_ptr<const Face> instance(std::span<const AxisValue> place, Notes* notes = nullptr) const;

  ~Face() override;
  Face(const Face&) = delete;
  Face& operator=(const Face&) = delete;

  FaceId id() const noexcept override;
  float units_per_em() const noexcept override;
  LineMetrics line_metrics() const noexcept override;
  GlyphId find_glyph(char32_t character) const noexcept override {
    const GlyphId* quick = quick_glyphs_.load(std::memory_order_acquire);
    return quick != nullptr && character < kQuickCharacters ? quick[character] : search_glyph(character);
  }
  /// The glyph for a character followed by a variation selector (cmap format 14), else that of the character
  /// alone.
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
  /// The height that the glyph takes in vertical text (VVAR, vmtx), that of the line where the face does not
  /// say.
  float vertical_advance(GlyphId glyph) const noexcept;
  /// Where the glyph's vertical origin stands, seen from its pen in horizontal text (VORG, else vmtx, else
  /// the ascent).
  FontPoint vertical_origin(GlyphId glyph) const noexcept;
  /// Metrics of vertical lines; nothing where the face is not made for them.
  std::optional<LineMetrics> vertical_line_metrics() const;
  std::uint32_t glyph_count() const noexcept;
  /// Replaces the contents of `out` with the glyph's outline, placed as its left side bearing says. Nothing
  /// to paint gives empty contours. Fails with `damaged` or `bad_value`.
  Result<void> read_outline(GlyphId glyph, Contours& out) const;

  FaceFacts facts() const;
  FaceNames names() const;
  /// The glyph's name for people (post, CFF); empty where it has none.
  std::string glyph_name(GlyphId glyph) const;
  KerningSource kerning_source() const;
  /// The glyphs that may be the left one of a kerned pair, ascending; all others kern with none.
  std::vector<GlyphId> left_glyphs() const;
  /// Everything that GPOS says about a pair, both glyphs; `pixels_per_em` adds the corrections made for that
  /// size.
  PairAdjustment pair_adjustment(GlyphId left, GlyphId right, Tag script, Tag language = Tag{},
                                 std::uint16_t pixels_per_em = 0) const;
  /// Every character that has a glyph, ascending, with that glyph.
  std::vector<std::pair<char32_t, GlyphId>> characters() const;
  /// Script and feature tags of GSUB and GPOS, sorted, each once.
  std::vector<Tag> scripts() const;
  std::vector<Tag> features() const;

  std::vector<Axis> axes() const;  ///< empty where the face is not variable
  std::vector<NamedInstance> instances() const;
  StyleAttributes style_attributes() const;
  std::span<const AxisValue> place() const noexcept;  ///< where an instance stands, as asked for

  const LayoutTable& substitutions() const noexcept;  ///< GSUB
  const LayoutTable& positions() const noexcept;      ///< GPOS
  const GlyphDefinitions& definitions() const noexcept;

  ColorKinds color_kinds() const;
  std::vector<Palette> palettes() const;
  /// Bottom to top; empty where the glyph has none.
  std::vector<ColorLayer> color_layers(GlyphId glyph) const;
  /// Nothing where the glyph has no paint graph. Fails where it is damaged, refers to itself or is too large.
  Result<std::optional<PaintGraph>> read_paint(GlyphId glyph) const;
  /// The sizes of embedded pictures, ascending, and the picture for the smallest size that is not below
  /// `pixels_per_em`, else the largest.
  std::vector<std::uint16_t> bitmap_sizes() const;
  std::optional<GlyphBitmap> find_bitmap(GlyphId glyph, std::uint16_t pixels_per_em) const;

  /// The bytes of a table as they stand in the file, for tables that this library does not read; empty where
  /// there is none.
  std::span<const std::byte> table(Tag tag) const noexcept;

  /// Compiled kerning of the script that is asked for most: glyphs that kern alike share a row or a column.
  struct QuickKerning {
    static constexpr std::uint32_t kHasPairs =
        0x8000;  ///< of a row: the glyph has listed pairs, which are searched
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

/// The face; where it could not be opened, Quillmere Dot and a note: a game goes on with words that can be
/// read.
GRAFEMA_API std::shared_ptr<const Face> or_built_in(const Result<std::shared_ptr<const Face>>& face,
                                                    Notes* notes = nullptr);

}  // namespace grafema
