// SPDX-License-Identifier: MIT
// Puts a CFF or CFF2 table together from the charstrings and dictionaries that are kept.
#include "write/subset/cff/subset_cff.hpp"

#include <algorithm>
#include <map>
#include <set>

#include "write/subset/cff/charstring_calls.hpp"
#include "write/subset/cff/pinned_charstrings.hpp"
#include "write/subset/subset_names.hpp"
#include "write/tables/face_tables.hpp"

namespace grafema::detail {
namespace {

constexpr std::uint16_t kOwnStrings = 391;

enum class TopOperator : std::uint16_t {
  version = 0,
  notice = 1,
  full_name = 2,
  family_name = 3,
  weight = 4,
  unique_id = 13,
  xuid = 14,
  encoding = 16,
  copyright = 0x0C00,
  postscript = 0x0C15,
  base_font = 0x0C16,
  count = 0x0C22,
  uid_base = 0x0C23,
  font_name = 0x0C26,
};

bool is(const DictEntry& entry, TopOperator op) {
  return static_cast<std::uint16_t>(entry.op) == static_cast<std::uint16_t>(op);
}

/// Entries whose operand is the number of a string.
bool names_string(const DictEntry& entry) {
  for (const TopOperator op : {TopOperator::version, TopOperator::notice, TopOperator::full_name,
                               TopOperator::family_name, TopOperator::weight, TopOperator::copyright,
                               TopOperator::postscript, TopOperator::base_font, TopOperator::font_name}) {
    if (is(entry, op)) return true;
  }
  return false;
}

/// Entries that are written anew with other offsets, or that a changed font must not have.
bool is_replaced(const DictEntry& entry) {
  switch (entry.op) {
    case CffOperator::charset:
    case CffOperator::char_strings:
    case CffOperator::private_dict:
    case CffOperator::font_dicts:
    case CffOperator::font_select:
    case CffOperator::variation_store:
      return true;
    default:
      return is(entry, TopOperator::encoding) || is(entry, TopOperator::unique_id) ||
             is(entry, TopOperator::xuid) || is(entry, TopOperator::uid_base) ||
             is(entry, TopOperator::count);
  }
}

class CffWriter {
 public:
  CffWriter(const SubsetPlan& plan, CffSource source)
      : plan_(plan), source_(std::move(source)), calls_(source_), pinned_(source_, plan.pins) {}

  Result<WrittenTable> write() {
    if (const Result<void> made = make_charstrings(); !made) return fail(made.error());
    make_fonts();
    for (const std::uint16_t old : plan_.kept) glyph_names_.push_back(new_id(source_.charset.name_of(old)));
    const std::vector<std::byte> bytes = source_.version2 ? put_together2() : put_together();
    return WrittenTable{source_.table.tag, bytes};
  }

 private:
  using Strings = std::vector<std::vector<std::byte>>;

  Result<void> make_charstrings() {
    const bool pinned = source_.version2 && plan_.pins.any();
    std::set<std::size_t> used;
    for (const std::uint16_t old : plan_.kept) {
      used.insert(source_.font_of(old));
      if (!pinned) calls_.visit(old);
    }
    fonts_.assign(used.begin(), used.end());
    calls_.finish();
    for (const std::uint16_t old : plan_.kept) {
      if (!pinned) {
        charstrings_.push_back(calls_.charstring(old));
        continue;
      }
      Result<std::vector<std::byte>> made = pinned_.rewrite(old);
      if (!made) return fail(made.error());
      charstrings_.push_back(*std::move(made));
    }
    if (pinned) return {};
    global_ = calls_.global();
    return {};
  }

  /// The new number of a string; those of the specification's list keep theirs.
  std::uint16_t new_string(std::size_t old) {
    if (old < kOwnStrings) return static_cast<std::uint16_t>(old);
    const TableView text = source_.strings.get(old - kOwnStrings);
    return add_string({text.bytes.begin(), text.bytes.end()});
  }
  std::uint16_t add_string(std::vector<std::byte> text) {
    const std::string key(reinterpret_cast<const char*>(text.data()), text.size());
    const auto [it, is_new] = known_.emplace(key, static_cast<std::uint16_t>(kOwnStrings + strings_.size()));
    if (is_new) strings_.push_back(std::move(text));
    return it->second;
  }
  /// Names of glyphs are strings, those of keyed fonts plain numbers.
  std::uint16_t new_id(std::uint16_t old) { return source_.keyed ? old : new_string(old); }

  /// Private dictionaries and the subroutines behind them, one block for each font that is used.
  void make_fonts() {
    const bool pinned = source_.version2 && plan_.pins.any();
    for (const std::size_t font : fonts_) {
      const CffSource::Font& old = source_.fonts[font];
      TableWriter dict;
      if (pinned) {
        pinned_.write_private(font, dict);
      } else {
        for (const DictEntry& entry : read_entries(old.private_dict)) {
          if (entry.op == CffOperator::local_subroutines) continue;
          dict.append(copy_of(entry.operands));
          write_operator(dict, entry.op);
        }
      }
      const Strings local = pinned ? Strings{} : calls_.local(font);
      constexpr std::size_t kOffsetBytes = 6;
      if (!local.empty()) {
        write_dict_offset(dict, dict.size() + kOffsetBytes);
        write_operator(dict, CffOperator::local_subroutines);
      }
      private_sizes_.push_back(dict.size());
      if (!local.empty()) dict.append(write_cff_index(local, source_.version2));
      privates_.push_back(std::move(dict.bytes()));
    }
  }

