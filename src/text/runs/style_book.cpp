// SPDX-License-Identifier: MIT
// Keeps styles and icons by name.
#include "grafema/text/style_book.hpp"

#include <fmt/format.h>

#include "grafema/base/nearest.hpp"
#include "grafema/text/paragraph.hpp"

namespace grafema {

Result<void> StyleBook::set(const NamedStyle& style) {
  if (const Result<void> checked = check_style(style.text); !checked) return checked;
  const auto [at, added] = places_.emplace(style.name, styles_.size());
  if (added) {
    styles_.push_back(style);
  } else if (styles_[at->second] == style) {
    return {};
  } else {
    styles_[at->second] = style;
  }
  ++revision_;
  return {};
}

const NamedStyle* StyleBook::find(std::string_view name) const {
  const auto at = places_.find(std::string(name));
  return at != places_.end() ? &styles_[at->second] : nullptr;
}

Result<const NamedStyle*> StyleBook::read(std::string_view name) const {
  if (const NamedStyle* found = find(name); found != nullptr) return found;
  std::vector<std::string_view> names;
  for (const NamedStyle& style : styles_) names.push_back(style.name);
  return fail(make_error(ErrorKind::bad_value, "the name of a style that is there",
                         fmt::format("'{}'{}", name, suggestion(name, names))));
}

void IconBook::set(std::string_view name, const Icon& icon) {
  const auto [at, added] = places_.emplace(name, icons_.size());
  if (added) {
    icons_.emplace_back(name, icon);
  } else {
    icons_[at->second].second = icon;
  }
}

void IconBook::add_glyphs(const std::shared_ptr<const Face>& face, float height) {
  if (!face) return;
  for (std::uint32_t g = 1; g < face->glyph_count(); ++g) {
    const std::string name = face->glyph_name(GlyphId{g});
    if (name.empty()) continue;
    Icon icon;
    icon.face = face, icon.glyph = GlyphId{g}, icon.height = height;
    set(name, icon);
  }
}

const Icon* IconBook::find(std::string_view name) const {
  const auto at = places_.find(std::string(name));
  return at != places_.end() ? &icons_[at->second].second : nullptr;
}

std::vector<std::string_view> IconBook::names() const {
  std::vector<std::string_view> out;
  for (const auto& [name, icon] : icons_) out.push_back(name);
  return out;
}

}  // namespace grafema
