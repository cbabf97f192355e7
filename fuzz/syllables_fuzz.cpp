// SPDX-License-Identifier: MIT
// Any sequence of a script's characters, joiners and viramas in a face of the script, lying and upright.
#include <array>
#include <cstdio>

#include "grafema/files/files.hpp"
#include "grafema/text/shaped_text.hpp"
#include "grafema/unicode/characters.hpp"
#include "input.hpp"

namespace {

using namespace grafema;
using fuzz::require;

struct Script {
  const char* path;
  char32_t first;
  std::array<char32_t, 4> often;  ///< what joins letters, and the letters that are moved
};

constexpr Script kScripts[] = {
    {"lohit-devanagari/Lohit-Devanagari.ttf", 0x0900, {0x094D, 0x0930, 0x093F, 0x0915}},
    {"lohit-bengali/Lohit-Bengali.ttf", 0x0980, {0x09CD, 0x09B0, 0x09CB, 0x09AF}},
    {"lohit-punjabi/Lohit-Gurmukhi.ttf", 0x0A00, {0x0A4D, 0x0A30, 0x0A3F, 0x0A39}},
    {"lohit-gujarati/Lohit-Gujarati.ttf", 0x0A80, {0x0ACD, 0x0AB0, 0x0ABF, 0x0A95}},
    {"lohit-oriya/Lohit-Odia.ttf", 0x0B00, {0x0B4D, 0x0B30, 0x0B4B, 0x0B15}},
    {"lohit-tamil-classical/Lohit-Tamil-Classical.ttf", 0x0B80, {0x0BCD, 0x0BB0, 0x0BCA, 0x0B95}},
    {"lohit-telugu/Lohit-Telugu.ttf", 0x0C00, {0x0C4D, 0x0C30, 0x0C48, 0x0C15}},
    {"lohit-kannada/Lohit-Kannada.ttf", 0x0C80, {0x0CCD, 0x0CB0, 0x0CCB, 0x0C95}},
    {"lohit-malayalam/Lohit-Malayalam.ttf", 0x0D00, {0x0D4D, 0x0D30, 0x0D4A, 0x0D15}},
    {"sinhala/lklug.ttf", 0x0D80, {0x0DCA, 0x0DBB, 0x0DDC, 0x0D9A}},
    {"tlwg/Waree.ttf", 0x0E00, {0x0E33, 0x0E48, 0x0E1B, 0x0E38}},
    {"dejavu/DejaVuSans.ttf", 0x0E80, {0x0EB3, 0x0EC8, 0x0EBC, 0x0EB8}},
    {"tibetan/DDC_Uchen.ttf", 0x0F00, {0x0F90, 0x0FB2, 0x0F71, 0x0F72}},
    {"tibetan/DDC_Uchen.ttf", 0x0F80, {0x0F40, 0x0FAD, 0x0F74, 0x0F7E}},
    {"padauk/Padauk-Regular.ttf", 0x1000, {0x1039, 0x103A, 0x103C, 0x1004}},
    {"mondulkiri/Mo5V56MO.ttf", 0x1780, {0x17D2, 0x179A, 0x17BE, 0x17C9}},
    {"mingzat/Mingzat-Regular.ttf", 0x1C00, {0x1C24, 0x1C25, 0x1C27, 0x1C2D}},
    {"eeyek/Eeyek-Regular.ttf", 0xABC0, {0xABED, 0xABE3, 0xABE9, 0xABC0}},
    {"dejavu/DejaVuSans.ttf", 0x0600, {0x0640, 0x0644, 0x0651, 0x064E}},
    {"dejavu/DejaVuSans.ttf", 0x07C0, {0x07EB, 0x07F2, 0x07CA, 0x07FA}},
};

constexpr std::array<char32_t, 16> kOthers = {0x200D, 0x200C, 0x25CC, U' ',   0x00A0, U'x',   U'7',   0x0301,
                                              0x034F, 0xFE0F, 0x1CD0, 0x0952, 0x0964, 0x0970, 0x200B, 0x1100};

/// The face of a script; null where its package is not there.
const std::shared_ptr<const Face>& face_of(std::size_t script) {
  static std::array<std::shared_ptr<const Face>, std::size(kScripts)> faces;
  static std::array<bool, std::size(kScripts)> tried;
  if (!tried[script]) {
    tried[script] = true;
    const auto opened = open_face(std::string("/usr/share/fonts/truetype/") + kScripts[script].path);
    if (opened) faces[script] = *opened;
  }
  return faces[script];
}

void put(std::string& out, char32_t c) {
  if (c < 0x80) {
    out += static_cast<char>(c);
    return;
  }
  if (c < 0x800) {
    out += static_cast<char>(0xC0 | c >> 6);
  } else {
    out += static_cast<char>(0xE0 | c >> 12);
    out += static_cast<char>(0x80 | (c >> 6 & 0x3F));
  }
  out += static_cast<char>(0x80 | (c & 0x3F));
}

}  // namespace

