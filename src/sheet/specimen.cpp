// SPDX-License-Identifier: MIT
// Specimens: faces side by side, in sizes, with their metrics lines and characters.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "grafema/atlas/atlas.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/sheet/captions.hpp"
#include "grafema/sheet/face_rows.hpp"
#include "grafema/sheet/specimen.hpp"
#include "grafema/unicode/characters.hpp"

namespace grafema {
namespace {

constexpr float kSpecimenMargin = 32, kCaptionRow = 16, kCellWidth = 72, kCellHeight = 72, kCellSize = 24,
                kWidestCell = 220;
constexpr float kLargestSize = 512;
constexpr float kMetricsLabels = 96;  // room for the names of metrics lines at the right

/// Whether most of the face's characters are private use: pictures, with names instead of code points.
bool is_icon_face(const Face& face) {
  const auto all = face.characters();
  const auto is_private = [](char32_t c) { return (c >= 0xE000 && c <= 0xF8FF) || c >= 0xF0000; };
  const auto count =
      std::count_if(all.begin(), all.end(), [&](const auto& c) { return is_private(c.first); });
  return static_cast<std::size_t>(count) * 2 > all.size();
}

/// One face's part of the picture: it is drawn twice, first without a target to learn its size.
class Column {
 public:
  Column(const std::shared_ptr<const Face>& face, const SpecimenOptions& options)
      : face_(face), options_(options), stack_{{face}}, words_(words_for(*face, options.text)) {}

  float width() const { return width_; }
  float height() const { return y_; }

  void draw(Image* target, float left) {
    target_ = target;
    left_ = left;
    y_ = kSpecimenMargin;
    const FaceNames names = face_->names();
    caption(fmt::format("{} {}", names.family, names.style), 2);
    caption(fmt::format("{} glyphs, {:.0f} units per em", face_->glyph_count(), face_->units_per_em()), 1);
    y_ += kCaptionRow;
    for (const float size : options_.sizes) draw_size(size);
    draw_metrics();
    draw_characters();
    y_ += kSpecimenMargin;
  }

 private:
  void caption(const std::string& text, int scale) {
    reach_to(caption_width(text, scale));
    if (target_ != nullptr) draw_caption(*target_, text, {left_, y_}, options_.ink, scale);
    y_ += kCaptionRow * static_cast<float>(scale) + 4;
  }

  void reach_to(float width) { width_ = std::max(width_, width); }

  Paragraph lay(std::string_view text, float size) {
    Paragraph paragraph;
    (void)lay_out(stack_, text, {.size = size}, cache_, paragraph);
    return paragraph;
  }

  void draw_size(float size) {
    const Paragraph paragraph = lay(words_, size);
    reach_to(paragraph.advance_box.width());
    if (target_ != nullptr) {
      draw_caption(*target_, fmt::format("{} px", size), {left_, y_}, faint(0.6F));
      (void)paint(*target_, stack_, paragraph, plain_look(options_.ink), {left_, std::floor(y_ + 14)});
    }
    y_ += 14 + std::ceil(paragraph.advance_box.height()) + 8;
  }

  /// A short word in the largest size with the lines that its measures come from.
  void draw_metrics() {
    constexpr float kSize = 96;
    std::string word = "Hxgp";
    std::erase_if(word, [&](char c) { return face_->find_glyph(static_cast<char32_t>(c)) == kMissingGlyph; });
    const Paragraph paragraph = lay(word.empty() ? words_for(*face_, "Hxgp", 4) : word, kSize);
    const float scale = kSize / face_->units_per_em(), width = paragraph.advance_box.width();
    const FaceFacts facts = face_->facts();
    const LineMetrics lines = face_->line_metrics();
    y_ += kCaptionRow;
    reach_to(width + kMetricsLabels);
    if (target_ != nullptr) {
      const float baseline = std::floor(y_ + paragraph.ascent);
      const std::pair<const char*, float> named[] = {{"ascent", lines.ascent},
                                                     {"cap height", facts.cap_height},
                                                     {"x height", facts.x_height},
                                                     {"baseline", 0},
                                                     {"descent", -lines.descent}};
      float label_bottom = -1000;
      for (const auto& [name, height] : named) {
        const float line = std::floor(baseline - height * scale + 0.5F);
        paint_rect(*target_, {left_, line, left_ + width + 8, line + 1}, {0.85F, 0.2F, 0.25F, 0.6F});
        const float label = std::max(line - 6, label_bottom);  // labels of lines that stand close slide apart
        draw_caption(*target_, name, {left_ + width + 12, label}, {0.75F, 0.15F, 0.2F, 1});
        label_bottom = label + 12;
      }
      (void)paint(*target_, stack_, paragraph, plain_look(options_.ink),
                  {left_, baseline - paragraph.ascent});
    }
    y_ += std::ceil(paragraph.advance_box.height()) + kCaptionRow;
  }

  /// A cell of the table at the end.
  struct Cell {
    GlyphId glyph{};
    char32_t character = 0;  ///< 0: no character leads to the glyph
    std::string name;
  };

