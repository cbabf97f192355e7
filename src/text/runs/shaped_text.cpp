// SPDX-License-Identifier: MIT
// Parts text into runs of one face, script and direction, and shapes their words.
#include "grafema/text/shaped_text.hpp"

#include <algorithm>

#include "grafema/unicode/characters.hpp"
#include "text/lines/line_layout.hpp"
#include "text/runs/faces.hpp"
#include "text/runs/text_state.hpp"
#include "unicode/compositions.hpp"

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
const FontStack& ShapedText::fonts() const { return state_->stack(); }
std::span<const ShapedRun> ShapedText::runs() const { return state_->runs; }
std::span<const ShapedGlyph> ShapedText::glyphs() const { return state_->glyphs; }

std::size_t ShapedText::State::run_of(std::uint32_t character) const {
  const auto found = std::upper_bound(runs.begin(), runs.end(), character,
                                      [](std::uint32_t c, const ShapedRun& run) { return c < run.end; });
  return static_cast<std::size_t>(found - runs.begin());
}

std::size_t ShapedText::State::choose_face(const detail::ShapingStyle& style, std::uint32_t first,
                                           std::uint32_t end, std::size_t current, Notes* notes) {
  const std::u32string_view cluster = characters(first, end);
  const auto shows = [&](std::size_t face) { return detail::shows(*style.fonts[face].metrics, cluster, 0); };
  std::size_t face = detail::choose_face(style.fonts, cluster, current);
  if (face > 0 && cluster.size() == 1 && detail::is_space(cluster[0])) {
    // A first face of icons has no space: the text beside it gives its own.
    if (current == 0) current = face_behind(style, end);
    if (shows(current)) face = current;
  }
  for (std::size_t k = 0; k < cluster.size() && notes != nullptr; ++k) {
    if (detail::shows(*style.fonts[face].metrics, cluster, k)) continue;
    notes->add({.kind = NoteKind::missing_character,
                .character = cluster[k],
                .position = analysis.starts[first + k]});
  }
  return face;
}

/// The face of the next cluster that is no space; face 0 where a line or the text ends before.
std::size_t ShapedText::State::face_behind(const detail::ShapingStyle& style, std::uint32_t first) const {
  const TextAnalysis& a = analysis;
  constexpr std::uint32_t kMaxSpaces = 32;
  const auto all = static_cast<std::uint32_t>(a.characters.size()), count = std::min(all, first + kMaxSpaces);
  while (first < count && detail::is_space(a.characters[first])) ++first;
  if (first == count) return 0;
  std::uint32_t end = first + 1;
  while (end < all && !a.is(end, TextAnalysis::kCluster)) ++end;
  return detail::choose_face(style.fonts, characters(first, end), 0);
}

/// The last run goes on with the cluster, or a new one begins.
void ShapedText::State::add_to_runs(std::uint32_t first, std::uint32_t end, std::uint16_t face,
                                    std::uint16_t style, std::uint32_t across) {
  const TextAnalysis& a = analysis;
  const bool tab = a.characters[first] == '\t';
  const bool upright = !tab && writing != WritingMode::horizontal && is_upright(first, stack()[face]);
  if (!runs.empty() && !tab && across == 0) {
    ShapedRun& last = runs.back();
    if (!last.tab && !last.icon && last.face == face && last.style == style && !last.across &&
        last.upright == upright && last.script == a.scripts[first] && last.level == a.level(first) &&
        !a.is(first - 1, TextAnalysis::kBreak)) {
      last.end = end;
      return;
    }
  }
  ShapedRun run;
  run.first = first, run.end = end;
  run.face = face, run.style = style;
  run.level = a.level(first);
  run.tab = tab;
  run.across = across > 0;
  run.upright = upright && !run.across;
  run.script = a.scripts[first];
  runs.push_back(run);
}

void ShapedText::State::add_icon_run(std::uint32_t first, std::uint32_t end, std::uint16_t style) {
  ShapedRun run;
  run.first = first, run.end = end;
  run.face = styles.shaping[style].faces[0], run.style = style;
  run.level = analysis.level(first);
  run.icon = true;
  run.script = analysis.scripts[first];
  runs.push_back(run);
}

void ShapedText::State::find_runs(ShapeCache& cache, Notes* notes) {
  runs.clear();
  const auto count = static_cast<std::uint32_t>(analysis.characters.size());
  std::uint32_t first = 0;
  for (std::size_t s = 0; s < styles.segments.size(); ++s) {
    std::uint32_t end = count;
    if (s + 1 < styles.segments.size()) {
      const auto at = std::lower_bound(analysis.starts.begin() + first, analysis.starts.end(),
                                       styles.segments[s + 1].start);
      end = static_cast<std::uint32_t>(at - analysis.starts.begin());
      // A cluster has the style of its first character.
      while (end < count && !analysis.is(end, TextAnalysis::kCluster)) ++end;
    }
    if (end <= first) continue;
    if (styles.shaping[styles.segments[s].shaping].icon >= 0) {
      add_icon_run(first, end, styles.segments[s].shaping);
    } else {
      find_runs(styles.segments[s], first, end, cache, notes);
    }
    first = end;
  }
  for (ShapedRun& run : runs) {
    if (run.across) continue;
    if (detail::runs_right_to_left(run.script) == (run.level % 2 != 0)) continue;
    // Letters alone have a direction of their own; digits and signs go with either.
    const std::u32string_view letters = characters(run.first, run.end);
    run.reversed = std::any_of(letters.begin(), letters.end(), [&](char32_t c) {
      return script_of(c) == run.script && detail::is_letter(c);
    });
  }
}

