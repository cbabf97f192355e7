// SPDX-License-Identifier: MIT
// Brings painted pages back and finds paint that no glyph will show.
#include "grafema/atlas/repaint.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "base/hash.hpp"

namespace grafema {
namespace {

bool may_be_painted(const Atlas& atlas) {
  return std::none_of(atlas.pages.begin(), atlas.pages.end(), [](const AtlasPage& p) {
    return is_distance(p.kind) || bits_per_channel(p.image.format()) != 8;
  });
}

Error not_painted() {
  return make_error(
      ErrorKind::unsupported,
      "pages of 8 bits a channel that can be painted: bake with --kind coverage or --kind color");
}

/// Coverage as white paint.
Image to_color(const Image& from) {
  Image out = *Image::make(from.width(), from.height(),
                           PixelFormat::rgba8);  // can't fail: a picture of that size is there
  for (int y = 0; y < from.height(); ++y) {
    std::uint8_t* to = out.row(y);
    for (int x = 0; x < from.width(); ++x, to += 4) {
      const int channels = channel_count(from.format());
      for (int c = 0; c < 3; ++c) {
        to[c] = channels == 1 ? 255 : static_cast<std::uint8_t>(from.value(x, y, c));
      }
      to[3] = static_cast<std::uint8_t>(channels == 1   ? from.value(x, y)
                                        : channels == 4 ? from.value(x, y, 3)
                                                        : 255);
    }
  }
  return out;
}

/// How much paint there is.
int paint_at(const Image& image, int x, int y) {
  const int channels = channel_count(image.format());
  return channels == 4   ? image.value(x, y, 3)
         : channels == 3 ? std::max({image.value(x, y, 0), image.value(x, y, 1), image.value(x, y, 2)})
                         : image.value(x, y);
}

/// What is new, gone or changed, for the eye.
Image difference(const Image& before, const Image& after) {
  Image out = *Image::make(after.width(), after.height(), PixelFormat::rgb8);
  for (int y = 0; y < after.height(); ++y) {
    std::uint8_t* to = out.row(y);
    for (int x = 0; x < after.width(); ++x, to += 3) {
      const int was = paint_at(before, x, y), is = paint_at(after, x, y),
                channels = std::min(channel_count(before.format()), channel_count(after.format()));
      int hue = 0;
      for (int c = 0; channels >= 3 && was > 0 && is > 0 && c < 3; ++c) {
        hue = std::max(hue, std::abs(before.value(x, y, c) - after.value(x, y, c)));
      }
      const int gray = std::min(was, is) / 3;
      const auto byte = [](int v) { return static_cast<std::uint8_t>(std::clamp(v, 0, 255)); };
      to[0] = byte(gray + std::max(was - is, 0)), to[1] = byte(gray + std::max(is - was, 0)),
      to[2] = byte(gray + hue);
    }
  }
  return out;
}

int distance_to(const PixelRect& cell, int x, int y) {
  const int dx = std::max({cell.x - x, 0, x - (cell.x + cell.width - 1)}),
            dy = std::max({cell.y - y, 0, y - (cell.y + cell.height - 1)});
  return dx * dx + dy * dy;
}

/// Counts paint outside of all cells of a page against the nearest ones.
void find_spills(const Atlas& atlas, std::size_t page, std::map<std::size_t, int>& spills) {
  const Image& image = atlas.pages[page].image;
  std::vector<std::size_t> glyphs;
  std::vector<bool> held(static_cast<std::size_t>(image.width()) * static_cast<std::size_t>(image.height()));
  for (std::size_t i = 0; i < atlas.glyphs.size(); ++i) {
    const AtlasGlyph& glyph = atlas.glyphs[i];
    if (glyph.page != page) continue;
    glyphs.push_back(i);
    for (int y = glyph.cell.y; y < glyph.cell.y + glyph.cell.height; ++y) {
      const auto row = held.begin() + static_cast<std::ptrdiff_t>(y) * image.width();
      std::fill_n(row + glyph.cell.x, glyph.cell.width, true);
    }
  }
  if (glyphs.empty()) return;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) {
      if (held[static_cast<std::size_t>(y) * static_cast<std::size_t>(image.width()) +
               static_cast<std::size_t>(x)] ||
          paint_at(image, x, y) == 0) {
        continue;
      }
      ++spills[*std::min_element(glyphs.begin(), glyphs.end(), [&](std::size_t a, std::size_t b) {
        return distance_to(atlas.glyphs[a].cell, x, y) < distance_to(atlas.glyphs[b].cell, x, y);
      })];
    }
  }
}

