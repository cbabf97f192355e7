// SPDX-License-Identifier: MIT
// Variable faces: axes, tuples with stated and inferred deltas, metrics, named places, what is asked in vain.
#include <catch2/catch.hpp>

#include "font/outline/gvar.hpp"
#include "font/variation/axes.hpp"
#include "grafema/write/make_font.hpp"
#include "support/bytes.hpp"
#include "support/cff_builder.hpp"
#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::Bytes;

namespace {

/// Tuples of one glyph: where they peak, and the points they move (none: all).
struct Tuple {
  double peak;
  std::vector<int> points;
  std::vector<int> dx, dy;
  bool has_region = false;
  double start = 0, end = 0;
};

Bytes packed(const std::vector<int>& deltas) {
  Bytes out;
  for (const int d : deltas) out.u8(0x40).u16(d);  // runs of one word
  return out;
}

/// The glyph's data: every tuple with a peak and points of its own.
Bytes glyph_data(const std::vector<Tuple>& tuples) {
  Bytes headers, data;
  for (const Tuple& t : tuples) {
    Bytes own;
    own.u8(static_cast<long>(t.points.size()));
    int before = 0;
    for (const int p : t.points) {
      own.u8(0).u8(p - before);  // runs of one byte
      before = p;
    }
    own.add(packed(t.dx)).add(packed(t.dy));
    headers.u16(static_cast<long>(own.size()))
        .u16(0x8000 | 0x2000 | (t.has_region ? 0x4000 : 0))
        .f2dot14(t.peak);
    if (t.has_region) headers.f2dot14(t.start).f2dot14(t.end);
    data.add(own);
  }
  Bytes out = Bytes().u16(static_cast<long>(tuples.size())).u16(static_cast<long>(4 + headers.size()));
  out.add(headers).add(data);
  if (out.size() % 2 != 0) out.u8(0);
  return out;
}

Bytes gvar(const std::vector<Bytes>& glyphs) {
  Bytes head = Bytes().u16(1).u16(0).u16(1).u16(0).u32(0).u16(static_cast<long>(glyphs.size())).u16(1),
        offsets, data;
  head.u32(static_cast<long>(20 + (glyphs.size() + 1) * 4));
  offsets.u32(0);
  for (const Bytes& g : glyphs) {
    data.add(g);
    offsets.u32(static_cast<long>(data.size()));
  }
  return head.add(offsets).add(data);
}

/// One axis: wght 100 to 900, standard 400, and the places Regular, Bold.
Bytes fvar() {
  return Bytes()
      .u16(1)
      .u16(0)
      .u16(16)
      .u16(2)
      .u16(1)
      .u16(20)
      .u16(2)
      .u16(8)
      .text("wght")
      .fixed(100)
      .fixed(400)
      .fixed(900)
      .u16(0)
      .u16(300)
      .u16(301)
      .u16(0)
      .fixed(400)
      .u16(302)
      .u16(0)
      .fixed(700);
}

Bytes names(const std::vector<std::pair<int, std::string>>& list) {
  Bytes head =
            Bytes().u16(0).u16(static_cast<long>(list.size())).u16(static_cast<long>(6 + list.size() * 12)),
        texts;
  for (const auto& [id, text] : list) {
    head.words(3, 1, 0x409, id, text.size() * 2, texts.size());
    for (const char c : text) texts.u16(c);
  }
  return head.add(texts);
}

/// A square of points (0,0) (0,700) (500,700) (500,0) as glyphs 0 and 1.
test::FontBuilder square_font() {
  FontDrawing drawing;
  drawing.names.family = "Night Signs";
  drawing.lines = {800, 200, 0};
  for (int i = 0; i < 2; ++i) {
    DrawnGlyph glyph;
    if (i == 1) glyph.characters = {U'A'};
    glyph.outline = test::polygon({{0, 0}, {0, 700}, {500, 700}, {500, 0}});
    glyph.advance = 600;
    drawing.glyphs.push_back(glyph);
  }
  test::FontBuilder builder(*make_font(drawing));
  builder.table("fvar") = fvar();
  builder.table("name") =
      names({{1, "Night Signs"}, {2, "Regular"}, {300, "Weight"}, {301, "Regular"}, {302, "Bold"}});
  return builder;
}

std::shared_ptr<const Face> at(const Face& face, float weight, Notes* notes = nullptr) {
  const AxisValue place[] = {{tag("wght"), weight}};
  return face.instance(place, notes);
}

std::vector<FontPoint> points(const Face& face, std::uint32_t glyph = 1) {
  Contours out;
  REQUIRE(face.read_outline(GlyphId{glyph}, out).has_value());
  return out.points;
}

}  // namespace

