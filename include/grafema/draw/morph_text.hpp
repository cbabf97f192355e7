// SPDX-License-Identifier: MIT
// A label whose word melts into the next, frame by frame.
#pragma once

#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "grafema/atlas/glyph_source.hpp"
#include "grafema/base/error.hpp"
#include "grafema/base/notes.hpp"
#include "grafema/font/font_stack.hpp"
#include "grafema/outline/morph.hpp"
#include "grafema/raster/raster.hpp"
#include "grafema/text/shape_cache.hpp"
#include "grafema/text/text_style.hpp"

namespace grafema {

/// How a change begins and ends.
enum class MorphEasing : std::uint8_t {
  even,       ///< at the same pace throughout
  soft,       ///< slow, quick, slow: 3 t^2 - 2 t^3
  fall,       ///< ever quicker: t^2
  brake,      ///< ever slower
  overshoot,  ///< a little too far, and back
};

/// The share of the way at a share of the time, both 0 to 1 at the ends.
GRAFEMA_API float ease(MorphEasing easing, float t);

/// What of the letters is drawn, on the way and at its ends.
enum class MorphDrawing : std::uint8_t {
  filled,
  line,  ///< a line along their outlines
  dots,  ///< dots on their outlines, as many in every frame of a change
};

struct MorphTextOptions {
  TextStyle style = {};  ///< of all texts: size, box, alignment
  MorphPairing pairing = MorphPairing::place;
  MorphEasing easing = MorphEasing::soft;
  std::function<float(float)> own_easing =
      {};                                    ///< in place of `easing`: 0 to 1 gives 0 to 1, or a tenth beyond
  float stagger = 0.3F;                      ///< see MorphOptions
  PictureKind kind = PictureKind::coverage;  ///< coverage for plain letters at their own size; `distance` for
                                             ///< looks with outlines and shadows, and for text that is scaled
  float reach = 6;                           ///< of distance pictures, pixels
  MorphDrawing drawing = MorphDrawing::filled;
  float line_width = 2;  ///< of lines, and of dots from side to side; pixels, above 0
  float dot_step = 6;    ///< from dot to dot; pixels, above 0
};

/// Texts, one melting into the next. It is face and pictures in one: a label of `text()` in a context of
/// `fonts()` and `source()` shows it, with any look, placement and motion, alone or in a set. `show` paints
/// what changed; labels are not laid out again.
///
/// \code
/// auto morph = MorphText::make(stack, {"Larkspur Halt", "Salt & Glass"}, {.style = {.size = 48}});
/// TextContext context((*morph)->fonts(), (*morph)->source());
/// Label label(context, (*morph)->text(), (*morph)->label_style());
/// (*morph)->show(0.4F);  // each frame, before labels are emitted
/// \endcode
class GRAFEMA_API MorphText {
 public:
  /// Lays the texts out and pairs their letters. Two texts or more. What layout has to say is noted. Fails
  /// with `bad_value` for fewer texts, a style or option out of its range, `unsupported` as Morph::make.
  static Result<std::unique_ptr<MorphText>> make(const FontStack& stack,
                                                 const std::vector<std::string>& texts,
                                                 const MorphTextOptions& options, Notes* notes = nullptr);
  ~MorphText();
  MorphText(const MorphText&) = delete;
  MorphText& operator=(const MorphText&) = delete;

  /// Paints the letters at `t`: 0 is the first text, 1 the second, 1.5 halfway to the third; clamped. Letters
  /// that stay as they are are not painted again. Takes nothing from the heap once every stage was shown.
  void show(float t);
  /// How many changes there are: texts less one.
  std::size_t changes() const;

  /// What a label needs.
  const FontStack& fonts() const;
  const std::shared_ptr<GlyphSource>& source() const;
  /// A character for each letter, of a private use area.
  const std::string& text() const;
  /// The options' style, its size and box alone: letters are placed already.
  const TextStyle& label_style() const;
  /// Around what all stages paint, in pixels of the label.
  Rect reach() const;

  /// The letters as one outline at `t`, in the pixels of `LetterOutline`, whatever `drawing` is.
  void outline(float t, Contours& out);

 private:
  struct Memory;
  explicit MorphText(std::unique_ptr<Memory> memory);
  std::unique_ptr<Memory> memory_;
};

}  // namespace grafema
