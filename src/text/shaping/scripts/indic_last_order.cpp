// SPDX-License-Identifier: MIT
// Orders an Indic syllable behind its basic forms (OpenType, "Indic scripts", "Reordering", final part).
#include <algorithm>

#include "text/shaping/scripts/indic_order.hpp"

namespace grafema::detail::indic {
namespace {

class LastOrder {
 public:
  LastOrder(const Order& order, SyllableRange range)
      : order_(order), items_(order.items()), start_(range.first), end_(range.end) {}

  void run() {
    find_viramas();
    find_base();
    move_left_matras();
    move_reph();
    move_before_base();
    choose_initial();
  }

 private:
  // What became part of a ligature is none of these any more.
  bool is(std::size_t i, std::uint8_t category) const {
    return items_[i].category == category && !items_[i].is(ShapeItem::kLigated);
  }
  bool is_virama(std::size_t i) const { return is(i, virama); }
  bool is_matra(std::size_t i) const { return is(i, matra) || is(i, right_matra); }
  bool is_any_joiner(std::size_t i) const { return is(i, joiner) || is(i, non_joiner); }
  bool is_letter(std::size_t i) const {
    return is_consonant(items_[i].category) && !items_[i].is(ShapeItem::kLigated);
  }
  bool is_one_ligature(std::size_t i) const {
    return items_[i].is(ShapeItem::kLigated) && !items_[i].is(ShapeItem::kMultiplied);
  }

  /// A virama that came out of a ligature which was parted again is one.
  void find_viramas() {
    const GlyphId sign = order_.work.face.find_glyph(order_.script.virama);
    for (std::size_t i = start_; i < end_ && sign != kMissingGlyph; ++i) {
      ShapeItem& item = items_[i];
      if (item.glyph != sign || !item.is(ShapeItem::kLigated) || !item.is(ShapeItem::kMultiplied)) continue;
      item.category = virama;
      item.flags &= static_cast<std::uint8_t>(~(ShapeItem::kLigated | ShapeItem::kMultiplied));
    }
  }

  void find_base() {
    tries_before_base_ = order_.bit(pref) != 0;
    for (base_ = start_; base_ < end_ && items_[base_].place < at_base;) ++base_;
    if (base_ < end_) {
      if (tries_before_base_) check_before_base();
      if (base_ < end_ && order_.script.tag == tag("mlym")) pass_conjuncts();
      if (base_ < end_ && start_ < base_ && items_[base_].place > at_base) --base_;
    }
    if (base_ == end_ && start_ < base_ && is(base_ - 1, joiner)) --base_;
    if (base_ < end_) {
      while (start_ < base_ && (is(base_, nukta) || is_virama(base_))) --base_;
    }
  }

  /// A consonant that was to stand before the base, but for which the face made no form, is the base itself.
  void check_before_base() {
    for (std::size_t i = base_ + 1; i < end_; ++i) {
      if ((items_[i].features & order_.bit(pref)) == 0) continue;
      if (items_[i].is(ShapeItem::kSubstituted) && is_one_ligature(i)) return;
      base_ = i;
      while (base_ < end_ && is_virama(base_)) ++base_;
      if (base_ < end_) items_[base_].place = at_base;
      tries_before_base_ = false;
      return;
    }
  }

  /// Malayalam: behind viramas that joined nothing stands the base.
  void pass_conjuncts() {
    for (std::size_t i = base_ + 1; i < end_; ++i) {
      while (i < end_ && is_any_joiner(i)) ++i;
      if (i == end_ || !is_virama(i)) break;
      ++i;
      while (i < end_ && is_any_joiner(i)) ++i;
      if (i < end_ && is_letter(i) && items_[i].place == below_base) {
        base_ = i;
        items_[base_].place = at_base;
      }
    }
  }

