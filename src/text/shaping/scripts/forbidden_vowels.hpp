// SPDX-License-Identifier: MIT
// Sequences of vowels that Unicode forbids, because another character is spelled so.
#pragma once

#include "text/shaping/scripts/script_rules.hpp"

namespace grafema::detail {

/// Puts a dotted circle between a vowel letter and a sign that together look like another letter (The Unicode
/// Standard, chapter 12, "Vowel Letters ... Do Not Use"; IndicShapingInvalidCluster.txt).
void part_forbidden_vowels(ScriptWork& work);

}  // namespace grafema::detail
