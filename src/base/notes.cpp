// SPDX-License-Identifier: MIT
// Collects notes and turns them into sentences.
#include "grafema/base/notes.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <bit>
#include <functional>

#include "grafema/base/error.hpp"

namespace grafema {

namespace {

std::string sentence(const Note& note) {
  const std::string face = note.face.empty() ? "a face" : note.face;
  switch (note.kind) {
    case NoteKind::missing_character:
      return fmt::format("no face has U+{:04X}; the missing-glyph shape stands in", note.character);
    case NoteKind::replaced_byte:
      return fmt::format("byte {} of the text is not UTF-8; U+FFFD stands in", note.position);
    case NoteKind::broken_cluster:
      return fmt::format("mark U+{:04X} at byte {} has no letter to stand on; a dotted circle shows it",
                         note.character, note.position);
    case NoteKind::damaged_glyph:
      return fmt::format("glyph {}{} is damaged and is drawn as nothing", note.position,
                         note.face.empty() ? "" : " of " + note.face);
    case NoteKind::damaged_table:
      return fmt::format("table '{}' is damaged and is passed over", to_string(Tag{note.character}));
    case NoteKind::built_in_face:
      return (note.text.empty() ? std::string("a face could not be opened") : note.text) +
             "; the built-in Quillmere Dot stands in";
    case NoteKind::built_in_atlas:
      return "an atlas could not be loaded; one of the built-in Quillmere Dot stands in";
    case NoteKind::missing_picture:
      return fmt::format("glyph {} of {}{} has no picture in the atlas; the missing-glyph shape stands in",
                         note.position, face,
                         note.character == 0 ? "" : fmt::format(" (U+{:04X})", note.character));
    case NoteKind::clamped_axis:
      return fmt::format("axis '{}' does not reach {}; it stands at {}", to_string(Tag{note.character}),
                         note.wanted, note.given);
    case NoteKind::unknown_axis:
      return fmt::format("the face has no axis '{}'", to_string(Tag{note.character}));
    case NoteKind::clamped_reach:
      return fmt::format("the look{} needs a reach of {} px, the picture has {}; bake with --reach {}",
                         note.look.empty() ? "" : " '" + note.look + "'", note.wanted, note.given,
                         note.wanted);
    case NoteKind::scaled_picture:
      return fmt::format(
          "pictures made for {} px are drawn at {} px and get soft; bake --size {} or a distance kind",
          note.given, note.wanted, note.wanted);
    case NoteKind::unknown_field:
      return fmt::format("a field that is not known is passed over: {}", note.text);
    case NoteKind::text_overflow:
      return fmt::format("the text does not fit its box; one of {:.1f} x {:.1f} px would hold it in {} {}",
                         note.wanted, note.given, note.position, note.position == 1 ? "line" : "lines");
    case NoteKind::lines_collide:
      return fmt::format("lines {} and {} overlap by {:.1f} px", note.position, note.position + 1,
                         note.wanted);
    case NoteKind::made_bold:
      return fmt::format("the family of {} has no bold; one is made by growing its letters", face);
    case NoteKind::made_italic:
      return fmt::format("the family of {} has no italic; one is made by slanting its letters", face);
    case NoteKind::made_small_capitals:
      return fmt::format("{} has no small capitals; they are made from its capitals", face);
    case NoteKind::unknown_name:
      return "unknown " + note.text;
    case NoteKind::bad_span:
      if (!note.text.empty()) return fmt::format("span {} is passed over: {}", note.position, note.text);
      return fmt::format("span {} ends before it begins, behind the text, or inside a character; {}",
                         note.position, "it is passed over or moved to whole characters");
    case NoteKind::bad_markup:
      return "the markup shows as plain text: " + note.text;
    case NoteKind::bad_message:
      return note.text;
    case NoteKind::crowded_scene:
      return "the scene is full: " + note.text;
    case NoteKind::low_contrast:
      return fmt::format("the look '{}' has a contrast of {:.1f} to 1 on a {} backdrop; {} to 1 can be read",
                         note.look, note.given, note.text, note.wanted);
    case NoteKind::off_picture:
      return fmt::format("the text leaves the picture on the {} by {:.1f} px", note.text, note.wanted);
    case NoteKind::off_grid:
      return fmt::format("{} is a pixel face, crisp at multiples of {} px; at {} px its pixels are uneven",
                         face, note.given, note.wanted);
    case NoteKind::clamped_bevel:
      return fmt::format("a bevel is {:.4g} wide or high, there is room for {:.4g}", note.wanted, note.given);
    case NoteKind::reserved_name:
      return fmt::format("the license of {} reserves its name for the original; the new file is called '{}'",
                         face, note.text);
    case NoteKind::left_out_table:
      return "left out: " + note.text;
    case NoteKind::gone_handle:
      return fmt::format("{}: what the handle stood for is gone; nothing was done", note.text);
    case NoteKind::refused_number:
      return fmt::format("{}: a number is not finite or out of its range; nothing was changed", note.text);
    case NoteKind::small_cache:
      return fmt::format("the pictures shown at once need {:.1f} MB, the cache's budget is {:.1f} MB",
                         note.wanted / 1048576, note.given / 1048576);
  }
  return {};
}

std::size_t hash_of(const Note& note) {
  std::uint64_t h = std::uint64_t{note.character} << 8U | static_cast<std::uint64_t>(note.kind);
  if (note.kind != NoteKind::missing_character) h ^= note.position * 0x9E3779B97F4A7C15U;
  h ^= std::hash<std::string>{}(note.label) * 3 + std::hash<std::string>{}(note.text) * 5;
  h ^= h >> 29U;
  return static_cast<std::size_t>(h * 0xBF58476D1CE4E5B9U >> 20U);
}

bool is_same(const Note& a, const Note& b) {
  if (a.kind != NoteKind::missing_character) return a == b;
  return b.kind == a.kind && b.character == a.character && b.label == a.label;
}

}  // namespace

std::string describe(const Note& note) {
  return note.label.empty() ? sentence(note) : fmt::format("label '{}': {}", note.label, sentence(note));
}

Notes::Notes(std::size_t capacity) {
  notes_.reserve(capacity);
  slots_.resize(std::bit_ceil(capacity * 2 + 1));
}

/// Where the note is, or where it would go.
std::size_t Notes::find_slot(const Note& note) const {
  std::size_t slot = hash_of(note) & (slots_.size() - 1);
  while (slots_[slot] != 0 && !is_same(notes_[slots_[slot] - 1], note)) {
    slot = (slot + 1) & (slots_.size() - 1);
  }
  return slot;
}

void Notes::add(const Note& note) {
  const std::size_t slot = find_slot(note);
  if (slots_[slot] != 0) return;
  if (notes_.size() == notes_.capacity()) {
    ++dropped_;
    return;
  }
  notes_.push_back(note);
  slots_[slot] = static_cast<std::uint32_t>(notes_.size());
}

void Notes::clear() {
  notes_.clear();
  std::fill(slots_.begin(), slots_.end(), 0U);
  dropped_ = 0;
}

}  // namespace grafema
