// SPDX-License-Identifier: MIT
// Embedded pictures of kept glyphs (OpenType, sbix, CBLC, CBDT, EBLC and EBDT).
#include <algorithm>

#include "write/subset/color/color_source.hpp"
#include "write/subset/color/subset_color.hpp"

namespace grafema::detail {
namespace {

// Far above what real fonts hold.
constexpr std::size_t kMaxStrikes = 256, kMaxRecords = 65536;
constexpr std::size_t kStrikes = 8, kStrikeBytes = 48;

/// Where a glyph's picture stands in the table of pictures.
struct Picture {
  std::size_t at = 0, bytes = 0;
  std::uint16_t format = 0;
  std::size_t metrics_at = 0;  ///< in the table of places, where all pictures of a run share them; else 0
};

/// A strike and its runs of glyphs.
class Strike {
 public:
  Strike(const TableView& places, std::size_t record) : places_(places), array_(places.u32(record)) {
    count_ = std::min<std::size_t>(places.u32(record + 8), kMaxRecords);
  }

  std::optional<Picture> find(std::uint32_t glyph) const {
    for (std::size_t i = 0; i < count_ && places_.holds(array_ + i * 8, 8); ++i) {
      const std::uint32_t first = places_.u16(array_ + i * 8), last = places_.u16(array_ + i * 8 + 2);
      if (glyph < first || glyph > last) continue;
      if (auto found = locate(array_ + places_.u32(array_ + i * 8 + 4), glyph, first)) return found;
    }
    return std::nullopt;
  }

 private:
  std::optional<Picture> locate(std::size_t run, std::uint32_t glyph, std::uint32_t first) const {
    const std::uint16_t kind = places_.u16(run);
    const std::size_t data = places_.u32(run + 4), body = run + 8, index = glyph - first;
    Picture picture;
    picture.format = places_.u16(run + 2);
    const auto between = [&](std::size_t begin, std::size_t end) {
      picture.at = data + begin, picture.bytes = end > begin ? end - begin : 0;
    };
    if (kind == 1) between(places_.u32(body + index * 4), places_.u32(body + index * 4 + 4));
    if (kind == 3) between(places_.u16(body + index * 2), places_.u16(body + index * 2 + 2));
    if (kind == 4) {
      const std::size_t i = search(body + 4, places_.u32(body), 4, glyph);
      if (i < places_.u32(body)) between(places_.u16(body + 6 + i * 4), places_.u16(body + 10 + i * 4));
    }
    if (kind == 2 || kind == 5) {
      const std::size_t size = places_.u32(body);
      const std::size_t i = kind == 2 ? index : search(body + 16, places_.u32(body + 12), 2, glyph);
      if (kind == 5 && i >= places_.u32(body + 12)) return std::nullopt;
      between(i * size, (i + 1) * size);
      picture.metrics_at = body + 4;
    }
    return picture.bytes == 0 ? std::nullopt : std::optional(picture);
  }

  /// The place of a glyph in a list of records that begin with one; `count` where it is not there.
  std::size_t search(std::size_t at, std::size_t count, std::size_t record, std::uint32_t glyph) const {
    count = std::min(count, places_.bytes.size() / record);
    std::size_t low = 0, high = count;
    while (low < high) {
      const std::size_t middle = (low + high) / 2;
      (places_.u16(at + middle * record) < glyph ? low : high) =
          places_.u16(at + middle * record) < glyph ? middle + 1 : middle;
    }
    return low < count && places_.u16(at + low * record) == glyph ? low : ~std::size_t{0};
  }