Atlas copy_of(const Atlas& atlas) {
  Atlas out;
  out.key = atlas.key, out.faces = atlas.faces, out.strikes = atlas.strikes, out.glyphs = atlas.glyphs,
  out.kerning = atlas.kerning;
  for (const AtlasPage& page : atlas.pages) out.pages.push_back({page.image.clone(), page.kind});
  return out;
}

void sign(Atlas& atlas) {
  detail::Fnv1a hash;
  hash.add(atlas.key);
  for (const AtlasPage& page : atlas.pages) hash.add_number(pixel_hash(page.image));
  atlas.key = fmt::format("{:016x}", hash.result());
}

void make_all_color(Atlas& atlas) {
  for (AtlasPage& page : atlas.pages) {
    if (page.kind != PictureKind::color) page.image = to_color(page.image);
    page.kind = PictureKind::color;
  }
  for (Strike& strike : atlas.strikes) strike.kind = PictureKind::color;
}

}  // namespace

Result<Repainted> repaint(const Atlas& atlas, std::vector<PaintedPage> painted) {
  if (!may_be_painted(atlas)) return fail(not_painted());
  bool in_color = false;
  std::set<std::size_t> seen;
  for (const PaintedPage& p : painted) {
    if (p.page >= atlas.pages.size() || !seen.insert(p.page).second) {
      return fail(make_error(ErrorKind::bad_value, "each page of the atlas at most once",
                             fmt::format("page {} of {}", p.page, atlas.pages.size())));
    }
    const Image& page = atlas.pages[p.page].image;
    if (p.image.width() != page.width() || p.image.height() != page.height()) {
      return fail(make_error(ErrorKind::damaged, "a painted page of the page's size",
                             fmt::format("{}x{} for a page of {}x{}", p.image.width(), p.image.height(),
                                         page.width(), page.height())));
    }
    if (bits_per_channel(p.image.format()) != 8) {
      return fail(make_error(ErrorKind::unsupported, "a painted page of 8 bits a channel"));
    }
    in_color = in_color || channel_count(p.image.format()) > 1;
  }
  Repainted out;
  out.atlas = copy_of(atlas);
  if (in_color) make_all_color(out.atlas);
  std::map<std::size_t, int> spills;
  for (PaintedPage& p : painted) {
    AtlasPage& page = out.atlas.pages[p.page];
    Image image = page.kind == PictureKind::color && p.image.format() != PixelFormat::rgba8
                      ? to_color(p.image)
                      : std::move(p.image);
    out.differences.push_back(difference(page.image, image));
    out.pages.push_back(p.page);
    page.image = std::move(image);
    find_spills(out.atlas, p.page, spills);
  }
  for (const auto& [glyph, pixels] : spills) out.spills.push_back({glyph, pixels});
  sign(out.atlas);
  return out;
}

