// SPDX-License-Identifier: MIT
// Measures parts of a text by sums; shapes anew only where a cut goes through glyphs that see each other.
#include "text/lines/line_measure.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

constexpr float kSpacesPerTab = 4;

}  // namespace

LineMeasure::LineMeasure(ShapedText::State& state, const TextStyle& style, ShapeCache& cache)
    : state_(state), style_(style), cache_(cache) {
  has_tabs_ = std::any_of(state.runs.begin(), state.runs.end(), [](const ShapedRun& run) { return run.tab; });
}

std::uint32_t LineMeasure::content_end(std::uint32_t first, std::uint32_t end) const {
  while (end > first && state_.analysis.is(end - 1, TextAnalysis::kSpace)) --end;
  return end;
}

LineMeasure::Cut LineMeasure::cut(const ShapedRun& run, std::uint32_t first, std::uint32_t end) const {
  Cut out{first, end};
  if (state_.safe[first] == 0) {
    while (out.head_end < end && state_.safe[out.head_end] == 0) ++out.head_end;
  }
  if (end < run.end && state_.safe[end] == 0) {
    while (out.tail_begin > out.head_end && (out.tail_begin == end || state_.safe[out.tail_begin] == 0)) {
      --out.tail_begin;
    }
    if (out.tail_begin <= out.head_end && out.head_end > first) out = {end, end};  // all of it
  }
  return out;
}

/// How many clusters of the part have tracking behind them, the last one's included.
std::uint32_t LineMeasure::tracked(std::uint32_t first, std::uint32_t end) const {
  const bool any = state_.clusters[end] > state_.clusters[first],
             joins = !state_.joined.empty() && state_.joined[end + 1] != state_.joined[end];
  return state_.tracked_gaps(first, end) + (any && !joins ? 1 : 0);
}

double LineMeasure::shaped_width(const ShapedRun& run, std::uint32_t first, std::uint32_t end) {
  state_.part.clear();
  state_.shape_part(run, first, end, cache_, state_.part);
  double units = 0;
  for (const ShapedGlyph& glyph : state_.part) units += static_cast<double>(glyph.advance);
  return units * static_cast<double>(state_.ems(run)) +
         static_cast<double>(state_.style(run).tracking) * static_cast<double>(tracked(first, end));
}

float LineMeasure::width(std::uint32_t first, std::uint32_t end) {
  if (first >= end) return 0;
  double ems = state_.sums[end] - state_.sums[first];
  const auto fix = [&](const ShapedRun& run, std::uint32_t from, std::uint32_t to) {
    if (from < to) ems += shaped_width(run, from, to) - (state_.sums[to] - state_.sums[from]);
  };
  const bool head = state_.safe[first] == 0, tail = state_.safe[end] == 0;
  if (head || tail) {
    const std::size_t first_run = state_.run_of(first), last_run = state_.run_of(end - 1);
    const ShapedRun &a = state_.runs[first_run], &b = state_.runs[last_run];
    if (first_run == last_run) {
      const Cut c = cut(a, first, end);
      fix(a, first, c.head_end), fix(a, c.tail_begin, end);
    } else {
      const Cut c = cut(a, first, a.end), d = cut(b, b.first, end);
      fix(a, first, c.head_end), fix(b, d.tail_begin, end);
    }
  }
  const std::uint32_t gaps = state_.tracked_gaps(first, end);
  // Tracking of spans stands in the sums behind every cluster, the last one's included.
  if (state_.styles.has_tracking && tracked(first, end) > gaps) {
    ems -= static_cast<double>(state_.style(state_.runs[state_.run_of(end - 1)]).tracking);
  }
  const std::uint32_t spaces = state_.spaces[end] - state_.spaces[first];
  return static_cast<float>(ems * static_cast<double>(style_.size)) - trim(end) +
         style_.tracking * static_cast<float>(gaps) + style_.word_spacing * static_cast<float>(spaces);
}

