// SPDX-License-Identifier: MIT
// Runs a lookup over a word, passes over what it does not see, and matches contexts.
#include "text/shaping/engine/lookup_runner.hpp"

#include <algorithm>
#include <bit>

namespace grafema::detail {

bool LookupRunner::ignores(const ShapeItem& item, const LookupFlags& flags) const {
  switch (item.kind) {
    case GlyphClass::base:
      return flags.ignore_bases;
    case GlyphClass::ligature:
      return flags.ignore_ligatures;
    case GlyphClass::mark:
      if (flags.ignore_marks) return true;
      if (flags.mark_set) return !face_.face()->definitions().in_mark_set(*flags.mark_set, item.glyph);
      return flags.mark_class != 0 && flags.mark_class != item.mark_class;
    default:
      return false;
  }
}

LookupRunner::Pass LookupRunner::pass_ignorable(const ShapeItem& item, const ChosenLookup& chosen,
                                                bool context) const {
  if (item.is(ShapeItem::kSubstituted)) return Pass::stop;
  if (positions_) return Pass::unless_it_matches;
  if (item.is(ShapeItem::kZwnj) && (!context || chosen.keeps_non_joiners)) return Pass::stop;
  if (item.is(ShapeItem::kZwj) && !context && chosen.keeps_joiners) return Pass::stop;
  return Pass::unless_it_matches;
}

void LookupRow::add_mask(GlyphId glyph, std::vector<std::uint64_t>& out) {
  const std::size_t half = mask_words(), words = half * 3;
  if (index_of(glyph) >= mask_of_.size()) mask_of_.resize(index_of(glyph) + std::size_t{1});
  std::uint32_t& known = mask_of_[index_of(glyph)];
  if (known == 0) {
    constexpr std::size_t kMaxWords = std::size_t{1} << 20U;  // of a hostile face with lookups without number
    if (masks_.size() > kMaxWords) {
      masks_.clear();
      std::fill(mask_of_.begin(), mask_of_.end(), 0U);
    }
    known = static_cast<std::uint32_t>(masks_.size() / words) + 1;
    masks_.resize(masks_.size() + words);
    for (std::size_t i = 0; i < lookups.size(); ++i) {
      const CompiledLookup& lookup = *lookups[i].compiled;
      std::uint64_t* const word = &masks_[(known - std::size_t{1}) * words + i / 64];
      const std::uint64_t bit = std::uint64_t{1} << (i % 64);
      if (lookup.covered.test(glyph)) word[0] |= bit;
      if (lookup.needed.test(glyph)) word[half] |= bit;
      if (lookup.needed_after.test(glyph)) word[half * 2] |= bit;
    }
  }
  for (std::size_t w = 0; w < words; ++w) out[w] |= masks_[(known - std::size_t{1}) * words + w];
}

void LookupRunner::run(LookupRow& row, std::size_t first, std::size_t end) {
  if (first == end) return;
  positions_ = row.positions;
  row_ = &row;
  const std::size_t words = row.mask_words();
  wanted_.assign(words * 3, 0);
  for (std::size_t i = 0; i < buffer_.size(); ++i) row.add_mask(buffer_[i].glyph, wanted_);
  for (std::size_t w = first / 64; w * 64 < end; ++w) {
    const auto below = [&](std::size_t lookup) {  // bits of the word before that lookup's
      const std::size_t bit = lookup < w * 64 ? 0 : std::min<std::size_t>(lookup - w * 64, 64);
      return bit == 64 ? ~std::uint64_t{0} : (std::uint64_t{1} << bit) - 1;
    };
    // Glyphs that lookups make may wake later ones, which have higher bits.
    const auto left = [&](std::uint64_t done) {
      return wanted_[w] & wanted_[words + w] & wanted_[words * 2 + w] & ~done;
    };
    for (std::uint64_t done = below(first) | ~below(end); left(done) != 0;) {
      const auto bit = static_cast<std::size_t>(std::countr_zero(left(done)));
      done |= below(w * 64 + bit + 1);
      run_lookup(row.lookups[w * 64 + bit]);
    }
  }
  row_ = nullptr;
}

void LookupRunner::run_lookup(const ChosenLookup& chosen) {
  const CompiledLookup& lookup = *chosen.compiled;
  if (lookup.rules.empty() || !spend(1 + buffer_.size() / 4)) return;
  looked_until_ = 0, last_base_ = kNone;
  if (lookup.rules.front().kind != RuleKind::reverse) return run_forward(lookup, chosen);
  for (std::size_t i = buffer_.size(); i-- > 0;) {
    syllable_ = chosen.within_syllable ? buffer_[i].syllable : std::uint16_t{0};
    if (begins_at(lookup, chosen, buffer_[i])) apply_at({lookup, chosen}, i);
  }
}

void LookupRunner::run_forward(const CompiledLookup& lookup, const ChosenLookup& chosen) {
  for (std::size_t i = 0; i < buffer_.size();) {
    std::optional<std::size_t> next;
    syllable_ = chosen.within_syllable ? buffer_[i].syllable : std::uint16_t{0};
    if (begins_at(lookup, chosen, buffer_[i])) next = apply_at({lookup, chosen}, i);
    i = next.value_or(i + 1);
  }
}

std::optional<std::size_t> LookupRunner::apply_at(const LookupCall& call, std::size_t at) {
  if (!spend(call.lookup.rules.size())) return std::nullopt;
  for (const CompiledRule& rule : call.lookup.rules) {
    if (!rule.covered.test(buffer_[at].glyph)) continue;
    if (const std::optional<std::size_t> next = apply_rule(call, rule, at)) return next;
  }
  return std::nullopt;
}

std::optional<std::size_t> LookupRunner::apply_rule(const LookupCall& call, const CompiledRule& rule,
                                                    std::size_t at) {
  switch (rule.kind) {
    case RuleKind::single:
      return apply_single(rule, at);
    case RuleKind::multiple:
      return apply_multiple(rule, at);
    case RuleKind::alternate:
      return apply_alternate(call, rule, at);
    case RuleKind::ligature:
      return apply_ligature(call, rule, at);
    case RuleKind::context:
    case RuleKind::chained_context:
      return apply_context(call, rule, at);
    case RuleKind::reverse:
      return apply_reverse(call, rule, at);
    case RuleKind::adjust:
      return apply_adjust(rule, at);
    case RuleKind::pair:
      return apply_pair(call, rule, at);
    case RuleKind::cursive:
      return apply_cursive(call, rule, at);
    case RuleKind::mark_to_base:
      return apply_mark_to_base(rule, at);
    case RuleKind::mark_to_ligature:
      return apply_mark_to_ligature(rule, at);
    case RuleKind::mark_to_mark:
      return apply_mark_to_mark(call, rule, at);
  }
  return std::nullopt;
}

bool LookupRunner::Places::matches(std::size_t place, GlyphId glyph) const {
  const std::uint16_t value = rule.u16(at + place * 2);
  if (known_classes != nullptr) {
    return (index_of(glyph) < known_classes->size() ? (*known_classes)[index_of(glyph)] : 0U) == value;
  }
  if (format == 1) return index_of(glyph) == value;
  if (format == 2) return classes.class_of(glyph) == value;
  return value != 0 && GlyphSet(sets.from(value).bytes).holds(glyph);
}

bool LookupRunner::match_input(const LookupCall& call, std::size_t at, const Places& input, Matched& out) {
  out.places[0] = at;
  out.count = 1;
  for (std::size_t place = 0; place < input.count; ++place) {
    if (out.count == kMaxPlaces || !spend(1)) return false;
    const std::size_t found = next(out.places[out.count - 1], call, false, [&](const ShapeItem& item) {
      return (item.features & call.chosen.mask) != 0 && input.matches(place, item.glyph);
    });
    if (found == kNone) return false;
    out.places[out.count++] = found;
  }
  out.end = out.places[out.count - 1] + 1;
  return true;
}

std::size_t LookupRunner::match_after(const LookupCall& call, std::size_t last, const Places& after) {
  for (std::size_t place = 0; place < after.count; ++place) {
    if (!spend(1)) return kNone;
    last = next(last, call, true, [&](const ShapeItem& item) { return after.matches(place, item.glyph); });
    if (last == kNone) return kNone;
  }
  return last + 1;
}

std::size_t LookupRunner::match_before(const LookupCall& call, std::size_t at, const Places& before) {
  for (std::size_t place = 0; place < before.count; ++place) {
    if (!spend(1)) return kNone;
    at = previous(at, call, [&](const ShapeItem& item) { return before.matches(place, item.glyph); });
    if (at == kNone) return kNone;
  }
  return at;
}

/// A context of sets of glyphs, as compiled.
std::optional<std::size_t> LookupRunner::apply_sets(const LookupCall& call, const CompiledRule& rule,
                                                    std::size_t at) {
  const GlyphBits* const before = rule.sets.data();
  const GlyphBits* const input = before + rule.before_count;
  const GlyphBits* const after = input + rule.input_count;
  Matched matched;
  matched.places[0] = at;
  matched.count = 1;
  std::size_t last = at;
  for (std::size_t k = 1; k < rule.input_count; ++k) {
    last = next(last, call, false, [&](const ShapeItem& item) {
      return input[k].test(item.glyph) && (item.features & call.chosen.mask) != 0;
    });
    if (last == kNone) return std::nullopt;
    matched.places[matched.count++] = last;
  }
  matched.end = last + 1;
  for (std::size_t k = 0; k < rule.after_count; ++k) {
    last = next(last, call, true, [&](const ShapeItem& item) { return after[k].test(item.glyph); });
    if (last == kNone) return std::nullopt;
  }
  std::size_t begin = at;
  for (std::size_t k = 0; k < rule.before_count; ++k) {
    begin = previous(begin, call, [&](const ShapeItem& item) { return before[k].test(item.glyph); });
    if (begin == kNone) return std::nullopt;
  }
  if (!spend(rule.sets.size())) return std::nullopt;
  buffer_.keep_together(begin, last + 1);
  act(call, matched, view(rule.bytes).from(rule.actions_at), rule.action_count);
  return matched.end;
}

std::optional<std::size_t> LookupRunner::apply_context(const LookupCall& call, const CompiledRule& rule,
                                                       std::size_t at) {
  if (!rule.sets.empty()) return apply_sets(call, rule, at);
  const TableView table = view(rule.bytes);
  const bool chained = rule.kind == RuleKind::chained_context;
  const std::uint16_t format = table.u16(0);
  Places before{{}, 0, 0, format, {}, table, nullptr}, input = before, after = before;
  if (format == 3) {
    std::size_t actions = 0;
    before.rule = input.rule = after.rule = table;
    if (chained) {
      before.at = 4, before.count = table.u16(2);
      input.at = before.at + before.count * 2 + 2, input.count = table.u16(input.at - 2);
      after.at = input.at + input.count * 2 + 2, after.count = table.u16(after.at - 2);
      actions = after.at + after.count * 2;
    } else {
      input.at = 6, input.count = table.u16(2), actions = 4;
    }
    if (input.count == 0) return std::nullopt;
    input.at += 2, --input.count;  // the first place is what the rule covers
    const std::size_t count = table.u16(actions);
    return apply_context_rule(call, at, before, input, after,
                              {Tag{}, table.from(chained ? actions + 2 : input.at + input.count * 2).bytes},
                              count);
  }
  if (format != 1 && format != 2) return std::nullopt;
  std::uint32_t number = 0;
  if (format == 1) {
    number = GlyphSet(sub_table(table, 2)).find(buffer_[at].glyph).value_or(0);
  } else {
    before.classes = GlyphClasses(sub_table(table, 4));
    input.classes = chained ? GlyphClasses(sub_table(table, 6)) : before.classes;
    if (chained) after.classes = GlyphClasses(sub_table(table, 8));
    if (!rule.classes[0].empty()) {
      before.known_classes = rule.classes.data();
      input.known_classes = chained ? &rule.classes[1] : before.known_classes;
      after.known_classes = &rule.classes[2];
      const std::uint32_t glyph = index_of(buffer_[at].glyph);
      number = glyph < input.known_classes->size() ? (*input.known_classes)[glyph] : 0U;
    } else {
      number = input.classes.class_of(buffer_[at].glyph);
    }
  }
  const std::size_t sets_at = format == 1 ? 4 : (chained ? 10 : 6);
  if (number >= table.u16(sets_at)) return std::nullopt;
  const TableView set = view(sub_table(table, sets_at + 2 + std::size_t{number} * 2));
  for (std::size_t r = 0; r < set.u16(0) && set.holds(2 + r * 2, 2); ++r) {
    if (!spend(1)) return std::nullopt;
    const TableView one = view(sub_table(set, 2 + r * 2));
    if (one.empty()) continue;
    before.rule = input.rule = after.rule = one;
    std::size_t count = 0, actions = 0;
    if (chained) {
      before.at = 2, before.count = one.u16(0);
      input.at = before.at + before.count * 2 + 2, input.count = one.u16(input.at - 2);
      if (input.count == 0) continue;
      --input.count;
      after.at = input.at + input.count * 2 + 2, after.count = one.u16(after.at - 2);
      actions = after.at + after.count * 2 + 2, count = one.u16(actions - 2);
    } else {
      input.at = 4, input.count = one.u16(0), count = one.u16(2);
      if (input.count == 0) continue;
      --input.count;
      actions = input.at + input.count * 2;
    }
    if (const auto next = apply_context_rule(call, at, before, input, after, one.from(actions), count)) {
      return next;
    }
  }
  return std::nullopt;
}

std::optional<std::size_t> LookupRunner::apply_context_rule(const LookupCall& call, std::size_t at,
                                                            const Places& before, const Places& input,
                                                            const Places& after, TableView actions,
                                                            std::size_t action_count) {
  Matched matched;
  if (!match_input(call, at, input, matched)) return std::nullopt;
  const std::size_t end = match_after(call, matched.end - 1, after);
  if (end == kNone) return std::nullopt;
  const std::size_t begin = match_before(call, at, before);
  if (begin == kNone) return std::nullopt;
  buffer_.keep_together(begin, end);
  act(call, matched, actions, action_count);
  return matched.end;
}

void LookupRunner::act(const LookupCall& call, Matched& matched, TableView rule, std::size_t action_count) {
  if (call.depth >= kMaxDepth) return;
  for (std::size_t a = 0; a < action_count && rule.holds(a * 4, 4) && spend(1); ++a) {
    const std::size_t place = rule.u16(a * 4), index = rule.u16(a * 4 + 2);
    if (place >= matched.count) continue;
    const std::size_t at = matched.places[place], before = buffer_.size();
    if (at >= before) continue;
    const CompiledLookup& nested = positions_ ? face_.positioning(index) : face_.substitution(index);
    if (!nested.covered.test(buffer_[at].glyph)) continue;
    if (!apply_at({nested, call.chosen, call.depth + 1}, at)) continue;
    const std::size_t now = buffer_.size();
    if (now == before) continue;
    // Glyphs that came or went were at this place and behind it.
    std::size_t kept = place + 1;
    if (now > before) {
      const std::size_t more = std::min(now - before, kMaxPlaces - matched.count);
      std::move_backward(matched.places.begin() + static_cast<std::ptrdiff_t>(kept),
                         matched.places.begin() + static_cast<std::ptrdiff_t>(matched.count),
                         matched.places.begin() + static_cast<std::ptrdiff_t>(matched.count + more));
      for (std::size_t i = 0; i < more; ++i) matched.places[kept + i] = at + 1 + i;
      matched.count += more;
      for (std::size_t i = kept + more; i < matched.count; ++i) matched.places[i] += now - before;
      matched.end += now - before;
    } else {
      const std::size_t fewer = before - now, gone = std::min(fewer, matched.count - kept);
      std::move(matched.places.begin() + static_cast<std::ptrdiff_t>(kept + gone),
                matched.places.begin() + static_cast<std::ptrdiff_t>(matched.count),
                matched.places.begin() + static_cast<std::ptrdiff_t>(kept));
      matched.count -= gone;
      for (std::size_t i = kept; i < matched.count; ++i) {
        matched.places[i] -= std::min(matched.places[i], fewer);
      }
      matched.end = std::max(matched.end - std::min(matched.end, fewer), at);
    }
  }
  matched.end = std::min(matched.end, buffer_.size());
}

}  // namespace grafema::detail
