// SPDX-License-Identifier: MIT
// Puts the tables of a subset together.
#include "grafema/write/make_subset.hpp"

#include <algorithm>
#include <cmath>

#include "font/layout/pair_kerning.hpp"
#include "grafema/base/notes.hpp"
#include "write/subset/cff/subset_cff.hpp"
#include "write/subset/color/subset_color.hpp"
#include "write/subset/layout/subset_kerning.hpp"
#include "write/subset/layout/subset_layout.hpp"
#include "write/subset/subset_glyphs.hpp"
#include "write/subset/subset_names.hpp"

namespace grafema {
namespace detail {
namespace {

/// Tables that stay as they are.
constexpr const char* kCopied[] = {"cvt ", "fpgm", "prep", "gasp", "meta", "CPAL"};
/// Programs that move points; with pinned axes they would move them from where they are not.
constexpr const char* kHints[] = {"cvt ", "fpgm", "prep"};

/// Whether no script looks for pairs in `kern`.
bool kerns_by_gpos(const Face& face) {
  const PairKerning pairs = PairKerning::read(face.positions(), face.glyph_count());
  return !pairs.empty() && !pairs.has_gaps();
}

class SubsetMaker {
 public:
  SubsetMaker(const SubsetPlan& plan, Notes* notes) : plan_(plan), notes_(notes) {}

  Result<Subset> make() {
    metrics_ = read_metrics(plan_);
    const std::vector<std::function<Result<void>()>> steps = {
        [this] { return add_outlines(); }, [this] { return add_layout(); }, [this] { return add_colors(); },
        [this] { return add_axes(); }, [this] { return add_facts(); }};
    for (std::size_t i = 0; i < steps.size(); ++i) {
      if (const Result<void> done = steps[i](); !done) return fail(done.error());
      const auto& progress = plan_.recipe->progress;
      if (progress && !progress(i + 2, steps.size() + 1)) {
        return fail(make_error(ErrorKind::interrupted, "to go on"));
      }
    }
    return finish();
  }

 private:
  void add(WrittenTable table) { tables_.push_back(std::move(table)); }
  void add(std::vector<WrittenTable> tables) {
    for (WrittenTable& table : tables) add(std::move(table));
  }
  Result<void> add(Result<std::optional<WrittenTable>> table) {
    if (!table) return fail(table.error());
    if (*table) add(**std::move(table));
    return {};
  }
  bool has(const char* name) const { return !plan_.table(name).empty(); }

  Result<void> add_outlines() {
    if (has("glyf")) {
      Result<std::vector<WrittenTable>> made = subset_outlines(plan_, metrics_, most_, notes_);
      if (!made) return fail(made.error());
      add(*std::move(made));
    } else if (has("CFF ") || has("CFF2")) {
      Result<WrittenTable> made = subset_cff(plan_);
      if (!made) return fail(made.error());
      cff_ = true;
      add(*std::move(made));
      const Face& face = plan_.pinned ? *plan_.pinned : *plan_.face;
      for (const std::uint16_t old : plan_.kept) metrics_.boxes.push_back(face.glyph_box(GlyphId{old}));
    }
    add(write_metrics(plan_, metrics_));
    add(subset_metric_tables(plan_));
    return {};
  }

  Result<void> add_layout() {
    const TableView gdef = plan_.table("GDEF");
    VariationRows rows;
    if (gdef.u16(0) == 1 && gdef.u16(2) >= 3 && gdef.u32(14) != 0) {
      rows = VariationRows(gdef.from(gdef.u32(14)), plan_.pins);
    }
    for (const bool positions : {false, true}) {
      if (const Result<void> done = add(subset_layout(plan_, positions, rows)); !done) return done;
    }
    if (const Result<void> done = add(subset_definitions(plan_, rows)); !done) return done;
    if (plan_.recipe->lean && kerns_by_gpos(*plan_.face)) return {};
    if (auto kern = subset_kerning(plan_)) add(*std::move(kern));
    return {};
  }

  Result<void> add_colors() {
    if (const Result<void> done = add(subset_colors(plan_)); !done) return done;
    if (auto sbix = subset_sbix(plan_)) add(*std::move(sbix));
    add(subset_bitmaps(plan_, "CBLC", "CBDT"));
    add(subset_bitmaps(plan_, "EBLC", "EBDT"));
    return {};
  }

  Result<void> add_axes() {
    Result<std::vector<WrittenTable>> made = subset_axes(plan_);
    if (!made) return fail(made.error());
    add(*std::move(made));
    return {};
  }

