// SPDX-License-Identifier: MIT
// One face of a font file: metrics, characters, outlines, kerning, names, license.
#pragma once

#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "grafema/contours.hpp"
#include "grafema/font_data.hpp"
#include "grafema/glyph_metrics.hpp"
#include "grafema/notes.hpp"

namespace grafema {

/// Texts of the `name` table as UTF-8; empty where the face has none.
struct FaceNames {
  std::string family, style, full_name, version, copyright, license, license_url;
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
  /// Pixels per em at which every edge of a pixel face falls on a pixel edge, as do its multiples; 0: not a pixel face.
  float crisp_size = 0;
  OutlineKind outlines = OutlineKind::none;
  Embedding embedding = Embedding::installable;
  bool bitmap_only = false, subsetting = true;
};

/// An immutable face; may be used from any thread. Tables that are not needed to open it are checked when first used.
class GRAFEMA_API Face final : public GlyphMetrics {
 public:
  /// Opens face `index` of the file. Fails with `not_a_font`, `damaged` (with table and offset) or `bad_value` where
  /// the file has no such face.
  static Result<std::shared_ptr<const Face>> open(FontData data, std::size_t index = 0);
  /// How many faces the file holds. Fails as `open` does.
  static Result<std::size_t> count(const FontData& data);

  ~Face() override;
  Face(const Face&) = delete;
  Face& operator=(const Face&) = delete;

  FaceId id() const noexcept override;
  float units_per_em() const noexcept override;
  LineMetrics line_metrics() const noexcept override;
  GlyphId find_glyph(char32_t character) const noexcept override;
  void advances(std::span<const GlyphId> glyphs, std::span<float> out) const noexcept override;
  float kerning(GlyphId left, GlyphId right, Tag script) const noexcept override;
  FontRect glyph_box(GlyphId glyph) const noexcept override;
  const Face* face() const noexcept override { return this; }

  float advance(GlyphId glyph) const noexcept;
  std::uint32_t glyph_count() const noexcept;
  /// Replaces the contents of `out` with the glyph's outline, its `xMin` moved to its left side bearing. Nothing to
  /// paint gives empty contours. Fails with `damaged`, `unsupported` (outlines other than `glyf`) or `bad_value`.
  Result<void> read_outline(GlyphId glyph, Contours& out) const;

  FaceFacts facts() const;
  FaceNames names() const;
  KerningSource kerning_source() const;
  /// Every character that has a glyph, ascending, with that glyph.
  std::vector<std::pair<char32_t, GlyphId>> characters() const;
  /// Script and feature tags of GSUB and GPOS, sorted, each once.
  std::vector<Tag> scripts() const;
  std::vector<Tag> features() const;

 private:
  struct Tables;
  explicit Face(std::unique_ptr<Tables> tables);
  std::unique_ptr<Tables> tables_;
};

/// Quillmere Dot, opened anew. It can't fail: the bytes are part of the library and a test opens them.
GRAFEMA_API std::shared_ptr<const Face> built_in_face();

/// The face; where it could not be opened, Quillmere Dot and a note: a game goes on with words that can be read.
GRAFEMA_API std::shared_ptr<const Face> or_built_in(const Result<std::shared_ptr<const Face>>& face, Notes* notes = nullptr);

/// The OpenType script tag of a character (Unicode Script property); Tag{} for characters common to scripts.
GRAFEMA_API Tag script_of(char32_t character);

}  // namespace grafema
