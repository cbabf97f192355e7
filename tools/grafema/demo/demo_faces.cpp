// SPDX-License-Identifier: MIT
// The faces drawn for this project: large, in sentences, with signs between words, and kerned.
#include "demo/demo_canvas.hpp"
#include "grafema/write/lint_drawings.hpp"

namespace grafema::tool {
namespace {

constexpr const char *kPaper = "#f2ead8", *kInk = "#1b1f2a", *kQuiet = "#8a7f68", *kRed = "#b4483c";

class Sheet {
 public:
  Sheet() : scene_(kPaper) {}

  void line(const std::shared_ptr<const Face>& face, std::string_view text, float size, const char* ink,
            PixelPoint at, bool kerned = true) {
    const FontStack stack{face, demo_signs(), built_in_face()};
    TextStyle style{.size = size};
    style.kerning = kerned;
    Paragraph paragraph;
    value_or_give_up(lay_out(stack, text, style, cache_, paragraph));
    value_or_give_up(paint(scene_.image(), stack, paragraph, plain_look(color(ink)), at));
  }
  void caption(std::string_view text, PixelPoint at) { line(built_in_face(), text, 12, kQuiet, at); }
  void square(const Rect& rect, const char* fill) { scene_.bar(rect, fill); }
  Image take() { return scene_.take(); }