Result<Atlas> enlarged(const Atlas& atlas, int times) {
  if (!may_be_painted(atlas)) return fail(not_painted());
  if (times != 2 && times != 4) {
    return bad_value("2 or 4 times", fmt::format("{}", times));
  }
  Atlas out = copy_of(atlas);
  const auto by = static_cast<float>(times);
  for (AtlasPage& page : out.pages) {
    Result<Image> large =
        Image::make(page.image.width() * times, page.image.height() * times, page.image.format());
    if (!large) return fail(large.error());
    const std::size_t pixel = bytes_per_pixel(page.image.format());
    for (int y = 0; y < large->height(); ++y) {
      for (int x = 0; x < large->width(); ++x) {
        std::copy_n(page.image.row(y / times) + static_cast<std::size_t>(x / times) * pixel, pixel,
                    large->row(y) + static_cast<std::size_t>(x) * pixel);
      }
    }
    page.image = *std::move(large);
  }
  for (Strike& s : out.strikes) {
    s.size *= by, s.padding *= by,
        s.lines = {s.lines.ascent * by, s.lines.descent * by, s.lines.line_gap * by};
  }
  // A phase counts parts of the old pixels: only pictures at whole ones go along.
  std::erase_if(out.glyphs, [](const AtlasGlyph& g) { return g.phase != 0; });
  for (AtlasGlyph& g : out.glyphs) {
    g.cell = {g.cell.x * times, g.cell.y * times, g.cell.width * times, g.cell.height * times};
    g.offset = {g.offset.x * by, g.offset.y * by};
    g.advance *= by;
  }
  for (AtlasKerning& k : out.kerning) {
    for (AtlasKerning::Pair& pair : k.pairs) pair.value *= by;
    for (float& value : k.values) value *= by;
  }
  sign(out);
  return out;
}

Result<Image> draw_page_guide(const Atlas& atlas, std::size_t page, int times) {
  if (page >= atlas.pages.size() || times < 1 || times > 16) {
    return bad_value("a page of the atlas, magnified 1 to 16 times");
  }
  const Image& from = atlas.pages[page].image;
  Result<Image> guide = Image::make(from.width() * times, from.height() * times, PixelFormat::rgba8);
  if (!guide) return guide;
  struct Shade {
    std::uint8_t r, g, b;
  };
  constexpr Shade kOutside{38, 42, 50}, kPadding{84, 92, 108}, kLetter{140, 150, 166}, kFrame{255, 183, 3},
      kBaseline{142, 202, 230};
  std::vector<Shade> ground(
      static_cast<std::size_t>(guide->width()) * static_cast<std::size_t>(guide->height()), kOutside);
  const auto fill = [&](int x0, int y0, int x1, int y1, Shade shade) {
    for (int y = std::max(y0, 0); y < std::min(y1, guide->height()); ++y) {
      for (int x = std::max(x0, 0); x < std::min(x1, guide->width()); ++x) {
        ground[static_cast<std::size_t>(y) * static_cast<std::size_t>(guide->width()) +
               static_cast<std::size_t>(x)] = shade;
      }
    }
  };
  for (const AtlasGlyph& g : atlas.glyphs) {
    if (g.page != page) continue;
    const int x0 = g.cell.x * times, y0 = g.cell.y * times, x1 = (g.cell.x + g.cell.width) * times,
              y1 = (g.cell.y + g.cell.height) * times;
    const int pad = static_cast<int>(atlas.strikes[g.strike].padding) * times,
              base = y0 - static_cast<int>(std::round(g.offset.y * static_cast<float>(times)));
    fill(x0, y0, x1, y1, kPadding);
    fill(x0 + pad, y0 + pad, x1 - pad, y1 - pad, kLetter);
    if (base > y0 && base < y1) fill(x0, base, x1, base + 1, kBaseline);
    fill(x0, y0, x1, y0 + 1, kFrame), fill(x0, y1 - 1, x1, y1, kFrame), fill(x0, y0, x0 + 1, y1, kFrame),
        fill(x1 - 1, y0, x1, y1, kFrame);
  }
  for (int y = 0; y < guide->height(); ++y) {
    std::uint8_t* to = guide->row(y);
    for (int x = 0; x < guide->width(); ++x, to += 4) {
      const Shade& under = ground[static_cast<std::size_t>(y) * static_cast<std::size_t>(guide->width()) +
                                  static_cast<std::size_t>(x)];
      const int px = x / times, py = y / times, paint = paint_at(from, px, py);
      const auto mixed = [&](int c, std::uint8_t below) {
        const int over = channel_count(from.format()) == 1 ? 255 : from.value(px, py, c);
        return static_cast<std::uint8_t>((over * paint + below * (255 - paint)) / 255);
      };
      to[0] = mixed(0, under.r), to[1] = mixed(1, under.g), to[2] = mixed(2, under.b), to[3] = 255;
    }
  }
  return guide;
}

