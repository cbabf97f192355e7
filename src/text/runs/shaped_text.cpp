// SPDX-License-Identifier: MIT
// Parts text into runs of one face, script and direction, and shapes their words.
#include "grafema/text/shaped_text.hpp"

#include <algorithm>

#include "grafema/unicode/characters.hpp"
#include "text/lines/line_layout.hpp"
#include "text/runs/faces.hpp"
#include "text/runs/text_state.hpp"

namespace grafema {
namespace {

/// Words beyond are shaped in pieces, so that a text without spaces takes bounded memory.
constexpr std::uint32_t kLongestWord = 8192;
constexpr std::size_t kSurroundings = 8;  // characters around a piece that its outer letters may join to

}  // namespace

ShapedText::ShapedText() : state_(std::make_unique<State>()) {}
ShapedText::~ShapedText() = default;
ShapedText::ShapedText(ShapedText&&) noexcept = default;
ShapedText& ShapedText::operator=(ShapedText&&) noexcept = default;

const TextAnalysis& ShapedText::analysis() const { return state_->analysis; }
std::span<const ShapedRun> ShapedText::runs() const { return state_->runs; }
std::span<const ShapedGlyph> ShapedText::glyphs() const { return state_->glyphs; }

std::size_t ShapedText::State::run_of(std::uint32_t character) const {
  const auto found = std::upper_bound(runs.begin(), runs.end(), character,
                                      [](std::uint32_t c, const ShapedRun& run) { return c < run.end; });
  return static_cast<std::size_t>(found - runs.begin());
}

std::size_t ShapedText::State::choose_face(std::uint32_t first, std::uint32_t end, std::size_t current,
                                           Notes* notes) {
  const std::u32string_view cluster = characters(first, end);
  const std::size_t face = detail::choose_face(stack, cluster, current);
  for (std::size_t k = 0; k < cluster.size() && notes != nullptr; ++k) {
    if (detail::shows(*stack[face].metrics, cluster, k)) continue;
    notes->add({.kind = NoteKind::missing_character,
                .character = cluster[k],
                .position = analysis.starts[first + k]});
  }
  return face;
}

/// The last run goes on with the cluster, or a new one begins.
void ShapedText::State::add_to_runs(std::uint32_t first, std::uint32_t end, std::size_t face) {
  const TextAnalysis& a = analysis;
  const bool tab = a.characters[first] == '\t';
  if (!runs.empty() && !tab) {
    ShapedRun& last = runs.back();
    if (!last.tab && last.face == face && last.script == a.scripts[first] && last.level == a.level(first) &&
        !a.is(first - 1, TextAnalysis::kBreak)) {
      last.end = end;
      return;
    }
  }
  ShapedRun run;
  run.first = first, run.end = end;
  run.face = static_cast<std::uint16_t>(tab ? 0 : face);
  run.level = a.level(first);
  run.tab = tab;
  run.script = a.scripts[first];
  runs.push_back(run);
}

void ShapedText::State::find_runs(ShapeCache& cache, Notes* notes) {
  runs.clear();
  const TextAnalysis& a = analysis;
  const auto count = static_cast<std::uint32_t>(a.characters.size());
  const Face* first = stack[0]->face();
  const detail::FaceLookups& lookups = cache.memory().shaper.lookups(stack[0].metrics);
  std::size_t face = 0;
  const auto is_quick = [&](std::uint32_t k) {
    const char32_t c = a.characters[k];
    if (c < ' ' || c >= 0x7F) return false;
    return (first != nullptr ? first->find_glyph(c) : stack[0]->find_glyph(c)) != kMissingGlyph;
  };
  for (std::uint32_t i = 0; i < count;) {
    const char32_t c = a.characters[i];
    std::uint32_t end = i + 1;
    while (end < count && !a.is(end, TextAnalysis::kCluster)) ++end;
    if (end == i + 1 && is_quick(i)) {
      // As far as the first face, the script and the direction go.
      face = 0;
      const Tag script = a.scripts[i];
      const std::uint8_t level = a.level(i);
      while (end + 1 < count && is_quick(end) && a.is(end + 1, TextAnalysis::kCluster) &&
             a.scripts[end] == script && a.level(end) == level) {
        ++end;
      }
    } else if (end == i + 1 && c >= 0x80 && !is_invisible(c) && !a.is(i, TextAnalysis::kBreak) &&
               lookups.find_glyph(c) != kMissingGlyph) {
      face = 0;
    } else if (c != '\t') {
      face = choose_face(i, end, face, notes);
    }
    add_to_runs(i, end, face);
    i = end;
  }
  for (ShapedRun& run : runs) {
    if (detail::runs_right_to_left(run.script) == (run.level % 2 != 0)) continue;
    // Letters alone have a direction of their own; digits and signs go with either.
    const std::u32string_view letters = characters(run.first, run.end);
    run.reversed = std::any_of(letters.begin(), letters.end(), [&](char32_t c) {
      return script_of(c) == run.script && detail::is_letter(c);
    });
  }
}

detail::KeptRecipe& ShapedText::State::recipe(const ShapedRun& run, ShapeCache& cache) const {
  return cache.memory().shaper.recipe(
      stack[run.face].metrics,
      {run.script, (run.level % 2 == 0) != run.reversed, language, features, kerning});
}

detail::Word ShapedText::State::word(const ShapedRun& run, std::uint32_t first, std::uint32_t end,
                                     bool joins) const {
  detail::Word out;
  out.characters = characters(first, end);
  out.reversed = run.reversed;
  out.starts = std::span(analysis.flags).subspan(first, end - first);
  out.bytes = std::span(analysis.starts).subspan(first, end - first);
  if (joins) {
    const std::size_t before = std::min<std::size_t>(first - run.first, kSurroundings);
    const std::size_t after = std::min<std::size_t>(run.end - end, kSurroundings);
    out.around = {characters(first - before, first), characters(end, end + after)};
  }
  return out;
}

void ShapedText::State::add_word(detail::KeptRecipe& recipe, const ShapedRun& run, std::uint32_t first,
                                 std::uint32_t end, detail::WordShaper& shaper) {
  const bool joins = end - first >= kLongestWord && recipe.recipe.rules == &detail::joining_rules();
  const std::span<const ShapedGlyph> shaped = shaper.shape(recipe, word(run, first, end, joins));
  const std::size_t base = glyphs.size();
  glyphs.insert(glyphs.end(), shaped.begin(), shaped.end());
  for (std::size_t g = base; g < glyphs.size(); ++g) glyphs[g].cluster += first;
}

void ShapedText::State::shape_run(ShapedRun& run, ShapeCache& cache) {
  run.first_glyph = run.end_glyph = static_cast<std::uint32_t>(glyphs.size());
  if (run.tab) return;
  detail::KeptRecipe& kept = recipe(run, cache);
  detail::WordShaper& shaper = cache.memory().shaper;
  const TextAnalysis& a = analysis;
  const bool whole = kept.recipe.sees_spaces || !kept.recipe.ranges.empty();
  for (std::uint32_t i = run.first; i < run.end;) {
    // A word ends before and after spaces that begin a cluster which nothing extends.
    const auto lone_space = [&](std::uint32_t k) {
      return a.characters[k] == ' ' && a.is(k, TextAnalysis::kCluster) &&
             (k + 1 == run.end || a.is(k + 1, TextAnalysis::kCluster));
    };
    std::uint32_t end = i + 1;
    const bool space = lone_space(i);
    const std::uint32_t limit = std::min(run.end, i + kLongestWord);
    if (whole) {
      end = std::max(end, limit);
    } else if (!space) {
      while (end < limit && (a.characters[end] != ' ' || !lone_space(end))) ++end;
    }
    while (end < run.end && end - i < 2 * kLongestWord && !a.is(end, TextAnalysis::kCluster)) ++end;
    add_word(kept, run, i, end, shaper);
    i = end;
  }
  run.end_glyph = static_cast<std::uint32_t>(glyphs.size());
}

void ShapedText::State::shape(ShapeCache& cache, Notes* notes) {
  glyphs.clear();
  for (ShapedRun& run : runs) {
    shape_run(run, cache);
    if (notes == nullptr || run.tab || !recipe(run, cache).recipe.gave_up) continue;
    notes->add({.kind = NoteKind::damaged_table,
                .character = static_cast<std::uint32_t>(tag("GSUB")),
                .face = stack[run.face]->title()});
  }
}

void ShapedText::State::add_up() {
  const auto count = static_cast<std::uint32_t>(analysis.characters.size());
  sums.resize(count + std::size_t{1});
  clusters.resize(count + std::size_t{1});
  spaces.resize(count + std::size_t{1});
  safe.resize(count + std::size_t{1});
  double sum = 0;
  std::uint32_t seen = 0, words = 0;
  for (const ShapedRun& run : runs) {
    const double unit = ems(run);
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
      sum += units * unit;
    }
  }
  sums[count] = sum, clusters[count] = seen, spaces[count] = words;
  safe[count] = 1;
}

