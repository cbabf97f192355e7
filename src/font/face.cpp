// SPDX-License-Identifier: MIT
// A face: opens the tables that it needs at once, the others at first use.
#include "grafema/face.hpp"

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <mutex>
#include <numeric>

#include "font/cmap.hpp"
#include "font/glyf.hpp"
#include "font/gpos_kerning.hpp"
#include "font/kern.hpp"
#include "font/metrics_tables.hpp"
#include "font/names.hpp"

namespace grafema {
namespace {

/// A value that is made once, by whichever thread asks first.
template <class T>
class Lazy {
 public:
  template <class Make>
  const T& get(Make make) const {
    if (!ready_.load(std::memory_order_acquire)) {
      std::call_once(once_, [&] {
        value_ = make();
        ready_.store(true, std::memory_order_release);
      });
    }
    return value_;
  }

 private:
  mutable std::once_flag once_;
  mutable std::atomic<bool> ready_{false};
  mutable T value_{};
};

/// Characters below this are found by one look into an array: Latin with its common accents.
constexpr std::size_t kQuickCharacters = 0x250;

struct Characters {
  detail::CharacterMap map;
  std::array<GlyphId, kQuickCharacters> quick = {};
};

struct Kerning {
  KerningSource source = KerningSource::none;
  detail::GposKerning gpos;
  detail::KernTable kern;
};

}  // namespace

struct Face::Tables {
  FontData data;
  detail::Directory directory;
  detail::FaceTables required;
  detail::GlyphTables glyphs;
  LineMetrics lines;
  Lazy<Characters> characters;
  Lazy<Kerning> kerning;

  const Characters& get_characters() const {
    return characters.get([this] {
      Characters made;
      Result<detail::CharacterMap> map = detail::CharacterMap::read(directory.find(tag("cmap")), required.glyph_count);
      if (map) made.map = *std::move(map);  // a face with a damaged cmap has no characters
      for (std::size_t i = 0; i < kQuickCharacters; ++i) made.quick[i] = made.map.find(static_cast<char32_t>(i));
      return made;
    });
  }