  TableView places_;
  std::size_t array_ = 0, count_ = 0;
};

std::size_t strike_count(const TableView& places) {
  return std::min<std::size_t>(places.u32(4), kMaxStrikes);
}

/// Where the components of a picture that is made of others are listed; 0 where it is not.
std::size_t components_at(std::uint16_t format) { return format == 8 ? 6 : format == 9 ? 8 : 0; }

/// Glyphs in a row whose pictures are of one kind.
struct Run {
  std::size_t first = 0;  ///< new number
  std::vector<Picture> pictures;
};

bool goes_on(const Run& run, std::size_t glyph, const Picture& picture, const TableView& places) {
  const Picture& last = run.pictures.back();
  if (run.first + run.pictures.size() != glyph || last.format != picture.format ||
      (last.metrics_at == 0) != (picture.metrics_at == 0)) {
    return false;
  }
  if (picture.metrics_at == 0) return true;
  return last.bytes == picture.bytes && places.holds(last.metrics_at, 8) &&
         places.holds(picture.metrics_at, 8) &&
         std::equal(places.bytes.begin() + static_cast<std::ptrdiff_t>(last.metrics_at),
                    places.bytes.begin() + static_cast<std::ptrdiff_t>(last.metrics_at) + 8,
                    places.bytes.begin() + static_cast<std::ptrdiff_t>(picture.metrics_at));
}

/// Appends a run's pictures to `data` and gives its index subtable.
std::vector<std::byte> write_run(const SubsetPlan& plan, const Run& run, const TableView& places,
                                 const TableView& pictures, TableWriter& data) {
  TableWriter out;
  const bool shared = run.pictures[0].metrics_at != 0;
  out.u16(shared ? 2 : 1), out.u16(run.pictures[0].format), out.u32(static_cast<std::uint32_t>(data.size()));
  if (shared) {
    out.u32(static_cast<std::uint32_t>(run.pictures[0].bytes));
    out.append(copy_of({places.tag, places.bytes.subspan(run.pictures[0].metrics_at, 8)}));
  }
  const std::size_t begin = data.size();
  for (const Picture& picture : run.pictures) {
    if (!shared) out.u32(static_cast<std::uint32_t>(data.size() - begin));
    std::vector<std::byte> bytes = copy_of({pictures.tag, pictures.bytes.subspan(picture.at, picture.bytes)});
    if (const std::size_t list = components_at(picture.format); list != 0 && bytes.size() >= list + 2) {
      for (std::size_t i = 0; i < be16(bytes, list) && list + 6 + i * 4 <= bytes.size(); ++i) {
        put_u16(bytes, list + 2 + i * 4, std::max(plan.to(std::uint32_t{be16(bytes, list + 2 + i * 4)}), 0));
      }
    }
    data.append(bytes);
  }
  if (!shared) out.u32(static_cast<std::uint32_t>(data.size() - begin));
  return std::move(out.bytes());
}

}  // namespace

std::vector<WrittenTable> subset_bitmaps(const SubsetPlan& plan, const char* places_name,
                                         const char* pictures_name) {
  const TableView places = plan.table(places_name), pictures = plan.table(pictures_name);
  TableWriter data, records, indexes;
  if (!places.holds(0, 8) || !pictures.holds(0, 4)) return {};
  data.u32(pictures.u32(0));
  struct Kept {
    std::size_t record;
    std::vector<Run> runs;
  };
  std::vector<Kept> strikes;
  for (std::size_t s = 0; s < strike_count(places) && places.holds(kStrikes + s * kStrikeBytes, kStrikeBytes);
       ++s) {
    Kept kept{kStrikes + s * kStrikeBytes, {}};
    const Strike strike(places, kept.record);
    for (std::size_t i = 0; i < plan.kept.size(); ++i) {
      const auto picture = strike.find(plan.kept[i]);
      if (!picture || !pictures.holds(picture->at, picture->bytes)) continue;
      if (picture->metrics_at != 0 && !places.holds(picture->metrics_at, 8)) continue;
      if (kept.runs.empty() || !goes_on(kept.runs.back(), i, *picture, places)) kept.runs.push_back({i, {}});
      kept.runs.back().pictures.push_back(*picture);
    }
    if (!kept.runs.empty()) strikes.push_back(std::move(kept));
  }
  if (strikes.empty()) return {};
  const std::size_t body = kStrikes + strikes.size() * kStrikeBytes;
  for (const Kept& strike : strikes) {
    TableWriter array, subtables;
    for (const Run& run : strike.runs) {
      array.u16(static_cast<std::uint32_t>(run.first));
      array.u16(static_cast<std::uint32_t>(run.first + run.pictures.size() - 1));
      array.u32(static_cast<std::uint32_t>(strike.runs.size() * 8 + subtables.size()));
      subtables.append(write_run(plan, run, places, pictures, data));
      subtables.align(4);
    }
    TableWriter record;
    record.append(copy_of({places.tag, places.bytes.subspan(strike.record, kStrikeBytes)}));
    record.put_u32(0, static_cast<std::uint32_t>(body + indexes.size()));
    record.put_u32(4, static_cast<std::uint32_t>(array.size() + subtables.size()));
    record.put_u32(8, static_cast<std::uint32_t>(strike.runs.size()));
    record.put_u16(40, static_cast<std::uint32_t>(strike.runs.front().first));
    record.put_u16(
        42, static_cast<std::uint32_t>(strike.runs.back().first + strike.runs.back().pictures.size() - 1));
    records.append(record.bytes());
    indexes.append(array.bytes()), indexes.append(subtables.bytes());
  }
  TableWriter out;
  out.u32(places.u32(0)), out.u32(static_cast<std::uint32_t>(strikes.size()));
  out.append(records.bytes()), out.append(indexes.bytes());
  std::vector<WrittenTable> tables;
  tables.push_back({places.tag, std::move(out.bytes())});
  tables.push_back({pictures.tag, std::move(data.bytes())});
  return tables;
}

std::optional<WrittenTable> subset_sbix(const SubsetPlan& plan) {
  const TableView sbix = plan.table("sbix");
  if (!sbix.holds(0, 8)) return std::nullopt;
  std::vector<std::vector<std::byte>> strikes;
  for (std::size_t s = 0; s < std::min<std::size_t>(sbix.u32(4), kMaxStrikes) && sbix.holds(8 + s * 4, 4);
       ++s) {
    const TableView strike = sbix.from(sbix.u32(8 + s * 4));
    TableWriter out, data;
    out.u16(strike.u16(0)), out.u16(strike.u16(2));
    const std::size_t head = 4 + (plan.kept.size() + 1) * 4;
    for (const std::uint16_t old : plan.kept) {
      out.u32(static_cast<std::uint32_t>(head + data.size()));
      const std::size_t begin = strike.u32(4 + std::size_t{old} * 4),
                        end = strike.u32(8 + std::size_t{old} * 4);
      if (end < begin + 8 || !strike.holds(begin, end - begin)) continue;
      std::vector<std::byte> bytes = copy_of({sbix.tag, strike.bytes.subspan(begin, end - begin)});
      if (Tag{be32(bytes, 4)} == tag("dupe") && bytes.size() >= 10) {
        put_u16(bytes, 8, std::max(plan.to(std::uint32_t{be16(bytes, 8)}), 0));
      }
      data.append(bytes);
    }
    out.u32(static_cast<std::uint32_t>(head + data.size()));
    if (data.size() == 0) continue;
    out.append(data.bytes());
    strikes.push_back(std::move(out.bytes()));
  }
  if (strikes.empty()) return std::nullopt;
  TableWriter out;
  out.u16(1), out.u16(sbix.u16(2)), out.u32(static_cast<std::uint32_t>(strikes.size()));
  std::size_t at = 8 + strikes.size() * 4;
  for (const auto& strike : strikes) out.u32(static_cast<std::uint32_t>(at)), at += strike.size();
  for (const auto& strike : strikes) out.append(strike);
  return WrittenTable{sbix.tag, std::move(out.bytes())};
}

void visit_picture_parts(const Face& face, std::uint32_t glyph,
                         const std::function<void(std::uint32_t)>& add) {
  const auto table = [&face](const char* name) { return TableView{tag(name), face.table(tag(name))}; };
  const TableView sbix = table("sbix");
  for (std::size_t s = 0; s < std::min<std::size_t>(sbix.u32(4), kMaxStrikes) && sbix.holds(8 + s * 4, 4);
       ++s) {
    const TableView strike = sbix.from(sbix.u32(8 + s * 4));
    const std::size_t begin = strike.u32(4 + std::size_t{glyph} * 4);
    if (strike.holds(begin, 10) && Tag{strike.u32(begin + 4)} == tag("dupe")) add(strike.u16(begin + 8));
  }
  const TableView places = table("EBLC"), pictures = table("EBDT");
  for (std::size_t s = 0; s < strike_count(places) && places.holds(kStrikes + s * kStrikeBytes, kStrikeBytes);
       ++s) {
    const auto picture = Strike(places, kStrikes + s * kStrikeBytes).find(glyph);
    const std::size_t list = picture ? components_at(picture->format) : 0;
    if (list == 0 || !pictures.holds(picture->at, picture->bytes)) continue;
    const TableView own{pictures.tag, pictures.bytes.subspan(picture->at, picture->bytes)};
    for (std::size_t i = 0; i < own.u16(list) && own.holds(list + 2 + i * 4, 4); ++i)
      add(own.u16(list + 2 + i * 4));
  }
}

}  // namespace grafema::detail
