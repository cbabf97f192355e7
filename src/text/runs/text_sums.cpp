// SPDX-License-Identifier: MIT
// Sums of advances, clusters and spaces along a shaped text, by which parts of it are measured.
#include <algorithm>

#include "grafema/unicode/characters.hpp"
#include "text/runs/faces.hpp"
#include "text/runs/text_state.hpp"
#include "unicode/compositions.hpp"

namespace grafema {

/// Letters of cursive scripts keep their connections: no tracking between them (CSS Text 3, "Cursive
/// Scripts").
void ShapedText::State::find_joined() {
  joined.clear();
  const auto is_cursive = [](const ShapedRun& run) { return detail::is_cursive(run.script); };
  if (std::none_of(runs.begin(), runs.end(), is_cursive)) return;
  const std::vector<char32_t>& c = analysis.characters;
  joined.resize(c.size() + 2);
  const auto is_letter = [&](std::size_t i, Tag script) {
    const Tag own = script_of(c[i]);
    return own == script ? detail::is_letter(c[i]) : is_invisible(c[i]) || detail::is_mark(c[i]);
  };
  std::uint32_t count = 0;
  std::size_t run = 0;
  for (std::size_t i = 0; i < c.size(); ++i) {
    joined[i] = count;
    while (run + 1 < runs.size() && runs[run].end <= i) ++run;
    const Tag script = runs[run].script;
    const bool boundary = i > 0 && analysis.is(static_cast<std::uint32_t>(i), TextAnalysis::kCluster);
    if (boundary && is_cursive(runs[run]) && is_letter(i, script) && is_letter(i - 1, script)) ++count;
  }
  joined[c.size()] = joined[c.size() + 1] = count;
}

void ShapedText::State::add_up() {
  find_joined();
  const auto count = static_cast<std::uint32_t>(analysis.characters.size());
  sums.resize(count + std::size_t{1});
  clusters.resize(count + std::size_t{1});
  spaces.resize(count + std::size_t{1});
  safe.resize(count + std::size_t{1});
  double sum = 0;
  std::uint32_t seen = 0, words = 0;
  for (const ShapedRun& run : runs) {
    const double unit = ems(run), tracking = style(run).tracking;
    std::uint32_t g = run.first_glyph;
    for (std::uint32_t i = run.first; i < run.end; ++i) {
      sums[i] = sum, clusters[i] = seen, spaces[i] = words;
      safe[i] = i == run.first ? 1 : 0;
      words += analysis.is(i, TextAnalysis::kWordSpace) ? 1 : 0;
      if (g == run.end_glyph || glyphs[g].cluster != i) continue;
      ++seen;
      if ((glyphs[g].flags & ShapedGlyph::kNoCutBefore) == 0) safe[i] = 1;
      double units = 0;
      for (; g < run.end_glyph && glyphs[g].cluster == i; ++g)
        units += static_cast<double>(glyphs[g].advance);
      const std::uint32_t next = g < run.end_glyph ? glyphs[g].cluster : run.end;
      const bool joins = !joined.empty() && joined[next + 1] != joined[next];
      sum += units * unit + (joins ? 0 : tracking);
    }
  }
  sums[count] = sum, clusters[count] = seen, spaces[count] = words;
  safe[count] = 1;
}

}  // namespace grafema
