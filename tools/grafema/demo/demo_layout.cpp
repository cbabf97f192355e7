// SPDX-License-Identifier: MIT
// Draws the demo's pages of layout: speech boxes, columns, tabs, languages.
#include <fmt/format.h>

#include "demo/demo_canvas.hpp"
#include "demo/demo_scenes.hpp"
#include "grafema/sheet/captions.hpp"
#include "grafema/sheet/guides.hpp"

namespace grafema::tool {
namespace {

constexpr const char *kPageNight = "#101b33", *kPagePaper = "#efe6cf", *kPageInk = "#1b1f2a",
                     *kPageAmber = "#efc45e", *kPageQuiet = "#8fa3c4";

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
    draw_caption(scene_.image(), text, at, color(kPageQuiet));
  }
  void bar(const Rect& rect, const char* fill) { scene_.bar(rect, fill); }
  Image take() { return scene_.take(); }

 private:
  DemoScene scene_;
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
  page.bar({at.x, at.y, at.x + kBoxWidth, at.y + kBoxHeight}, kPagePaper);
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
  Page page(kPageNight);
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
    page.bar({at.x - 3, at.y, at.x - 1, at.y + 150}, kPageQuiet);
    page.bar({at.x + 381, at.y, at.x + 383, at.y + 150}, kPageQuiet);
    page.put(sans, notice, style, kPagePaper, at);
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
    page.put(sans, row, style, kPageAmber, {40, y});
    y += 44;
  }
  TextStyle clock{.size = 30, .align = TextAlign::right};
  clock.reserve = {"88:88"};
  for (const char* value : {"1:11", "23:48", "0:02"}) {
    page.bar({900, y - 132, 902, y - 96}, kPageQuiet);
    const Rect box = page.put(sans, value, clock, kPageAmber, {910, y - 132});
    page.bar({box.right + 8, y - 132, box.right + 10, y - 96}, kPageQuiet);
    y += 44;
  }
  return page.take();
}

namespace {

struct Announcement {
  const char* language;  ///< its name
  const char* tag;
  const char* text;
};

// "The last tram leaves at midnight."
constexpr Announcement kAnnouncements[] = {
    {"English", "en", "The last tram leaves at midnight."},
    {"German", "de", "Die letzte Bahn fährt um Mitternacht."},
    {"Greek", "el", "Το τελευταίο τραμ φεύγει τα μεσάνυχτα."},
    {"Ukrainian", "uk", "Останній трамвай рушає опівночі."},
    {"Arabic", "ar", "يغادر آخر ترام عند منتصف الليل."},
    {"Hebrew", "he", "הטראם האחרון יוצא בחצות."},
    {"Hindi", "hi", "आख़िरी ट्राम आधी रात को छूटती है।"},
    {"Bengali", "bn", "শেষ ট্রাম মধ্যরাত্রে ছাড়ে।"},
    {"Punjabi", "pa", "ਆਖ਼ਰੀ ਟਰਾਮ ਅੱਧੀ ਰਾਤ ਨੂੰ ਚੱਲਦੀ ਹੈ।"},
    {"Gujarati", "gu", "છેલ્લી ટ્રામ મધ્યરાત્રિએ ઊપડે છે."},
    {"Odia", "or", "ଶେଷ ଟ୍ରାମ ମଧ୍ୟରାତ୍ରିରେ ଛାଡ଼େ।"},
    {"Tamil", "ta", "கடைசி டிராம் நள்ளிரவில் புறப்படும்."},
    {"Telugu", "te", "చివరి ట్రామ్ అర్ధరాత్రి బయలుదేరుతుంది."},
    {"Kannada", "kn", "ಕೊನೆಯ ಟ್ರಾಮ್ ಮಧ್ಯರಾತ್ರಿ ಹೊರಡುತ್ತದೆ."},
    {"Malayalam", "ml", "അവസാന ട്രാം അർദ്ധരാത്രിയിൽ പുറപ്പെടും."},
    {"Sinhala", "si", "අවසන් ට්\u200Dරෑම් රථය මධ්\u200Dයම රාත්\u200Dරියේ පිටත් වේ."},
    {"Thai", "th", "รถรางเที่ยวสุดท้ายออกตอนเที่ยงคืน"},
    {"Lao", "lo", "ລົດລາງຖ້ຽວສຸດທ້າຍອອກຕອນທ່ຽງຄືນ"},
    {"Khmer", "km", "រថភ្លើងចុងក្រោយចេញនៅកណ្ដាលអធ្រាត្រ។"},
    {"Burmese", "my", "နောက်ဆုံးဓာတ်ရထား သန်းခေါင်ယံမှာ ထွက်မည်။"},
    {"Dzongkha", "dz", "མཐའ་མའི་གློག་འཁོར་ནམ་ཕྱེད་ལ་འགྲོ།"},
    {"Japanese", "ja", "最終電車は真夜中に発車します。"},
};

/// The faces of all announcements, each behind those before it.
FontStack faces_of_announcements() {
  FontStack stack{demo_face(false)};
  for (const char* path :
       {"dejavu/DejaVuSans.ttf", "tlwg/Waree.ttf", "../opentype/ipaexfont-gothic/ipaexg.ttf",
        "lohit-devanagari/Lohit-Devanagari.ttf", "lohit-bengali/Lohit-Bengali.ttf",
        "lohit-punjabi/Lohit-Gurmukhi.ttf", "lohit-gujarati/Lohit-Gujarati.ttf", "lohit-oriya/Lohit-Odia.ttf",
        "lohit-tamil-classical/Lohit-Tamil-Classical.ttf", "lohit-telugu/Lohit-Telugu.ttf",
        "lohit-kannada/Lohit-Kannada.ttf", "lohit-malayalam/Lohit-Malayalam.ttf", "sinhala/lklug.ttf",
        "mondulkiri/Mo5V56MO.ttf", "padauk/Padauk-Regular.ttf", "tibetan/DDC_Uchen.ttf"}) {
    stack.add(face_at(std::string("/usr/share/fonts/truetype/") + path));
  }
  stack.add(built_in_face());
  return stack;
}

}  // namespace