/// The runs of a stretch of one style.
void ShapedText::State::find_runs(const detail::StyleSegment& segment, std::uint32_t begin,
                                  std::uint32_t count, ShapeCache& cache, Notes* notes) {
  const TextAnalysis& a = analysis;
  const detail::ShapingStyle& style = styles.shaping[segment.shaping];
  const Face* first = style.fonts[0]->face();
  const GlyphMetrics& first_metrics = *style.fonts[0].metrics;
  const detail::FaceLookups& lookups = cache.memory().shaper.lookups(style.fonts[0].metrics);
  std::size_t face = 0;
  const auto is_quick = [&](std::uint32_t k) {
    const char32_t c = a.characters[k];
    if (c < ' ' || c >= 0x7F || writing != WritingMode::horizontal) return false;
    return (first != nullptr ? first->find_glyph(c) : first_metrics.find_glyph(c)) != kMissingGlyph;
  };
  const auto shows_all = [&](const detail::FaceLookups& known, std::uint32_t from, std::uint32_t to) {
    for (std::uint32_t k = from; k < to; ++k) {
      const char32_t c = a.characters[k];
      const bool shown = c >= ' ' && c != 0x7F && !is_invisible(c) && known.find_glyph(c) != kMissingGlyph;
      if (!shown) return false;
    }
    return true;
  };
  for (std::uint32_t i = begin; i < count;) {
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
    } else if (end == i + 1 ? c >= 0x80 && !is_invisible(c) && !a.is(i, TextAnalysis::kBreak) &&
                                  lookups.find_glyph(c) != kMissingGlyph
                            : shows_all(lookups, i, end)) {
      face = 0;
    } else if (c != '\t') {
      face = choose_face(style, i, end, face, notes);
    }
    const std::uint32_t across = digits_at(i, begin, count);
    if (across > 0) end = i + across;
    add_to_runs(i, end, style.faces[c == '\t' ? 0 : face], segment.shaping, across);
    i = end;
  }
}

/// Whether letters join from one run to the next: all that differs is what they are shaped with.
bool ShapedText::State::goes_on(const ShapedRun& left, const ShapedRun& right) const {
  const bool letters = !left.tab && !left.icon && !right.tab && !right.icon;
  return letters && left.style != right.style && left.script == right.script && left.level == right.level &&
         !analysis.is(right.first - 1, TextAnalysis::kBreak);
}

detail::KeptRecipe& ShapedText::State::recipe(const ShapedRun& run, ShapeCache& cache) const {
  const detail::ShapingStyle& s = style(run);
  return cache.memory().shaper.recipe(
      stack()[run.face].metrics,
      {run.script, (run.level % 2 == 0) != run.reversed, run.upright, s.language, s.features, s.kerning});
}

detail::Word ShapedText::State::word(const ShapedRun& run, std::uint32_t first, std::uint32_t end,
                                     bool joins) const {
  detail::Word out;
  out.characters = characters(first, end);
  out.reversed = run.reversed;
  out.starts = std::span(analysis.flags).subspan(first, end - first);
  out.bytes = std::span(analysis.starts).subspan(first, end - first);
  if (joins) {
    const auto index = static_cast<std::size_t>(&run - runs.data());
    const bool goes_back = index > 0 && goes_on(runs[index - 1], run),
               goes_ahead = index + 1 < runs.size() && goes_on(run, runs[index + 1]);
    const std::uint32_t from = goes_back ? runs[index - 1].first : run.first,
                        to = goes_ahead ? runs[index + 1].end : run.end;
    const std::size_t before = std::min<std::size_t>(first - from, kSurroundings);
    const std::size_t after = std::min<std::size_t>(to - end, kSurroundings);
    out.around = {characters(first - before, first), characters(end, end + after)};
  }
  return out;
}

void ShapedText::State::add_word(detail::KeptRecipe& recipe, const ShapedRun& run, std::uint32_t first,
                                 std::uint32_t end, detail::WordShaper& shaper) {
  const auto index = static_cast<std::size_t>(&run - runs.data());
  const bool touches = (first == run.first && index > 0 && goes_on(runs[index - 1], run)) ||
                       (end == run.end && index + 1 < runs.size() && goes_on(run, runs[index + 1]));
  const bool joins =
      (touches || end - first >= kLongestWord) && recipe.recipe.rules == &detail::joining_rules();
  const std::span<const ShapedGlyph> shaped = shaper.shape(recipe, word(run, first, end, joins));
  const std::size_t before = glyphs.size();
  glyphs.insert(glyphs.end(), shaped.begin(), shaped.end());
  for (std::size_t g = before; g < glyphs.size(); ++g) glyphs[g].cluster += first;
  widen(run, std::span(glyphs).subspan(before));
}