  Result<void> add_facts() {
    for (const char* name : kCopied) {
      const bool hint = std::find(std::begin(kHints), std::end(kHints), name) != std::end(kHints);
      if (has(name) && !(hint && (plan_.pins.any() || plan_.recipe->lean)))
        add({tag(name), copy_of(plan_.table(name))});
    }
    add(subset_cmap(plan_)), add(subset_name(plan_)), add(subset_post(plan_));
    if (auto os2 = subset_os2(plan_)) add(*std::move(os2));
    if (auto base = subset_baselines(plan_)) add(*std::move(base));
    std::vector<std::byte> maxp = copy_of(plan_.table("maxp"));
    put_u16(maxp, 4, static_cast<int>(plan_.kept.size()));
    if (!cff_ && maxp.size() >= 32) {
      put_u16(maxp, 6, most_.points), put_u16(maxp, 8, most_.contours), put_u16(maxp, 28, most_.parts);
      if (plan_.recipe->lean || plan_.pins.any()) put_u16(maxp, 26, 0);  // no instructions
    }
    add({tag("maxp"), std::move(maxp)});
    std::vector<std::byte> head = copy_of(plan_.table("head"));
    head.resize(54);
    put_u16(head, 8, 0), put_u16(head, 10, 0);  // the sum of the file is made without itself
    put_box(head);
    put_u16(head, 50, long_offsets() ? 1 : 0);
    add({tag("head"), std::move(head)});
    pin_face_metrics(plan_, tables_);
    return {};
  }

  /// The box around all outlines.
  void put_box(std::vector<std::byte>& head) const {
    FontRect all;
    for (const FontRect& box : metrics_.boxes) {
      if (box.empty()) continue;
      all = all.empty() ? box
                        : FontRect{std::min(all.x_min, box.x_min), std::min(all.y_min, box.y_min),
                                   std::max(all.x_max, box.x_max), std::max(all.y_max, box.y_max)};
    }
    if (all.empty()) all = {0, 0, 0, 0};
    put_u16(head, 36, static_cast<int>(std::floor(all.x_min)));
    put_u16(head, 38, static_cast<int>(std::floor(all.y_min)));
    put_u16(head, 40, static_cast<int>(std::ceil(all.x_max)));
    put_u16(head, 42, static_cast<int>(std::ceil(all.y_max)));
  }

  bool long_offsets() const {
    for (const WrittenTable& table : tables_) {
      if (table.tag == tag("loca")) return table.bytes.size() == (plan_.kept.size() + 1) * 4;
    }
    return false;
  }

  Result<Subset> finish() {
    Subset out;
    for (const std::uint16_t old : plan_.kept) out.glyphs.push_back(GlyphId{old});
    out.character_count = plan_.characters.size();
    for (const Tag name : plan_.face->table_tags()) {
      const std::size_t before = plan_.face->table(name).size();
      const auto found = std::find_if(tables_.begin(), tables_.end(),
                                      [name](const WrittenTable& table) { return table.tag == name; });
      out.tables.push_back({name, before, found == tables_.end() ? 0 : found->bytes.size()});
      if (found == tables_.end()) tell_left_out(name);
    }
    if (!others_.empty() && notes_ != nullptr) {
      notes_->add({.kind = NoteKind::left_out_table, .text = others_ + ", which only other programs read"});
    }
    out.font = assemble(std::move(tables_), cff_);
    return out;
  }

  /// Of tables that have nothing to say any more nobody needs to hear.
  void tell_left_out(Tag name) {
    constexpr const char* kSilent[] = {"GSUB", "GPOS", "GDEF", "kern", "COLR", "sbix", "CBLC",
                                       "CBDT", "EBLC", "EBDT", "fvar", "avar", "gvar", "HVAR",
                                       "VVAR", "MVAR", "cvar", "STAT", "DSIG", "cvt ", "fpgm",
                                       "prep", "hdmx", "LTSH", "VDMX", "PCLT", "BASE"};
    const auto same = [name](const char* known) { return tag(known) == name; };
    if (notes_ == nullptr || std::any_of(std::begin(kSilent), std::end(kSilent), same)) return;
    const char* what = name == tag("SVG ")   ? "SVG, drawings of glyphs"
                       : name == tag("MATH") ? "MATH, rules for mathematics"
                       : name == tag("JSTF") ? "JSTF, rules for justified lines"
                                             : nullptr;
    if (what != nullptr) {
      notes_->add({.kind = NoteKind::left_out_table, .text = what});
    } else {
      others_ += (others_.empty() ? "" : ", ") + to_string(name);
    }
  }

  const SubsetPlan& plan_;
  Notes* notes_;
  NewMetrics metrics_;
  MostOfGlyphs most_;
  std::vector<WrittenTable> tables_;
  std::string others_;  ///< tables that were left out
  bool cff_ = false;
};

}  // namespace
}  // namespace detail

Result<Subset> make_subset(const Face& face, const SubsetRecipe& recipe, Notes* notes) {
  if (!face.place().empty()) {  // where the face stands, the subset stands
    SubsetRecipe pinned = recipe;
    for (const AxisValue& at : face.place()) {
      const bool named = std::any_of(recipe.pins.begin(), recipe.pins.end(),
                                     [&at](const AxisValue& pin) { return pin.axis == at.axis; });
      if (!named) pinned.pins.push_back(at);
    }
    return make_subset(*face.instance({}), pinned, notes);
  }
  Result<detail::SubsetPlan> plan = detail::plan_subset(face, recipe, notes);
  if (!plan) return fail(plan.error());
  return detail::SubsetMaker(*plan, notes).make();
}

}  // namespace grafema
