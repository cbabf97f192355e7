// SPDX-License-Identifier: MIT
// Chooses faces by family, weight and slant, and makes bold and slanted ones where a family has none.
#include "grafema/font/font_book.hpp"

#include <algorithm>
#include <atomic>
#include <cmath>

#include "grafema/base/nearest.hpp"

namespace grafema {
namespace {

constexpr float kBold = 600;           // from here on a weight looks bold
constexpr float kNear = 150;           // a face this much lighter than wanted still looks as wanted
constexpr float kMadeSlant = 12;       // degrees; what most drawn italics lean by
constexpr float kUsualStroke = 0.09F;  // ems; of faces whose outlines can't be asked

bool is_same_name(std::string_view a, std::string_view b) {
  const auto lower = [](char c) { return c >= 'A' && c <= 'Z' ? static_cast<char>(c + 32) : c; };
  return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                    [&](char x, char y) { return lower(x) == lower(y); });
}

/// How wide the upright stroke of a letter is at half its height, in font units; 0 where it has none.
float stroke_at(const Face& face, char32_t letter) {
  const GlyphId glyph = face.find_glyph(letter);
  Contours outline;
  if (glyph == kMissingGlyph || !face.read_outline(glyph, outline)) return 0;
  const FontRect box = bounds(outline);
  if (box.empty()) return 0;
  std::vector<Segment> pieces;
  flatten(outline, {}, 1, pieces);
  const double y = static_cast<double>(box.y_min + box.y_max) / 2 + 0.25;
  std::vector<double> crossings;
  for (const Segment& s : pieces) {
    if ((s.y0 <= y) == (s.y1 <= y)) continue;
    crossings.push_back(s.x0 + (s.x1 - s.x0) * (y - s.y0) / (s.y1 - s.y0));
  }
  std::sort(crossings.begin(), crossings.end());
  return crossings.size() == 2 ? static_cast<float>(crossings[1] - crossings[0]) : 0;
}

/// In ems.
float stroke_of(const GlyphMetrics& metrics) {
  const Face* face = metrics.face();
  if (face == nullptr) return kUsualStroke;
  for (const char32_t letter : {U'l', U'I', U'\u0399', U'\u0406', U'1'}) {
    const float units = stroke_at(*face, letter);
    if (units > 0) return std::clamp(units / face->units_per_em(), 0.01F, 0.25F);
  }
  return kUsualStroke;
}

FaceStyle style_in(const Family& family, const Face& face) {
  const auto at = std::find_if(family.members().begin(), family.members().end(),
                               [&](const Family::Member& m) { return m.face->id() == face.id(); });
  return at != family.members().end() ? at->style : style_of(face);
}

/// Grows and slants a face until it looks as wanted.
StackFace made(StackFace face, const FaceStyle& has, const FontRequest& request, Notes* notes) {
  const auto note = [&](NoteKind kind) {
    if (notes != nullptr) notes->add({.kind = kind, .face = face->title()});
  };
  if (request.weight && *request.weight >= kBold && has.weight + kNear < *request.weight) {
    face.grow = made_bold(*face.metrics, has.weight, *request.weight);
    face.widens = face->face() == nullptr || !face->face()->facts().monospaced;
    note(NoteKind::made_bold);
  } else if (request.weight && *request.weight < kBold) {
    face.grow = 0;
  }
  if (request.slant && *request.slant != Slant::upright && has.slant == Slant::upright) {
    face.slant = kMadeSlant;
    note(NoteKind::made_italic);
  } else if (request.slant && *request.slant == Slant::upright) {
    face.slant = 0;
  }
  return face;
}

FaceStyle wanted_style(FaceStyle style, const FontRequest& request) {
  if (request.weight) style.weight = *request.weight;
  if (request.slant) style.slant = *request.slant;
  return style;
}

FaceStyle style_of_metrics(const GlyphMetrics& metrics) {
  return metrics.face() != nullptr ? style_of(*metrics.face()) : FaceStyle{};
}

}  // namespace

