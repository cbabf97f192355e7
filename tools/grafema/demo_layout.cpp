// SPDX-License-Identifier: MIT
// Draws the demo's pages of layout: speech boxes, columns, tabs, languages.
#include <fmt/format.h>

#include "demo_canvas.hpp"
#include "demo_scenes.hpp"
#include "grafema/sheet/captions.hpp"
#include "grafema/sheet/guides.hpp"

namespace grafema::tool {
namespace {

constexpr const char *kNight = "#101b33", *kPaper = "#efe6cf", *kInk = "#1b1f2a", *kAmber = "#efc45e",
                     *kQuiet = "#8fa3c4";

/// A picture on which text is laid out in boxes.
class Page {
 public:
  explicit Page(const char* backdrop) : scene_(backdrop) {}

  /// Lays the text out in a box whose top left corner is `at`; gives the lines' box.
  Rect put(const FontStack& stack, std::string_view text, const TextStyle& style, const char* fill,
           PixelPoint at) {
    value_or_give_up(lay_out(stack, text, style, cache_, paragraph_));
    value_or_give_up(paint(scene_.image(), stack, paragraph_, plain_look(color(fill)), at));
    return paragraph_.advance_box.moved(at);
  }
  void guides(const FontStack& stack, std::string_view text, PixelPoint at) {
    draw_guides(scene_.image(), stack, text, paragraph_, {.at = at}, view_of(scene_.image()));
  }
  void caption(const std::string& text, PixelPoint at) {
    draw_caption(scene_.image(), text, at, color(kQuiet));
  }
  void bar(const Rect& rect, const char* fill) { scene_.bar(rect, fill); }
  Image take() { return scene_.take(); }

