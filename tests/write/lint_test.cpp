// SPDX-License-Identifier: MIT
// Faults put into a good sheet are found where they were put.
#include <algorithm>
#include <catch2/catch.hpp>

#include "grafema/write/lint_drawings.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

/// Letters of the shipped face without those whose other case it has not.
PixelSheet good_sheet() {
  auto sheet = load_font_sheet(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot.png");
  REQUIRE(sheet.has_value());
  PixelSheet good = *std::move(sheet);
  good.rows.resize(6);
  return good;
}

std::pair<int, int> cell_of(const PixelSheet& sheet, char32_t c) {
  for (std::size_t row = 0; row < sheet.rows.size(); ++row) {
    const std::size_t column = sheet.rows[row].find(c);
    if (column != std::u32string::npos) return {static_cast<int>(row), static_cast<int>(column)};
  }
  FAIL("no such cell");
  return {};
}

class Painter {
 public:
  explicit Painter(PixelSheet& sheet, char32_t c) : sheet_(sheet), cell_(cell_of(sheet, c)) {}
  bool ink(int x, int y) const {
    return sheet_.sheet.value(left() + x, top() + y, channel()) < 128 && opaque(x, y);
  }
  void set(int x, int y, bool on) {
    std::uint8_t* const p = sheet_.sheet.row(top() + y) + (left() + x) * channel_count(sheet_.sheet.format());
    const int channels = channel_count(sheet_.sheet.format());
    for (int c = 0; c < channels; ++c) p[c] = on ? 0 : 255;
    if (channels == 4) p[3] = 255;
  }
  void fill(int x, int y, int width, int height, bool on) {
    for (int j = y; j < y + height; ++j) {
      for (int i = x; i < x + width; ++i) set(i, j, on);
    }
  }

 private:
  bool opaque(int x, int y) const {
    return channel_count(sheet_.sheet.format()) < 4 || sheet_.sheet.value(left() + x, top() + y, 3) > 127;
  }
  static int channel() { return 0; }
  int left() const { return cell_.second * sheet_.cell_width; }
  int top() const { return cell_.first * sheet_.cell_height; }

  PixelSheet& sheet_;
  std::pair<int, int> cell_;
};

std::vector<DrawingFault> faults_of(const PixelSheet& sheet) {
  const auto faults = lint_drawings(sheet);
  REQUIRE(faults.has_value());
  return *faults;
}

DrawingFault one_of(const std::vector<DrawingFault>& faults, DrawingFaultKind kind, char32_t c) {
  const auto at = std::find_if(faults.begin(), faults.end(),
                               [&](const DrawingFault& f) { return f.kind == kind && f.character == c; });
  REQUIRE(at != faults.end());
  return *at;
}

}  // namespace

TEST_CASE("a good sheet has no faults", "[lint][make-font]") { CHECK(faults_of(good_sheet()).empty()); }

TEST_CASE("letters that stand off their fellows by a pixel are told", "[lint][make-font]") {
  PixelSheet sheet = good_sheet();
  Painter n(sheet, U'n');
  int top = 0;
  while (!n.ink(0, top)) ++top;
  n.set(0, top - 1, true);
  Painter z(sheet, U'z');
  z.set(1, sheet.baseline, true);
  const auto faults = faults_of(sheet);
  const DrawingFault higher = one_of(faults, DrawingFaultKind::higher, U'n');
  CHECK(higher.y == top - 1);
  CHECK(higher.x == 0);
  CHECK_THAT(higher.text(),
             Catch::Contains("'n' (U+006E) in line 5, cell 15") && Catch::Contains("one pixel higher"));
  CHECK_THAT(one_of(faults, DrawingFaultKind::lower, U'z').text(), Catch::Contains("one pixel lower"));
}

TEST_CASE("holes, neighbors that touch, stems and figures that differ are told", "[lint][make-font]") {
  PixelSheet sheet = good_sheet();
  Painter dash(sheet, U'-');
  dash.fill(1, 3, 3, 3, true);
  dash.set(2, 4, false);
  const DrawingFault hole = one_of(faults_of(sheet), DrawingFaultKind::pinhole, U'-');
  CHECK(hole.x == 2);
  CHECK(hole.y == 4);

  sheet = good_sheet();
  Painter(sheet, U'b').set(7, 5, true);
  Painter(sheet, U'c').set(0, 6, true);
  const DrawingFault touch = one_of(faults_of(sheet), DrawingFaultKind::touches, U'b');
  CHECK(touch.fellow == U'c');
  CHECK(touch.x == 7);
  CHECK(touch.y == 5);

  sheet = good_sheet();
  Painter l(sheet, U'I');
  const auto stems = faults_of(sheet);
  l.fill(0, 0, 8, sheet.cell_height, false);
  l.fill(1, 2, 3, 7, true);
  const DrawingFault stem = one_of(faults_of(sheet), DrawingFaultKind::stroke_width, U'I');
  CHECK(stem.found == 3);
  CHECK(stem.usual != 3);

  sheet = good_sheet();
  Painter(sheet, U'7').set(6, 4, true);
  const DrawingFault figure = one_of(faults_of(sheet), DrawingFaultKind::figure_width, U'7');
  CHECK(figure.found > figure.usual);
  CHECK_THAT(figure.text(), Catch::Contains("pixels wide"));
}

TEST_CASE("a pixel that is missing in a stroke is seen, the gap of a dot is not", "[lint][make-font]") {
  PixelSheet sheet = good_sheet();
  Painter stem(sheet, U'I');
  stem.fill(0, 0, 8, sheet.cell_height, false);
  stem.fill(2, 2, 1, 7, true);
  stem.set(2, 5, false);
  const DrawingFault gap = one_of(faults_of(sheet), DrawingFaultKind::gap, U'I');
  CHECK(gap.x == 2);
  CHECK(gap.y == 5);
  CHECK_THAT(gap.text(), Catch::Contains("missing in a stroke"));
  stem.fill(0, 0, 8, sheet.cell_height, false);
  stem.fill(1, 4, 6, 1, true);
  stem.set(3, 4, false);
  CHECK(one_of(faults_of(sheet), DrawingFaultKind::gap, U'I').x == 3);
  for (const DrawingFault& fault : faults_of(good_sheet())) CHECK(fault.kind != DrawingFaultKind::gap);
}

TEST_CASE("brackets and letters without their partners are told", "[lint][make-font]") {
  PixelSheet sheet = good_sheet();
  for (const char32_t gone : {U')', U'q'}) {
    const auto [row, column] = cell_of(sheet, gone);
    sheet.rows[static_cast<std::size_t>(row)][static_cast<std::size_t>(column)] = U' ';
  }
  const auto faults = faults_of(sheet);
  CHECK(one_of(faults, DrawingFaultKind::no_partner, U'(').fellow == U')');
  CHECK(one_of(faults, DrawingFaultKind::no_partner, U'Q').fellow == U'q');
  CHECK(faults.size() == 2);
}

TEST_CASE("partners may stand in cells of another size", "[lint][make-font]") {
  auto sheet = load_font_sheet(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot_europe.png");
  REQUIRE(sheet.has_value());
  CHECK(faults_of(*sheet).empty());
  sheet->blocks.clear();
  CHECK_FALSE(faults_of(*sheet).empty());  // capitals with accents stand there
}
