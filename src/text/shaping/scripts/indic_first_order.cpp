// SPDX-License-Identifier: MIT
// Orders an Indic syllable before its basic forms are made (OpenType, "Indic scripts", "Reordering").
#include <algorithm>
#include <array>

#include "text/shaping/scripts/indic_order.hpp"

namespace grafema::detail::indic {
namespace {

// What a face makes of a consonant: its place, and what it may become, as bits of ScriptMemory::known.
constexpr std::uint8_t kKnown = 1, kBelow = 2, kPost = 4, kBeforeBase = 8, kReph = 16;

/// Asks the face once for each consonant of the script.
std::uint8_t forms_of(const Order& order, char32_t c) {
  std::uint8_t& known = order.work.memory.known[c % order.work.memory.known.size()];
  const bool of_block = (c & ~char32_t{127}) == (order.script.virama & ~char32_t{127});
  if (!of_block) return kKnown;
  if (known != 0) return known;
  const GlyphId letter = order.work.face.find_glyph(c);
  const GlyphId sign = order.work.face.find_glyph(order.script.virama);
  const std::array<GlyphId, 2> behind = {sign, letter}, before = {letter, sign};
  // The newer rules write virama and consonant, the older ones consonant and virama; faces have either.
  const auto makes = [&](Feature feature) {
    return makes_form(order.work, feature, behind) || makes_form(order.work, feature, before);
  };
  known = kKnown;
  if (makes(blwf) || makes(vatu)) {
    known |= kBelow;
  } else if (makes(pstf) || makes(pref)) {
    known |= kPost;
  }
  if (makes_form(order.work, pref, order.old_rules ? before : behind)) known |= kBeforeBase;
  const GlyphId joined = order.work.face.find_glyph(0x200D);
  const std::array<GlyphId, 3> with_joiner = {letter, sign, joined};
  if (makes_form(order.work, rphf, before) ||
      (order.script.reph_mode == RephMode::explicit_form && makes_form(order.work, rphf, with_joiner))) {
    known |= kReph;
  }
  return known;
}

class FirstOrder {
 public:
  FirstOrder(const Order& order, SyllableRange range)
      : order_(order), items_(order.items()), start_(range.first), end_(range.end) {}

  void run() {
    place_consonants();
    find_base();
    for (std::size_t i = start_; i < base_; ++i) {
      items_[i].place = std::min<std::uint8_t>(before_base, items_[i].place);
    }
    if (base_ < end_) items_[base_].place = at_base;
    if (has_reph_) items_[start_].place = reph_to_be;
    if (order_.old_rules) move_virama();
    attach_signs();
    attach_to_consonants();
    sort_by_place(order_.work, start_, end_);
    find_base_again();
    reverse_left_vowels(items_, start_, end_, before_matra,
                        [](std::uint8_t c) { return c == matra || c == right_matra; });
    choose_features();
    choose_before_base();
    obey_joiners();
  }

 private:
  std::uint8_t category(std::size_t i) const { return items_[i].category; }

  void place_consonants() {
    for (std::size_t i = start_; i < end_; ++i) {
      if (items_[i].place != at_base) continue;
      const std::uint8_t forms = forms_of(order_, items_[i].character);
      if ((forms & kBelow) != 0) items_[i].place = below_base;
      if ((forms & kPost) != 0) items_[i].place = post_base;
    }
  }

  /// Ra and virama at the start are no part of the search for the base where they become a reph.
  void find_reph() {
    limit_ = start_;
    const bool by_character = order_.script.reph_mode == RephMode::character;
    if (by_character) {
      has_reph_ = category(start_) == repha;
      if (has_reph_) limit_ = start_ + 1;
    } else if (start_ + 3 <= end_ && category(start_) == ra && category(start_ + 1) == virama) {
      const bool wanted = order_.script.reph_mode == RephMode::implicit_form
                              ? !is_joiner(category(start_ + 2))
                              : category(start_ + 2) == joiner;
      has_reph_ = wanted && (forms_of(order_, items_[start_].character) & kReph) != 0;
      if (has_reph_) limit_ = start_ + 2;
    }
    while (has_reph_ && limit_ < end_ && is_joiner(category(limit_))) ++limit_;
  }

  /// The last consonant that has no form below or behind another one.
  void find_base() {
    find_reph();
    base_ = has_reph_ ? start_ : end_;
    bool below = false;
    for (std::size_t i = end_; i-- > limit_;) {
      if (is_consonant(category(i))) {
        base_ = i;
        if (items_[i].place != below_base && (items_[i].place != post_base || below)) break;
        below = below || items_[i].place == below_base;
      } else if (i > start_ && category(i) == joiner && category(i - 1) == virama) {
        // A joiner behind a virama asks for a half form: what follows it is no candidate alone.
        break;
      }
    }
    // Ra alone, with no other letter to stand on, is no reph.
    if (has_reph_ && base_ == start_ && limit_ - base_ <= 2) has_reph_ = false;
  }

