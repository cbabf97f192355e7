// SPDX-License-Identifier: MIT
// Bounded lists of notes.
#include "grafema/base/notes.hpp"

#include <catch2/catch.hpp>

using namespace grafema;

TEST_CASE("a missing character is kept once, other notes where they differ", "[notes]") {
  Notes notes;
  notes.add({.kind = NoteKind::missing_character, .character = 0x2603, .position = 4});
  notes.add({.kind = NoteKind::missing_character, .character = 0x2603, .position = 9});
  notes.add({.kind = NoteKind::replaced_byte, .position = 1});
  notes.add({.kind = NoteKind::replaced_byte, .position = 2});
  notes.add({.kind = NoteKind::replaced_byte, .position = 2});
  REQUIRE(notes.all().size() == 3);
  CHECK(notes.all()[0].position == 4);
  CHECK(describe(notes.all()[0]) == "no face has U+2603; the missing-glyph shape stands in");
}

TEST_CASE("a full list counts what it drops and takes no more memory", "[notes]") {
  Notes notes(2);
  for (std::uint64_t i = 0; i < 5; ++i) notes.add({.kind = NoteKind::damaged_glyph, .position = i});
  CHECK(notes.all().size() == 2);
  CHECK(notes.dropped() == 3);
  notes.clear();
  CHECK(notes.empty());
  CHECK(notes.dropped() == 0);
}

TEST_CASE("every kind of note has a sentence", "[notes]") {
  for (const NoteKind kind : {NoteKind::missing_character, NoteKind::replaced_byte, NoteKind::damaged_glyph,
                              NoteKind::damaged_table, NoteKind::built_in_face, NoteKind::built_in_atlas,
                              NoteKind::missing_picture, NoteKind::clamped_reach}) {
    CHECK(describe(Note{.kind = kind}).size() > 20);
  }
}
