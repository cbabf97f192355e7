// SPDX-License-Identifier: MIT
// What a label had to be noted for.
#include <algorithm>
#include <cmath>

#include "draw/content/label_content.hpp"

namespace grafema {
namespace {

void note_reach(const LabelContent& label, Notes& notes) {
  const LookBook& looks = label.context->looks();
  for (const Variant& variant : label.variants) {
    const LookId look = label.look_of(variant);
    const float reach = required_reach(looks.get(look), variant.size) + variant.grow;
    const float needed = reach * variant.texels_per_pixel;
    if (reach <= 0.5F || needed <= variant.reach + 0.001F) continue;
    notes.add({.kind = NoteKind::clamped_reach,
               .wanted = std::ceil(needed * 4) / 4,
               .given = variant.reach,
               .label = label.name,
               .look = std::string(looks.name(look))});
  }
}

}  // namespace

void hand_out_label_notes(const LabelContent& label, float scale, Notes& notes) {
  for (const Note& note : label.layout_notes) notes.add(note);
  for (const Note& note : label.picture_notes) {
    if (note.kind != NoteKind::scaled_picture) {
      notes.add(note);
    } else if (note.wanted * scale != note.given) {
      Note drawn = note;
      drawn.wanted *= scale;
      notes.add(drawn);
    }
  }
  note_reach(label, notes);
}

}  // namespace grafema