void ShapedText::State::shape_run(ShapedRun& run, ShapeCache& cache) {
  run.first_glyph = run.end_glyph = static_cast<std::uint32_t>(glyphs.size());
  if (run.tab) return;
  if (run.icon) return shape_icon(run);
  if (run.across) {
    shape_across(run, cache);
    run.end_glyph = static_cast<std::uint32_t>(glyphs.size());
    return;
  }
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
  if (has_script_gaps) add_gaps(run, run.end, std::span(glyphs).subspan(run.first_glyph));
}

void ShapedText::State::shape(ShapeCache& cache, Notes* notes) {
  glyphs.clear();
  for (ShapedRun& run : runs) {
    shape_run(run, cache);
    if (notes == nullptr || run.tab || run.icon) continue;
    for (std::uint32_t g = run.first_glyph; g < run.end_glyph; ++g) {
      if ((glyphs[g].flags & ShapedGlyph::kBroken) == 0) continue;
      std::uint32_t mark = glyphs[g].cluster;  // it may stand behind a space that shares its cluster
      while (mark + 1 < run.end && !detail::is_mark(analysis.characters[mark])) ++mark;
      notes->add({.kind = NoteKind::broken_cluster,
                  .character = analysis.characters[mark],
                  .position = analysis.starts[mark]});
    }
    if (!recipe(run, cache).recipe.gave_up) continue;
    notes->add({.kind = NoteKind::damaged_table,
                .character = static_cast<std::uint32_t>(tag("GSUB")),
                .face = stack()[run.face]->title()});
  }
}

void ShapedText::State::shape_part(const ShapedRun& run, std::uint32_t first, std::uint32_t end,
                                   ShapeCache& cache, std::vector<ShapedGlyph>& out) const {
  if (run.icon || run.across) {
    out.insert(out.end(), glyphs.begin() + run.first_glyph, glyphs.begin() + run.end_glyph);
    return;
  }
  detail::KeptRecipe& kept = recipe(run, cache);
  const bool joins = kept.recipe.rules == &detail::joining_rules();
  const std::size_t before = out.size();
  for (const ShapedGlyph& glyph : cache.memory().shaper.shape(kept, word(run, first, end, joins))) {
    out.push_back(glyph);
    out.back().cluster += first;
  }
  widen(run, std::span(out).subspan(before));
  if (has_script_gaps) add_gaps(run, end, std::span(out).subspan(before));
}

namespace {

Result<void> check_text(const FontStack& stack, std::string_view text, const TextStyle& style) {
  if (stack.empty() || stack.size() > 0xFFFF) return bad_value("1 to 65535 faces");
  if (text.size() > 0x7FFFFFFF) return bad_value("text of less than 2^31 bytes");
  return check_style(style);
}

}  // namespace

void ShapedText::State::set(TextDirection direction, ShapeCache& cache, Notes* notes) {
  analyze(text, direction, cache, analysis, notes);
  if (styles.rich) styles.make_small_capitals(analysis.characters, analysis.starts);
  find_runs(cache, notes);
  shape(cache, notes);
  sums.clear();  // lines add up when they first need it
}

Result<void> ShapedText::set(const FontStack& stack, std::string_view text, const TextStyle& style,
                             ShapeCache& cache, Notes* notes) {
  if (const Result<void> checked = check_text(stack, text, style); !checked) return checked;
  State& s = *state_;
  cache.memory().shaper.trim();
  s.base = stack;
  s.text = text;
  s.language = style.language;
  s.take_writing(style);
  s.styles.set(stack, style);
  s.set(style.direction, cache, notes);
  return {};
}

Result<void> ShapedText::set(const FontStack& stack, const RichText& text, const TextStyle& style,
                             ShapeCache& cache, Notes* notes, const FontBook* book) {
  if (const Result<void> checked = check_text(stack, text.text, style); !checked) return checked;
  State& s = *state_;
  cache.memory().shaper.trim();
  s.base = stack;
  s.text = text.text;
  s.language = style.language;
  s.take_writing(style);
  s.styles.set(stack, style, text, book, cache.memory().restyled, notes);
  s.set(style.direction, cache, notes);
  return {};
}

Result<void> ShapedText::lay_out(const TextStyle& style, ShapeCache& cache, Paragraph& out, Notes* notes) {
  if (const Result<void> checked = check_style(style); !checked) {
    out.glyphs.clear(), out.lines.clear();
    return checked;
  }
  if (state_->base.empty()) return bad_value("a text that was set");
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

Result<void> lay_out(const FontStack& stack, const RichText& text, const TextStyle& style, ShapeCache& cache,
                     Paragraph& out, Notes* notes, const FontBook* book) {
  ShapeCache::Memory& memory = cache.memory();
  if (!memory.text) memory.text = std::make_unique<ShapedText>();
  const Result<void> set = memory.text->set(stack, text, style, cache, notes, book);
  if (!set) out.glyphs.clear(), out.lines.clear();
  return set ? memory.text->lay_out(style, cache, out, notes) : set;
}

}  // namespace grafema
