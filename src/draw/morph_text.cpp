// SPDX-License-Identifier: MIT
// A face whose glyphs are letters on their way, and a page that they are painted on again while they are.
#include "grafema/draw/morph_text.hpp"

#include <algorithm>
#include <cmath>

#include "draw/morph_source.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/outline/outline_points.hpp"
#include "grafema/outline/stroke.hpp"
#include "grafema/text/text_outline.hpp"

namespace grafema {
namespace {

/// Where a private use area begins: a letter is the character of its number from there on.
constexpr char32_t kFirstLetter = 0xF0000;

/// One text, laid out, as letters.
struct Row {
  std::vector<Contours> letters;
  Rect box;
};

Result<Row> lay_out_row(const FontStack& stack, const std::string& text, const TextStyle& style,
                        ShapeCache& cache, Notes* notes) {
  Paragraph paragraph;
  if (const Result<void> laid = lay_out(stack, text, style, cache, paragraph, notes); !laid)
    return fail(laid.error());
  std::vector<LetterOutline> letters;
  if (const Result<void> read = outline_text(stack, paragraph, letters, notes); !read)
    return fail(read.error());
  Row row;
  row.box = paragraph.box;
  for (LetterOutline& letter : letters) row.letters.push_back(std::move(letter.contours));
  return row;
}

float share_of_room(TextAlign align) {
  return align == TextAlign::center                             ? 0.5F
         : align == TextAlign::right || align == TextAlign::end ? 1.0F
                                                                : 0.0F;
}

}  // namespace

float ease(MorphEasing easing, float t) {
  switch (easing) {
    case MorphEasing::even:
      break;
    case MorphEasing::soft:
      return t * t * (3 - 2 * t);
    case MorphEasing::fall:
      return t * t;
    case MorphEasing::brake:
      return 1 - (1 - t) * (1 - t);
    case MorphEasing::overshoot: {
      constexpr float kOvershoot = 1.7F;
      const float back = t - 1;
      return 1 + back * back * ((kOvershoot + 1) * back + kOvershoot);
    }
  }
  return t;
}

struct MorphText::Memory {
  MorphTextOptions options;
  std::vector<Morph> morphs;
  std::shared_ptr<detail::MorphSource> source;
  std::shared_ptr<GlyphSource> shared;  // the same
  FontStack fonts;
  std::string text;
  TextStyle label_style;
  Rect reach;
  RasterScratch scratch;
  std::vector<float> values;
  std::vector<Rect> boxes;
  Contours letter, drawn, dot;
  OutlinePoints outline;
  std::vector<OutlinePoint> points;
  std::vector<FontPoint> places;
  std::vector<std::size_t> dots;  // of each letter of the stage
  std::vector<float> shown;       // the own time of each letter on the page; below 0: not there
  std::size_t stage = static_cast<std::size_t>(-1);

  std::size_t stage_at(float t) const {
    const float last = static_cast<float>(morphs.size());
    const float within = t >= 0 ? std::min(t, last) : 0;  // what is no number is 0
    return std::min(static_cast<std::size_t>(within), morphs.size() - 1);
  }
  float own_time(std::size_t at, std::size_t i, float t) const {
    const float share = std::clamp(t - static_cast<float>(at), 0.0F, 1.0F);
    const float own = morphs[at].letter_time(i, share);
    return options.own_easing ? options.own_easing(own) : ease(options.easing, own);
  }

  /// What is drawn of `letter` in place of it. Where that can't be made the letter itself stays.
  void draw_otherwise(std::size_t i, float own) {
    if (options.drawing == MorphDrawing::line) {
      const StrokeStyle style{.width = options.line_width, .join = StrokeJoin::round, .tolerance = 0.05F};
      if (stroke(letter, style, drawn)) std::swap(letter, drawn);
    } else if (options.drawing == MorphDrawing::dots) {
      drawn.clear(), points.clear();
      morphs[stage].points(i, dots[i], own, places);
      for (const FontPoint& place : places)
        points.push_back({.place = place, .tangent = {1, 0}, .normal = {0, 1}});
      if (place_marks(points, dot, {}, drawn)) std::swap(letter, drawn);
    }
  }

  /// Dots of a letter: for the longer of its two outlines.
  void count_dots(std::size_t i) {
    if (options.drawing != MorphDrawing::dots) return;
    constexpr double kMax = 100'000;
    double longest = 0;
    for (const float end : {0.0F, 1.0F}) {
      morphs[stage].letter(i, end, letter);
      outline.measure(letter);
      longest = std::max(longest, outline.length());
    }
    dots[i] = static_cast<std::size_t>(std::clamp(longest / options.dot_step, 1.0, kMax));
  }

  void paint(std::size_t i, float own) {
    const PixelRect cell = source->cell(i);
    if (cell.empty()) return;
    morphs[stage].letter(i, own, letter);
    draw_otherwise(i, own);
    const PixelPoint corner = source->corner(i);  // of the label
    const Transform map{1, 0, 0, -1, -corner.x, -corner.y};
    values.resize(static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height));
    const PixelRect area{0, 0, cell.width, cell.height};
    const bool distance = options.kind == PictureKind::distance;
    const Result<void> made = distance ? rasterize_distance(letter, map, area, options.reach, values, scratch)
                                       : rasterize_coverage(letter, map, area, values, scratch);
    if (made) source->store(i, values, distance ? options.reach : 0);
  }

