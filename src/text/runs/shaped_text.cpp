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

void ShapedText::State::find_runs(Notes* notes) {
  runs.clear();
  const TextAnalysis& a = analysis;
  const auto count = static_cast<std::uint32_t>(a.characters.size());
  std::size_t face = 0;
  for (std::uint32_t i = 0; i < count;) {
    std::uint32_t end = i + 1;
    while (end < count && !a.is(end, TextAnalysis::kCluster)) ++end;
    const std::u32string_view cluster = characters(i, end);
    const bool tab = cluster[0] == '\t';
    if (!tab) face = detail::choose_face(stack, cluster, face);
    for (std::size_t k = 0; k < cluster.size() && notes != nullptr && !tab; ++k) {
      if (detail::shows(*stack[face].metrics, cluster, k)) continue;
      notes->add({.kind = NoteKind::missing_character, .character = cluster[k], .position = a.starts[i + k]});
    }
    const ShapedRun* last = runs.empty() ? nullptr : &runs.back();
    const bool goes_on = last != nullptr && !tab && !last->tab && last->face == face &&
                         last->level == a.level(i) && last->script == a.scripts[i] &&
                         !a.is(i - 1, TextAnalysis::kBreak);
    if (goes_on) {
      runs.back().end = end;
    } else {
      ShapedRun run;
      run.first = i, run.end = end;
      run.face = static_cast<std::uint16_t>(tab ? 0 : face);
      run.level = a.level(i);
      run.tab = tab;
      run.script = a.scripts[i];
      runs.push_back(run);
    }
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

const detail::KeptPlan& ShapedText::State::plan(const ShapedRun& run, ShapeCache& cache) const {
  return cache.memory().shaper.plan(
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

void ShapedText::State::add_word(const detail::KeptPlan& plan, const ShapedRun& run, std::uint32_t first,
                                 std::uint32_t end, detail::WordShaper& shaper) {
  const bool joins = plan.plan.rules == &detail::joining_rules() && end - first == kLongestWord;
  for (const ShapedGlyph& glyph : shaper.shape(plan, word(run, first, end, joins))) {
    glyphs.push_back(glyph);
    glyphs.back().cluster += first;
  }
}

void ShapedText::State::shape_run(ShapedRun& run, ShapeCache& cache) {
  run.first_glyph = run.end_glyph = static_cast<std::uint32_t>(glyphs.size());
  if (run.tab) return;
  const detail::KeptPlan& kept = plan(run, cache);
  detail::WordShaper& shaper = cache.memory().shaper;
  const TextAnalysis& a = analysis;
  const bool whole = kept.plan.sees_spaces || !kept.plan.ranges.empty();
  for (std::uint32_t i = run.first; i < run.end;) {
    // A word ends before and after spaces that begin a cluster which nothing extends.
    const auto lone_space = [&](std::uint32_t k) {
      return a.characters[k] == ' ' && a.is(k, TextAnalysis::kCluster) &&
             (k + 1 == run.end || a.is(k + 1, TextAnalysis::kCluster));
    };
    std::uint32_t end = i + 1;
    const bool space = lone_space(i);
    while (end < run.end && (end - i < kLongestWord || !a.is(end, TextAnalysis::kCluster)) &&
           (whole || (!space && !lone_space(end))) && end - i < 2 * kLongestWord) {
      ++end;
    }
    add_word(kept, run, i, end, shaper);
    i = end;
  }
  run.end_glyph = static_cast<std::uint32_t>(glyphs.size());
}

void ShapedText::State::shape(ShapeCache& cache) {
  glyphs.clear();
  for (ShapedRun& run : runs) shape_run(run, cache);
}

void ShapedText::State::add_up() {
  const std::size_t count = analysis.characters.size();
  sums.assign(count + 1, 0);
  clusters.assign(count + 1, 0);
  spaces.assign(count + 1, 0);
  safe.assign(count + 1, 0);
  safe[count] = 1;
  for (const ShapedRun& run : runs) {
    const double unit = ems(run);
    safe[run.first] = 1;
    std::uint32_t last = ~std::uint32_t{0};
    for (std::uint32_t g = run.first_glyph; g < run.end_glyph; ++g) {
      const ShapedGlyph& glyph = glyphs[g];
      sums[glyph.cluster + 1] += unit * static_cast<double>(glyph.advance);
      if (glyph.cluster == last) continue;
      last = glyph.cluster;
      clusters[glyph.cluster + 1] = 1;
      if ((glyph.flags & ShapedGlyph::kUnsafeBefore) == 0) safe[glyph.cluster] = 1;
    }
  }
  for (std::size_t i = 0; i < count; ++i) {
    sums[i + 1] += sums[i];
    clusters[i + 1] += clusters[i];
    spaces[i + 1] = spaces[i] + (analysis.is(i, TextAnalysis::kWordSpace) ? 1U : 0U);
  }
}

void ShapedText::State::shape_part(const ShapedRun& run, std::uint32_t first, std::uint32_t end,
                                   ShapeCache& cache, std::vector<ShapedGlyph>& out) const {
  const detail::KeptPlan& kept = plan(run, cache);
  const bool joins = kept.plan.rules == &detail::joining_rules();
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
  s.find_runs(notes);
  s.shape(cache);
  s.add_up();
  return {};
}

Result<void> ShapedText::lay_out(const TextStyle& style, ShapeCache& cache, Paragraph& out, Notes* notes) {
  out.glyphs.clear();
  out.lines.clear();
  if (const Result<void> checked = check_style(style); !checked) return checked;
  if (state_->stack.empty()) return fail(make_error(ErrorKind::bad_value, "a text that was set"));
  detail::lay_out_lines(*state_, style, cache, out, notes);
  return {};
}

Result<void> lay_out(const FontStack& stack, std::string_view text, const TextStyle& style, ShapeCache& cache,
                     Paragraph& out, Notes* notes) {
  out.glyphs.clear();
  out.lines.clear();
  ShapeCache::Memory& memory = cache.memory();
  if (!memory.text) memory.text = std::make_unique<ShapedText>();
  const Result<void> set = memory.text->set(stack, text, style, cache, notes);
  return set ? memory.text->lay_out(style, cache, out, notes) : set;
}

}  // namespace grafema