Image draw_languages() {
  Page page(kPageNight);
  const FontStack stack = faces_of_announcements();
  constexpr std::size_t kRows = (std::size(kAnnouncements) + 1) / 2;
  constexpr float kStep = 50, kColumn = 630;
  for (std::size_t i = 0; i < std::size(kAnnouncements); ++i) {
    const Announcement& one = kAnnouncements[i];
    const float x = 24 + static_cast<float>(i / kRows) * kColumn,
                y = 20 + static_cast<float>(i % kRows) * kStep;
    page.caption(one.language, {x, y + 12});
    TextStyle style{.size = 25, .align = TextAlign::left};
    style.language = one.tag;
    page.put(stack, one.text, style, kPagePaper, {x + 88, y});
    page.bar({x, y + 44, x + 580, y + 45}, "#2b3a5c");
  }
  page.caption("mixed directions, their clusters (bars) and caret stops (ticks that lean with the text)",
               {24, 586});
  page.bar({20, 604, 780, 784}, kPagePaper);
  const char* mixed =
      "Tram 7 \u2067הטראם האחרון\u2069 stops at \u2067رصيف الزجاج\u2069.\nנהגת: Wren Achterberg, קו N1.";
  TextStyle style{.size = 34};
  style.wrap = 730.0F, style.line_spacing = 1.5F;
  page.put(stack, mixed, style, kPageInk, {36, 626});
  page.guides(stack, mixed, {36, 626});
  page.caption("--writing vertical-rl --digits-across 2 --script-gaps", {806, 586});
  TextStyle sign{.size = 30, .writing = WritingMode::vertical_rl};
  sign.digits_across = 2, sign.script_gaps = true;
  sign.wrap = 180.0F;
  sign.language = "ja";
  page.put(stack, "最終電車は23時48分に、「塩ガラス埠頭」へ発車します。N1番線。", sign, kPageAmber,
           {820, 604});
  page.put(stack, "LANTERN",
           {.size = 22, .writing = WritingMode::vertical_rl, .stance = LetterStance::upright}, kPageAmber,
           {1120, 604});
  page.put(stack, "Night Ring", {.size = 30, .writing = WritingMode::vertical_rl}, kPageAmber, {1180, 604});
  return page.take();
}

}  // namespace grafema::tool