namespace {

/// A text of one script: what each byte stands for is told at `kScripts`.
void shape(std::uint8_t script_byte, const std::uint8_t* data, std::size_t size) {
  const std::size_t number = script_byte % std::size(kScripts);
  const auto& face = face_of(number);
  if (face == nullptr) return;
  const Script& script = kScripts[number];
  static std::string text;
  text.clear();
  for (std::size_t i = 0; i < size; ++i) {
    const std::uint8_t byte = data[i];
    if (byte < 0x80) {
      put(text, script.first + byte);
    } else if (byte < 0xD0) {
      put(text, script.often[byte % 4]);
    } else {
      put(text, kOthers[byte % kOthers.size()]);
    }
  }
  static ShapeCache cache;
  static ShapedText shaped;
  static std::array<FontStack, std::size(kScripts)> stacks;
  FontStack& stack = stacks[number];
  if (stack.empty()) stack.add(face);
  TextStyle style;
  if ((script_byte & 0x80) != 0) {
    style.writing = WritingMode::vertical_lr, style.stance = LetterStance::upright;
  }
  require(shaped.set(stack, text, style, cache).has_value());
  const std::size_t count = shaped.analysis().characters.size();
  require(shaped.glyphs().size() <= count * 16 + 1024);
  // Clusters ascend, and each run's first glyph shows its first character unless that shows nothing: no
  // character is without a cluster.
  for (const ShapedRun& run : shaped.runs()) {
    std::uint32_t before = run.first;
    const std::uint32_t first =
        run.first_glyph < run.end_glyph ? shaped.glyphs()[run.first_glyph].cluster : run.end;
    for (std::uint32_t c = run.first; c < first; ++c) require(is_invisible(shaped.analysis().characters[c]));
    for (std::uint32_t g = run.first_glyph; g < run.end_glyph; ++g) {
      const ShapedGlyph& glyph = shaped.glyphs()[g];
      require(glyph.cluster >= before && glyph.cluster < run.end);
      require(shaped.analysis().is(glyph.cluster, TextAnalysis::kCluster));
      require(index_of(glyph.glyph) < face->glyph_count());
      before = glyph.cluster;
    }
  }
}

/// How many texts were shaped, told at the end: an input holds many.
struct Count {
  std::uint64_t texts = 0;
  ~Count() { std::fprintf(stderr, "%llu texts\n", static_cast<unsigned long long>(texts)); }
};

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  static Count count;
  constexpr std::size_t kMax = 1 << 14, kLongest = 14;
  for (std::size_t at = 0; at + 2 < std::min(size, kMax); ++count.texts) {
    const std::size_t length = std::min<std::size_t>(1 + data[at + 1] % kLongest, size - at - 2);
    shape(data[at], data + at + 2, length);
    at += 2 + length;
  }
  return 0;
}
