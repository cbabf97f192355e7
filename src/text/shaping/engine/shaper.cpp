// SPDX-License-Identifier: MIT
// The stages of shaping a word: characters, normalization, substitution, positioning.
#include "text/shaping/engine/shaper.hpp"

#include <unicode/uchar.h>

#include <algorithm>

#include "grafema/unicode/characters.hpp"
#include "text/shaping/engine/made_spaces.hpp"
#include "text/shaping/engine/normalize.hpp"
#include "text/shaping/scripts/syllables.hpp"
#include "unicode/compositions.hpp"

namespace grafema::detail {
namespace {

// Glyphs that a word of n characters can become: 4 n + 1,024. Rules of a hostile face multiply without end.
constexpr std::size_t kMaxGrowth = 4, kMaxMore = 1024;
constexpr char32_t kFirstMark = 0x300;

std::uint8_t flags_of(char32_t c) {
  std::uint8_t flags = 0;
  if (c >= 0x20 && c < 0x7F) return flags;
  if (is_invisible(c) || c == 0x2028 || c == 0x2029) flags |= ShapeItem::kIgnorable;
  if (c == 0x200C) flags |= ShapeItem::kZwnj;
  if (c == 0x200D) flags |= ShapeItem::kZwj;
  const int8_t category = c < kFirstMark ? int8_t{0} : u_charType(static_cast<UChar32>(c));
  if (category == U_NON_SPACING_MARK || category == U_ENCLOSING_MARK) flags |= ShapeItem::kMark;
  return flags;
}

/// Of a face without metrics for vertical text, and of an atlas: letters stand below each other as lines do.
float vertical_advance(const GlyphMetrics& metrics, GlyphId glyph) {
  if (const Face* face = metrics.face()) return face->vertical_advance(glyph);
  const LineMetrics line = metrics.line_metrics();
  return line.ascent + line.descent;
}
void vertical_advances(const GlyphMetrics& metrics, std::span<const GlyphId> glyphs, std::span<float> out) {
  for (std::size_t i = 0; i < glyphs.size(); ++i) out[i] = vertical_advance(metrics, glyphs[i]);
}
FontPoint vertical_origin(const GlyphMetrics& metrics, GlyphId glyph) {
  if (const Face* face = metrics.face()) return face->vertical_origin(glyph);
  float advance = 0;
  metrics.advances({&glyph, 1}, {&advance, 1});
  return {advance / 2, metrics.line_metrics().ascent};
}

/// A number for the word and where it stands in the text.
std::uint64_t seed_of(const Word& word) {
  std::uint64_t h = word.bytes.empty() ? 0 : word.bytes[0];
  for (const char32_t c : word.characters) h = (h ^ c) * 0x2127599BF4325C37U, h ^= h >> 29U;
  return h;
}

}  // namespace

/// Whether every character has a glyph, which its item now has.
bool Shaper::find_glyphs(const FaceLookups& lookups) {
  const Face* face = lookups.face();
  bool all = true;
  for (std::size_t i = 0; i < buffer_.size(); ++i) {
    ShapeItem& item = buffer_[i];
    item.glyph =
        face != nullptr ? face->find_glyph(item.character) : lookups.metrics().find_glyph(item.character);
    all = all && item.glyph != kMissingGlyph;
  }
  return all;
}

void Shaper::fill(const Word& word) {
  buffer_.clear();
  buffer_.set_limit(word.characters.size() * kMaxGrowth + kMaxMore);
  simple_ = true;
  const auto add = [&](std::size_t i, std::size_t cluster) {
    ShapeItem item;
    item.character = word.characters[i];
    item.flags = flags_of(item.character);
    item.cluster = static_cast<std::uint32_t>(cluster);
    simple_ = simple_ && item.character < kFirstMark && item.flags == 0;
    buffer_.add(item);
  };
  const auto begins = [&](std::size_t i) { return i == 0 || (word.starts[i] & TextAnalysis::kCluster) != 0; };
  const std::size_t count = word.characters.size();
  if (!word.reversed) {
    std::size_t cluster = 0;
    for (std::size_t i = 0; i < count; ++i) {
      if (begins(i)) cluster = i;
      add(i, cluster);
    }
    return;
  }
  for (std::size_t end = count; end > 0;) {
    std::size_t first = end - 1;
    while (!begins(first)) --first;
    for (std::size_t i = first; i < end; ++i) add(i, first);
    end = first;
  }
}

void Shaper::mirror(const FaceLookups& face, const ShapingRecipe& recipe, bool right_to_left) {
  if (!right_to_left) return;
  for (std::size_t i = 0; i < buffer_.size(); ++i) {
    ShapeItem& item = buffer_[i];
    const auto other = static_cast<char32_t>(u_charMirror(static_cast<UChar32>(item.character)));
    if (other == item.character) continue;
    if (face.metrics().find_glyph(other) != kMissingGlyph) {
      item.character = other;
    } else {
      item.features |= recipe.mirrored;
    }
  }
}

void Shaper::set_ranges(const ShapingRecipe& recipe, const Word& word) {
  for (const RangedFeature& range : recipe.ranges) {
    for (std::size_t i = 0; i < buffer_.size(); ++i) {
      const std::uint32_t byte = word.bytes.empty() ? 0U : word.bytes[buffer_[i].cluster];
      if (byte < range.start || byte >= range.end) continue;
      if (range.on) {
        buffer_[i].features |= range.bit;
      } else {
        buffer_[i].features &= ~range.bit;
      }
    }
  }
}

/// Digits around a fraction slash become numerator and denominator.
void Shaper::set_fractions(const ShapingRecipe& recipe) {
  if ((recipe.numerator | recipe.denominator | recipe.fraction) == 0) return;
  const auto digit = [&](std::size_t i) {
    return u_isdigit(static_cast<UChar32>(buffer_[i].character)) != 0;
  };
  for (std::size_t slash = 0; slash < buffer_.size(); ++slash) {
    if (buffer_[slash].character != 0x2044) continue;
    std::size_t first = slash, end = slash + 1;
    while (first > 0 && digit(first - 1)) --first;
    while (end < buffer_.size() && digit(end)) ++end;
    if (first == slash || end == slash + 1) continue;
    for (std::size_t i = first; i < end; ++i) {
      buffer_[i].features |=
          recipe.fraction | (i < slash ? recipe.numerator : 0U) | (i > slash ? recipe.denominator : 0U);
    }
    buffer_.keep_together(first, end);
  }
}

void Shaper::set_kinds(const FaceLookups& face) {
  const bool known = face.has_classes();
  for (std::size_t i = 0; i < buffer_.size(); ++i) {
    ShapeItem& item = buffer_[i];
    if (known) {
      item.kind = face.class_of(item.glyph);
      item.mark_class = face.mark_class_of(item.glyph);
    } else {
      item.kind =
          item.is(ShapeItem::kMark) && !item.is(ShapeItem::kIgnorable) ? GlyphClass::mark : GlyphClass::base;
    }
  }
}

/// A mark that begins a word stands on a dotted circle, where the face has one.
void Shaper::add_circle(const FaceLookups& face) {
  if (buffer_.size() == 0 || buffer_[0].character < kFirstMark || buffer_[0].is(ShapeItem::kIgnorable))
    return;
  if (!is_mark(buffer_[0].character)) return;
  ShapeItem circle = made_circle(face, buffer_[0]);
  buffer_[0].is_broken = circle.glyph == kMissingGlyph;
  if (!buffer_[0].is_broken) buffer_.replace(0, 0, {&circle, 1});
}

void Shaper::substitute(FaceLookups& face, ShapingRecipe& recipe, ScriptWork& work) {
  LookupRunner runner(face, buffer_, recipe.left_to_right, masks_);
  runner.set_seed(seed_);
  std::size_t done = 0;
  for (const StageHook& stage : recipe.hooks) {
    runner.run(recipe.substitutions, done, stage.lookups);
    done = stage.lookups;
    recipe.rules->act(work, stage.hook);
  }
  runner.run(recipe.substitutions, done, recipe.substitutions.lookups.size());
  recipe.gave_up = recipe.gave_up || runner.gave_up();
  buffer_.close_gap();
}

void Shaper::position(FaceLookups& face, ShapingRecipe& recipe) {
  const std::size_t count = buffer_.size();
  glyphs_.resize(count), values_.resize(count);
  has_marks_ = false;
  for (std::size_t i = 0; i < count; ++i) {
    glyphs_[i] = buffer_[i].glyph;
    has_marks_ = has_marks_ || buffer_[i].kind == GlyphClass::mark;
  }
  if (recipe.upright) {
    vertical_advances(face.metrics(), glyphs_, values_);
  } else {
    face.metrics().advances(glyphs_, values_);
  }
  for (std::size_t i = 0; i < count; ++i) {
    ShapeItem& item = buffer_[i];
    const bool hidden = item.is(ShapeItem::kIgnorable) && !item.is(ShapeItem::kSubstituted);
    item.advance = hidden ? 0 : values_[i];
  }
  for (std::size_t i = 0; makes_spaces_ && i < count; ++i) {
    ShapeItem& item = buffer_[i];
    if (item.is_made_space && !item.is(ShapeItem::kSubstituted)) {
      item.advance = made_space_advance(face.metrics(), item.glyph, item.character);
    }
  }
  const MarkRoom room = recipe.rules->mark_room();
  if (has_marks_ && room != MarkRoom::taken_after_positioning) take_room(room);
  LookupRunner runner(face, buffer_, recipe.left_to_right, masks_);
  runner.set_upright(recipe.upright);
  runner.run(recipe.positions);
  recipe.gave_up = recipe.gave_up || runner.gave_up();
  if (recipe.kerns) kern(face, recipe);
  if (!has_marks_) return;
  if (room == MarkRoom::taken_after_positioning) take_room(room);
  if (!recipe.places_marks && recipe.rules->hangs_marks()) hang_marks(face);
}

void Shaper::take_room(MarkRoom how) {
  if (how == MarkRoom::kept) return;
  for (std::size_t i = 0; i < buffer_.size(); ++i) {
    ShapeItem& item = buffer_[i];
    const bool loses = how != MarkRoom::taken_from_nonspacing || item.is(ShapeItem::kMark);
    if (item.kind == GlyphClass::mark && loses) item.advance = 0;
  }
}

/// Kerning of pairs as the metrics have it, for a face whose GPOS has none.
void Shaper::kern(const FaceLookups& face, const ShapingRecipe& recipe) {
  places_.clear(), glyphs_.clear();
  for (std::size_t i = 0; i < buffer_.size(); ++i) {
    const ShapeItem& item = buffer_[i];
    const bool hidden = item.is(ShapeItem::kIgnorable) && !item.is(ShapeItem::kSubstituted);
    if (hidden || item.kind == GlyphClass::mark) continue;
    places_.push_back(static_cast<std::uint32_t>(i));
    glyphs_.push_back(item.glyph);
  }
  if (!recipe.left_to_right) {  // pairs are as seen, from the left
    std::reverse(places_.begin(), places_.end());
    std::reverse(glyphs_.begin(), glyphs_.end());
  }
  values_.resize(glyphs_.size());
  face.metrics().kern(glyphs_, recipe.script, recipe.language, values_);
  for (std::size_t i = 0; i < values_.size(); ++i) {
    if (values_[i] == 0) continue;
    buffer_[places_[i]].advance += values_[i];
    if (i + 1 < values_.size()) {
      buffer_.keep_together(std::min(places_[i], places_[i + 1]), std::max(places_[i], places_[i + 1]) + 1);
    }
  }
}

/// Where the face does not say, a mark stands over or under the middle of its letter, by their boxes.
void Shaper::hang_marks(const FaceLookups& face) {
  constexpr float kGap = 1.0F / 16;  // of an em
  constexpr std::uint8_t kBelow = 220, kBelowAttached = 202;
  std::size_t base = buffer_.size();
  FontRect box;
  for (std::size_t i = 0; i < buffer_.size(); ++i) {
    ShapeItem& item = buffer_[i];
    if (item.kind != GlyphClass::mark) {
      if (item.is(ShapeItem::kIgnorable)) continue;
      base = i;
      box = face.metrics().glyph_box(item.glyph);
      continue;
    }
    if (base == buffer_.size() || item.combining == 0) continue;
    const FontRect mark = face.metrics().glyph_box(item.glyph);
    const float gap = kGap * face.metrics().units_per_em();
    const bool below = item.combining == kBelow || item.combining == kBelowAttached || item.combining < 21;
    item.x = (box.x_min + box.x_max) / 2 - (mark.x_min + mark.x_max) / 2;
    if (below) {
      item.y = std::min(0.0F, box.y_min - gap - mark.y_max);
      box.y_min = std::min(box.y_min, mark.y_min + item.y);
    } else {
      item.y = std::max(0.0F, box.y_max + gap - mark.y_min);
      box.y_max = std::max(box.y_max, mark.y_max + item.y);
    }
    item.attachment = Attachment::mark;
    item.attached =
        static_cast<std::int32_t>(static_cast<std::ptrdiff_t>(base) - static_cast<std::ptrdiff_t>(i));
  }
}

/// Turns places against the item that one hangs on into places against its own pen.
void Shaper::finish_attachments(const ShapingRecipe& recipe) {
  const std::size_t count = buffer_.size();
  bool any = false;
  for (std::size_t i = 0; i < count; ++i) any = any || buffer_[i].attachment != Attachment::none;
  if (!any) return;
  values_.resize(count + 1);  // sums of the advances before
  values_[0] = 0;
  for (std::size_t i = 0; i < count; ++i) values_[i + 1] = values_[i] + buffer_[i].advance;
  for (std::size_t i = 0; i < count; ++i) {
    places_.clear();
    for (std::size_t at = i; buffer_[at].attachment != Attachment::none && places_.size() <= count;) {
      places_.push_back(static_cast<std::uint32_t>(at));
      const std::ptrdiff_t parent = static_cast<std::ptrdiff_t>(at) + buffer_[at].attached;
      if (parent < 0 || parent >= static_cast<std::ptrdiff_t>(count) || buffer_[at].attached == 0) break;
      at = static_cast<std::size_t>(parent);
    }
    while (!places_.empty()) {
      const std::size_t at = places_.back();
      places_.pop_back();
      ShapeItem& item = buffer_[at];
      const Attachment how = item.attachment;
      const std::ptrdiff_t to = static_cast<std::ptrdiff_t>(at) + item.attached;
      item.attachment = Attachment::none;
      if (item.attached == 0 || to < 0 || to >= static_cast<std::ptrdiff_t>(count)) continue;
      const auto parent = static_cast<std::size_t>(to);
      item.y += buffer_[parent].y;
      if (how == Attachment::cursive) continue;
      item.x += buffer_[parent].x;
      if (recipe.upright) {
        item.y += values_[at] - values_[parent];
      } else if (recipe.left_to_right) {
        item.x -= values_[at] - values_[parent];
      } else {
        item.x += values_[at + 1] - values_[parent + 1];
      }
    }
  }
}

/// Letters stand with their vertical origin at the pen; marks stay where they are on their letters.
void Shaper::stand_upright(const FaceLookups& face) {
  for (std::size_t i = 0; i < buffer_.size(); ++i) {
    ShapeItem& item = buffer_[i];
    if (item.attachment == Attachment::mark) continue;
    const FontPoint origin = vertical_origin(face.metrics(), item.glyph);
    item.x -= origin.x, item.y -= origin.y;
  }
}

void Shaper::shape(FaceLookups& face, ShapingRecipe& recipe, const Word& word,
                   std::vector<ShapedGlyph>& out) {
  out.clear();
  if (word.characters.empty()) return;
  fill(word);
  if (recipe.is_random) seed_ = seed_of(word);
  mirror(face, recipe, recipe.left_to_right == word.reversed);
  ScriptWork work{buffer_, face,    recipe.memory, word.around, recipe.script, recipe.script_bits,
                  items_,  numbers_};
  recipe.rules->prepare(work);
  makes_spaces_ = false;
  if (!simple_ || !find_glyphs(face)) {
    makes_spaces_ = normalize(buffer_, face, recipe.rules->normalizing(), recipe.places_marks);
  }
  if (!recipe.rules->finds_broken()) add_circle(face);
  recipe.rules->choose(work);
  set_ranges(recipe, word);
  set_fractions(recipe);
  set_kinds(face);
  substitute(face, recipe, work);
  position(face, recipe);
  if (recipe.upright) stand_upright(face);
  finish_attachments(recipe);
  if (!recipe.upright) recipe.rules->finish(work, recipe.left_to_right);
  const std::span<const ShapeItem> items = buffer_.close_gap();
  out.resize(items.size());
  ShapedGlyph* to = out.data();
  for (std::size_t k = 0; k < items.size(); ++k) {
    const ShapeItem& item = items[word.reversed ? items.size() - 1 - k : k];
    if (item.is(ShapeItem::kIgnorable) && !item.is(ShapeItem::kSubstituted)) continue;
    to->glyph = item.glyph, to->cluster = item.cluster;
    to->advance = item.advance, to->x = item.x, to->y = item.y;
    to->flags = static_cast<std::uint8_t>((item.is(ShapeItem::kNoCutBefore) ? ShapedGlyph::kNoCutBefore : 0) |
                                          (item.is(ShapeItem::kLigated) ? ShapedGlyph::kLigature : 0) |
                                          (item.is_broken ? ShapedGlyph::kBroken : 0));
    to->parts = item.parts;
    ++to;
  }
  out.resize(static_cast<std::size_t>(to - out.data()));
}

}  // namespace grafema::detail