TEST_CASE("a face names its axes and places", "[variations]") {
  const auto face = square_font().face();
  REQUIRE(face->axes().size() == 1);
  const Axis axis = face->axes()[0];
  CHECK((axis.tag == tag("wght") && axis.name == "Weight" && axis.min == 100 && axis.standard == 400 &&
         axis.max == 900));
  REQUIRE(face->instances().size() == 2);
  CHECK(face->instances()[1].name == "Bold");
  CHECK(face->instances()[1].coordinates == std::vector<AxisValue>{{tag("wght"), 700}});
  CHECK(built_in_face()->axes().empty());
}

TEST_CASE("an instance is a face with an id of its own; the standard place is the face itself",
          "[variations]") {
  const auto face = square_font().face();
  CHECK(at(*face, 400)->id() == face->id());
  CHECK(at(*face, 700)->id() != face->id());
  CHECK(at(*face, 700)->id() == at(*face, 700)->id());
  CHECK(at(*face, 700)->names().style == "Bold");
  CHECK(at(*face, 650)->names().style == "Regular");  // nothing says what 650 is called
  CHECK(at(*at(*face, 700), 400)->id() == face->id());
}

TEST_CASE("values outside an axis are clamped, unknown axes passed over, both with a note", "[variations]") {
  const auto face = square_font().face();
  Notes notes;
  CHECK(at(*face, 2000, &notes)->id() == at(*face, 900)->id());
  const AxisValue wrong[] = {{tag("GRIN"), 1}};
  CHECK(face->instance(wrong, &notes)->id() == face->id());
  REQUIRE(notes.all().size() == 2);
  CHECK(notes.all()[0] == Note{.kind = NoteKind::clamped_axis,
                               .character = static_cast<std::uint32_t>(tag("wght")),
                               .wanted = 2000,
                               .given = 900});
  CHECK(notes.all()[1].kind == NoteKind::unknown_axis);
  CHECK(describe(notes.all()[0]).find("wght") != std::string::npos);
}

TEST_CASE("stated deltas move all points by what the place weighs", "[variations]") {
  test::FontBuilder builder = square_font();
  builder.table("gvar") =
      gvar({{}, glyph_data({{1, {}, {0, 0, 100, 100, 0, 80, 0, 0}, {0, 50, 50, 0, 0, 0, 0, 0}}})});
  const auto face = builder.face();
  CHECK(points(*face) == std::vector<FontPoint>{{0, 0}, {0, 700}, {500, 700}, {500, 0}});
  CHECK(points(*at(*face, 900)) == std::vector<FontPoint>{{0, 0}, {0, 750}, {600, 750}, {600, 0}});
  CHECK(points(*at(*face, 650)) == std::vector<FontPoint>{{0, 0}, {0, 725}, {550, 725}, {550, 0}});
  CHECK(points(*at(*face, 100)) == points(*face));    // the other side of the standard
  CHECK(at(*face, 900)->advance(GlyphId{1}) == 680);  // the phantom point moved by 80
  CHECK(at(*face, 650)->advance(GlyphId{1}) == 640);
  CHECK(points(*at(*face, 900), 0) == points(*face, 0));  // a glyph without data
}

TEST_CASE("deltas that are left out are inferred from their neighbors", "[variations]") {
  test::FontBuilder builder = square_font();
  // Only the points 0 and 2 are stated: 1 lies at 0 along x and at 700 along y, 3 the other way round.
  builder.table("gvar") = gvar({{}, glyph_data({{1, {0, 2}, {10, 110}, {20, 60}}})});
  CHECK(points(*at(*builder.face(), 900)) ==
        std::vector<FontPoint>{{10, 20}, {10, 760}, {610, 760}, {610, 20}});
  // One stated point moves the whole contour.
  builder.table("gvar") = gvar({{}, glyph_data({{1, {1}, {7}, {-7}}})});
  CHECK(points(*at(*builder.face(), 900)) ==
        std::vector<FontPoint>{{7, -7}, {7, 693}, {507, 693}, {507, -7}});
}

