// SPDX-License-Identifier: MIT
// Finds out whether digits stand alone, keeps what they draw, and writes numbers from it.
#include "draw/scene/scene_numbers.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "draw/scene/scene_state.hpp"

namespace grafema {
namespace detail {

bool stand_alone(const FontStack& fonts, const TextStyle& style, ShapeCache& cache) {
  // Every pair of them, the last of each row beside the first of the next.
  std::string pairs;
  for (const char a : kNumberCharacters) {
    for (const char b : kNumberCharacters) pairs += {a, b};
  }
  ShapedText shaped;
  if (!shaped.set(fonts, pairs, style, cache)) return false;
  const std::span<const ShapedGlyph> glyphs = shaped.glyphs();
  if (glyphs.size() != pairs.size()) return false;
  for (std::size_t i = 0; i < glyphs.size(); ++i) {
    if (glyphs[i].cluster != i || (i > 0 && glyphs[i].flags != 0)) return false;
  }
  return std::all_of(shaped.runs().begin(), shaped.runs().end(),
                     [](const ShapedRun& run) { return run.level == 0; });
}

const NumberSigns* SceneNumbers::find(std::uint8_t context, const std::shared_ptr<const SharedStyle>& style,
                                      LookId look) {
  const auto is_wanted = [&](const NumberSigns& n) {
    return n.context == context && n.look == look && !n.style.owner_before(style) &&
           !style.owner_before(n.style);
  };
  if (last_ < known_.size() && is_wanted(*known_[last_])) return known_[last_].get();
  for (std::size_t i = 0; i < known_.size(); ++i) {
    if (!is_wanted(*known_[i])) continue;
    last_ = i;
    return known_[i].get();
  }
  return nullptr;
}

NumberSigns& SceneNumbers::add(std::uint8_t context, const std::shared_ptr<const SharedStyle>& style,
                               LookId look) {
  if (known_.size() >= kMax) known_.erase(known_.begin());
  known_.push_back(std::make_unique<NumberSigns>());
  NumberSigns& made = *known_.back();
  made.context = context, made.style = style, made.look = look;
  last_ = known_.size() - 1;
  return made;
}

namespace {

/// Styles in which a number is one line from the left, whatever it is.
bool is_simple(const TextStyle& style) {
  const bool in_box = style.wrap || style.box_height || style.max_lines != 0 || !style.reserve.empty();
  const bool ranged = std::any_of(style.features.begin(), style.features.end(), [](const FeatureSetting& f) {
    return f.start != 0 || f.end != FeatureSetting::kToTheEnd;
  });
  return !in_box && !ranged && style.first_indent == 0 && style.word_spacing == 0 &&
         style.align != TextAlign::justify && style.direction != TextDirection::right_to_left;
}

}  // namespace
}  // namespace detail

using detail::SceneState;

/// Lays each character out alone and keeps what it draws.
const detail::NumberSigns* SceneState::learn_numbers(std::uint32_t i) {
  const StillLabel& s = still[i];
  if (const detail::NumberSigns* known = numbers.find(s.context, s.style, s.look)) return known;
  detail::NumberSigns& made = numbers.add(s.context, s.style, s.look);
  detail::SceneContext& c = contexts[s.context];
  const TextStyle& style = s.style->text;
  const FontStack& fonts = s.style->fonts ? *s.style->fonts : c.context->fonts();
  if (!detail::is_simple(style) || !detail::stand_alone(fonts, style, c.context->shapes())) return &made;
  const LookBook& looks = c.context->looks();
  if (!spans_label(looks.get(s.look))) return &made;
  const std::string own = s.text;
  made.tracking = style.tracking;
  made.layers = looks.get(s.look).count;
  bool good = true;
  for (const char character : detail::kNumberCharacters) {
    still[i].text.assign(1, character);
    LabelContent& label = prepare(i);
    const unsigned sign = detail::NumberSigns::index_of(character);
    good = good && !label.unsettled && label.quads.size() <= 1 && label.paragraph.glyphs.size() == 1;
    if (!good) break;
    made.known |= std::uint64_t{1} << sign;
    made.steps[sign] = label.box.width() + style.tracking;
    made.height = label.box.height(), made.size = label.paragraph.size;
    if (label.quads.empty()) continue;
    made.painted |= std::uint64_t{1} << sign;
    Variant& variant = label.variants[0];
    const auto layer = layers.find(s.context, looks, variant, s.look, tables.layers, next);
    // Coverage is made for the place of its pen.
    good = good && layer && variant.kind != TexelKind::coverage;
    if (!good) break;
    variant.first_record = layer->first;
    made.features = layer->features;
    const std::uint32_t array = array_number(s.context, variant);
    good = array < kMaxArrays &&
           !has_any(made.features, SceneFeature::joins);  // composites are written where letters are
    if (!good) break;
    made.arrays |= 1U << array;
    made.records[sign] = record_of(i, label, 0, 0);
    made.extent = made.extent.empty() ? painted_extent(label, looks)
                                      : enclosing(made.extent, painted_extent(label, looks));
    made.pages |= pages_of(label);
  }
  still[i].text = own;
  made.alone = good;
  made.even_step = made.steps[detail::NumberSigns::index_of('0')];
  for (unsigned sign = 0; sign < 64; ++sign) {
    const bool is_even = (made.painted >> sign & 1U) != 0 && made.steps[sign] == made.even_step;
    if (is_even) made.even |= std::uint64_t{1} << sign;
  }
  return &made;
}

namespace {

/// How many characters both begin with.
std::size_t common_start(std::string_view a, std::string_view b) {
  const std::size_t most = std::min(a.size(), b.size());
  std::size_t same = 0;
  for (std::uint64_t x = 0, y = 0; same + 8 <= most; same += 8) {
    std::memcpy(&x, a.data() + same, 8), std::memcpy(&y, b.data() + same, 8);
    if (x != y) break;
  }
  while (same < most && a[same] == b[same]) ++same;
  return same;
}

}  // namespace

/// Where the texts' digits are all as wide and there are as many, only those behind `same` change.
bool SceneState::write_even_number(std::uint32_t i, const detail::NumberSigns& signs, std::string_view text,
                                   std::size_t same) {
  StillLabel& s = still[i];
  if (!s.even || text.size() != s.text.size() || signs.arrays != s.arrays || signs.pages != s.pages)
    return false;
  for (std::size_t k = same; k < text.size(); ++k) {
    const unsigned sign = detail::NumberSigns::index_of(text[k]);
    if (sign >= 64 || (signs.even >> sign & 1U) == 0) return false;
  }
  GlyphRecord* record =
      tables.glyphs.change(s.first_glyph + static_cast<std::uint32_t>(same), text.size() - same, next).data();
  for (std::size_t k = same; k < text.size(); ++k, ++record) {
    *record = signs.records[detail::NumberSigns::index_of(text[k])];
    record->x += signs.even_step * static_cast<float>(k);
    record->row = i;
    record->index = static_cast<std::uint16_t>(k);
    s.text[k] = text[k];
  }
  ++work.numbers;
  return true;
}

/// Writes the text and the records of a number at once; false where it must be laid out.
bool SceneState::write_number_of(std::uint32_t i, std::string_view text) {
  StillLabel& s = still[i];
  // Numbers of many labels change one after the other.
  constexpr std::size_t kAhead = 6;
  if (i + kAhead < still.size()) {
    const auto* next_label = reinterpret_cast<const char*>(&still[i + kAhead]);
    __builtin_prefetch(next_label), __builtin_prefetch(next_label + 64);
    __builtin_prefetch(&moving[i + kAhead]);
  }
  if (s.contents_stale || s.pictures_stale || has_any(s.features, SceneFeature::moves)) return false;
  if (s.extra && s.extra->panel) return false;  // its box grows and shrinks
  const detail::NumberSigns* known = learn_numbers(i);
  if (known == nullptr || !known->alone) return false;
  if (known->layers < 2) {  // whether its letters overlap is not looked at: layout tells when it fades
    if (tint_of(i)[3] < 255) return false;
    s.overlaps = true;
  }
  // What the number before began with stands where it stood.
  const std::size_t same = common_start(text, s.text);
  if (same == text.size() && same == s.text.size()) return true;
  return write_even_number(i, *known, text, same) || write_signs(i, *known, text, same);
}

bool SceneState::write_signs(std::uint32_t i, const detail::NumberSigns& signs, std::string_view text,
                             std::size_t same) {
  StillLabel& s = still[i];
  std::uint32_t painted = 0, kept = 0;
  bool is_even = true;
  for (std::size_t k = 0; k < text.size(); ++k) {
    const unsigned sign = detail::NumberSigns::index_of(text[k]);
    if (sign >= 64 || (signs.known >> sign & 1U) == 0) return false;
    if (k == same) kept = painted;
    painted += static_cast<std::uint32_t>(signs.painted >> sign & 1U);
    is_even = is_even && (signs.even >> sign & 1U) != 0;
  }
  if (same == text.size()) kept = painted;
  const std::uint32_t first_before = s.first_glyph, slots_before = s.slots;
  take_glyph_room(i, painted + (s.fades ? 1U : 0U));
  // Of digits alone all places are multiples, whatever number came before.
  if (s.first_glyph != first_before || s.even != is_even) same = 0, kept = 0;
  GlyphRecord* record = tables.glyphs.change(s.first_glyph + kept, painted - kept, next).data();
  float pen = 0;
  for (std::size_t k = 0; k < text.size(); ++k) {
    const unsigned sign = detail::NumberSigns::index_of(text[k]);
    if (is_even) pen = signs.even_step * static_cast<float>(k);
    if (k >= same && (signs.painted >> sign & 1U) != 0) {
      *record = signs.records[sign];
      record->x += pen;
      record->row = i;
      record->index = static_cast<std::uint16_t>(k);
      ++record;
    }
    pen += signs.steps[sign];
  }
  s.text.assign(text);
  s.even = is_even;
  ++work.numbers;
  const Rect around{signs.extent.left, signs.extent.top, signs.extent.right + pen, signs.extent.bottom};
  const bool has_composite =
      s.fades && painted > 0 &&
      write_composite(i, {TexelKind::intermediate, s.look, painted}, around, signs.size);
  if (s.first_glyph != first_before || slots_before != painted * signs.layers + (has_composite ? 1U : 0U)) {
    slots_made.clear();
    for (std::uint32_t layer = 0; layer < signs.layers; ++layer) {
      for (std::uint32_t k = 0; k < painted; ++k) slots_made.push_back((s.first_glyph + k) * 8 + layer);
    }
    if (has_composite) slots_made.push_back((s.first_glyph + painted) * 8);
    place_slots(i, slots_made);
  }
  follow_signs(i, signs, pen, painted > 0);
  return true;
}

/// What is known of a label beside its records, after its number ended at `pen`.
void SceneState::follow_signs(std::uint32_t i, const detail::NumberSigns& signs, float pen, bool paints) {
  StillLabel& s = still[i];
  const SceneFeature features = signs.features |
                                (moving[i].clip != 0 ? SceneFeature::clips : SceneFeature::none) |
                                (s.fades ? SceneFeature::fades : SceneFeature::none);
  if (features != s.features || signs.arrays != s.arrays) batches_stale = true;
  s.features = features, s.arrays = signs.arrays;
  const float width = s.text.empty() ? 0 : pen - signs.tracking;
  const Rect extent{signs.extent.left, signs.extent.top, signs.extent.right + pen, signs.extent.bottom};
  if (width != s.box.width() || signs.height != s.box.height() || extent != s.extent) {
    if (s.in_grid && (width != s.box.width() || signs.height != s.box.height())) touch_grid(i);
    s.box = {0, 0, width, signs.height};
    s.extent = paints ? extent : Rect{};
    tables.heads.change(i, next) = {width, signs.height, signs.size, 0};
    touch_row(i);
  }
  if (signs.pages != s.pages) change_pages(i, signs.pages);
}

}  // namespace grafema