Result<Atlas> make_atlas(const PaintedLetters& sheet) {
  const auto wrong = [](const char* expected, std::size_t letter) {
    return fail(make_error(ErrorKind::damaged, expected, fmt::format("letter {}", letter)));
  };
  if (sheet.image.format() != PixelFormat::rgba8) {
    return fail(make_error(ErrorKind::damaged, "a sheet with four channels"));
  }
  if (!(sheet.size >= kMinSize && sheet.size <= kMaxSize)) {
    return fail(make_error(ErrorKind::damaged, "a size of 0.25 to 8192 pixels per em"));
  }
  Atlas atlas;
  std::map<char32_t, GlyphId> glyph_of;
  for (std::size_t i = 0; i < sheet.letters.size(); ++i) {
    const PaintedLetter& letter = sheet.letters[i];
    const PixelRect& c = letter.cell;
    const bool inside = c.x >= 0 && c.y >= 0 && c.width > 0 && c.height > 0 &&
                        c.x <= sheet.image.width() - c.width && c.y <= sheet.image.height() - c.height;
    if (!inside) return wrong("a cell inside the sheet", i);
    constexpr float kMax = 65535;
    for (const float v : {letter.advance, letter.left, letter.baseline}) {
      if (!(v >= -kMax && v <= kMax)) return wrong("measures within 65535 pixels", i);
    }
    AtlasGlyph glyph;
    glyph.glyph = GlyphId{static_cast<std::uint32_t>(i + 1)};
    glyph.codepoints = letter.characters;
    std::sort(glyph.codepoints.begin(), glyph.codepoints.end());
    for (const char32_t character : letter.characters) {
      if (!glyph_of.emplace(character, glyph.glyph).second) {
        return wrong("a character that no other letter has", i);
      }
    }
    glyph.page = 0, glyph.cell = c, glyph.offset = {letter.left, -letter.baseline},
    glyph.advance = letter.advance;
    atlas.glyphs.push_back(std::move(glyph));
  }
  AtlasKerning kerning;
  for (const PaintedLetters::Kern& kern : sheet.kerning) {
    const auto left = glyph_of.find(kern.left), right = glyph_of.find(kern.right);
    if (left == glyph_of.end() || right == glyph_of.end() || !std::isfinite(kern.value)) {
      return fail(make_error(ErrorKind::damaged, "kerning of letters that the sheet has"));
    }
    kerning.pairs.push_back({left->second, right->second, kern.value});
  }
  std::sort(kerning.pairs.begin(), kerning.pairs.end(), [](const auto& a, const auto& b) {
    return std::pair(a.left, a.right) < std::pair(b.left, b.right);
  });
  atlas.kerning.push_back(std::move(kerning));
  atlas.pages.push_back({sheet.image.clone(), PictureKind::color});
  detail::Fnv1a id;
  id.add(sheet.family);
  id.add_number(pixel_hash(sheet.image));
  atlas.faces.push_back({FaceId{id.result()}, sheet.family, "Painted", sheet.copyright, sheet.license, {}});
  atlas.strikes.push_back({0, PictureKind::color, sheet.size, 0, 0, sheet.lines});
  sign(atlas);
  return atlas;
}

}  // namespace grafema