TEST_CASE("inferred deltas lie on the line between their neighbors", "[variations][property]") {
  // Against the rule written down again: inside the neighbors' span linear, outside that of the nearer one.
  std::mt19937 random(11);
  for (int round = 0; round < 300; ++round) {
    std::vector<FontPoint> contour;
    for (int i = 0; i < 9; ++i) {
      contour.push_back({static_cast<float>(random() % 40), static_cast<float>(random() % 40)});
    }
    std::vector<int> stated, dx, dy;
    for (int i = 0; i < 9; ++i) {
      if (random() % 3 == 0) {
        stated.push_back(i), dx.push_back(static_cast<int>(random() % 41) - 20),
            dy.push_back(static_cast<int>(random() % 41) - 20);
      }
    }
    if (stated.empty()) continue;
    const Bytes table = gvar({glyph_data({{1, stated, dx, dy}})});
    const std::vector<float> place = {1.0F};
    const auto variations = detail::GlyphVariations::read({tag("gvar"), table.get()}, place);
    std::vector<FontPoint> all = contour, deltas(13);
    all.resize(13);
    const std::size_t ends[] = {9};
    detail::DeltaScratch scratch;
    REQUIRE(variations.add_deltas(0, {all, ends, deltas}, scratch).has_value());
    for (int i = 0; i < 9; ++i) {
      const auto own = std::find(stated.begin(), stated.end(), i);
      if (own != stated.end()) {
        CHECK(deltas[static_cast<std::size_t>(i)] ==
              FontPoint{static_cast<float>(dx[static_cast<std::size_t>(own - stated.begin())]),
                        static_cast<float>(dy[static_cast<std::size_t>(own - stated.begin())])});
        continue;
      }
      std::size_t after = 0;
      while (after < stated.size() && stated[after] < i) ++after;
      const std::size_t b = after % stated.size(), a = (after + stated.size() - 1) % stated.size();
      const auto expected = [&](auto coordinate, const std::vector<int>& d) {
        const float p = coordinate(contour[static_cast<std::size_t>(stated[a])]),
                    q = coordinate(contour[static_cast<std::size_t>(stated[b])]),
                    v = coordinate(contour[static_cast<std::size_t>(i)]);
        const float dp = static_cast<float>(d[a]), dq = static_cast<float>(d[b]);
        if (p == q) return dp == dq ? dp : 0.0F;
        if (v <= std::min(p, q)) return p < q ? dp : dq;
        if (v >= std::max(p, q)) return p < q ? dq : dp;
        return dp + (dq - dp) * (v - p) / (q - p);
      };
      CHECK(deltas[static_cast<std::size_t>(i)].x ==
            Approx(expected([](FontPoint c) { return c.x; }, dx)).margin(1e-4));
      CHECK(deltas[static_cast<std::size_t>(i)].y ==
            Approx(expected([](FontPoint c) { return c.y; }, dy)).margin(1e-4));
    }
  }
}

TEST_CASE("a tuple with a region rises and falls inside it", "[variations]") {
  test::FontBuilder builder = square_font();
  builder.table("gvar") = gvar({{}, glyph_data({{0.5, {0}, {100}, {0}, true, 0.25, 0.75}})});
  const auto face = builder.face();
  const auto moved = [&](double normalized) {
    return points(*at(*face, static_cast<float>(400 + 500 * normalized)))[0].x;
  };
  CHECK(moved(0.5) == 100);
  CHECK(moved(0.375) == Approx(50));
  CHECK(moved(0.625) == Approx(50));
  CHECK(moved(0.25) == 0);
  CHECK(moved(0.8) == 0);
}

TEST_CASE("components move by their offsets, and their outlines by their own deltas", "[variations][glyf]") {
  test::FontBuilder builder = square_font();
  // Glyph 1 becomes: glyph 0 at (100, 0), with words and offsets, and the metrics of that component.
  std::vector<std::byte>& glyf = builder.table("glyf");
  const std::size_t start = glyf.size();
  const Bytes composite = Bytes().u16(-1).zeros(8).u16(0x0203).u16(0).u16(100).u16(0);
  glyf.insert(glyf.end(), composite.get().begin(), composite.get().end());
  builder.table("loca") = Bytes().u32(0).u32(static_cast<long>(start)).u32(static_cast<long>(glyf.size()));
  // From here on offsets are long; the first glyph ends where the second's old data does, which it does not
  // mind.
  builder.put16("head", 50, 1);
  builder.table("gvar") = gvar({glyph_data({{1, {}, {0, 0, 10, 10, 0, 40, 0, 0}, {0, 0, 0, 0, 0, 0, 0, 0}}}),
                                glyph_data({{1, {0}, {25}, {5}}})});
  const auto bold = at(*builder.face(), 900);
  CHECK(points(*bold) == std::vector<FontPoint>{{125, 5}, {125, 705}, {635, 705}, {635, 5}});
  CHECK(bold->advance(GlyphId{1}) == 640);  // that of the component, which moved by 40
}

