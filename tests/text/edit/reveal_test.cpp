// SPDX-License-Identifier: MIT
// Letters that appear one by one: times, pauses, calls.
#include "grafema/text/reveal.hpp"

#include <catch2/catch.hpp>

#include "grafema/draw/text_scene.hpp"
#include "grafema/files/markup.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

constexpr RevealPace kPace{10, 1, 3, 2};

/// The clusters of a text of single characters without line breaks.
std::vector<std::uint32_t> clusters_of(const RichText& text) {
  static TextContext context(FontStack{test::dejavu()}, nullptr);
  TextScene words(context);
  Label label = words.add();
  label.set_rich(text);
  const auto all = label.clusters();
  return {all.begin(), all.end()};
}

/// The pause before each character beyond the time of one cluster.
std::vector<double> pauses(const std::string& text, std::string_view language = "en") {
  Reveal reveal;
  const RichText rich = read_markup(text).value_or(RichText(text));
  reveal.start(rich, clusters_of(rich), kPace, language);
  std::vector<double> out;
  for (std::size_t i = 0; i < reveal.count(); ++i) {
    out.push_back(std::round((reveal.time_of(i) - (i == 0 ? 0 : reveal.time_of(i - 1)) - 0.1) * 1000) / 1000);
  }
  return out;
}

double sum(const std::vector<double>& all) {
  double out = 0;
  for (const double v : all) out += v;
  return out;
}

}  // namespace

TEST_CASE("clusters appear in their order at the speed asked for", "[reveal][property]") {
  const RichText text("Pale Orchard");
  Reveal reveal;
  reveal.start(text, clusters_of(text), kPace);
  std::vector<std::uint32_t> bytes;
  const auto note = [&](std::size_t cluster, std::uint32_t byte) {
    CHECK(cluster == bytes.size());
    bytes.push_back(byte);
  };
  CHECK(reveal.advance(0.05, note) == 0);
  CHECK(reveal.advance(0.05, note) == 1);
  CHECK(reveal.advance(0.3, note) == 4);
  CHECK(bytes == std::vector<std::uint32_t>{0, 1, 2, 3});
  CHECK(reveal.advance(100, note) == 12);
  CHECK(reveal.done());
  CHECK(bytes.size() == 12);
}

TEST_CASE("steps of any length show the same at the same time", "[reveal][property]") {
  const RichText text("Mind the gap, Tomek. It is late!");
  Reveal small, large;
  small.start(text, clusters_of(text), kPace, "en"), large.start(text, clusters_of(text), kPace, "en");
  for (int i = 0; i < 40; ++i) {
    for (int k = 0; k < 8; ++k) small.advance(0.03125);
    CHECK(small.shown() == large.advance(0.25));
  }
}

TEST_CASE("commas and ends of sentences pause before what follows them", "[reveal]") {
  const std::vector<double> all = pauses("Hm, so. No");
  CHECK(all[3] == 1);  // the space behind the comma
  CHECK(all[7] == 3);
  CHECK(sum(all) == 4);
}

TEST_CASE("points within numbers, abbreviations and at the end of the text do not pause", "[reveal]") {
  CHECK(sum(pauses("3.5 at 12:30 for 1,000")) == 0);
  CHECK(sum(pauses("The end.")) == 0);
  CHECK(sum(pauses("Mr. Oyelaran sleeps")) == 0);
  CHECK(sum(pauses("He met Mr. Oyelaran. He slept")) == 3);
}

TEST_CASE("a pause comes behind closing quotes and further signs", "[reveal]") {
  const std::vector<double> all = pauses("\"What?!\" he said");
  CHECK(all[8] == 3);
  CHECK(sum(all) == 3);
}

TEST_CASE("ideographic signs pause without a space", "[reveal]") {
  CHECK(sum(pauses("\xE3\x81\xAF\xE3\x81\x84\xE3\x80\x82\xE6\xAC\xA1", "ja")) == 3);
  CHECK(sum(pauses("\xE3\x81\xAF\xE3\x80\x81\xE6\xAC\xA1", "ja")) == 1);
}

TEST_CASE("waits of markup stand where they are written, and line breaks pause", "[reveal][markup]") {
  const std::vector<double> all = pauses("ab<wait s=\"5\"/>c");
  CHECK(all == std::vector<double>{0, 0, 5});
  CHECK(sum(pauses("ab<br/>c")) == 2);
}

TEST_CASE("skipping shows all and calls for nothing", "[reveal]") {
  const RichText text("Pale Orchard");
  Reveal reveal;
  reveal.start(text, clusters_of(text), kPace);
  reveal.skip();
  CHECK(reveal.done());
  std::size_t calls = 0;
  CHECK(reveal.advance(10, [&](std::size_t, std::uint32_t) { ++calls; }) == 12);
  CHECK(calls == 0);
}

TEST_CASE("times that make no sense change nothing", "[reveal][hostile]") {
  const RichText text("ab");
  Reveal reveal;
  reveal.start(text, clusters_of(text), {0, 1, 1, 1});
  CHECK(reveal.advance(-1) == 2);  // no speed: at once
  reveal.start(text, {}, kPace);
  CHECK(reveal.advance(1) == 0);
  CHECK(reveal.done());
}
