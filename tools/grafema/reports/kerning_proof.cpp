// SPDX-License-Identifier: MIT
// Pair by pair in a grid: plain, kerned, and by how much.
#include "reports/kerning_proof.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "demo/demo_canvas.hpp"
#include "grafema/base/utf8.hpp"

namespace grafema::tool {
namespace {

constexpr int kCellWidth = 156, kCellHeight = 64, kHead = 40, kColumns = kWidth / kCellWidth;
constexpr std::size_t kMaxPairs = 500;

struct Pair {
  char32_t left, right;
  float value;
};

std::vector<Pair> list_pairs(const FontDrawing& drawing) {
  std::map<std::string, char32_t> characters;
  for (const DrawnGlyph& glyph : drawing.glyphs) {
    if (!glyph.characters.empty()) characters[glyph.name] = glyph.characters[0];
  }
  std::vector<Pair> pairs;
  std::set<std::pair<char32_t, char32_t>> seen;
  for (const DrawnPair& p : drawing.kerning) {
    if (seen.emplace(p.left, p.right).second) pairs.push_back({p.left, p.right, p.value});
  }
  const ClassKerning& classes = drawing.classes;
  for (std::size_t i = 0; i < classes.values.size(); ++i) {
    if (classes.values[i] == 0) continue;
    const char32_t left = characters[classes.left[i / classes.right.size()][0]],
                   right = characters[classes.right[i % classes.right.size()][0]];
    if (left != 0 && right != 0 && seen.emplace(left, right).second)
      pairs.push_back({left, right, classes.values[i]});
  }
  std::stable_sort(pairs.begin(), pairs.end(),
                   [](const Pair& a, const Pair& b) { return std::abs(a.value) > std::abs(b.value); });
  pairs.resize(std::min(pairs.size(), kMaxPairs));
  return pairs;
}

}  // namespace

Image draw_kerning_proof(const FontDrawing& drawing, const std::shared_ptr<const Face>& face) {
  const std::vector<Pair> pairs = list_pairs(drawing);
  const int rows = static_cast<int>((pairs.size() + kColumns - 1) / kColumns);
  DemoScene scene("white", kWidth, kHead + std::max(1, rows) * kCellHeight);
  const Look ink = plain_look(color("#111")), faint = plain_look(color("#8a8f98"));
  const FontStack stack{face, built_in_face()};
  ShapeCache cache;
  const auto put = [&](const std::string& text, float size, bool kerned, PixelPoint at) {
    Paragraph paragraph;
    TextStyle style{.size = size};
    style.kerning = kerned;
    value_or_give_up(lay_out(stack, text, style, cache, paragraph));
    value_or_give_up(paint(scene.image(), stack, paragraph, ink,
                           label_origin(paragraph.box, {.at = at, .anchor = {0.5F, 0}})));
  };
  scene.put(built_in_face(),
            fmt::format("{} {}: {} pairs, each without and with its kerning, worst first",
                        drawing.names.family, drawing.names.style, pairs.size()),
            12, faint, {.at = {12, 14}});
  for (std::size_t i = 0; i < pairs.size(); ++i) {
    const auto column = static_cast<int>(i) % kColumns, row = static_cast<int>(i) / kColumns;
    const auto x = static_cast<float>(column * kCellWidth + 12),
               y = static_cast<float>(kHead + row * kCellHeight);
    std::string text;
    append_utf8(text, pairs[i].left), append_utf8(text, pairs[i].right);
    put(text, 36, false, {x + 28, y}), put(text, 36, true, {x + 82, y});
    scene.put(built_in_face(), fmt::format("{:+.0f}", pairs[i].value), 12, faint, {.at = {x + 112, y + 18}});
  }
  return scene.take();
}

}  // namespace grafema::tool