  /// Older rules: the first virama behind the base goes behind the last consonant.
  void move_virama() {
    const bool kannada = order_.script.tag == tag("knda");
    for (std::size_t i = base_ + 1; i < end_; ++i) {
      if (category(i) != virama) continue;
      std::size_t to = end_ - 1;
      while (to > i && !is_consonant(category(to)) && !(kannada && category(to) == virama)) --to;
      if (to > i && category(to) != virama) move_item(items_, i, to);
      break;
    }
  }

  /// Signs without a place of their own stay with what is before them.
  void attach_signs() {
    std::uint8_t last = at_start;
    for (std::size_t i = start_; i < end_; ++i) {
      ShapeItem& item = items_[i];
      const std::uint8_t c = item.category;
      if (is_joiner(c) || c == nukta || c == medial || c == virama) {
        item.place = last;
        if (c == virama && last == before_matra) {
          // A virama behind a left matra stays where the consonant stands.
          for (std::size_t k = i; k-- > start_;) {
            if (items_[k].place == before_matra) continue;
            item.place = items_[k].place;
            break;
          }
        }
      } else if (item.place != modifiers) {
        if (c == right_matra && i > start_ && category(i - 1) == syllable_modifier) {
          items_[i - 1].place = item.place;
        }
        last = item.place;
      }
    }
  }

  /// Behind the base a consonant owns what stands before it, back to the last consonant or matra.
  void attach_to_consonants() {
    std::size_t last = base_;
    for (std::size_t i = base_ + 1; i < end_; ++i) {
      if (is_consonant(category(i))) {
        for (std::size_t k = last + 1; k < i; ++k) {
          if (items_[k].place < modifiers) items_[k].place = items_[i].place;
        }
        last = i;
      } else if (category(i) == matra || category(i) == right_matra) {
        last = i;
      }
    }
  }

  void find_base_again() {
    base_ = end_;
    for (std::size_t i = start_; i < end_ && base_ == end_; ++i) {
      if (items_[i].place == at_base) base_ = i;
    }
  }

  void choose_features() {
    for (std::size_t i = start_; i < end_ && items_[i].place == reph_to_be; ++i) {
      items_[i].features |= order_.bit(rphf);
    }
    std::uint32_t before = order_.bit(half);
    if (!order_.old_rules && order_.script.below_before_base) before |= order_.bit(blwf);
    for (std::size_t i = start_; i < base_; ++i) items_[i].features |= before;
    const std::uint32_t behind = order_.bit(blwf) | order_.bit(abvf) | order_.bit(pstf);
    for (std::size_t i = base_ + 1; i < end_; ++i) items_[i].features |= behind;
    if (!order_.old_rules || order_.script.tag != tag("deva")) return;
    // Older Devanagari: Ra and virama before the base make a form below unless a joiner follows.
    for (std::size_t i = start_; i + 1 < base_; ++i) {
      if (category(i) != ra || category(i + 1) != virama) continue;
      if (i + 2 < base_ && category(i + 2) == joiner) continue;
      items_[i].features |= order_.bit(blwf), items_[i + 1].features |= order_.bit(blwf);
    }
  }

  /// The first consonant behind the base that comes to stand before it.
  void choose_before_base() {
    if (order_.bit(pref) == 0) return;
    for (std::size_t i = base_ + 1; i + 1 < end_ && base_ < end_; ++i) {
      const std::size_t letter = order_.old_rules ? i : i + 1, sign = order_.old_rules ? i + 1 : i;
      if (category(sign) != virama || !is_consonant(category(letter))) continue;
      if ((forms_of(order_, items_[letter].character) & kBeforeBase) == 0) continue;
      items_[i].features |= order_.bit(pref), items_[i + 1].features |= order_.bit(pref);
      break;
    }
  }

  /// A non-joiner keeps what stands before it from becoming a half form.
  void obey_joiners() {
    for (std::size_t i = start_ + 1; i < end_; ++i) {
      if (category(i) != non_joiner) continue;
      for (std::size_t k = i; k-- > start_;) {
        items_[k].features &= ~order_.bit(half);
        if (is_consonant(category(k))) break;
      }
    }
  }

  const Order& order_;
  ShapeBuffer& items_;
  std::size_t start_, end_, base_ = 0, limit_ = 0;
  bool has_reph_ = false;
};

}  // namespace

void order_first(const Order& order, SyllableRange syllable) { FirstOrder(order, syllable).run(); }

}  // namespace grafema::detail::indic
