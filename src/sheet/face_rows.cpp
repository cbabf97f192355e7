// SPDX-License-Identifier: MIT
// Rows of faces, their letters seen at one height.
#include "grafema/sheet/face_rows.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "grafema/base/utf8.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/sheet/captions.hpp"
#include "grafema/unicode/character_sets.hpp"
#include "grafema/unicode/characters.hpp"

namespace grafema {
namespace {

constexpr float kRowMargin = 24, kNameWidth = 300;

bool has_shape(char32_t character) { return character > ' ' && !is_invisible(character); }

/// Whether the glyph paints something; pictures of fonts count.
bool has_ink(const Face& face, GlyphId glyph) {
  return face.glyph_box(glyph).x_max > face.glyph_box(glyph).x_min ||
         face.facts().outlines == OutlineKind::none;
}

/// The share of the text's visible characters that the face has; 1 where there are none.
float share_of(const Face& face, std::string_view text) {
  std::vector<char32_t> characters;
  add_characters(text, characters);
  std::erase_if(characters, [](char32_t c) { return !has_shape(c); });
  const auto supplied = std::count_if(characters.begin(), characters.end(),
                                      [&](char32_t c) { return face.find_glyph(c) != kMissingGlyph; });
  return characters.empty() ? 1.0F : static_cast<float>(supplied) / static_cast<float>(characters.size());
}

/// Above the letters there is room for accents, below for descenders.
int row_height(const FaceRowsOptions& options) {
  return static_cast<int>(std::ceil(options.letter_height * 3.5F)) + 8;
}

std::size_t rows_of_page(const FaceRowsOptions& options) {
  const int room = options.height - 2 * static_cast<int>(kRowMargin);
  return static_cast<std::size_t>(std::max(1, room / row_height(options)));
}

Result<void> check_rows(const FaceRowsOptions& options) {
  if (!(options.letter_height >= 4 && options.letter_height <= 100)) {
    return bad_value("letters 4 to 100 pixels high", fmt::format("{}", options.letter_height));
  }
  if (std::min(options.width, options.height) < 320 || std::max(options.width, options.height) > 16384) {
    return bad_value("a page of 320 to 16384 pixels", fmt::format("{} x {}", options.width, options.height));
  }
  return {};
}

/// Pixels per em at which the face's small letters, or what it has instead, are as high as they shall be.
float size_for(const Face& face, const FontStack& stack, const std::string& words,
               const FaceRowsOptions& options) {
  constexpr float kTrial = 64, kOfInk = 1.6F;  // drawings without small letters are higher than an x
  const float x_height = face.facts().x_height * kTrial / face.units_per_em();
  ShapeCache cache;
  Paragraph trial;
  float size = kTrial * options.letter_height / x_height;
  if (x_height < kTrial / 8 || face.find_glyph('x') == kMissingGlyph) {
    if (!lay_out(stack, words, {.size = kTrial}, cache, trial)) return kTrial;
    const float ink = ink_box(stack, trial).height();
    size = ink > 0 ? kTrial * options.letter_height * kOfInk / ink : kTrial;
  }
  return std::clamp(size, options.letter_height / 2, options.letter_height * 6);
}

void draw_row(Image& page, const std::shared_ptr<const Face>& face, float top,
              const FaceRowsOptions& options) {
  const FaceNames names = face->names();
  const Color faint{options.ink.red, options.ink.green, options.ink.blue, 0.6F};
  const float middle = top + static_cast<float>(row_height(options)) / 2;
  const std::string facts =
      fmt::format("{} characters, {} glyphs", face->characters().size(), face->glyph_count());
  const auto fitting = [](std::string text) {
    const bool cut = caption_width(text) > kNameWidth - 16;
    while (cut && !text.empty() && caption_width(text + "...") > kNameWidth - 16) text.pop_back();
    while (cut && !text.empty() && (static_cast<unsigned char>(text.back()) & 0xC0U) == 0x80U)
      text.pop_back();
    return cut ? text + "..." : text;
  };
  draw_caption(page, fitting(names.family), {kRowMargin, middle - 18}, options.ink);
  draw_caption(page, fitting(names.style), {kRowMargin, middle - 4}, faint);
  draw_caption(page, fitting(facts), {kRowMargin, middle + 10}, faint);
  paint_rect(page, {kRowMargin, top, static_cast<float>(options.width) - kRowMargin, top + 1},
             {options.ink.red, options.ink.green, options.ink.blue, 0.12F});
  const std::string words = words_for(*face, options.text);
  const FontStack stack{face};
  TextStyle style{.size = size_for(*face, stack, words, options)};
  style.wrap = static_cast<float>(options.width) - 2 * kRowMargin - kNameWidth;
  style.max_lines = 1;
  style.overflow = Overflow::ellipsis;
  style.align = TextAlign::left;
  ShapeCache cache;
  Paragraph paragraph;
  if (!lay_out(stack, words, style, cache, paragraph)) return;
  // On one baseline, or in the middle of the row where there are no small letters.
  const Rect ink = ink_box(stack, paragraph);
  const bool on_baseline = face->find_glyph('x') != kMissingGlyph;
  const float baseline = top + std::round(options.letter_height * 2.1F) + 4;
  const float y = on_baseline ? baseline - paragraph.lines[0].baseline : middle - (ink.top + ink.bottom) / 2;
  (void)paint(page, stack, paragraph, plain_look(options.ink),
              {kRowMargin + kNameWidth, std::round(y)});  // faces without outlines show their names alone
}

}  // namespace

std::string words_for(const Face& face, std::string_view text, std::size_t most) {
  if (share_of(face, text) > 0.5F) return std::string(text);
  std::string sample = face.names().sample;
  if (!sample.empty() && share_of(face, sample) == 1) return sample;
  const std::vector<std::pair<char32_t, GlyphId>> all = face.characters();
  // Some letters and digits of ASCII stand in faces that are chosen for other characters.
  const bool skips_ascii = all.size() > most && share_of(face, "abcdefghijklmnopqrstuvwxyz") < 1;
  std::string words;
  std::size_t count = 0;
  for (const auto& [character, glyph] : all) {
    if (!has_shape(character) || (skips_ascii && character < 0x80) || !has_ink(face, glyph)) continue;
    if (count++ == most) break;
    append_utf8(words, character);
  }
  return words;
}

std::size_t count_face_pages(std::size_t count, const FaceRowsOptions& options) {
  const std::size_t rows = rows_of_page(options);
  return (count + rows - 1) / rows;
}

Result<Image> draw_face_rows(std::span<const std::shared_ptr<const Face>> faces,
                             const FaceRowsOptions& options, std::size_t page) {
  if (const Result<void> right = check_rows(options); !right) return fail(right.error());
  if (page >= count_face_pages(faces.size(), options)) {
    return bad_value("a page that there is",
                     fmt::format("{} of {}", page, count_face_pages(faces.size(), options)));
  }
  const std::size_t rows = rows_of_page(options), first = page * rows,
                    end = std::min(first + rows, faces.size());
  const int height = static_cast<int>(end - first) * row_height(options) + 2 * static_cast<int>(kRowMargin);
  Result<Image> image = Image::make(options.width, height, PixelFormat::rgba8);
  if (!image) return image;
  fill_image(*image, options.paper);
  for (std::size_t i = first; i < end; ++i) {
    draw_row(*image, faces[i],
             kRowMargin + static_cast<float>(static_cast<int>(i - first) * row_height(options)), options);
  }
  return image;
}

}  // namespace grafema