 private:
  Scene scene_;
  ShapeCache cache_;
  Paragraph paragraph_;
};

struct SpeechBox {
  const char* caption;
  Overflow overflow;
  EllipsisPlace ellipsis;
};

void put_speech(Page& page, const FontStack& stack, const SpeechBox& box, PixelPoint at) {
  constexpr float kBoxWidth = 380, kBoxHeight = 92, kPadding = 14;
  page.caption(box.caption, {at.x, at.y - 18});
  page.bar({at.x, at.y, at.x + kBoxWidth, at.y + kBoxHeight}, kPaper);
  TextStyle style{.size = 20, .vertical_align = VerticalAlign::middle};
  style.wrap = kBoxWidth - 2 * kPadding;
  style.box_height = kBoxHeight - 2 * kPadding;
  style.overflow = box.overflow, style.ellipsis = box.ellipsis;
  page.put(stack,
           "Nobody rides the Night Ring twice, says Wren Achterberg, unless the fog has eaten their stop and "
           "the bell "
           "will not ring.",
           style, "#b4483c", {at.x + kPadding, at.y + kPadding});
}

}  // namespace

Image draw_layout() {
  Page page(kNight);
  const FontStack sans{demo_face(false), built_in_face()};
  const SpeechBox boxes[] = {
      {"--overflow show: it stands out, and a note says so", Overflow::show, EllipsisPlace::end},
      {"--overflow clip", Overflow::clip, EllipsisPlace::end},
      {"--overflow ellipsis", Overflow::ellipsis, EllipsisPlace::end},
      {"--overflow ellipsis --ellipsis middle", Overflow::ellipsis, EllipsisPlace::middle},
      {"--overflow smaller", Overflow::smaller, EllipsisPlace::end},
      {"--overflow tighten", Overflow::tighten, EllipsisPlace::end}};
  for (std::size_t i = 0; i < std::size(boxes); ++i) {
    put_speech(page, sans, boxes[i],
               {40 + static_cast<float>(i % 3) * 410, 56 + static_cast<float>(i / 3) * 160});
  }
  const char* notice =
      "Passengers for Pale Orchard may ride the ferry with a tram ticket. Ring the bell once to stop, twice "
      "to go "
      "on, and never three times; nobody remembers what happens then.";
  const std::pair<const char*, TextStyle> columns[] = {
      {"--align justify", {.size = 20, .align = TextAlign::justify}},
      {"--balance --align center", {.size = 20, .align = TextAlign::center, .balance = true}},
      {"--indent 28,0 --keep-last-words", {.size = 20, .first_indent = 28, .keep_last_words = true}}};
  for (std::size_t i = 0; i < std::size(columns); ++i) {
    const PixelPoint at{40 + static_cast<float>(i) * 410, 386};
    page.caption(columns[i].first, {at.x, at.y - 18});
    TextStyle style = columns[i].second;
    style.wrap = 380.0F;
    page.bar({at.x - 3, at.y, at.x - 1, at.y + 150}, kQuiet);
    page.bar({at.x + 381, at.y, at.x + 383, at.y + 150}, kQuiet);
    page.put(sans, notice, style, kPaper, at);
  }
  page.caption(
      "--tabs 40right,70,560decimal,760right --reserve 88:88: columns of a board whose values change",
      {40, 588});
  const char* rows[] = {"\t4\tFoxglove Cross\t3.50\t23:04", "\tN1\tTinker\xE2\x80\x99s Weir\t12.25\t23:11",
                        "\t12\tCaf\xC3\xA9 Orv\xC3\xA9lie\t0.5\t0:02"};
  float y = 610;
  for (const char* row : rows) {
    TextStyle style{.size = 30};
    style.tabs = {
        {40, TabAlign::right}, {70, TabAlign::left}, {560, TabAlign::decimal}, {760, TabAlign::right}};
    style.features = {{tag("tnum")}};
    page.put(sans, row, style, kAmber, {40, y});
    y += 44;
  }
  TextStyle clock{.size = 30, .align = TextAlign::right};
  clock.reserve = {"88:88"};
  for (const char* value : {"1:11", "23:48", "0:02"}) {
    page.bar({900, y - 132, 902, y - 96}, kQuiet);
    const Rect box = page.put(sans, value, clock, kAmber, {910, y - 132});
    page.bar({box.right + 8, y - 132, box.right + 10, y - 96}, kQuiet);
    y += 44;
  }
  return page.take();
}

Image draw_languages() {
  Page page(kNight);
  const FontStack stack{demo_face(false), face_at("/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf"),
                        face_at("/usr/share/fonts/truetype/tlwg/Waree.ttf"),
                        face_at("/usr/share/fonts/truetype/vlgothic/VL-Gothic-Regular.ttf"), built_in_face()};
  const std::pair<const char*, const char*> announcements[] = {
      {"en", "The last tram to Saltglass Quay leaves at 23:48."},
      {"de",
       "Die letzte Stra\xC3\x9F"
       "enbahn f\xC3\xA4hrt um 23:48 Uhr ab."},
      {"fr",
       "Le dernier tram part \xC3\xA0 23\xE2\x80\xAFh\xE2\x80\xAF"
       "48, quai du Verre-Sal\xC3\xA9."},
      {"el", "Το τελευταίο τραμ φεύγει στις 23:48."},
      {"uk", "Останній трамвай до набережної рушає о 23:48."},
      {"ar", "آخر ترام إلى رصيف الزجاج المالح يغادر في 23:48."},
      {"he", "הטראם האחרון לרציף הזכוכית יוצא ב־23:48."},
      {"th", "รถรางเที่ยวสุดท้ายออกเวลา 23:48 น. ที่ท่าเรือ"},
      {"ja", "最終の路面電車は23時48分に、塩ガラス埠頭へ発車します。"}};
  float y = 30;
  for (const auto& [language, text] : announcements) {
    TextStyle style{.size = 30};
    style.wrap = 560.0F;
    style.language = language;
    page.caption(language, {24, y + 10});
    const Rect box = page.put(stack, text, style, kPaper, {56, y});
    page.bar({56, box.bottom + 6, 616, box.bottom + 7}, "#2b3a5c");
    y = box.bottom + 14;
  }
  page.caption("mixed directions, their clusters (bars) and caret stops (ticks that lean with the text)",
               {660, 26});
  page.bar({656, 44, 1250, 540}, kPaper);
  const char* mixed =
      "Tram 7 \u2067הטראם האחרון\u2069 stops at \u2067رصيف الزجاج\u2069 (4 min).\nנהגת: Wren Achterberg, קו "
      "N1.\nالسائقة Ilse Varga، الخط 12.";
  TextStyle style{.size = 38};
  style.wrap = 560.0F, style.line_spacing = 1.5F;
  page.put(stack, mixed, style, kInk, {672, 74});
  page.guides(stack, mixed, {672, 74});
  return page.take();
}

}  // namespace grafema::tool