float LineMeasure::trim(std::uint32_t end) {
  if (end == 0 || (!state_.has_script_gaps && !style_.halve_ends)) return 0;
  float ems = state_.has_gap_behind(end - 1) ? ShapedText::State::kScriptGap : 0.0F;
  if (style_.halve_ends) ems += state_.room_behind(end - 1);
  return ems * style_.size;
}

FontStack::Found LineMeasure::find_hyphen(std::uint32_t end) const {
  const ShapedRun& run = state_.runs[state_.run_of(end - 1)];
  for (const char32_t hyphen : {U'\u2010', U'-'}) {
    const GlyphId own = state_.stack()[run.face]->find_glyph(hyphen);
    if (own != kMissingGlyph) return {run.face, own};
    const ShapingStyle& style = state_.style(run);
    const FontStack::Found found = style.fonts.find(hyphen);
    if (found.glyph != kMissingGlyph) return {style.faces[found.face], found.glyph};
  }
  return {};
}

float LineMeasure::hyphen_width(std::uint32_t end) {
  const FontStack::Found found = find_hyphen(end);
  if (found.glyph == kMissingGlyph) return 0;
  float units = 0;
  state_.stack()[found.face]->advances(std::span(&found.glyph, 1), std::span(&units, 1));
  const ShapingStyle& style = state_.style(state_.runs[state_.run_of(end - 1)]);
  const StackFace& face = state_.stack()[found.face];
  return units * style_.size * style.scale * face.scale / face->units_per_em() + style_.tracking +
         style.tracking * style_.size;
}

/// Where numbers align: the last point or comma behind a digit, else the end of the digits.
std::uint32_t LineMeasure::decimal_point(std::uint32_t first, std::uint32_t end) const {
  const auto& c = state_.analysis.characters;
  const auto digit = [&](std::uint32_t i) { return c[i] >= '0' && c[i] <= '9'; };
  std::uint32_t point = end, last_digit = end;
  for (std::uint32_t i = first; i < end; ++i) {
    if (digit(i)) last_digit = i + 1;
    if ((c[i] == '.' || c[i] == ',') && i > first && digit(i - 1) && i + 1 < end && digit(i + 1)) point = i;
  }
  return point < end ? point : last_digit;
}

float LineMeasure::tab_advance(float x, std::uint32_t after, std::uint32_t text_end) {
  const auto stop = std::upper_bound(style_.tabs.begin(), style_.tabs.end(), x,
                                     [](float at, const TabStop& each) { return at < each.x; });
  if (stop != style_.tabs.end()) {
    switch (stop->align) {
      case TabAlign::left:
        return stop->x - x;
      case TabAlign::right:
        return std::max(0.0F, stop->x - x - width(after, text_end));
      case TabAlign::center:
        return std::max(0.0F, stop->x - x - width(after, text_end) / 2);
      case TabAlign::decimal:
        return std::max(0.0F, stop->x - x - width(after, decimal_point(after, text_end)));
    }
  }
  const GlyphId space = state_.stack()[0]->find_glyph(U' ');
  float units = 0;
  state_.stack()[0]->advances(std::span(&space, 1), std::span(&units, 1));
  const float step =
      kSpacesPerTab * (units * style_.size * state_.stack()[0].scale / state_.stack()[0]->units_per_em() +
                       style_.word_spacing);
  if (!(step > 0)) return 0;
  return (std::floor(x / step + 1e-3F) + 1) * step - x;
}