  /// An entry as it was, but for strings.
  void copy_entry(const DictEntry& entry, TableWriter& out) {
    const std::map<std::uint16_t, std::string> names = new_names(plan_);
    const bool family = is(entry, TopOperator::family_name), full = is(entry, TopOperator::full_name);
    if ((family || full) && !names.empty()) {
      const std::string& own = names.at(4);
      const std::string& text = full                                            ? own
                                : names.count(16) != 0 && !names.at(16).empty() ? names.at(16)
                                                                                : names.at(1);
      std::vector<std::byte> bytes;
      for (const char c : text) bytes.push_back(static_cast<std::byte>(c));
      write_dict_offset(out, add_string(std::move(bytes)));
    } else if (names_string(entry) && !entry.values.empty()) {
      write_dict_offset(out, new_string(to_offset(entry.values[0])));
    } else if (entry.op == CffOperator::registry && entry.values.size() == 3) {
      write_dict_offset(out, new_string(to_offset(entry.values[0])));
      write_dict_offset(out, new_string(to_offset(entry.values[1])));
      write_dict_offset(out, to_offset(entry.values[2]));
    } else {
      out.append(copy_of(entry.operands));
    }
    write_operator(out, entry.op);
  }

  /// Where the parts stand that dictionaries name.
  struct Places {
    std::size_t charset = 0, charstrings = 0, select = 0, fonts = 0, store = 0;
    std::vector<std::size_t> privates;
  };

  std::vector<std::byte> top_dict(const Places& places) {
    TableWriter out;
    const bool listed = source_.keyed || source_.version2;  // fonts stand in a list of their own
    for (const DictEntry& entry : read_entries(source_.top)) {
      if (entry.op == CffOperator::registry) copy_entry(entry, out);  // it must be the first
    }
    for (const DictEntry& entry : read_entries(source_.top)) {
      if (!is_replaced(entry) && entry.op != CffOperator::registry) copy_entry(entry, out);
    }
    const auto put = [&out](CffOperator op, std::size_t at) {
      if (at != 0) write_dict_offset(out, at), write_operator(out, op);
    };
    if (source_.keyed) {
      write_dict_offset(out, most_id() + 1), out.u8(12), out.u8(34);  // how many numbers glyphs may have
    }
    put(CffOperator::charset, places.charset), put(CffOperator::char_strings, places.charstrings);
    put(CffOperator::font_dicts, places.fonts), put(CffOperator::font_select, places.select);
    put(CffOperator::variation_store, places.store);
    if (!listed) {
      write_dict_offset(out, private_sizes_[0]), write_dict_offset(out, places.privates[0]);
      write_operator(out, CffOperator::private_dict);
    }
    return std::move(out.bytes());
  }

  std::size_t most_id() const {
    return glyph_names_.empty() ? 0 : *std::max_element(glyph_names_.begin(), glyph_names_.end());
  }

  std::vector<std::byte> font_index(const Places& places) {
    Strings dicts;
    for (std::size_t i = 0; i < fonts_.size(); ++i) {
      TableWriter out;
      for (const DictEntry& entry : read_entries(source_.fonts[fonts_[i]].dict)) {
        if (!is_replaced(entry)) copy_entry(entry, out);
      }
      write_dict_offset(out, private_sizes_[i]), write_dict_offset(out, places.privates[i]);
      write_operator(out, CffOperator::private_dict);
      dicts.push_back(std::move(out.bytes()));
    }
    return write_cff_index(dicts, source_.version2);
  }

  /// Runs of glyphs that use the same font (format 3).
  std::vector<std::byte> font_select() const {
    TableWriter runs;
    std::uint32_t count = 0;
    std::size_t previous = fonts_.size();
    for (std::size_t i = 0; i < plan_.kept.size(); ++i) {
      const auto font = static_cast<std::size_t>(
          std::lower_bound(fonts_.begin(), fonts_.end(), source_.font_of(plan_.kept[i])) - fonts_.begin());
      if (font == previous) continue;
      runs.u16(static_cast<std::uint32_t>(i)), runs.u8(static_cast<std::uint32_t>(font));
      previous = font, ++count;
    }
    TableWriter out;
    out.u8(3), out.u16(count), out.append(runs.bytes());
    out.u16(static_cast<std::uint32_t>(plan_.kept.size()));
    return std::move(out.bytes());
  }