TEST_CASE("metrics change by HVAR and MVAR", "[variations]") {
  test::FontBuilder builder = square_font();
  const auto store = test::make_variation_store({{{{0, 1, 1}}}}, {{0}, {100}, {-30}});
  builder.table("HVAR") = Bytes().u16(1).u16(0).u32(20).u32(0).u32(0).u32(0).add(store);
  const std::vector<std::byte> records = Bytes().text("hasc").u16(0).u16(1).text("xhgt").u16(0).u16(2);
  builder.table("MVAR") = Bytes()
                              .u16(1)
                              .u16(0)
                              .u16(0)
                              .u16(8)
                              .u16(2)
                              .u16(static_cast<long>(12 + records.size()))
                              .add(records)
                              .add(store);
  const auto face = builder.face(), bold = at(*face, 900);
  CHECK(bold->advance(GlyphId{1}) == 700);
  CHECK(at(*face, 650)->advance(GlyphId{1}) == 650);
  CHECK(bold->advance(GlyphId{0}) == 600);
  CHECK(bold->line_metrics().ascent == face->line_metrics().ascent + 100);
  CHECK(bold->line_metrics().descent == face->line_metrics().descent);
  // A map sends both glyphs to the second row.
  builder.table("HVAR") = Bytes()
                              .u16(1)
                              .u16(0)
                              .u32(20)
                              .u32(static_cast<long>(20 + store.size()))
                              .u32(0)
                              .u32(0)
                              .add(store)
                              .u8(0)
                              .u8(1)
                              .u16(1)
                              .u8(2);
  CHECK(at(*builder.face(), 900)->advance(GlyphId{1}) == 570);
}

TEST_CASE("avar bends an axis", "[variations]") {
  test::FontBuilder builder = square_font();
  builder.table("gvar") = gvar({{}, glyph_data({{1, {0}, {100}, {0}}})});
  builder.table("avar") = Bytes()
                              .u16(1)
                              .u16(0)
                              .u16(0)
                              .u16(1)
                              .u16(4)
                              .f2dot14(-1)
                              .f2dot14(-1)
                              .f2dot14(0)
                              .f2dot14(0)
                              .f2dot14(0.5)
                              .f2dot14(0.2)
                              .f2dot14(1)
                              .f2dot14(1);
  const auto face = builder.face();
  CHECK(points(*at(*face, 650))[0].x == Approx(20).margin(0.01));
  CHECK(points(*at(*face, 775))[0].x == Approx(60).margin(0.01));
  CHECK(points(*at(*face, 900))[0].x == 100);
}

TEST_CASE("STAT names places that nobody named", "[variations]") {
  test::FontBuilder builder = square_font();
  builder.table("name") =
      names({{1, "Night Signs"}, {2, "Regular"}, {300, "Weight"}, {303, "Heavy"}, {304, "Regular"}});
  const Bytes heavy = Bytes().u16(2).u16(0).u16(0).u16(303).fixed(800).fixed(750).fixed(900),
              regular = Bytes().u16(1).u16(0).u16(2).u16(304).fixed(400);
  builder.table("STAT") = Bytes()
                              .u16(1)
                              .u16(1)
                              .u16(8)
                              .u16(1)
                              .u32(20)
                              .u16(2)
                              .u32(28)
                              .u16(304)
                              .text("wght")
                              .u16(300)
                              .u16(0)
                              .u16(4)
                              .u16(static_cast<long>(4 + heavy.size()))
                              .add(heavy)
                              .add(regular);
  const auto face = builder.face();
  const StyleAttributes style = face->style_attributes();
  REQUIRE(style.words.size() == 2);
  CHECK(style.elided_fallback == "Regular");
  CHECK(style.words[1].elidable);
  CHECK(at(*face, 800)->names().style == "Heavy");
  CHECK(at(*face, 760)->names().style == "Heavy");
}

TEST_CASE("damaged variation data costs the glyph, not the face", "[variations][property]") {
  test::FontBuilder builder = square_font();
  builder.table("gvar") = gvar({{}, glyph_data({{1, {0, 2}, {10, 110}, {20, 60}}})});
  const std::vector<std::byte> whole = builder.table("gvar");
  Contours out;
  for (std::size_t length = 0; length < whole.size(); ++length) {
    builder.table("gvar") = {whole.begin(), whole.begin() + static_cast<std::ptrdiff_t>(length)};
    const auto bold = at(*builder.face(), 900);
    if (!bold->read_outline(GlyphId{1}, out)) CHECK(out.points.empty());
  }
  std::mt19937 random(7);
  for (int round = 0; round < 1000; ++round) {
    builder.table("gvar") = whole;
    builder.table("gvar")[random() % whole.size()] = static_cast<std::byte>(random());
    (void)at(*builder.face(), 900)->read_outline(GlyphId{1}, out);
  }
}