  bool set_stage(std::size_t at) {
    stage = at;
    boxes.assign(source->letters(), Rect{});
    const float line = options.drawing == MorphDrawing::filled ? 0 : options.line_width / 2;
    for (std::size_t i = 0; i < morphs[at].size(); ++i) {
      count_dots(i);
      const FontRect r = morphs[at].reach(i);
      // An easing may go beyond the ends by a tenth of the way: so far do letters leave what their ends
      // cover.
      const bool goes_beyond = options.own_easing || options.easing == MorphEasing::overshoot;
      const float beyond = goes_beyond ? 0.1F * std::max(r.x_max - r.x_min, r.y_max - r.y_min) : 0;
      boxes[i] = Rect{r.x_min, -r.y_max, r.x_max, -r.y_min}.grown(
          line + beyond + (options.kind == PictureKind::distance ? options.reach : 1));
    }
    std::fill(shown.begin(), shown.end(), -1.0F);
    return source->set_cells(boxes);
  }
};

MorphText::MorphText(std::unique_ptr<Memory> memory) : memory_(std::move(memory)) {}
MorphText::~MorphText() = default;

Result<std::unique_ptr<MorphText>> MorphText::make(const FontStack& stack,
                                                   const std::vector<std::string>& texts,
                                                   const MorphTextOptions& options, Notes* notes) {
  if (texts.size() < 2) return bad_value("two texts or more");
  if (options.kind != PictureKind::coverage && options.kind != PictureKind::distance) {
    return bad_value("pictures of coverage or distance");
  }
  if (!(options.reach >= 1 && options.reach <= 64)) return bad_value("a reach from 1 to 64 pixels");
  if (!(options.line_width > 0 && options.line_width <= 1000 && options.dot_step > 0 &&
        options.dot_step <= 1e6F)) {
    return bad_value("a line up to 1,000 pixels wide, and a step between dots");
  }
  auto memory = std::make_unique<Memory>();
  memory->options = options;
  ShapeCache cache;
  std::vector<Row> rows;
  float width = 0, height = 0;
  for (const std::string& text : texts) {
    Result<Row> row = lay_out_row(stack, text, options.style, cache, notes);
    if (!row) return fail(row.error());
    width = std::max(width, row->box.width()), height = std::max(height, row->box.height());
    rows.push_back(*std::move(row));
  }
  for (Row& row : rows) {
    const float aside = (width - row.box.width()) * share_of_room(options.style.align);
    for (Contours& letter : row.letters) {
      for (FontPoint& p : letter.points) p.x += aside;
    }
  }
  std::size_t letters = 0;
  for (std::size_t i = 0; i + 1 < rows.size(); ++i) {
    // Straight pieces stay within a twentieth of a pixel: no eye tells them from curves.
    Result<Morph> morph =
        Morph::make(rows[i].letters, rows[i + 1].letters, {options.pairing, 0.05F, options.stagger});
    if (!morph) return fail(morph.error());
    letters = std::max(letters, morph->size());
    memory->morphs.push_back(*std::move(morph));
  }
  for (const Morph& morph : memory->morphs) {
    for (std::size_t i = 0; i < morph.size(); ++i) {
      const FontRect r = morph.reach(i);
      memory->reach = enclosing(memory->reach, Rect{r.x_min, -r.y_max, r.x_max, -r.y_min});
    }
  }
  memory->source = std::make_shared<detail::MorphSource>(letters, options.style.size, options.kind,
                                                         PixelPoint{width, height});
  memory->shared = memory->source;
  memory->fonts.add(detail::make_morph_metrics(letters, options.style.size, {width, height}));
  for (std::size_t i = 0; i <= letters; ++i)
    append_utf8(memory->text, kFirstLetter + static_cast<char32_t>(i));
  memory->label_style.size = options.style.size;
  memory->shown.assign(letters, -1.0F);
  memory->dots.assign(letters, 0);
  add_circle(options.line_width / 2, memory->dot);
  for (std::size_t i = memory->morphs.size(); i-- > 0;) {  // after this the page has room for each
    if (!memory->set_stage(i))
      return fail(make_error(ErrorKind::does_not_fit, "letters that fit a page of 8,192 pixels a side"));
  }
  auto made = std::unique_ptr<MorphText>(new MorphText(std::move(memory)));
  made->show(0);
  return made;
}

void MorphText::show(float t) {
  Memory& m = *memory_;
  const std::size_t stage = m.stage_at(t);
  m.source->begin();
  if (stage != m.stage) m.set_stage(stage);
  for (std::size_t i = 0; i < m.morphs[stage].size(); ++i) {
    const float own = m.own_time(stage, i, t);
    if (own == m.shown[i]) continue;
    m.shown[i] = own;
    m.paint(i, own);
  }
  m.source->end();
}

void MorphText::outline(float t, Contours& out) {
  Memory& m = *memory_;
  const std::size_t stage = m.stage_at(t);
  out.clear();
  for (std::size_t i = 0; i < m.morphs[stage].size(); ++i) {
    m.morphs[stage].letter(i, m.own_time(stage, i, t), m.letter);
    out.commands.insert(out.commands.end(), m.letter.commands.begin(), m.letter.commands.end());
    out.points.insert(out.points.end(), m.letter.points.begin(), m.letter.points.end());
  }
  out.may_overlap = true;
}

std::size_t MorphText::changes() const { return memory_->morphs.size(); }
const FontStack& MorphText::fonts() const { return memory_->fonts; }
const std::shared_ptr<GlyphSource>& MorphText::source() const { return memory_->shared; }
const std::string& MorphText::text() const { return memory_->text; }
const TextStyle& MorphText::label_style() const { return memory_->label_style; }
Rect MorphText::reach() const { return memory_->reach; }

}  // namespace grafema
