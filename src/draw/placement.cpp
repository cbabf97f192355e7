// SPDX-License-Identifier: MIT
// Fits canvases around labels and sizes text by what is seen.
#include "grafema/draw/placement.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "grafema/atlas/atlas.hpp"

namespace grafema {

Canvas fit_canvas(const Paragraph& paragraph, const Rect& ink, const Look& look) {
  const float border = std::ceil(paragraph.size / 2);
  const Overhang over = overhang(look, paragraph.size);
  const Rect box = paragraph.box;
  Rect whole = box.grown(border);
  if (!ink.empty()) {
    whole = enclosing(
        whole, {ink.left - over.left, ink.top - over.top, ink.right + over.right, ink.bottom + over.bottom});
  }
  const float left = std::floor(whole.left), top = std::floor(whole.top);
  Canvas canvas;
  canvas.width = std::max(1, static_cast<int>(std::ceil(whole.right) - left));
  canvas.height = std::max(1, static_cast<int>(std::ceil(whole.bottom) - top));
  canvas.origin = {-left, -top};
  return canvas;
}

namespace {

float height_of(const GlyphMetrics& metrics, SizeBy by) {
  const LineMetrics lines = metrics.line_metrics();
  const FaceFacts facts = metrics.face() != nullptr ? metrics.face()->facts() : FaceFacts{};
  switch (by) {
    case SizeBy::em:
      return metrics.units_per_em();
    case SizeBy::cap_height:
      return facts.cap_height;
    case SizeBy::x_height:
      return facts.x_height;
    case SizeBy::line_height:
      return lines.ascent + lines.descent + lines.line_gap;
  }
  return 0;
}

}  // namespace

Result<float> read_size(const GlyphMetrics& face, SizeBy by, float pixels) {
  const float height = height_of(face, by);
  if (!(height > 0)) {
    return bad_value("a face with the height that the size is asked by");
  }
  const float size = pixels * face.units_per_em() / height;
  if (!(size >= kMinSize && size <= kMaxSize)) {
    return fail(
        make_error(ErrorKind::bad_value, "a size of 0.25 to 8192 pixels per em", fmt::format("{}", size)));
  }
  return size;
}

}  // namespace grafema
