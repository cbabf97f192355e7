// SPDX-License-Identifier: MIT
// Specimens: faces side by side, in sizes, with their metrics lines and characters.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "grafema/atlas/atlas.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/sheet/captions.hpp"
#include "grafema/sheet/specimen.hpp"
#include "grafema/unicode/characters.hpp"

namespace grafema {
namespace {

constexpr float kSpecimenMargin = 32, kCaptionRow = 16, kCellWidth = 72, kCellHeight = 72, kCellSize = 24;
constexpr float kLargestSize = 512;
constexpr float kMetricsLabels = 96;  // room for the names of metrics lines at the right

/// One face's part of the picture: it is drawn twice, first without a target to learn its size.
class Column {
 public:
  Column(const std::shared_ptr<const Face>& face, const SpecimenOptions& options)
      : face_(face), options_(options), stack_{{face}} {}

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
    const Paragraph paragraph = lay(options_.text, size);
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
    const Paragraph paragraph = lay("Hxgp", kSize);
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

  void draw_characters() {
    const auto all = face_->characters();
    std::vector<char32_t> shown;
    for (const auto& [character, glyph] : all) {
      if (shown.size() < options_.most_characters && character > 0x20 && !is_invisible(character)) {
        shown.push_back(character);
      }
    }
    caption(fmt::format("{} characters, the first {}", all.size(), shown.size()), 1);
    const auto columns = static_cast<std::size_t>(std::max(8.0F, std::floor(width_ / kCellWidth)));
    reach_to(static_cast<float>(std::min(columns, shown.size())) * kCellWidth);
    for (std::size_t i = 0; i < shown.size(); ++i) {
      if (target_ == nullptr) break;
      const std::size_t column = i % columns, row = i / columns;
      draw_cell(shown[i], left_ + static_cast<float>(column) * kCellWidth,
                y_ + static_cast<float>(row) * kCellHeight);
    }
    const std::size_t rows = (shown.size() + columns - 1) / columns;
    y_ += static_cast<float>(rows) * kCellHeight;
  }

  void draw_cell(char32_t character, float x, float y) {
    std::string text;
    append_utf8(text, character);
    const Paragraph paragraph = lay(text, kCellSize);
    paint_rect(*target_, {x, y, x + kCellWidth - 4, y + kCellHeight - 4}, faint(0.07F));
    const float inset = std::floor((kCellWidth - 4 - paragraph.advance_box.width()) / 2);
    (void)paint(*target_, stack_, paragraph, plain_look(options_.ink), {x + inset, std::floor(y + 2)});
    cell_caption(fmt::format("{:04X}", static_cast<unsigned>(character)), x, y + kCellHeight - 29, 0.6F);
    cell_caption(face_->glyph_name(face_->find_glyph(character)), x, y + kCellHeight - 17, 0.5F);
  }

  /// Centered under the letter; names that are too long for the cell end in a point.
  void cell_caption(std::string text, float x, float y, float alpha) {
    constexpr float kRoom = kCellWidth - 6;
    const bool cut = caption_width(text) > kRoom;
    while (!text.empty() && caption_width(text + ".") > kRoom) text.pop_back();
    if (cut) text += ".";
    draw_caption(*target_, text, {x + std::floor((kCellWidth - 4 - caption_width(text)) / 2), y},
                 faint(alpha));
  }

  Color faint(float alpha) const { return {options_.ink.red, options_.ink.green, options_.ink.blue, alpha}; }

  std::shared_ptr<const Face> face_;
  const SpecimenOptions& options_;
  FontStack stack_;
  ShapeCache cache_;
  Image* target_ = nullptr;
  float left_ = 0, y_ = 0, width_ = 0;
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