  const Kerning& get_kerning() const {
    return kerning.get([this] {
      Kerning made;
      made.gpos = detail::GposKerning::read(directory.find(tag("GPOS")));
      if (!made.gpos.empty()) {
        made.source = KerningSource::gpos;
        return made;
      }
      made.kern = detail::KernTable::read(directory.find(tag("kern")));
      if (!made.kern.empty()) made.source = KerningSource::kern;
      return made;
    });
  }
};

Face::Face(std::unique_ptr<Tables> tables) : tables_(std::move(tables)) {}
Face::~Face() = default;

Result<std::shared_ptr<const Face>> Face::open(FontData data, std::size_t index) {
  auto tables = std::make_unique<Tables>();
  Result<detail::Directory> directory = detail::Directory::read(data.bytes(), index);
  if (!directory) return fail(directory.error());
  tables->directory = *std::move(directory);
  Result<detail::FaceTables> required = detail::read_required(tables->directory);
  if (!required) return fail(required.error());
  tables->required = *std::move(required);
  tables->glyphs = {tables->directory.find(tag("glyf")), tables->directory.find(tag("loca")),
                    tables->required.long_offsets, tables->required.glyph_count};
  tables->lines = detail::read_line_metrics(tables->directory);
  tables->data = std::move(data);
  return std::shared_ptr<const Face>(new Face(std::move(tables)));
}

Result<std::size_t> Face::count(const FontData& data) { return detail::read_face_count(data.bytes()); }

FaceId Face::id() const noexcept { return FaceId{tables_->directory.hash()}; }
float Face::units_per_em() const noexcept { return tables_->required.units_per_em; }
LineMetrics Face::line_metrics() const noexcept { return tables_->lines; }
std::uint32_t Face::glyph_count() const noexcept { return tables_->required.glyph_count; }

GlyphId Face::find_glyph(char32_t character) const noexcept {
  const Characters& characters = tables_->get_characters();
  return character < kQuickCharacters ? characters.quick[character] : characters.map.find(character);
}

float Face::advance(GlyphId glyph) const noexcept {
  return index_of(glyph) < glyph_count() ? tables_->required.horizontal.advance(index_of(glyph)) : 0.0F;
}

void Face::advances(std::span<const GlyphId> glyphs, std::span<float> out) const noexcept {
  for (std::size_t i = 0; i < glyphs.size(); ++i) out[i] = advance(glyphs[i]);
}

float Face::kerning(GlyphId left, GlyphId right, Tag script) const noexcept {
  const Kerning& kerning = tables_->get_kerning();
  switch (kerning.source) {
    case KerningSource::gpos: return kerning.gpos.find(index_of(left), index_of(right), script);
    case KerningSource::kern: return kerning.kern.find(index_of(left), index_of(right));
    case KerningSource::none: break;
  }
  return 0;
}

KerningSource Face::kerning_source() const { return tables_->get_kerning().source; }

Result<void> Face::read_outline(GlyphId glyph, Contours& out) const {
  out.clear();
  if (index_of(glyph) >= glyph_count()) {
    return fail(make_error(ErrorKind::bad_value, "a glyph that the face has", std::to_string(index_of(glyph))));
  }
  if (tables_->glyphs.loca.empty()) {
    const OutlineKind kind = detail::read_facts(tables_->directory).outlines;
    if (kind == OutlineKind::none) return {};
    return fail(make_error(ErrorKind::unsupported, "TrueType outlines (glyf)", "CFF outlines"));
  }
  const Result<detail::GlyphHeader> header = detail::read_glyph_header(tables_->glyphs, index_of(glyph));
  if (!header) return fail(header.error());
  if (const Result<void> read_in = detail::read_glyf_outline(tables_->glyphs, index_of(glyph), out); !read_in) {
    out.clear();
    return read_in;
  }
  const int shift = tables_->required.horizontal.left_side_bearing(index_of(glyph)) - header->x_min;
  if (shift != 0) {
    for (FontPoint& p : out.points) p.x += static_cast<float>(shift);
  }
  return {};
}

FontRect Face::glyph_box(GlyphId glyph) const noexcept {
  Contours contours;
  return read_outline(glyph, contours) ? bounds(contours) : FontRect{};
}

namespace {

/// The grid that every point of a pixel face lies on, in font units; 0 where outlines have curves or slants, or where
/// no common grid coarser than a sixty-fourth of the em is found.
int find_pixel_grid(const Face& face) {
  constexpr std::uint32_t kGlyphsLookedAt = 256;
  Contours contours;
  int grid = 0;
  for (std::uint32_t glyph = 0; glyph < std::min(face.glyph_count(), kGlyphsLookedAt); ++glyph) {
    if (!face.read_outline(GlyphId{glyph}, contours)) continue;
    std::size_t at = 0;
    FontPoint pen;
    for (const Verb verb : contours.verbs) {
      if (verb == Verb::close) continue;
      if (verb == Verb::quad || verb == Verb::cubic) return 0;
      const FontPoint p = contours.points[at++];
      if (verb == Verb::line && p.x != pen.x && p.y != pen.y) return 0;
      pen = p;
      grid = std::gcd(grid, std::gcd(static_cast<int>(p.x), static_cast<int>(p.y)));
    }
  }
  return static_cast<float>(grid) * 64 < face.units_per_em() ? 0 : grid;
}

}  // namespace

FaceFacts Face::facts() const {
  FaceFacts facts = detail::read_facts(tables_->directory);
  facts.glyph_count = glyph_count();
  const auto height_of = [this](char32_t character) {
    const GlyphId glyph = find_glyph(character);
    const FontRect box = glyph == kMissingGlyph ? FontRect{} : glyph_box(glyph);
    return box.empty() ? 0.0F : box.y_max;
  };
  if (facts.cap_height <= 0) facts.cap_height = height_of(U'H');
  if (facts.x_height <= 0) facts.x_height = height_of(U'x');
  const int grid = find_pixel_grid(*this);
  facts.crisp_size = grid == 0 ? 0 : units_per_em() / static_cast<float>(grid);
  return facts;
}

FaceNames Face::names() const { return detail::read_names(tables_->directory.find(tag("name"))); }

std::vector<std::pair<char32_t, GlyphId>> Face::characters() const { return tables_->get_characters().map.all(); }

namespace {

std::vector<Tag> merged(std::vector<Tag> a, const std::vector<Tag>& b) {
  a.insert(a.end(), b.begin(), b.end());
  std::sort(a.begin(), a.end());
  a.erase(std::unique(a.begin(), a.end()), a.end());
  return a;
}

}  // namespace

std::vector<Tag> Face::scripts() const {
  return merged(detail::script_tags(tables_->directory.find(tag("GSUB"))), detail::script_tags(tables_->directory.find(tag("GPOS"))));
}

std::vector<Tag> Face::features() const {
  return merged(detail::feature_tags(tables_->directory.find(tag("GSUB"))), detail::feature_tags(tables_->directory.find(tag("GPOS"))));
}

}  // namespace grafema