void ShapedText::State::shape_part(const ShapedRun& run, std::uint32_t first, std::uint32_t end,
                                   ShapeCache& cache, std::vector<ShapedGlyph>& out) const {
  detail::KeptRecipe& kept = recipe(run, cache);
  const bool joins = kept.recipe.rules == &detail::joining_rules();
  for (const ShapedGlyph& glyph : cache.memory().shaper.shape(kept, word(run, first, end, joins))) {
    out.push_back(glyph);
    out.back().cluster += first;
  }
}

Result<void> ShapedText::set(const FontStack& stack, std::string_view text, const TextStyle& style,
                             ShapeCache& cache, Notes* notes) {
  State& s = *state_;
  if (stack.empty() || stack.size() > 0xFFFF)
    return fail(make_error(ErrorKind::bad_value, "1 to 65535 faces"));
  if (text.size() > 0x7FFFFFFF) return fail(make_error(ErrorKind::bad_value, "text of less than 2^31 bytes"));
  if (const Result<void> checked = check_style(style); !checked) return checked;
  cache.memory().shaper.trim();
  s.stack = stack;
  s.text = text;
  s.language = style.language;
  s.features.clear();
  if (style.tracking !=
      0) {  // letters set apart do not join to ligatures that nobody needs (CSS Text 3, 8.2)
    s.features.push_back({tag("liga"), 0});
    s.features.push_back({tag("clig"), 0});
  }
  s.features.insert(s.features.end(), style.features.begin(), style.features.end());
  s.kerning = style.kerning;
  analyze(s.text, style.direction, cache, s.analysis, notes);
  s.find_runs(cache, notes);
  s.shape(cache, notes);
  s.sums.clear();  // lines add up when they first need it
  return {};
}

Result<void> ShapedText::lay_out(const TextStyle& style, ShapeCache& cache, Paragraph& out, Notes* notes) {
  if (const Result<void> checked = check_style(style); !checked) {
    out.glyphs.clear(), out.lines.clear();
    return checked;
  }
  if (state_->stack.empty()) return fail(make_error(ErrorKind::bad_value, "a text that was set"));
  if (state_->sums.empty()) state_->add_up();
  detail::lay_out_lines(*state_, style, cache, out, notes);
  return {};
}

Result<void> lay_out(const FontStack& stack, std::string_view text, const TextStyle& style, ShapeCache& cache,
                     Paragraph& out, Notes* notes) {
  ShapeCache::Memory& memory = cache.memory();
  if (!memory.text) memory.text = std::make_unique<ShapedText>();
  const Result<void> set = memory.text->set(stack, text, style, cache, notes);
  if (!set) out.glyphs.clear(), out.lines.clear();
  return set ? memory.text->lay_out(style, cache, out, notes) : set;
}

}  // namespace grafema
