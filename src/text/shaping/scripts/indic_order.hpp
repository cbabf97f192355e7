// SPDX-License-Identifier: MIT
// The two orderings of an Indic syllable: before the basic forms are made, and behind them.
#pragma once

#include "text/shaping/scripts/indic_characters.hpp"
#include "text/shaping/scripts/syllables.hpp"

namespace grafema::detail::indic {

/// Where the features that glyphs are chosen for stand among those of the rules.
enum Feature : std::uint8_t {
  locl,
  ccmp,
  nukt,
  akhn,
  rphf,
  rkrf,
  pref,
  blwf,
  abvf,
  half,
  pstf,
  vatu,
  cjct,
  init
};

/// What a syllable is ordered by.
struct Order {
  ScriptWork& work;
  const Script& script;
  bool old_rules = false;  ///< GSUB has the script's older tag: viramas stand behind the consonants they join

  ShapeBuffer& items() const { return work.buffer; }
  std::uint32_t bit(Feature feature) const { return work.bits[feature]; }
};

/// Finds the base, gives every glyph its place, orders them and chooses the features of each.
void order_first(const Order& order, SyllableRange syllable);
/// Moves left matras, the reph and reordering consonants to where the forms that were made want them.
void order_last(const Order& order, SyllableRange syllable);

}  // namespace grafema::detail::indic
