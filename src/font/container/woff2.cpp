// SPDX-License-Identifier: MIT
// Reads WOFF 2.0: its directory, its one compressed stream, its collections.
#include <brotli/decode.h>
#include <fmt/format.h>

#include <map>

#include "font/container/web_font.hpp"
#include "font/container/woff2_transforms.hpp"

namespace grafema::detail {
namespace {

constexpr std::size_t kWoff2HeaderBytes = 48;
/// More tables or faces than this do not occur; the limit bounds work before anything is unpacked.
constexpr std::size_t kMaxTables = 4096, kMaxFaces = 1024;

/// Tags by number (WOFF 2.0, section 4.1, "Known Table Tags").
constexpr const char* kKnownTags[] = {
    "cmap", "head", "hhea", "hmtx", "maxp", "name", "OS/2", "post", "cvt ", "fpgm", "glyf", "loca", "prep",
    "CFF ", "VORG", "EBDT", "EBLC", "gasp", "hdmx", "kern", "LTSH", "PCLT", "VDMX", "vhea", "vmtx", "BASE",
    "GDEF", "GPOS", "GSUB", "EBSC", "JSTF", "MATH", "CBDT", "CBLC", "COLR", "CPAL", "SVG ", "sbix", "acnt",
    "avar", "bdat", "bloc", "bsln", "cvar", "fdsc", "feat", "fmtx", "fvar", "gvar", "hsty", "just", "lcar",
    "mort", "morx", "opbd", "prop", "trak", "Zapf", "Silf", "Glat", "Gloc", "Feat", "Sill"};

struct Entry {
  Tag tag{};
  std::size_t size = 0;    ///< of the table as it will be
  std::size_t stored = 0;  ///< of its bytes in the stream
  bool transformed = false;
};

class Reader {
 public:
  explicit Reader(std::span<const std::byte> file)
      : whole_{tag("wOF2"), file}, in_(whole_, kWoff2HeaderBytes) {}

  Result<std::vector<std::byte>> read() {
    if (!whole_.holds(0, kWoff2HeaderBytes))
      return damaged(whole_, whole_.bytes.size(), "a header of 48 bytes");
    version_ = whole_.u32(4);
    const bool collection = Tag{version_} == tag("ttcf");
    if (const Result<void> done = read_entries(whole_.u16(12)); !done) return fail(done.error());
    if (const Result<void> done = collection ? read_faces() : add_only_face(); !done) {
      return fail(done.error());
    }
    if (const Result<void> done = unpack(); !done) return fail(done.error());
    if (const Result<void> done = rebuild(); !done) return fail(done.error());
    stream_ = {};
    return assemble_font(tables_, faces_, collection);
  }

 private:
  Result<void> read_entries(std::size_t count) {
    if (count == 0 || count > kMaxTables) {
      return damaged(whole_, 12, "1 to 4096 tables", fmt::format("{}", count));
    }
    for (std::size_t i = 0; i < count; ++i) {
      const std::uint8_t flags = in_.u8();
      Entry entry;
      entry.tag = (flags & 63) == 63 ? Tag{in_.u32()} : tag(kKnownTags[flags & 63]);
      const unsigned version = flags >> 6U;
      const bool outline = entry.tag == tag("glyf") || entry.tag == tag("loca");
      entry.transformed = outline ? version == 0 : version != 0;
      const bool known = !entry.transformed || outline || (entry.tag == tag("hmtx") && version == 1);
      entry.size = in_.base128();
      entry.stored = entry.transformed ? in_.base128() : entry.size;
      if (!in_.good() || !known) return damaged(whole_, in_.place(), "a table entry with a known transform");
      entries_.push_back(entry);
    }
    return {};
  }

  Result<void> add_only_face() {
    faces_.push_back({version_, {}});
    for (std::size_t i = 0; i < entries_.size(); ++i) faces_[0].tables.push_back(i);
    return {};
  }

  Result<void> read_faces() {
    in_.skip(4);  // the collection's version
    const std::size_t count = in_.short255();
    if (!in_.good() || count == 0 || count > kMaxFaces) {
      return damaged(whole_, in_.place(), "1 to 1024 faces");
    }
    for (std::size_t f = 0; f < count; ++f) {
      const std::size_t table_count = in_.short255();
      NewFace face{in_.u32(), {}};
      for (std::size_t i = 0; i < table_count && in_.good(); ++i) {
        face.tables.push_back(in_.short255());
        if (face.tables.back() >= entries_.size()) {
          return damaged(whole_, in_.place(), "the number of a table that exists");
        }
      }
      if (!in_.good()) return damaged(whole_, in_.place(), "a table list for every face");
      faces_.push_back(std::move(face));
    }
    return {};
  }