  void draw_characters() {
    const auto all = face_->characters();
    std::vector<Cell> cells;
    if (is_icon_face(*face_)) {
      std::map<GlyphId, char32_t> first;
      for (const auto& [character, glyph] : all) first.emplace(glyph, character);
      const std::size_t count = std::min<std::size_t>(face_->glyph_count(), options_.max_icons + 1);
      for (std::size_t i = 1; i < count; ++i) {  // the first is the shape of missing glyphs
        const auto glyph = static_cast<GlyphId>(i);
        const auto at = first.find(glyph);
        cells.push_back({glyph, at == first.end() ? U'\0' : at->second, face_->glyph_name(glyph)});
      }
      caption(fmt::format("{} glyphs, {} characters", face_->glyph_count(), all.size()), 1);
    } else {
      for (const auto& [character, glyph] : all) {
        if (cells.size() == options_.max_characters) break;
        if (character > 0x20 && !is_invisible(character))
          cells.push_back({glyph, character, face_->glyph_name(glyph)});
      }
      caption(fmt::format("{} characters, the first {}", all.size(), cells.size()), 1);
    }
    cell_width_ = kCellWidth;
    for (const Cell& cell : cells)
      cell_width_ = std::clamp(caption_width(cell.name) + 10, cell_width_, kWidestCell);
    const auto columns = static_cast<std::size_t>(std::max(8.0F, std::floor(width_ / cell_width_)));
    reach_to(static_cast<float>(std::min(columns, cells.size())) * cell_width_);
    for (std::size_t i = 0; i < cells.size() && target_ != nullptr; ++i) {
      const std::size_t column = i % columns, row = i / columns;
      draw_cell(cells[i], left_ + static_cast<float>(column) * cell_width_,
                y_ + static_cast<float>(row) * kCellHeight);
    }
    const std::size_t rows = (cells.size() + columns - 1) / columns;
    y_ += static_cast<float>(rows) * kCellHeight;
  }

  void draw_cell(const Cell& cell, float x, float y) {
    std::string text;
    append_utf8(text, cell.character == 0 ? U'\uFFFD' : cell.character);
    Paragraph paragraph = lay(text, kCellSize);
    if (cell.character == 0 && !paragraph.glyphs.empty()) {
      paragraph.glyphs.resize(1);
      paragraph.glyphs[0].glyph = cell.glyph;
      paragraph.advance_box.right = face_->advance(cell.glyph) * kCellSize / face_->units_per_em();
    }
    paint_rect(*target_, {x, y, x + cell_width_ - 4, y + kCellHeight - 4}, faint(0.07F));
    const float inset = std::floor((cell_width_ - 4 - paragraph.advance_box.width()) / 2);
    (void)paint(*target_, stack_, paragraph, plain_look(options_.ink), {x + inset, std::floor(y + 2)});
    if (cell.character != 0) {
      cell_caption(fmt::format("{:04X}", static_cast<unsigned>(cell.character)), x, y + kCellHeight - 29,
                   0.6F);
    }
    cell_caption(cell.name, x, y + kCellHeight - 17, 0.5F);
  }

  /// Centered under the letter; names that are too long for the cell end in a point.
  void cell_caption(std::string text, float x, float y, float alpha) {
    const float room = cell_width_ - 6;
    const bool cut = caption_width(text) > room;
    while (!text.empty() && caption_width(text + ".") > room) text.pop_back();
    if (cut) text += ".";
    draw_caption(*target_, text, {x + std::floor((cell_width_ - 4 - caption_width(text)) / 2), y},
                 faint(alpha));
  }

  Color faint(float alpha) const { return {options_.ink.red, options_.ink.green, options_.ink.blue, alpha}; }

  std::shared_ptr<const Face> face_;
  const SpecimenOptions& options_;
  FontStack stack_;
  std::string words_;
  ShapeCache cache_;
  Image* target_ = nullptr;
  float left_ = 0, y_ = 0, width_ = 0, cell_width_ = kCellWidth;
};

}  // namespace

Result<Image> draw_specimen(std::span<const std::shared_ptr<const Face>> faces,
                            const SpecimenOptions& options) {
  if (faces.empty()) return bad_value("at least one face");
  for (const float size : options.sizes) {
    if (!(size >= kMinSize && size <= kLargestSize)) {
      return fail(
          make_error(ErrorKind::bad_value, "sizes of 0.25 to 512 pixels per em", fmt::format("{}", size)));
    }
  }
  std::vector<Column> columns;
  float width = kSpecimenMargin, height = 0;
  for (const std::shared_ptr<const Face>& face : faces) {
    columns.emplace_back(face, options);
    columns.back().draw(nullptr, 0);
    width += columns.back().width() + kSpecimenMargin;
    height = std::max(height, columns.back().height());
  }
  Result<Image> image = Image::make(static_cast<int>(std::ceil(width)), static_cast<int>(std::ceil(height)),
                                    PixelFormat::rgba8);
  if (!image) return image;
  fill_image(*image, options.paper);
  float left = kSpecimenMargin;
  for (Column& column : columns) {
    column.draw(&*image, left);
    left += column.width() + kSpecimenMargin;
  }
  return image;
}

}  // namespace grafema
