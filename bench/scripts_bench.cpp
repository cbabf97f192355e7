// SPDX-License-Identifier: MIT
// Shaping of scripts with syllables, against decoding, finding each glyph and adding its advance.
#include <string>

#include "bench.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/files/files.hpp"
#include "grafema/text/shaped_text.hpp"

namespace grafema::bench {
namespace {

struct Sample {
  const char* path;
  const char* text;
  char32_t first, last;  ///< letters that change from round to round
};

constexpr Sample kDevanagari = {
    "/usr/share/fonts/truetype/lohit-devanagari/Lohit-Devanagari.ttf",
    "आख़िरी ट्राम आधी रात को छूटती है। लालटेन के नीचे यात्री घंटी बजाकर रुकने का संकेत देते हैं और क्षण भर में ट्राम नहर के "
    "किनारे पहुँच जाती है।",
    0x0915, 0x0928};
constexpr Sample kKhmer = {
    "/usr/share/fonts/truetype/mondulkiri/Mo5V56MO.ttf",
    "រថភ្លើងចុងក្រោយ ចេញនៅពាក់កណ្ដាលអធ្រាត្រ។ អ្នកដំណើរ រង់ចាំនៅក្រោម គោមភ្លើង ហើយរោទ៍ កណ្ដឹងម្ដង ដើម្បីឈប់។", 0x1780, 0x178F};

std::shared_ptr<const Face> face_of(const Sample& sample) {
  static std::vector<std::pair<std::string, std::shared_ptr<const Face>>> opened;
  for (const auto& [path, face] : opened) {
    if (path == sample.path) return face;
  }
  const auto face = open_face(sample.path);
  if (!face) {
    std::fprintf(stderr, "%s is not installed\n", sample.path);
    std::exit(1);
  }
  opened.emplace_back(sample.path, *face);
  return *face;
}

void floor(benchmark::State& state, const Sample& sample) {
  const auto face = face_of(sample);
  const std::string_view text = sample.text;
  std::int64_t characters = 0;
  for (auto _ : state) {
    float units = 0;
    for (std::size_t at = 0; at < text.size(); ++characters) {
      const DecodedCharacter next = decode_utf8(text, at);
      units += face->advance(face->find_glyph(next.character));
      at += next.length;
    }
    benchmark::DoNotOptimize(units);
  }
  state.SetItemsProcessed(characters);
}

void seen(benchmark::State& state, const Sample& sample) {
  const FontStack stack{face_of(sample)};
  ShapeCache cache;
  ShapedText text;
  std::int64_t characters = 0;
  for (auto _ : state) {
    GRAFEMA_VERIFY(state, text.set(stack, sample.text, {}, cache).has_value());
    characters += static_cast<std::int64_t>(text.analysis().characters.size());
  }
  state.SetItemsProcessed(characters);
}

/// Every word is new: its letters turn from round to round.
void unseen(benchmark::State& state, const Sample& sample) {
  const FontStack stack{face_of(sample)};
  ShapeCache cache;
  ShapedText text;
  std::u32string letters;
  for (std::size_t at = 0; at < std::string_view(sample.text).size();) {
    const DecodedCharacter next = decode_utf8(sample.text, at);
    letters += next.character;
    at += next.length;
  }
  std::uint32_t round = 1;
  std::int64_t characters = 0;
  std::string changed;
  for (auto _ : state) {
    std::uint32_t random = ++round * 2654435761U;
    changed.clear();
    for (const char32_t c : letters) {
      random = random * 1664525U + 1013904223U;
      const bool turns = c >= sample.first && c <= sample.last;
      append_utf8(changed, turns ? sample.first + (random >> 16) % (sample.last - sample.first + 1) : c);
    }
    GRAFEMA_VERIFY(state, text.set(stack, changed, {}, cache).has_value());
    characters += static_cast<std::int64_t>(text.analysis().characters.size());
  }
  state.SetItemsProcessed(characters);
}

BENCHMARK_CAPTURE(floor, devanagari, kDevanagari)->Name("shape Devanagari/floor");
BENCHMARK_CAPTURE(seen, devanagari, kDevanagari)->Name("shape Devanagari, words seen");
BENCHMARK_CAPTURE(unseen, devanagari, kDevanagari)->Name("shape Devanagari, words unseen");
BENCHMARK_CAPTURE(floor, khmer, kKhmer)->Name("shape Khmer/floor");
BENCHMARK_CAPTURE(seen, khmer, kKhmer)->Name("shape Khmer, words seen");
BENCHMARK_CAPTURE(unseen, khmer, kKhmer)->Name("shape Khmer, words unseen");

}  // namespace
}  // namespace grafema::bench