  /// Unpacks the stream that holds all tables in order.
  Result<void> unpack() {
    std::size_t total = 0;
    const std::size_t limit = max_unpacked(whole_.bytes.size());
    for (const Entry& entry : entries_) {
      total += entry.stored;
      if (total > limit) {
        return damaged(whole_, 16, "tables that a file of this size can hold",
                       fmt::format("more than {} bytes", limit));
      }
    }
    const std::size_t packed = whole_.u32(20);
    if (!whole_.holds(in_.place(), packed)) {
      return damaged(whole_, 20, "a compressed stream that lies inside the file",
                     fmt::format("{} bytes", packed));
    }
    stream_.resize(total);
    std::size_t got = total;
    const auto status = ::BrotliDecoderDecompress(
        packed, reinterpret_cast<const std::uint8_t*>(whole_.bytes.data() + in_.place()), &got,
        reinterpret_cast<std::uint8_t*>(stream_.data()));
    if (status != BROTLI_DECODER_RESULT_SUCCESS || got != total) {
      return damaged(whole_, in_.place(), "a Brotli stream of the stated length",
                     fmt::format("{} of {} bytes", status == BROTLI_DECODER_RESULT_SUCCESS ? got : 0, total));
    }
    return {};
  }

  TableView stored(std::size_t i) const {
    std::size_t at = 0;
    for (std::size_t j = 0; j < i; ++j) at += entries_[j].stored;
    return {entries_[i].tag, std::span(stream_).subspan(at, entries_[i].stored)};
  }

  Result<void> rebuild() {
    tables_.resize(entries_.size());
    for (std::size_t i = 0; i < entries_.size(); ++i) {
      tables_[i].tag = entries_[i].tag;
      if (!entries_[i].transformed) {
        const std::span<const std::byte> bytes = stored(i).bytes;
        tables_[i].bytes.assign(bytes.begin(), bytes.end());
      }
    }
    done_.assign(entries_.size(), false);
    std::size_t room = max_unpacked(whole_.bytes.size());
    for (const NewFace& face : faces_) {
      if (const Result<void> done = rebuild_face(face, room); !done) return done;
    }
    return {};
  }

  std::size_t find(const NewFace& face, const char* name) const {
    for (const std::size_t i : face.tables) {
      if (entries_[i].tag == tag(name)) return i;
    }
    return entries_.size();
  }

  /// Rebuilds the outlines and metrics of a face; tables that faces share are made once.
  Result<void> rebuild_face(const NewFace& face, std::size_t& room) {
    const std::size_t none = entries_.size(), glyf = find(face, "glyf"), loca = find(face, "loca"),
                      hmtx = find(face, "hmtx");
    const bool wants_metrics = hmtx != none && entries_[hmtx].transformed && !done_[hmtx];
    if (glyf != none && entries_[glyf].transformed && !done_[glyf]) {
      if (loca == none || !entries_[loca].transformed) {
        return damaged(whole_, 12, "a transformed loca beside a transformed glyf");
      }
      Result<RebuiltOutlines> made = rebuild_outlines(stored(glyf), room);
      if (!made) return fail(made.error());
      x_mins_[glyf] = std::move(made->x_mins);
      const std::size_t size = made->glyf.size() + made->loca.size();
      room -= std::min(room, size);
      tables_[glyf].bytes = std::move(made->glyf);
      tables_[loca].bytes = std::move(made->loca);
      done_[glyf] = done_[loca] = true;
      use_long_offsets(face);
    }
    if (!wants_metrics) return {};
    const std::size_t hhea = find(face, "hhea"), maxp = find(face, "maxp");
    const std::vector<std::int16_t>& x_mins = x_mins_[glyf];
    if (x_mins.empty() || hhea == none || maxp == none) {
      return damaged(stored(hmtx), 0, "hhea, maxp and transformed outlines beside a transformed hmtx");
    }
    Result<std::vector<std::byte>> made =
        rebuild_metrics(stored(hmtx), stored(hhea).u16(34), stored(maxp).u16(4), x_mins);
    if (!made) return fail(made.error());
    tables_[hmtx].bytes = *std::move(made);
    done_[hmtx] = true;
    return {};
  }

  void use_long_offsets(const NewFace& face) {
    constexpr std::size_t kOffsetFormat = 50;
    const std::size_t head = find(face, "head");
    if (head != entries_.size() && tables_[head].bytes.size() >= kOffsetFormat + 2) {
      tables_[head].bytes[kOffsetFormat + 1] = std::byte{1};
    }
  }

  TableView whole_;
  StreamReader in_;
  std::uint32_t version_ = 0;
  std::vector<Entry> entries_;
  std::vector<NewFace> faces_;
  std::vector<std::byte> stream_;
  std::vector<NewTable> tables_;
  std::vector<bool> done_;
  std::map<std::size_t, std::vector<std::int16_t>> x_mins_;  ///< by table of outlines
};

}  // namespace

Result<std::vector<std::byte>> unpack_woff2(std::span<const std::byte> file) { return Reader(file).read(); }

}  // namespace grafema::detail