float made_bold(const GlyphMetrics& face, float weight, float wanted) {
  // Drawn bolds have strokes about half as wide again as their regulars, 300 units of weight away.
  const float share = std::clamp((wanted - weight) / 300, 0.0F, 2.0F) * 0.5F;
  return stroke_of(face) * share / 2;
}

namespace {

std::uint64_t next_revision() {
  static std::atomic<std::uint64_t> last{0};
  return ++last;
}

}  // namespace

void FontBook::match_x_height(bool match) {
  match_x_height_ = match;
  revision_ = next_revision();
}

void FontBook::add(Family family, bool in_fallback) {
  revision_ = next_revision();
  if (!in_fallback) {
    families_.push_back(std::move(family));
    return;
  }
  families_.insert(families_.begin() + static_cast<std::ptrdiff_t>(fallback_count_), std::move(family));
  ++fallback_count_;
}

const Family* FontBook::find(std::string_view name) const {
  const auto at = std::find_if(families_.begin(), families_.end(),
                               [&](const Family& f) { return is_same_name(f.name(), name); });
  return at != families_.end() ? &*at : nullptr;
}

const Family* FontBook::family_of(const GlyphMetrics& face) const {
  const auto find = [&](const auto& is_member) -> const Family* {
    const auto at = std::find_if(families_.begin(), families_.end(), [&](const Family& family) {
      return std::any_of(family.members().begin(), family.members().end(), is_member);
    });
    return at != families_.end() ? &*at : nullptr;
  };
  const Family* found = find([&](const Family::Member& m) { return m.face->id() == face.id(); });
  if (found != nullptr || face.face() == nullptr) return found;
  // An instance of a variable face is no member itself.
  const std::string name = face.face()->names().family;
  return name.empty() ? nullptr : find([&](const Family::Member& m) {
    return !m.face->axes().empty() && m.face->names().family == name;
  });
}

FontStack FontBook::make_stack(const Family& family, const FaceStyle& style, Notes* notes) const {
  FontStack stack;
  const auto add = [&](const Family& from) {
    std::shared_ptr<const Face> face = from.find(style);
    if (!face) return;
    const FaceStyle has = style_in(from, *face);
    // What a fallback lacks is not worth a note: it may never be shown.
    stack.add(
        made({std::move(face)}, has, {{}, style.weight, style.slant}, &from == &family ? notes : nullptr));
  };
  add(family);
  for (std::size_t i = 0; i < fallback_count_; ++i) {
    if (&families_[i] != &family) add(families_[i]);
  }
  if (match_x_height_) match_x_heights(stack);
  return stack;
}

FontStack FontBook::make_stack(std::string_view style_words, Notes* notes) const {
  return families_.empty() ? FontStack{}
                           : make_stack(families_.front(), read_style_words(style_words), notes);
}

FontStack restyle(const FontStack& around, const FontRequest& request, const FontBook* book, Notes* notes) {
  if (request.empty() || around.empty()) return around;
  const Family* family = nullptr;
  if (book != nullptr && !request.family.empty()) {
    family = book->find(request.family);
    if (family == nullptr && notes != nullptr) {
      std::vector<std::string_view> names;
      for (const Family& f : book->families()) names.push_back(f.name());
      notes->add({.kind = NoteKind::unknown_name,
                  .text = "family '" + request.family + "'" + suggestion(request.family, names)});
    }
  }
  const FaceStyle own = style_of_metrics(*around[0].metrics);
  if (book != nullptr && family == nullptr) family = book->family_of(*around[0].metrics);
  FontStack out;
  if (family != nullptr) {
    const FontStack chosen = book->make_stack(*family, wanted_style(own, request), notes);
    for (const StackFace& face : chosen) out.add(face);
  }
  for (const StackFace& face : around) {
    const auto has = [&](const StackFace& other) { return other->id() == face->id(); };
    if (std::any_of(out.begin(), out.end(), has)) continue;
    // Faces whose family the book knows have their place already, in the style that is wanted.
    if (family != nullptr && book->family_of(*face.metrics) != nullptr) continue;
    out.add(made(face, style_of_metrics(*face.metrics), request, out.empty() ? notes : nullptr));
  }
  return out;
}

}  // namespace grafema
