// SPDX-License-Identifier: MIT
// What layout asks of a face or of a baked atlas: characters, advances, kerning, boxes.
#pragma once

#include <cstdint>
#include <span>

#include "grafema/base/error.hpp"
#include "grafema/base/geometry.hpp"

namespace grafema {

class Face;

/// The smallest and largest size, in pixels per em, of pictures and layouts.
constexpr float kMinSize = 0.25F, kMaxSize = 8192.0F;

/// The index of a glyph in its face. 0 is the missing-glyph shape.
enum class GlyphId : std::uint32_t {};
constexpr GlyphId kMissingGlyph{0};
constexpr std::uint32_t index_of(GlyphId glyph) { return static_cast<std::uint32_t>(glyph); }

/// A number that tells faces apart and is the same from run to run: a hash of the file's table directory, the
/// index of the face in the file and its place on the axes.
enum class FaceId : std::uint64_t {};

/// Line metrics in units of the face; all usually positive.
struct LineMetrics {
  float ascent = 0;    ///< from the baseline up
  float descent = 0;   ///< from the baseline down
  float line_gap = 0;  ///< half of it stands above a line, half below
  bool operator==(const LineMetrics&) const = default;
};

/// What layout asks of a face. Lengths are in units of the face, of which `units_per_em` make the size. May
/// be asked from any thread.
class GRAFEMA_API GlyphMetrics {
 public:
  virtual ~GlyphMetrics() = default;

  virtual FaceId id() const noexcept = 0;
  /// Family and style, for messages; empty where it has none.
  virtual std::string title() const { return {}; }
  virtual float units_per_em() const noexcept = 0;
  virtual LineMetrics line_metrics() const noexcept = 0;
  /// `kMissingGlyph` where the face has no glyph for the character.
  virtual GlyphId find_glyph(char32_t character) const noexcept = 0;
  /// The glyph for a character that a variation selector follows; by default that of the character alone.
  virtual GlyphId find_variant(char32_t character, char32_t /*selector*/) const noexcept {
    return find_glyph(character);
  }
  /// Fills `out`, which is as long as `glyphs`; 0 for glyphs that do not exist.
  virtual void advances(std::span<const GlyphId> glyphs, std::span<float> out) const noexcept = 0;
  /// Pair kerning of glyphs that follow each other. Fills `out`, which is as long as `glyphs`: `out[i]` is
  /// what is added to the advance of `glyphs[i]` because `glyphs[i + 1]` follows; the last is 0. `script` and
  /// `language` are OpenType tags (Tag{}: the script's default language).
  virtual void kern(std::span<const GlyphId> glyphs, Tag script, Tag language,
                    std::span<float> out) const noexcept = 0;
  /// The same for one pair.
  float kerning(GlyphId left, GlyphId right, Tag script, Tag language = Tag{}) const noexcept {
    const GlyphId pair[] = {left, right};
    float out[2] = {};
    kern(pair, script, language, out);
    return out[0];
  }
  /// The box of what the glyph paints, seen from its pen; empty for a glyph without outline or with a damaged
  /// one.
  virtual FontRect glyph_box(GlyphId glyph) const noexcept = 0;
  /// The font face behind these metrics; null for a face of an atlas, which has no tables.
  virtual const Face* face() const noexcept = 0;
};

}  // namespace grafema