  /// Names of all glyphs but the first, as a list or as runs.
  std::vector<std::byte> charset() const {
    TableWriter list, runs;
    list.u8(0), runs.u8(2);
    for (std::size_t i = 1; i < glyph_names_.size();) {
      std::size_t end = i + 1;
      while (end < glyph_names_.size() && glyph_names_[end] == glyph_names_[end - 1] + 1) ++end;
      runs.u16(glyph_names_[i]), runs.u16(static_cast<std::uint32_t>(end - i - 1));
      for (; i < end; ++i) list.u16(glyph_names_[i]);
    }
    return std::move((runs.size() < list.size() ? runs : list).bytes());
  }

  std::vector<std::byte> name_index() const {
    const std::map<std::uint16_t, std::string> names = new_names(plan_);
    std::vector<std::byte> name = copy_of(source_.names.get(0));
    if (!names.empty()) {
      name.clear();
      for (const char c : names.at(6)) name.push_back(static_cast<std::byte>(c));
    }
    return write_cff_index({name}, false);
  }

  /// Lays the parts behind the indexes at the table's head: their sizes do not depend on where they stand.
  Places lay_out(std::size_t begin, std::size_t& end, const std::vector<std::byte>& charset_bytes,
                 const std::vector<std::byte>& select, const std::vector<std::byte>& index,
                 const std::vector<std::byte>& store) {
    Places places;
    end = begin;
    const auto place = [&end](std::size_t size) {
      const std::size_t at = end;
      end += size;
      return size == 0 ? 0 : at;
    };
    places.charset = place(charset_bytes.size()), places.select = place(select.size());
    places.store = place(store.size()), places.charstrings = place(index.size());
    for (const std::vector<std::byte>& block : privates_) places.privates.push_back(end), end += block.size();
    return places;
  }

  std::vector<std::byte> put_together() {
    const std::vector<std::byte> charset_bytes = charset(), index = write_cff_index(charstrings_, false),
                                 global = write_cff_index(global_, false), names = name_index(),
                                 select = source_.keyed ? font_select() : std::vector<std::byte>{};
    Places none;
    none.privates.assign(fonts_.size(), 0);
    none.charset = none.charstrings = 1;
    if (source_.keyed) none.fonts = none.select = 1, font_index(none);  // names its strings
    const std::size_t top_size = write_cff_index({top_dict(none)}, false).size();
    const std::vector<std::byte> strings = write_cff_index(strings_, false);
    const std::size_t begin = 4 + names.size() + top_size + strings.size() + global.size();
    std::size_t end = 0;
    Places places = lay_out(begin, end, charset_bytes, select, index, {});
    if (source_.keyed) places.fonts = end;
    TableWriter out;
    out.u8(1), out.u8(0), out.u8(4), out.u8(4);  // version, header size, offset size
    out.append(names), out.append(write_cff_index({top_dict(places)}, false)), out.append(strings);
    out.append(global), out.append(charset_bytes), out.append(select), out.append(index);
    for (const std::vector<std::byte>& block : privates_) out.append(block);
    if (source_.keyed) out.append(font_index(places));
    return std::move(out.bytes());
  }

  std::vector<std::byte> put_together2() {
    const std::vector<std::byte> index = write_cff_index(charstrings_, true),
                                 global = write_cff_index(global_, true),
                                 select = fonts_.size() > 1 ? font_select() : std::vector<std::byte>{};
    std::vector<std::byte> store;
    if (plan_.pins.any()) {
      store = pinned_.store();
    } else if (!source_.variation_store.empty()) {
      const std::size_t size = std::min<std::size_t>(source_.variation_store.u16(0) + std::size_t{2},
                                                     source_.variation_store.bytes.size());
      store = copy_of({source_.table.tag, source_.variation_store.bytes.subspan(0, size)});
    }
    Places none;
    none.privates.assign(fonts_.size(), 0);
    none.charstrings = none.fonts = 1;
    none.select = select.empty() ? 0 : 1, none.store = store.empty() ? 0 : 1;
    const std::size_t top_size = top_dict(none).size();
    std::size_t end = 0;
    Places places = lay_out(5 + top_size + global.size(), end, {}, select, index, store);
    places.fonts = end;
    TableWriter out;
    out.u8(2), out.u8(0), out.u8(5), out.u16(static_cast<std::uint32_t>(top_size));
    out.append(top_dict(places)), out.append(global), out.append(select), out.append(store),
        out.append(index);
    for (const std::vector<std::byte>& block : privates_) out.append(block);
    out.append(font_index(places));
    return std::move(out.bytes());
  }

  const SubsetPlan& plan_;
  CffSource source_;
  CharstringCalls calls_;
  PinnedCharstrings pinned_;
  std::vector<std::size_t> fonts_;  ///< those that are used, ascending
  Strings charstrings_, global_, strings_, privates_;
  std::map<std::string, std::uint16_t> known_;
  std::vector<std::size_t> private_sizes_;
  std::vector<std::uint16_t> glyph_names_;
};

}  // namespace

Result<WrittenTable> subset_cff(const SubsetPlan& plan) {
  const bool version2 = plan.table("CFF ").empty();
  Result<CffSource> source = CffSource::read(plan.table(version2 ? "CFF2" : "CFF "), version2);
  if (!source) return fail(source.error());
  return CffWriter(plan, *std::move(source)).write();
}

}  // namespace grafema::detail
