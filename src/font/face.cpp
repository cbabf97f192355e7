// SPDX-License-Identifier: MIT
// A face: opens the tables that it needs at once, the others at first use.
#include "grafema/font/face.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

#include "base/hash.hpp"
#include "font/characters/names.hpp"
#include "font/color/color_tables.hpp"
#include "font/face_tables.hpp"
#include "font/outline/strike_outlines.hpp"
#include "grafema/font/layout_tables.hpp"

namespace grafema {

Face::Face(std::unique_ptr<Tables> tables) : tables_(std::move(tables)) {}
Face::~Face() = default;

Result<std::shared_ptr<const Face>> Face::open(FontData data, std::size_t index) {
  return open(std::move(data), index, {});
}

Result<std::shared_ptr<const Face>> Face::open(FontData data, std::size_t index,
                                               std::span<const AxisValue> place, Notes* notes) {
  Result<FontData> plain = unpack(std::move(data));
  if (!plain) return fail(plain.error());
  auto tables = std::make_unique<Tables>();
  Result<detail::Directory> directory = detail::Directory::read(plain->bytes(), index);
  if (!directory) return fail(directory.error());
  tables->data = *std::move(plain);
  tables->directory = *std::move(directory);
  Result<detail::FaceTables> required = detail::read_required(tables->directory);
  if (!required) return fail(required.error());
  tables->required = *required;
  if (const Result<void> units = tables->read_units(); !units) return fail(units.error());
  tables->move_to(place, notes);
  return std::shared_ptr<const Face>(new Face(std::move(tables)));
}

std::shared_ptr<const Face> Face::instance(std::span<const AxisValue> place, Notes* notes) const {
  auto tables = std::make_unique<Tables>();
  tables->data = tables_->data;
  tables->directory = tables_->directory;
  tables->required = tables_->required;
  tables->units_per_em = tables_->units_per_em;
  tables->move_to(place, notes);
  return std::shared_ptr<const Face>(new Face(std::move(tables)));
}

Result<std::size_t> Face::count(const FontData& data) {
  const Result<FontData> plain = unpack(data);
  if (!plain) return fail(plain.error());
  return detail::read_face_count(plain->bytes());
}

std::string Face::title() const {
  const FaceNames all = names();
  return all.style.empty() ? all.family : all.family + " " + all.style;
}

FaceId Face::id() const noexcept { return tables_->id; }
float Face::units_per_em() const noexcept { return tables_->units_per_em; }
LineMetrics Face::line_metrics() const noexcept { return tables_->lines; }
std::uint32_t Face::glyph_count() const noexcept { return tables_->required.glyph_count; }
std::span<const AxisValue> Face::place() const noexcept { return tables_->place; }
std::span<const std::byte> Face::table(Tag tag) const noexcept { return tables_->directory.find(tag).bytes; }

std::vector<char32_t> Face::variation_selectors() const { return tables_->characters().map.selectors(); }

std::vector<Tag> Face::table_tags() const { return tables_->directory.tags(); }

GlyphId Face::search_glyph(char32_t character) const noexcept {
  const detail::FaceCharacters& characters = tables_->characters();
  quick_glyphs_.store(characters.quick.data(), std::memory_order_release);
  return character < kQuickCharacters ? characters.quick[character] : characters.map.find(character);
}

GlyphId Face::find_variant(char32_t character, char32_t selector) const noexcept {
  const std::optional<GlyphId> found =
      selector == 0 ? std::nullopt : tables_->characters().map.find_variant(character, selector);
  return found ? *found : find_glyph(character);
}

float Face::advance(GlyphId glyph) const noexcept {
  if (index_of(glyph) >= glyph_count()) return 0;
  const float stored = tables_->required.horizontal.advance(index_of(glyph));
  return tables_->coordinates.empty() ? stored : tables_->varied_advance(index_of(glyph), stored, false);
}

void Face::advances(std::span<const GlyphId> glyphs, std::span<float> out) const noexcept {
  for (std::size_t i = 0; i < glyphs.size(); ++i) out[i] = advance(glyphs[i]);
}

float Face::vertical_advance(GlyphId glyph) const noexcept {
  const detail::LongMetrics& vertical = tables_->required.vertical;
  if (index_of(glyph) >= glyph_count()) return 0;
  if (vertical.long_count == 0) return tables_->lines.ascent + tables_->lines.descent;
  const float stored = vertical.advance(index_of(glyph));
  return tables_->coordinates.empty() ? stored : tables_->varied_advance(index_of(glyph), stored, true);
}

FontPoint Face::vertical_origin(GlyphId glyph) const noexcept {
  const std::uint32_t index = index_of(glyph);
  FontPoint origin{advance(glyph) / 2, tables_->lines.ascent};
  if (index >= glyph_count()) return origin;
  if (const auto stated = detail::find_vertical_origin(tables_->directory.find(tag("VORG")), index)) {
    origin.y = *stated + tables_->varied_origin(index);
  } else if (tables_->required.vertical.long_count != 0) {
    const FontRect box = glyph_box(glyph);
    if (!box.empty()) origin.y = box.y_max + static_cast<float>(tables_->required.vertical.bearing(index));
  }
  return origin;
}

std::optional<LineMetrics> Face::vertical_line_metrics() const {
  return detail::read_vertical_line_metrics(tables_->directory, tables_->metric_variations);
}

void Face::kern(std::span<const GlyphId> glyphs, Tag script, Tag language,
                std::span<float> out) const noexcept {
  for (std::size_t i = 0; i < glyphs.size(); ++i) {
    out[i] = i + 1 < glyphs.size() ? kerning(glyphs[i], glyphs[i + 1], script, language) : 0.0F;
  }
}

float Face::search_kerning(GlyphId left, GlyphId right, Tag script, Tag language) const noexcept {
  const detail::FaceKerning& kerning = tables_->kerning();
  if (kerning.quick.glyph_count != 0) quick_kerning_.store(&kerning.quick, std::memory_order_release);
  if (kerning.source == KerningSource::gpos) {
    if (const auto value = kerning.pairs.find(left, right, script, language)) return *value;
  }
  return kerning.kern.find(index_of(left), index_of(right));
}

PairAdjustment Face::pair_adjustment(GlyphId left, GlyphId right, Tag script, Tag language,
                                     std::uint16_t pixels_per_em) const {
  const detail::FaceKerning& kerning = tables_->kerning();
  if (kerning.source == KerningSource::gpos) {
    if (const auto both = kerning.pairs.find_both(left, right, script, language, pixels_per_em)) return *both;
  }
  PairAdjustment adjustment;
  adjustment.first.x_advance = this->kerning(left, right, script, language);
  return adjustment;
}

std::vector<GlyphId> Face::left_glyphs() const {
  const detail::FaceKerning& kerning = tables_->kerning();
  std::vector<bool> marked(glyph_count());
  kerning.kern.mark_lefts(marked);
  if (kerning.source == KerningSource::gpos) {
    const Tag kern = tag("kern");
    for (const std::uint16_t lookup : positions().find_lookups(std::span(&kern, 1))) {
      for (const PositioningRule& rule : positions().positioning(lookup).rules) {
        const auto* pairs = std::get_if<PairAdjustments>(&rule);
        if (pairs == nullptr) continue;
        for (const GlyphId glyph : pairs->first.glyphs()) {
          if (index_of(glyph) < marked.size()) marked[index_of(glyph)] = true;
        }
      }
    }
  }
  std::vector<GlyphId> glyphs;
  for (std::uint32_t g = 0; g < marked.size(); ++g) {
    if (marked[g]) glyphs.push_back(GlyphId{g});
  }
  return glyphs;
}

KerningSource Face::kerning_source() const { return tables_->kerning().source; }

Result<void> Face::read_outline(GlyphId glyph, Contours& out, float pixels_per_em) const {
  out.clear();
  if (index_of(glyph) >= glyph_count()) {
    return fail(
        make_error(ErrorKind::bad_value, "a glyph that the face has", std::to_string(index_of(glyph))));
  }
  const OutlineKind kind = tables_->outline_kind;
  if (kind == OutlineKind::none) return {};
  if (kind == OutlineKind::strikes) {
    if (tables_->strikes.empty()) return {};
    const std::uint16_t strike = detail::choose_strike(tables_->strikes, pixels_per_em);
    return detail::read_strike_outline(tables_->directory, index_of(glyph), strike, units_per_em(), out);
  }
  if (kind == OutlineKind::glyf) {
    const Result<detail::GlyphCell> cell = detail::read_glyf_outline(tables_->glyphs, index_of(glyph), out);
    if (cell) return {};
    out.clear();
    return fail(cell.error());
  }
  const Result<detail::CffOutlines>& cff = tables_->cff();
  if (!cff) return fail(cff.error());
  return cff->read_outline(index_of(glyph), static_cast<double>(units_per_em()), out);
}

FontRect Face::glyph_box(GlyphId glyph) const noexcept {
  Contours contours;
  return read_outline(glyph, contours) ? bounds(contours) : FontRect{};
}

namespace {

/// The grid that every point of a pixel face lies on, in font units; 0 where outlines have curves or slants,
/// or where no common grid coarser than a sixty-fourth of the em is found.
int find_pixel_grid(const Face& face) {
  constexpr std::uint32_t kGlyphsLookedAt = 256;
  Contours contours;
  int grid = 0;
  for (std::uint32_t glyph = 0; glyph < std::min(face.glyph_count(), kGlyphsLookedAt); ++glyph) {
    if (!face.read_outline(GlyphId{glyph}, contours)) continue;
    std::size_t at = 0;
    FontPoint pen;
    for (const PathCommand command : contours.commands) {
      if (command == PathCommand::closepath) continue;
      if (command == PathCommand::quadratic_curveto || command == PathCommand::curveto) return 0;
      const FontPoint p = contours.points[at++];
      if (command == PathCommand::lineto && p.x != pen.x && p.y != pen.y) return 0;
      pen = p;
      grid = std::gcd(grid, std::gcd(static_cast<int>(p.x), static_cast<int>(p.y)));
    }
  }
  return static_cast<float>(grid) * 64 < face.units_per_em() ? 0 : grid;
}

}  // namespace

FaceFacts Face::facts() const {
  FaceFacts facts = detail::read_facts(tables_->directory, tables_->metric_variations);
  facts.outlines = tables_->outline_kind;
  facts.glyph_count = glyph_count();
  const auto height_of = [this](char32_t character) {
    const GlyphId glyph = find_glyph(character);
    const FontRect box = glyph == kMissingGlyph ? FontRect{} : glyph_box(glyph);
    return box.empty() ? 0.0F : box.y_max;
  };
  for (std::size_t i = 0; facts.cap_height <= 0 && i < detail::kTellingCapitals.size(); ++i)
    facts.cap_height = height_of(detail::kTellingCapitals[i]);
  if (facts.x_height <= 0) facts.x_height = height_of(U'x');
  for (const AxisValue& at : place()) {
    if (at.axis == tag("wght")) {
      facts.weight_class = static_cast<std::uint16_t>(std::clamp(at.value, 1.0F, 1000.0F));
    }
    if (at.axis == tag("slnt")) facts.slant = -at.value;
    if (at.axis == tag("ital") || at.axis == tag("slnt")) facts.italic = at.value != 0;
  }
  facts.strikes = tables_->strikes;
  const int grid = facts.strikes.empty() ? find_pixel_grid(*this) : 0;
  facts.crisp_size = grid == 0 ? 0 : units_per_em() / static_cast<float>(grid);
  return facts;
}

FaceNames Face::names() const {
  FaceNames names =
      detail::read_names(tables_->directory.find(tag("name")), tables_->directory.find(tag("meta")));
  if (!place().empty()) names.style = detail::instance_style(*this, names.style);
  return names;
}

std::string Face::glyph_name(GlyphId glyph) const {
  if (index_of(glyph) >= glyph_count()) return {};
  std::string name = tables_->post_names().find(index_of(glyph));
  if (!name.empty() || tables_->outline_kind != OutlineKind::cff) return name;
  const Result<detail::CffOutlines>& cff = tables_->cff();
  return cff ? cff->glyph_name(index_of(glyph)) : name;
}

std::vector<std::pair<char32_t, GlyphId>> Face::characters() const { return tables_->characters().map.all(); }

std::vector<Tag> Face::scripts() const {
  std::vector<Tag> tags;
  for (const LayoutTable* table : {&substitutions(), &positions()}) {
    for (const ScriptTags& s : table->scripts()) tags.push_back(s.script);
  }
  std::sort(tags.begin(), tags.end());
  tags.erase(std::unique(tags.begin(), tags.end()), tags.end());
  return tags;
}

std::vector<Tag> Face::features() const {
  std::vector<Tag> tags = substitutions().features();
  const std::vector<Tag> more = positions().features();
  tags.insert(tags.end(), more.begin(), more.end());
  std::sort(tags.begin(), tags.end());
  tags.erase(std::unique(tags.begin(), tags.end()), tags.end());
  return tags;
}

std::vector<Axis> Face::axes() const { return detail::read_axes(tables_->directory); }
std::vector<NamedInstance> Face::instances() const { return detail::read_instances(tables_->directory); }
StyleAttributes Face::style_attributes() const { return detail::read_style_attributes(tables_->directory); }

const LayoutTable& Face::substitutions() const noexcept { return tables_->layout().substitutions; }
const LayoutTable& Face::positions() const noexcept { return tables_->layout().positions; }
const GlyphDefinitions& Face::definitions() const noexcept { return tables_->layout().definitions; }

ColorKinds Face::color_kinds() const { return detail::read_color_kinds(tables_->directory); }
std::vector<Palette> Face::palettes() const {
  return detail::read_palettes(tables_->directory.find(tag("CPAL")));
}
std::vector<ColorLayer> Face::color_layers(GlyphId glyph) const {
  return detail::read_color_layers(tables_->directory.find(tag("COLR")), index_of(glyph));
}

Result<std::optional<PaintGraph>> Face::read_paint(GlyphId glyph) const {
  return detail::read_paint_graph(tables_->directory.find(tag("COLR")), index_of(glyph),
                                  tables_->coordinates);
}

std::vector<std::uint16_t> Face::bitmap_sizes() const {
  return detail::read_bitmap_sizes(tables_->directory);
}

std::optional<GlyphBitmap> Face::find_bitmap(GlyphId glyph, std::uint16_t pixels_per_em) const {
  const std::vector<std::uint16_t> sizes = bitmap_sizes();
  const auto large = std::lower_bound(sizes.begin(), sizes.end(), pixels_per_em);
  for (auto size = large; size != sizes.end(); ++size) {
    if (auto bitmap = detail::read_bitmap(tables_->directory, index_of(glyph), *size)) return bitmap;
  }
  for (auto size = large; size != sizes.begin();) {
    if (auto bitmap = detail::read_bitmap(tables_->directory, index_of(glyph), *--size)) return bitmap;
  }
  return std::nullopt;
}

}  // namespace grafema