 private:
  DemoScene scene_;
  ShapeCache cache_;
};

/// Six small letters and a bracket as pixels, with faults: u begins a row too high, o has a pinhole, i
/// touches its neighbor, the bracket stands alone.
PixelSheet faulty_sheet() {
  PixelSheet sheet;
  sheet.rows = {U"noucirz("};
  constexpr const char* kRows[] = {
      "........"
      "........"
      "........"
      "........"
      "........"
      "........"
      "........"
      "........",
      "........"
      "........"
      "........"
      "........"
      ".......#"
      "........"
      "........"
      "..#.....",
      "........"
      "........"
      "........"
      "........"
      "........"
      "........"
      "........"
      ".#......",
      "........"
      "........"
      "#...#..."
      "........"
      "........"
      "........"
      "........"
      "#.......",
      "####...."
      ".###...."
      "#...#..."
      ".####..."
      ".......#"
      "#.##...."
      "#####..."
      "#.......",
      "#...#..."
      "#####..."
      "#...#..."
      "#......."
      ".......#"
      "##......"
      "...#...."
      "#.......",
      "#...#..."
      "##.##..."
      "#...#..."
      "#......."
      ".......#"
      "#......."
      "..#....."
      "#.......",
      "#...#..."
      "#####..."
      "#...#..."
      "#......."
      ".......#"
      "#......."
      ".#......"
      ".#......",
      "#...#..."
      ".###...."
      ".####..."
      ".####..."
      ".......#"
      "#......."
      "#####..."
      "..#.....",
      "........"
      "........"
      "........"
      "........"
      "........"
      "........"
      "........"
      "........",
      "........"
      "........"
      "........"
      "........"
      "........"
      "........"
      "........"
      "........",
      "........"
      "........"
      "........"
      "........"
      "........"
      "........"
      "........"
      "........"};
  sheet.sheet = value_or_give_up(Image::make(64, 12, PixelFormat::r8));
  for (int y = 0; y < 12; ++y) {
    for (int x = 0; x < 64; ++x) sheet.sheet.row(y)[x] = kRows[y][x] == '#' ? 0 : 255;
  }
  return sheet;
}

/// The letters enlarged, the pixels that are meant in red, and what lint says of them.
void draw_lint(Sheet& page, PixelPoint at) {
  constexpr float kPixel = 5, kLine = 14;
  const PixelSheet sheet = faulty_sheet();
  const std::vector<DrawingFault> faults = value_or_give_up(lint_drawings(sheet));
  const auto square = [&](int x, int y, const char* fill) {
    const float left = at.x + static_cast<float>(x) * kPixel, top = at.y + static_cast<float>(y) * kPixel;
    page.square({left, top, left + kPixel - 1, top + kPixel - 1}, fill);
  };
  for (int y = 0; y < sheet.sheet.height(); ++y) {
    for (int x = 0; x < sheet.sheet.width(); ++x) {
      if (sheet.sheet.row(y)[x] == 0) square(x, y, kInk);
    }
  }
  float line = at.y + 12 * kPixel + 4;
  for (const DrawingFault& fault : faults) {
    const bool letter = fault.character >= U'a' && fault.character <= U'z';
    if (fault.kind == DrawingFaultKind::no_partner && letter) continue;  // there are no capitals at all
    if (fault.x >= 0) square(fault.column * sheet.cell_width + fault.x, fault.y, kRed);
    const std::string text = fault.text();
    const std::size_t colon = text.size() > 72 ? text.find(": ") : std::string::npos;
    page.caption(text.substr(0, colon == std::string::npos ? colon : colon + 1), {at.x, line});
    line += kLine;
    if (colon == std::string::npos) continue;
    page.caption(text.substr(colon + 2), {at.x + 12, line});
    line += kLine;
  }
}

}  // namespace

Image draw_faces() {
  Sheet page;
  const auto sans = demo_face(false), bold = demo_face(true);
  page.caption("Quillmere Sans, regular and bold from the same strokes, 200 px", {40, 24});
  page.line(sans, "Rag", 200, kInk, {26, 10}), page.line(bold, "Rag", 200, kRed, {400, 10});
  page.line(sans, "&Ð", 200, kInk, {826, 10}), page.line(bold, "8", 200, kRed, {1096, 10});
  page.caption("make-font --lint, of a faulty sheet", {866, 262});
  draw_lint(page, {866, 280});
  page.caption("64, 24 and 14 px", {40, 262});
  page.line(sans, "Last tram to Örnhild Steps", 64, kInk, {40, 268});
  page.line(bold, "Café Orvélie, 23:48", 64, kRed, {40, 344});
  page.line(sans, "Foxglove Cross, Tinker’s Weir, Saltglass Quay: nobody rides the Night Ring twice.", 24,
            kInk, {40, 430});
  page.line(bold, "Το τελευταίο τραμ φεύγει στις 23:48. Останній трамвай рушає о 23:48.", 24, kInk,
            {40, 464});
  page.line(sans,
            "Passengers for Pale Orchard may ride the ferry with a tram ticket. Ring the bell once to stop, "
            "twice to go on, and never three times.",
            14, kInk, {40, 502});
  page.line(sans, "Chuyến cuối đi Bến Thủy Tinh · Ostatni tramwaj odjeżdża · Pēdējais tramvajs · Son tramvay",
            14, kInk, {40, 524});
  page.caption("Quillmere Signs between words", {40, 562});
  page.line(sans,
            "Take the \uE000 from the \uE00F, mind the \uE00C, and bring an \uE005: it rains \uE01C until "
            "the \uE006 is lit.",
            30, kInk, {40, 574});
  page.line(sans,
            "\uE000 \uE001 \uE002 \uE003 \uE004 \uE007 \uE00D \uE00E \uE010 \uE012 \uE013 \uE016 \uE018 "
            "\uE019 \uE01A \uE01B \uE020 \uE022 \uE023 \uE027 \uE028 \uE02D \uE02F \uE030",
            38, kRed, {40, 620});
  page.caption("kerned by equal white: without, and with", {40, 682});
  float x = 40;
  for (const char* pair : {"LT", "AV", "To", "Ty", "P.", "Yo", "VA", "Fa", "ГА", "Тг"}) {
    page.line(sans, pair, 44, kQuiet, {x, 690}, false);
    page.line(sans, pair, 44, kInk, {x, 734});
    x += 122;
  }
  return page.take();
}

}  // namespace grafema::tool