void LineMeasure::add_piece(std::uint32_t run_index, std::uint32_t first, std::uint32_t end, bool fresh,
                            std::vector<LinePiece>& out) {
  if (first >= end) return;
  const ShapedRun& run = state_.runs[run_index];
  LinePiece piece{run_index, first, end, 0, 0, fresh, run.level, 0};
  if (fresh) {
    piece.first_glyph = static_cast<std::uint32_t>(state_.fresh.size());
    state_.shape_part(run, first, end, cache_, state_.fresh);
    piece.end_glyph = static_cast<std::uint32_t>(state_.fresh.size());
  } else {
    const auto at = [&](std::uint32_t character) {
      // Most characters have one glyph each.
      const std::uint32_t guess = run.first_glyph + (character - run.first);
      if (guess > run.first_glyph && guess < run.end_glyph && state_.glyphs[guess].cluster == character &&
          state_.glyphs[guess - 1].cluster < character) {
        return guess;
      }
      const auto begin = state_.glyphs.begin() + run.first_glyph,
                 stop = state_.glyphs.begin() + run.end_glyph;
      return static_cast<std::uint32_t>(
          std::lower_bound(begin, stop, character,
                           [](const ShapedGlyph& g, std::uint32_t c) { return g.cluster < c; }) -
          state_.glyphs.begin());
    };
    piece.first_glyph = first == run.first ? run.first_glyph : at(first);
    piece.end_glyph = end == run.end ? run.end_glyph : at(end);
  }
  out.push_back(piece);
}

void LineMeasure::set_width(LineRange& line) {
  if (has_tabs_) {
    take_pieces(line, state_.pieces);
    return;
  }
  line.width = width(line.first, line.content_end) + (line.hyphen ? hyphen_width(line.content_end) : 0.0F);
}

void LineMeasure::take_pieces(LineRange& line, std::vector<LinePiece>& out) {
  out.clear();
  state_.fresh.clear();
  const std::uint8_t base = state_.analysis.parts[line.part].level;
  float x = 0;
  std::uint32_t begin = line.first;  // of the text since the last tab
  for (std::size_t r = line.first < line.end ? state_.run_of(line.first) : state_.runs.size();
       r < state_.runs.size() && state_.runs[r].first < line.end; ++r) {
    const ShapedRun& run = state_.runs[r];
    const auto index = static_cast<std::uint32_t>(r);
    const std::uint32_t first = std::max(run.first, line.first), end = std::min(run.end, line.end);
    if (run.tab) {
      x += width(begin, first);
      std::uint32_t next = end;
      for (std::size_t k = r + 1; k < state_.runs.size() && !state_.runs[k].tab && next < line.content_end;
           ++k) {
        next = std::min(state_.runs[k].end, line.content_end);
      }
      LinePiece piece{index, first, end, 0, 0, false, base, 0};
      piece.tab_advance = tab_advance(x + line.indent, end, content_end(end, next));
      x += piece.tab_advance;
      begin = end;
      out.push_back(piece);
      continue;
    }
    // Spaces that end the line have the level of its part (UAX #9, rule L1).
    const std::size_t from = out.size();
    const Cut c = cut(run, first, end);
    add_piece(index, first, c.head_end, true, out);
    add_piece(index, c.head_end, c.tail_begin, false, out);
    add_piece(index, c.tail_begin, end, true, out);
    if (end <= line.content_end || run.level == base) continue;
    for (std::size_t p = from; p < out.size(); ++p) {
      LinePiece& piece = out[p];
      if (piece.end <= line.content_end) continue;
      if (piece.first >= line.content_end) {
        piece.level = base;
        continue;
      }
      const std::vector<ShapedGlyph>& glyphs = piece.fresh ? state_.fresh : state_.glyphs;
      LinePiece rest = piece;
      std::uint32_t g = piece.first_glyph;
      while (g < piece.end_glyph && glyphs[g].cluster < line.content_end) ++g;
      piece.end = rest.first = line.content_end;
      piece.end_glyph = rest.first_glyph = g;
      rest.level = base;
      out.insert(out.begin() + static_cast<std::ptrdiff_t>(p) + 1, rest);
      break;
    }
  }
  if (!has_tabs_) return;
  line.width = x + width(std::min(begin, line.content_end), line.content_end) +
               (line.hyphen ? hyphen_width(line.content_end) : 0.0F);
}

}  // namespace grafema::detail
