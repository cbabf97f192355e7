// SPDX-License-Identifier: MIT
// Styles and icons by name, for labels and for spans.
#pragma once

#include <functional>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "grafema/text/rich_text.hpp"

namespace grafema {

/// A style with all that it is based on put in.
struct NamedStyle {
  std::string name = {};
  SpanStyle span = {};  ///< what it changes where it is the class of a span
  TextStyle text = {};  ///< of a label that uses it; its size is 32 where the style sets none
  bool operator==(const NamedStyle&) const = default;
};

/// Styles by name. Changing one shows on every label that uses it.
class GRAFEMA_API StyleBook {
 public:
  /// Adds a style, or changes the one of that name. Fails with `bad_value` as `check_style` does.
  Result<void> set(const NamedStyle& style);
  /// Null where there is none.
  const NamedStyle* find(std::string_view name) const;
  /// Fails with `bad_value` and the nearest name.
  Result<const NamedStyle*> read(std::string_view name) const;
  std::span<const NamedStyle> all() const { return styles_; }
  /// Moves whenever a style is added or changed.
  std::uint64_t revision() const { return revision_; }

 private:
  std::vector<NamedStyle> styles_;
  std::unordered_map<std::string, std::size_t> places_;
  std::uint64_t revision_ = 1;
};

/// Icons by name.
class GRAFEMA_API IconBook {
 public:
  /// Adds an icon, or replaces the one of that name.
  void set(std::string_view name, const Icon& icon);
  /// Every glyph of the face that has a name (`post`, CFF), as high as `height` ems of the text around.
  void add_glyphs(const std::shared_ptr<const Face>& face, float height = 1);
  const Icon* find(std::string_view name) const;
  std::vector<std::string_view> names() const;

 private:
  std::vector<std::pair<std::string, Icon>> icons_;
  std::unordered_map<std::string, std::size_t> places_;
};

/// What the names in markup stand for. Names that are not known are noted; the text stays.
struct MarkupNames {
  const StyleBook* styles = nullptr;  ///< `<span class="NAME">`
  const IconBook* icons = nullptr;    ///< `<img src="NAME"/>`
  /// `<var name="NAME"/>`: puts the value behind `out`; false where there is no such value.
  std::function<bool(std::string_view name, RichText& out)> value = {};
};

/// Turns markup into text with spans; `markup_or_plain` of the module `files` is one.
using MarkupReader = std::function<RichText(std::string_view text, const MarkupNames& names, Notes* notes)>;

}  // namespace grafema
