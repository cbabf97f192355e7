// SPDX-License-Identifier: MIT
// Any bytes as a CFF or CFF2 table (the first byte says which): every glyph, its name, finite points.
#include <algorithm>
#include <cmath>

#include "font/outline/cff.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  if (size < 1 || size > fuzz::kMaxBytes) return 0;
  const bool version2 = (data[0] & 1) != 0;
  const auto table = fuzz::table_of(version2 ? "CFF2" : "CFF ", fuzz::bytes_of(data + 1, size - 1));
  const auto outlines = detail::CffOutlines::read(table, version2, fuzz::kPlace);
  if (!outlines) return 0;
  Contours out;
  for (std::uint32_t glyph = 0; glyph < std::min<std::size_t>(outlines->glyph_count(), 300); ++glyph) {
    const Result<void> read = outlines->read_outline(glyph, 1000, out);
    if (!read) fuzz::require(out.commands.empty() && out.points.empty());
    fuzz::require(out.points.size() < 300'000);
    (void)outlines->glyph_name(glyph);
  }
  return 0;
}
