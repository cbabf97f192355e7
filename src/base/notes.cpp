// SPDX-License-Identifier: MIT
// Collects notes and turns them into sentences.
#include "grafema/base/notes.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "grafema/base/error.hpp"

namespace grafema {

std::string describe(const Note& note) {
  switch (note.kind) {
    case NoteKind::missing_character:
      return fmt::format("no face has U+{:04X}; the missing-glyph shape stands in", note.character);
    case NoteKind::replaced_byte:
      return fmt::format("byte {} of the text is not UTF-8; U+FFFD stands in", note.position);
    case NoteKind::damaged_glyph:
      return fmt::format("glyph {} is damaged and is drawn as nothing", note.position);
    case NoteKind::damaged_table:
      return fmt::format("table '{}' is damaged and is passed over", to_string(Tag{note.character}));
    case NoteKind::built_in_face:
      return "a face could not be opened; the built-in Quillmere Dot stands in";
    case NoteKind::built_in_atlas:
      return "an atlas could not be loaded; one of the built-in Quillmere Dot stands in";
    case NoteKind::missing_picture:
      return fmt::format("glyph {} has no picture in the atlas and is not drawn", note.position);
    case NoteKind::clamped_axis:
      return fmt::format("axis '{}' does not reach {}; it stands at {}", to_string(Tag{note.character}),
                         note.wanted, note.given);
    case NoteKind::unknown_axis:
      return fmt::format("the face has no axis '{}'", to_string(Tag{note.character}));
    case NoteKind::clamped_reach:
      return fmt::format("the look needs a reach of {} px, the picture has {}; bake with --reach {}",
                         note.wanted, note.given, note.wanted);
    case NoteKind::scaled_picture:
      return fmt::format(
          "pictures made for {} px are drawn at {} px and get soft; bake --size {} or a distance kind",
          note.given, note.wanted, note.wanted);
  }
  return {};
}

Notes::Notes(std::size_t capacity) { notes_.reserve(capacity); }

void Notes::add(const Note& note) {
  const auto same = [&note](const Note& other) {
    if (note.kind != NoteKind::missing_character) return other == note;
    return other.kind == note.kind && other.character == note.character;
  };
  if (std::any_of(notes_.begin(), notes_.end(), same)) return;
  if (notes_.size() == notes_.capacity()) {
    ++dropped_;
  } else {
    notes_.push_back(note);
  }
}

void Notes::clear() {
  notes_.clear();
  dropped_ = 0;
}

}  // namespace grafema
