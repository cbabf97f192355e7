// SPDX-License-Identifier: MIT
// Whole faces: facts, metrics, collections, ids.
#include "grafema/font/face.hpp"

#include <catch2/catch.hpp>
#include <thread>

#include "grafema/font/font_stack.hpp"
#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;

TEST_CASE("the built-in face is a pixel face of twelve rows", "[face]") {
  const auto face = built_in_face();
  const FaceFacts facts = face->facts();
  CHECK(face->names().family == "Quillmere Dot");
  CHECK(facts.crisp_size == 12);
  CHECK(facts.cap_height == 7 * 128);
  CHECK(facts.x_height == 5 * 128);
  CHECK(facts.embedding == Embedding::installable);
  CHECK(face->line_metrics() == LineMetrics{9 * 128, 3 * 128, 0});
  for (const char* stop : {"Foxglove Cross", "Tinker\xE2\x80\x99s Weir", "Hemp & Pitch Yard",
                           "\xC3\x96rnhild Steps", "Caf\xC3\xA9 Orv\xC3\xA9lie"}) {
    FontStack stack{face};
    for (const char* c = stop; *c != '\0'; ++c) {
      if (static_cast<unsigned char>(*c) < 0x80) {
        CHECK(stack.find(static_cast<char32_t>(*c)).glyph != kMissingGlyph);
      }
    }
  }
}

TEST_CASE("facts of a real face", "[face]") {
  const auto face = test::dejavu();
  const FaceFacts facts = face->facts();
  CHECK(face->units_per_em() == 2048);
  CHECK(face->glyph_count() == 6253);
  CHECK(facts.outlines == OutlineKind::glyf);
  CHECK(facts.weight_class == 400);
  CHECK_FALSE(facts.italic);
  CHECK_FALSE(facts.monospaced);
  CHECK(facts.crisp_size == 0);
  CHECK(facts.cap_height == 1493);  // measured: its OS/2 table is of version 1
  CHECK(face->line_metrics() == LineMetrics{1901, 483, 0});
  CHECK(test::dejavu("DejaVuSansMono.ttf")->facts().monospaced);
  CHECK(test::dejavu("DejaVuSans-BoldOblique.ttf")->facts().italic);
  CHECK(test::dejavu("DejaVuSans-Bold.ttf")->facts().weight_class == 700);
}

TEST_CASE("a face's id is the same when opened again and differs between faces", "[face]") {
  CHECK(test::dejavu()->id() == test::dejavu()->id());
  CHECK(test::dejavu()->id() != test::dejavu("DejaVuSans-Bold.ttf")->id());
}

TEST_CASE("mapped, read and copied bytes make the same face", "[font_data]") {
  const auto mapped = FontData::map(test::dejavu_path()), read = FontData::read(test::dejavu_path());
  REQUIRE(mapped.has_value());
  REQUIRE(read.has_value());
  CHECK(
      std::equal(mapped->bytes().begin(), mapped->bytes().end(), read->bytes().begin(), read->bytes().end()));
  CHECK((*Face::open(*mapped))->id() == (*Face::open(FontData::copy(read->bytes())))->id());
  CHECK(FontData::map("/nowhere/at/all.ttf").error().kind == ErrorKind::file_unreadable);
  CHECK(FontData::read("/").error().kind == ErrorKind::file_unreadable);
}

TEST_CASE("a collection's faces are opened by number", "[face]") {
  // Two faces share all tables: the header, then one directory twice.
  const std::vector<std::byte> one = test::dot_bytes();
  std::vector<std::byte> file = test::joined({test::words({0x7474, 0x6366, 1, 0, 0, 2, 0, 20, 0, 20}), one});
  for (std::size_t i = 0; i < static_cast<std::size_t>(one[5]); ++i) {  // offsets count from the file's start
    const std::size_t at = 20 + 12 + i * 16 + 8;
    std::uint32_t offset = 0;
    for (std::size_t k = 0; k < 4; ++k) offset = offset << 8U | static_cast<std::uint32_t>(file[at + k]);
    offset += 20;
    for (std::size_t k = 0; k < 4; ++k) file[at + k] = static_cast<std::byte>(offset >> (24 - 8 * k));
  }
  const FontData data = FontData::own(file);
  CHECK(*Face::count(data) == 2);
  const auto second = Face::open(data, 1);
  REQUIRE(second.has_value());
  CHECK((*second)->names().family == "Quillmere Dot");
  CHECK((*second)->id() != (*Face::open(data, 0))->id());
  CHECK(Face::open(data, 2).error().kind == ErrorKind::bad_value);
  CHECK(Face::open(built_in_font(), 1).error().kind == ErrorKind::bad_value);
}

TEST_CASE("line metrics come from OS/2 where it asks, else hhea, else the Windows ones", "[face]") {
  test::FontBuilder builder;
  builder.put16("OS/2", 68, 1000), builder.put16("OS/2", 70, -300), builder.put16("OS/2", 72, 50);
  builder.put16("OS/2", 74, 1111), builder.put16("OS/2", 76, 222);
  CHECK(builder.face()->line_metrics() == LineMetrics{1000, 300, 50});
  builder.put16("OS/2", 62, 0x40);
  CHECK(builder.face()->line_metrics() == LineMetrics{1152, 384, 0});
  builder.put16("hhea", 4, 0), builder.put16("hhea", 6, 0);
  CHECK(builder.face()->line_metrics() == LineMetrics{1111, 222, 0});
}

TEST_CASE("license bits are read from OS/2", "[face]") {
  test::FontBuilder builder;
  const auto [bits, expected] = GENERATE(table<int, Embedding>({{0, Embedding::installable},
                                                                {2, Embedding::restricted},
                                                                {4, Embedding::preview},
                                                                {8, Embedding::editable},
                                                                {0xA, Embedding::editable}}));
  builder.put16("OS/2", 8, bits | 0x300);
  const FaceFacts facts = builder.face()->facts();
  CHECK(facts.embedding == expected);
  CHECK(facts.bitmap_only);
  CHECK_FALSE(facts.subsetting);
}

TEST_CASE("a face is used from many threads at once", "[face]") {
  const auto face = test::dejavu();
  std::vector<std::thread> threads;
  std::atomic<int> right{0};
  for (int t = 0; t < 4; ++t) {
    threads.emplace_back([&] {
      const float kern = face->kerning(face->find_glyph(U'A'), face->find_glyph(U'V'), tag("latn"));
      right += kern == -131 && face->find_glyph(0x416) != kMissingGlyph ? 1 : 0;
    });
  }
  for (std::thread& thread : threads) thread.join();
  CHECK(right == 4);
}