  /// Left matras stand before the half forms next to the base; a virama that shows ends those.
  void move_left_matras() {
    if (start_ + 1 >= end_ || start_ >= base_) return;
    std::size_t to = base_ == end_ ? base_ - 2 : base_ - 1;
    if (order_.script.has_halves) {
      for (;;) {
        while (to > start_ && !is_matra(to) && !is_virama(to)) --to;
        if (!is_virama(to) || items_[to].place == before_matra) {
          to = start_;
          break;
        }
        if (to + 1 >= end_ || !is_any_joiner(to + 1)) break;
        if (is(to + 1, joiner)) {  // a half form with a joiner counts as one
          if (to == start_) break;
          --to;
          continue;
        }
        ++to;
        break;
      }
    }
    if (start_ < to && items_[to].place != before_matra) {
      for (std::size_t i = to; i > start_; --i) {
        if (items_[i - 1].place != before_matra) continue;
        const std::size_t from = i - 1;
        if (from < base_ && base_ <= to) --base_;
        move_item(items_, from, to);
        items_.join_clusters(to, std::min(end_, base_ + 1));
        --to;
      }
      return;
    }
    for (std::size_t i = start_; i < base_; ++i) {
      if (items_[i].place != before_matra) continue;
      items_.join_clusters(i, std::min(end_, base_ + 1));
      break;
    }
  }

  void move_reph() {
    if (start_ + 1 >= end_ || items_[start_].place != reph_to_be) return;
    if ((items_[start_].category == repha) == is_one_ligature(start_)) return;
    const std::size_t to = find_reph_place();
    move_item(items_, start_, to);
    if (start_ < base_ && base_ <= to) --base_;
  }

  /// Behind the first virama before the base, and behind its joiner.
  bool find_virama_before_base(std::size_t& to) const {
    to = start_ + 1;
    while (to < base_ && !is_virama(to)) ++to;
    if (to >= base_) return false;
    if (to + 1 < base_ && is_any_joiner(to + 1)) ++to;
    return true;
  }

  std::size_t find_reph_place() const {
    std::size_t to = 0;
    const Place wanted = order_.script.reph;
    if (find_virama_before_base(to)) return to;
    if (wanted == after_main) {
      for (to = base_; to + 1 < end_ && items_[to + 1].place <= after_main;) ++to;
      if (to < end_) return to;
    }
    if (wanted == after_below) {
      const auto ends = [&](std::uint8_t place) {
        return place == post_base || place == after_post || place == modifiers;
      };
      for (to = base_; to + 1 < end_ && !ends(items_[to + 1].place);) ++to;
      if (to < end_) return to;
    }
    to = end_ - 1;
    while (to > start_ && items_[to].place == modifiers) --to;
    // A virama that shows behind a matra stays behind the reph.
    if (is_virama(to)) {
      for (std::size_t i = base_ + 1; i < to; ++i) {
        if (!is_matra(i)) continue;
        --to;
        break;
      }
    }
    return to;
  }

  /// A consonant that the face made a form of for it goes to where left matras go.
  void move_before_base() {
    if (!tries_before_base_ || base_ + 1 >= end_) return;
    for (std::size_t i = base_ + 1; i < end_; ++i) {
      if ((items_[i].features & order_.bit(pref)) == 0) continue;
      if (!is_one_ligature(i)) return;
      std::size_t to = base_;
      if (order_.script.has_halves) {
        while (to > start_ && !is_matra(to - 1) && !is_virama(to - 1)) --to;
      }
      if (to > start_ && is_virama(to - 1) && to < end_ && is_any_joiner(to)) ++to;
      move_item(items_, i, to);
      if (to <= base_ && base_ < i) ++base_;
      return;
    }
  }

  /// A left matra at the beginning of a word has a form of its own.
  void choose_initial() {
    if (items_[start_].place != before_matra) return;
    const bool begins = start_ == 0 || !is_of_word(items_[start_ - 1].category, items_[start_ - 1]);
    if (begins) items_[start_].features |= order_.bit(init);
  }
  static bool is_of_word(std::uint8_t category, const ShapeItem& item) {
    return category != other || item.is(ShapeItem::kMark);
  }

  const Order& order_;
  ShapeBuffer& items_;
  std::size_t start_, end_, base_ = 0;
  bool tries_before_base_ = false;
};

}  // namespace

void order_last(const Order& order, SyllableRange syllable) { LastOrder(order, syllable).run(); }

}  // namespace grafema::detail::indic
