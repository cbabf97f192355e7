// SPDX-License-Identifier: MIT
// Loads baked atlases and checks everything: a descriptor is a file like any other.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <functional>

#include "files/json.hpp"
#include "files/outputs/kept_pages.hpp"
#include "grafema/files/files.hpp"

namespace grafema {
namespace {

using detail::Json;

constexpr int kAtlasVersion = 1;
constexpr double kMaxPixels = 65535;

/// Reads one list of the descriptor; the first wrong row is kept as an error that names it.
class Rows {
 public:
  Rows(const Json& document, const char* list, std::optional<Error>& error) : list_(list), error_(error) {
    const auto at = document.find(list);
    if (at == document.end() || !at->is_array()) {
      wrong("a list");
    } else {
      rows_ = &*at;
    }
  }

  std::size_t size() const { return rows_ == nullptr || error_ ? 0 : rows_->size(); }
  void enter(std::size_t row) { index_ = row; }

  const Json* field(const char* name) {
    const Json& row = (*rows_)[index_];
    const auto at = row.is_object() ? row.find(name) : row.end();
    return row.is_object() && at != row.end() ? &*at : nullptr;
  }

  std::string text(const char* name) {
    const Json* value = field(name);
    if (value == nullptr || !value->is_string()) wrong(name);
    return value != nullptr && value->is_string() ? value->get<std::string>() : std::string{};
  }

  double number(const char* name, double low, double high) {
    const Json* value = field(name);
    return value == nullptr ? (wrong(name), low) : number(*value, name, low, high);
  }

  double number(const Json& value, const char* name, double low, double high) {
    const double v = value.is_number() ? value.get<double>() : NAN;
    if (v >= low && v <= high) return v;
    wrong(name);
    return low;
  }

  std::size_t index(const char* name, std::size_t count) {
    return static_cast<std::size_t>(whole(number(name, 0, static_cast<double>(count) - 1), name));
  }

  double whole(double v, const char* name) {
    if (v != std::floor(v)) wrong(name);
    return v;
  }

  /// A list of numbers, `count` of them.
  std::vector<double> numbers(const char* name, std::size_t count, double low, double high) {
    std::vector<double> out(count, low);
    const Json* value = field(name);
    if (value == nullptr || !value->is_array() || value->size() != count) {
      wrong(name);
      return out;
    }
    for (std::size_t i = 0; i < count; ++i) out[i] = number((*value)[i], name, low, high);
    return out;
  }

  void wrong(const char* what) {
    if (!error_) {
      error_ = make_error(ErrorKind::damaged, "a value that fits the atlas",
                          fmt::format("another in '{}', row {}: {}", list_, index_, what));
    }
  }

