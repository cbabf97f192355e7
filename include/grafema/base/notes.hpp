// SPDX-License-Identifier: MIT
// What is not an error but should not go unsaid: missing characters, clamped reach, damage in one glyph.
#pragma once

#include <cstddef>
#include <cstdint>
#include <span>
#include <string>
#include <vector>

#include "grafema/base/export.hpp"

namespace grafema {

enum class NoteKind : std::uint8_t {
  missing_character,  ///< no face has `character`; the missing-glyph shape stands in; `position` is its first
                      ///< byte
  replaced_byte,      ///< a byte that is not UTF-8 became U+FFFD; `position` is its offset
  broken_cluster,   ///< mark `character` at byte `position` has no letter to stand on; a dotted circle stands
                    ///< in where the face has one
  damaged_glyph,    ///< glyph `position` of a face could not be read and is drawn as nothing
  damaged_table,    ///< an optional table was passed over; `character` holds its tag
  built_in_face,    ///< a face could not be opened; Quillmere Dot stands in
  built_in_atlas,   ///< an atlas could not be loaded or baked; one of Quillmere Dot stands in
  missing_picture,  ///< glyph `position`, of `character` where that is known, has no picture in the glyph
                    ///< source; the missing-glyph shape stands in where that has one
  clamped_axis,     ///< axis `character` (a tag) does not reach `wanted` and stands at `given`
  unknown_axis,     ///< the face has no axis `character` (a tag)
  clamped_reach,    ///< a look needs `wanted` pixels of reach, the picture has `given`
  scaled_picture,   ///< a coverage picture made for `given` pixels per em is drawn at `wanted`: it gets soft
                    ///< or uneven
  unknown_field,    ///< a description has a field that is not known: `text` names it, where, and the nearest
  text_overflow,    ///< a text does not fit its box; one of `wanted` by `given` pixels would hold it
  lines_collide,    ///< lines `position` and the one behind it (from 1) overlap by `wanted` pixels
  made_bold,        ///< `face` has no bold in its family: its letters are grown
  made_italic,      ///< `face` has no italic in its family: its letters are slanted
  made_small_capitals,  ///< `face` has no small capitals: they are made from its capitals
  unknown_name,         ///< a style, look, motion, icon, value or family that is not known: `text` names it
  bad_span,    ///< span `position` ends before it begins, behind the text or in a character; `text`, if there
               ///< is one, says another reason
  bad_markup,  ///< markup could not be read and shows as plain text: `text` says where and why
  bad_message,     ///< a message could not be made: `text` says which and why
  crowded_scene,   ///< a scene has no room for more: `text` says what of a label is left out
  low_contrast,    ///< letters of `look` have a contrast ratio of `given` on a `text` backdrop, less than
                   ///< `wanted`
  clamped_bevel,   ///< a bevel is to be `wanted` font units wide or high; there is room for `given`
  reserved_name,   ///< the license reserves the name of `face`; a changed file is called `text`
  left_out_table,  ///< a table that names glyphs and is not understood stays behind: `text` says which
  off_picture,     ///< what a text paints leaves the picture by `wanted` pixels; `text` names the side
  off_grid,        ///< pixel face `face` is crisp at multiples of `given` pixels per em, not at `wanted`
  gone_handle,     ///< a handle was used whose label, grid or field is gone, in the call that `text` names
  refused_number,  ///< a number that is not finite or out of its range was not taken by the call `text`
  small_cache,     ///< the pictures shown at once need `wanted` bytes, the cache's budget is `given`
};

/// `face`, `label` and `look` are names where they are known: the face's family and style, what the game
/// called the label (Label::set_name), the look's name.
struct Note {
  NoteKind kind{};
  std::uint32_t character = 0;
  std::uint64_t position = 0;
  float wanted = 0, given = 0;
  std::string face = {}, label = {}, look = {}, text = {};

  bool operator==(const Note&) const = default;
};

/// One sentence for whoever shows it.
GRAFEMA_API std::string describe(const Note& note);

/// A bounded list that a caller hands to calls that work on text or glyphs.
/// Equal notes are kept once; a missing character is kept once for each label, whatever its position.
class GRAFEMA_API Notes {
 public:
  /// Keeps up to `capacity` notes and counts those that come after. Memory for all of them is taken at once.
  explicit Notes(std::size_t capacity = 256);

  void add(const Note& note);
  void clear();
  std::span<const Note> all() const { return notes_; }
  bool empty() const { return notes_.empty(); }
  bool full() const { return notes_.size() == notes_.capacity(); }  ///< another note is counted alone
  std::size_t dropped() const { return dropped_; }                  ///< how many notes found no room

 private:
  std::size_t find_slot(const Note& note) const;

  std::vector<Note> notes_;
  std::vector<std::uint32_t> slots_;  ///< by hash, a power of two: 1 + index into `notes_`, 0 where empty
  std::size_t dropped_ = 0;
};

}  // namespace grafema