 private:
  const char* list_;
  std::optional<Error>& error_;
  const Json* rows_ = nullptr;
  std::size_t index_ = 0;
};

/// Gives the picture of a page by its number and the name that the descriptor has for it.
using PageReader = std::function<FileResult<Image>(std::size_t page, const std::string& name)>;

/// Holds a page's picture against what the descriptor says of it.
FileResult<AtlasPage> check_page(FileResult<Image> image, const std::string& name, PictureKind kind,
                                 int width, int height, const std::string& hash) {
  if (!image) return tl::unexpected(image.error());
  const auto refuse = [&name](const char* expected, const std::string& found) {
    return tl::unexpected<FileError>({make_error(ErrorKind::damaged, expected, found), name});
  };
  if (image->width() != width || image->height() != height) {
    return refuse("a page of the size in the descriptor",
                  fmt::format("{}x{}", image->width(), image->height()));
  }
  if (image->format() != page_format(kind, bits_per_channel(image->format()))) {
    return refuse("a page with the channels of its kind",
                  fmt::format("{} channels", channel_count(image->format())));
  }
  if (fmt::format("{:016x}", pixel_hash(*image)) != hash) {
    return refuse("a page whose hash is that in the descriptor", fmt::format("{:016x}", pixel_hash(*image)));
  }
  return AtlasPage{*std::move(image), kind};
}

PictureKind read_kind(Rows& rows) {
  const std::optional<PictureKind> kind = find_picture_kind(rows.text("kind"));
  if (!kind) rows.wrong("kind");
  return kind.value_or(PictureKind::distance);
}

FileResult<void> read_pages(const Json& document, const PageReader& read_page, Atlas& atlas,
                            std::optional<Error>& error) {
  Rows rows(document, "pages", error);
  for (std::size_t i = 0; i < rows.size(); ++i) {
    rows.enter(i);
    const PictureKind kind = read_kind(rows);
    const std::string image = rows.text("image"), hash = rows.text("hash");
    const int width = static_cast<int>(rows.number("width", 1, 16384)),
              height = static_cast<int>(rows.number("height", 1, 16384));
    // A page stands beside its descriptor; a name with folders in it could lead anywhere.
    if (image.find_first_of("/\\") != std::string::npos || image.empty()) rows.wrong("image");
    if (error) return {};
    FileResult<AtlasPage> page = check_page(read_page(i, image), image, kind, width, height, hash);
    if (!page && detail::is_page_hash(hash)) {  // a run that was ended may have replaced the page alone
      const std::string kept = detail::kept_page(image, hash);
      if (auto before = check_page(read_page(i, kept), kept, kind, width, height, hash))
        page = std::move(before);
    }
    if (!page) return tl::unexpected(page.error());
    for (const AtlasPage& other : atlas.pages) {
      const bool same = other.image.width() == width && other.image.height() == height &&
                        other.image.format() == page->image.format();
      if (other.kind == kind && !same) rows.wrong("pages of one kind have one size and format");
    }
    atlas.pages.push_back(*std::move(page));
  }
  return {};
}

std::vector<AxisValue> read_axes(Rows& rows) {
  std::vector<AxisValue> axes;
  const Json* list = rows.field("axes");
  if (list == nullptr) return axes;
  if (!list->is_object()) rows.wrong("axes");
  for (const auto& [name, value] : list->items()) {
    if (name.empty() || name.size() > 4) rows.wrong("axes");
    axes.push_back({tag(name), static_cast<float>(rows.number(value, "axes", -kMaxPixels, kMaxPixels))});
  }
  return axes;
}

void read_faces(const Json& document, Atlas& atlas, std::optional<Error>& error) {
  Rows rows(document, "faces", error);
  for (std::size_t i = 0; i < rows.size(); ++i) {
    rows.enter(i);
    const std::string id = rows.text("id");
    if (id.size() != 16 || id.find_first_not_of("0123456789abcdef") != std::string::npos) rows.wrong("id");
    if (error) return;
    atlas.faces.push_back({FaceId{std::strtoull(id.c_str(), nullptr, 16)}, rows.text("family"),
                           rows.text("style"), rows.text("copyright"), rows.text("license"),
                           read_axes(rows)});
  }
}

void read_strikes(const Json& document, Atlas& atlas, std::optional<Error>& error) {
  Rows rows(document, "strikes", error);
  for (std::size_t i = 0; i < rows.size(); ++i) {
    rows.enter(i);
    Strike s;
    s.face = rows.index("face", atlas.faces.size());
    s.kind = read_kind(rows);
    s.size = static_cast<float>(rows.number("size", kMinSize, kMaxSize));
    s.reach = static_cast<float>(rows.number("reach", is_distance(s.kind) ? 0.5 : 0, 1024));
    s.padding = static_cast<float>(rows.number("padding", 0, 1024));
    const auto metric = [&rows](const char* name) {
      return static_cast<float>(rows.number(name, -kMaxPixels, kMaxPixels));
    };
    s.lines = {metric("ascent"), metric("descent"), metric("line_gap")};
    atlas.strikes.push_back(s);
  }
}

void read_codepoints(Rows& rows, AtlasGlyph& glyph) {
  const Json* list = rows.field("codepoints");
  if (list == nullptr || !list->is_array()) {
    rows.wrong("codepoints");
    return;
  }
  for (const Json& value : *list) {
    glyph.codepoints.push_back(static_cast<char32_t>(rows.number(value, "codepoints", 0, 0x10FFFF)));
  }
}

void read_glyphs(const Json& document, Atlas& atlas, std::optional<Error>& error) {
  Rows rows(document, "glyphs", error);
  for (std::size_t i = 0; i < rows.size(); ++i) {
    rows.enter(i);
    AtlasGlyph glyph;
    glyph.strike = rows.index("strike", atlas.strikes.size());
    glyph.glyph = GlyphId{static_cast<std::uint32_t>(rows.number("glyph", 0, 0xFFFFFF))};
    glyph.advance = static_cast<float>(rows.number("advance", -kMaxPixels, kMaxPixels));
    read_codepoints(rows, glyph);
    if (rows.field("phase") != nullptr) {
      glyph.phase = static_cast<std::uint8_t>(rows.whole(rows.number("phase", 0, 3), "phase"));
    }
    if (!error && rows.field("page") != nullptr) {
      glyph.page = rows.index("page", atlas.pages.size());
      const auto cell = rows.numbers("cell", 4, 0, kMaxPixels);
      const auto offset = rows.numbers("offset", 2, -kMaxPixels, kMaxPixels);
      glyph.cell = {static_cast<int>(cell[0]), static_cast<int>(cell[1]), static_cast<int>(cell[2]),
                    static_cast<int>(cell[3])};
      glyph.offset = {static_cast<float>(offset[0]), static_cast<float>(offset[1])};
      if (error) return;
      const AtlasPage& page = atlas.pages[*glyph.page];
      const bool inside = glyph.cell.x + glyph.cell.width <= page.image.width() &&
                          glyph.cell.y + glyph.cell.height <= page.image.height();
      if (!inside || glyph.cell.empty()) rows.wrong("cell");
      if (page.kind != atlas.strikes[glyph.strike].kind) rows.wrong("page");
    }
    atlas.glyphs.push_back(std::move(glyph));
  }
}

std::vector<std::vector<GlyphId>> read_classes(Rows& rows, const char* name) {
  std::vector<std::vector<GlyphId>> classes;
  const Json* list = rows.field(name);
  if (list == nullptr || !list->is_array()) {
    rows.wrong(name);
    return classes;
  }
  for (const Json& members : *list) {
    classes.emplace_back();
    if (!members.is_array()) rows.wrong(name);
    if (!members.is_array()) return classes;
    for (const Json& member : members) {
      classes.back().push_back(GlyphId{static_cast<std::uint32_t>(rows.number(member, name, 0, 0xFFFFFF))});
    }
  }
  return classes;
}

void read_kerning(const Json& document, Atlas& atlas, std::optional<Error>& error) {
  Rows rows(document, "kerning", error);
  for (std::size_t i = 0; i < rows.size(); ++i) {
    rows.enter(i);
    AtlasKerning kerning;
    kerning.strike = rows.index("strike", atlas.strikes.size());
    const Json *pairs = rows.field("pairs"), *values = rows.field("values");
    if (pairs == nullptr || !pairs->is_array() || values == nullptr || !values->is_array()) {
      rows.wrong("pairs");
    }
    if (error) return;
    for (const Json& pair : *pairs) {
      if (!pair.is_array() || pair.size() != 3) rows.wrong("pairs");
      if (error) return;
      const auto id = [&](std::size_t k) {
        return GlyphId{static_cast<std::uint32_t>(rows.number(pair[k], "pairs", 0, 0xFFFFFF))};
      };
      kerning.pairs.push_back(
          {id(0), id(1), static_cast<float>(rows.number(pair[2], "pairs", -kMaxPixels, kMaxPixels))});
    }
    kerning.first = read_classes(rows, "first");
    kerning.second = read_classes(rows, "second");
    if (values->size() != kerning.first.size()) rows.wrong("values");
    for (const Json& line : *values) {
      if (!line.is_array() || line.size() != kerning.second.size()) rows.wrong("values");
      if (error) return;
      for (const Json& value : line) {
        kerning.values.push_back(static_cast<float>(rows.number(value, "values", -kMaxPixels, kMaxPixels)));
      }
    }
    std::sort(kerning.pairs.begin(), kerning.pairs.end(), [](const auto& a, const auto& b) {
      return std::pair(a.left, a.right) < std::pair(b.left, b.right);
    });
    atlas.kerning.push_back(std::move(kerning));
  }
}

FileResult<Atlas> read_descriptor(std::string_view text, const std::string& path,
                                  const PageReader& read_page) {
  const Result<Json> document = detail::read_json(text);
  if (!document) return tl::unexpected<FileError>({document.error(), path});
  detail::Fields fields(*document);
  if (fields.text("format") != "grafema-atlas") fields.fail_at("format", "\"grafema-atlas\"");
  if (fields.whole("version", 0) < 1 || fields.whole("version", 0) > kAtlasVersion) {
    fields.fail_at("version", "version 1");
  }
  Atlas atlas;
  atlas.key = fields.text("key");
  std::optional<Error> error = fields.error();
  if (!error) {
    if (FileResult<void> pages = read_pages(*document, read_page, atlas, error); !pages) {
      return tl::unexpected(pages.error());
    }
  }
  for (const auto read : {read_faces, read_strikes, read_glyphs, read_kerning}) {
    if (!error) read(*document, atlas, error);
  }
  if (!error && atlas.strikes.empty()) error = make_error(ErrorKind::damaged, "at least one strike");
  if (error) return tl::unexpected<FileError>({*error, path});
  return atlas;
}

}  // namespace

FileResult<Atlas> load_atlas(const std::string& path) {
  const FileResult<std::string> text = load_text(path);
  if (!text) return tl::unexpected(text.error());
  return read_descriptor(*text, path, [&path](std::size_t, const std::string& name) {
    return load_png((std::filesystem::path(path).parent_path() / name).string());
  });
}

Result<Atlas> read_atlas(std::string_view descriptor, std::span<const std::span<const std::byte>> pages) {
  FileResult<Atlas> atlas = read_descriptor(
      descriptor, {}, [&pages](std::size_t page, const std::string& name) -> FileResult<Image> {
        if (page >= pages.size()) {
          return tl::unexpected<FileError>({make_error(ErrorKind::damaged, "a picture for every page",
                                                       fmt::format("{} pictures", pages.size())),
                                            name});
        }
        Result<Image> image = read_png(pages[page]);
        if (!image) return tl::unexpected<FileError>({image.error(), name});
        return *std::move(image);
      });
  if (!atlas) return fail(atlas.error().error);
  return *std::move(atlas);
}

}  // namespace grafema
