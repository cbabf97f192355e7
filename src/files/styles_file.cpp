// SPDX-License-Identifier: MIT
// Loads named styles and what they are based on.
#include "grafema/files/styles_file.hpp"

#include <fmt/format.h>

#include <cmath>
#include <map>

#include "files/json.hpp"
#include "grafema/base/nearest.hpp"

namespace grafema {
namespace {

using detail::Json;

constexpr int kStylesVersion = 1;
constexpr int kMaxBases = 64;  // of a style, one on the other
constexpr double kMaxStylePixels = 1e6;

template <class Value>
using Names = std::initializer_list<std::pair<std::string_view, Value>>;

constexpr std::string_view kKnown[] = {"based_on",
                                       "family",
                                       "style",
                                       "weight",
                                       "slant",
                                       "size",
                                       "cap_height",
                                       "scale",
                                       "tracking",
                                       "raise",
                                       "features",
                                       "language",
                                       "small_capitals",
                                       "look",
                                       "motion",
                                       "underline",
                                       "strike",
                                       "overline",
                                       "skip_descenders",
                                       "link",
                                       "align",
                                       "valign",
                                       "line_spacing",
                                       "leading",
                                       "box",
                                       "overflow",
                                       "ellipsis",
                                       "smallest",
                                       "tightest",
                                       "max_lines",
                                       "balance",
                                       "break",
                                       "writing",
                                       "stance",
                                       "digits_across",
                                       "halve_ends",
                                       "script_gaps",
                                       "direction",
                                       "paragraph_spacing",
                                       "word_spacing",
                                       "indent",
                                       "kerning",
                                       "keep_last_words",
                                       "justify_last"};

/// Reads one style after another, each once; the first failure is kept.
class StylesReader {
 public:
  StylesReader(const Json& styles, Notes* notes) : notes_(notes) {
    for (const auto& [name, object] : styles.items()) entries_[name].object = &object;
  }

  const std::optional<Error>& error() const { return error_; }

  const NamedStyle& read(const std::string& name, int depth = 0) {
    Entry& entry = entries_.at(name);
    if (entry.done) return entry.style;
    if (entry.open) wrong("a style that is not based on itself", name);
    if (depth > kMaxBases) wrong("styles at most 64 deep based on each other", name);
    if (error_) return entry.style;
    entry.open = true;
    NamedStyle style = read_object(*entry.object, name, depth);
    entry.style = std::move(style);
    entry.open = false;
    entry.done = true;
    return entry.style;
  }

 private:
  struct Entry {
    const Json* object = nullptr;
    NamedStyle style;
    bool open = false, done = false;
  };

  void wrong(const char* expected, const std::string& name, const std::string& found = "another") {
    if (!error_)
      error_ = make_error(ErrorKind::damaged, expected, fmt::format("{} in style '{}'", found, name));
  }

  NamedStyle read_object(const Json& object, const std::string& name, int depth) {
    NamedStyle style;
    if (!object.is_object()) {
      wrong("an object for each style", name, detail::quoted(object));
      return style;
    }
    detail::note_unknown_fields(object, kKnown, fmt::format("style '{}'", name), notes_);
    object_ = &object, name_ = name;
    if (object.contains("based_on")) style = read_base(object["based_on"], name, depth);
    object_ = &object, name_ = name;
    style.name = name;
    read_span(style.span);
    read_text(style);
    if (error_) return style;
    if (const Result<void> checked = check_style(style.text); !checked) {
      wrong(checked.error().expected, name, checked.error().found.data());
    }
    return style;
  }

  NamedStyle read_base(const Json& base, const std::string& name, int depth) {
    if (base.is_string() && entries_.count(base.get<std::string>()) != 0) {
      return read(base.get<std::string>(), depth + 1);
    }
    std::vector<std::string_view> names;
    for (const auto& [key, value] : entries_) names.push_back(key);
    const std::string asked = base.is_string() ? base.get<std::string>() : detail::quoted(base);
    wrong("a style of this file in based_on", name, fmt::format("'{}'{}", asked, suggestion(asked, names)));
    return {};
  }

  void read_span(SpanStyle& s) {
    text("family", s.font.family);
    if (std::string words; text("style", words)) {
      const FaceStyle face = read_style_words(words);
      s.font.weight = face.weight, s.font.slant = face.slant;
    }
    number("weight", s.font.weight, 1, 1000);
    if (object_->contains("slant")) {
      Slant slant{};
      one_of<Slant>("slant", slant,
                    {{"upright", Slant::upright}, {"italic", Slant::italic}, {"oblique", Slant::oblique}},
                    "upright, italic or oblique");
      s.font.slant = slant;
    }
    if (number("size", s.size, kMinSize, kMaxSize)) s.cap_height.reset();
    if (number("cap_height", s.cap_height, kMinSize, kMaxSize)) s.size.reset();
    number("scale", s.scale, 0.01, 100);
    number("tracking", s.tracking, -1000, 1000);
    number("raise", s.raise, -100, 100);
    if (bool on = false; flag("small_capitals", on)) s.small_capitals = on;
    if (std::string language; text("language", language)) s.language = language;
    flag("underline", s.underline), flag("strike", s.strike), flag("overline", s.overline);
    flag("skip_descenders", s.skip_descenders);
    text("look", s.look), text("motion", s.motion), text("link", s.link);
    if (object_->contains("features")) read_features((*object_)["features"], s.features);
  }

  void read_features(const Json& value, std::vector<FeatureSetting>& out) {
    if (!value.is_object()) return wrong("features as {\"tnum\": 1}", name_);
    for (const auto& [key, number] : value.items()) {
      const bool fits = key.size() >= 1 && key.size() <= 4 && number.is_number_integer() &&
                        number.get<std::int64_t>() >= 0 && number.get<std::int64_t>() <= 65535;
      if (!fits) return wrong("a tag of four letters and a whole number", name_, fmt::format("'{}'", key));
      out.push_back({tag(key), number.get<std::uint32_t>()});
    }
  }

  void read_text(NamedStyle& style) {
    TextStyle& t = style.text;
    const SpanStyle& s = style.span;
    if (s.size) t.size = *s.size;
    t.tracking = s.tracking, t.features = s.features;
    t.language = s.language.value_or("");
    one_of<TextAlign>("align", t.align,
                      {{"left", TextAlign::left},
                       {"center", TextAlign::center},
                       {"right", TextAlign::right},
                       {"start", TextAlign::start},
                       {"end", TextAlign::end},
                       {"justify", TextAlign::justify}},
                      "left, center, right, start, end or justify");
    one_of<VerticalAlign>("valign", t.vertical_align,
                          {{"top", VerticalAlign::top},
                           {"middle", VerticalAlign::middle},
                           {"cap-middle", VerticalAlign::cap_middle},
                           {"bottom", VerticalAlign::bottom},
                           {"baseline", VerticalAlign::baseline}},
                          "top, middle, cap-middle, bottom or baseline");
    one_of<Overflow>("overflow", t.overflow,
                     {{"show", Overflow::show},
                      {"clip", Overflow::clip},
                      {"ellipsis", Overflow::ellipsis},
                      {"smaller", Overflow::smaller},
                      {"tighten", Overflow::tighten}},
                     "show, clip, ellipsis, smaller or tighten");
    one_of<EllipsisPlace>(
        "ellipsis", t.ellipsis,
        {{"end", EllipsisPlace::end}, {"middle", EllipsisPlace::middle}, {"start", EllipsisPlace::start}},
        "end, middle or start");
    one_of<LineBreaking>("break", t.breaking,
                         {{"normal", LineBreaking::normal},
                          {"strict", LineBreaking::strict},
                          {"loose", LineBreaking::loose},
                          {"anywhere", LineBreaking::anywhere}},
                         "normal, strict, loose or anywhere");
    one_of<WritingMode>("writing", t.writing,
                        {{"horizontal", WritingMode::horizontal},
                         {"vertical-rl", WritingMode::vertical_rl},
                         {"vertical-lr", WritingMode::vertical_lr}},
                        "horizontal, vertical-rl or vertical-lr");
    one_of<LetterStance>("stance", t.stance,
                         {{"mixed", LetterStance::mixed},
                          {"upright", LetterStance::upright},
                          {"sideways", LetterStance::sideways}},
                         "mixed, upright or sideways");
    float digits = static_cast<float>(t.digits_across);
    if (number("digits_across", digits, 0, 4)) t.digits_across = static_cast<std::size_t>(digits);
    flag("halve_ends", t.halve_ends), flag("script_gaps", t.script_gaps);
    one_of<TextDirection>("direction", t.direction,
                          {{"auto", TextDirection::automatic},
                           {"ltr", TextDirection::left_to_right},
                           {"rtl", TextDirection::right_to_left}},
                          "auto, ltr or rtl");
    number("line_spacing", t.line_spacing, 0, 100);
    number("leading", t.leading, 0, kMaxStylePixels);
    number("smallest", t.min_size, kMinSize, kMaxSize);
    number("tightest", t.min_tracking, -1000, 1000);
    number("paragraph_spacing", t.paragraph_spacing, -1000, 1000);
    number("word_spacing", t.word_spacing, -1000, 1000);
    float lines = static_cast<float>(t.max_lines);
    if (number("max_lines", lines, 0, 1e6)) t.max_lines = static_cast<std::size_t>(lines);
    flag("balance", t.balance), flag("kerning", t.kerning), flag("keep_last_words", t.keep_last_words);
    flag("justify_last", t.justify_last);
    if (float first = 0, second = 0; pair("indent", first, second, -kMaxStylePixels)) {
      t.first_indent = first, t.indent = second;
    }
    if (float width = 0, height = 0; pair("box", width, height, 0)) t.wrap = width, t.box_height = height;
  }

  bool text(const char* field, std::string& out) {
    if (!object_->contains(field)) return false;
    const Json& value = (*object_)[field];
    if (!value.is_string()) wrong("a text", name_, fmt::format("{} in '{}'", detail::quoted(value), field));
    if (value.is_string()) out = value.get<std::string>();
    return value.is_string();
  }
  bool flag(const char* field, bool& out) {
    if (!object_->contains(field)) return false;
    const Json& value = (*object_)[field];
    if (!value.is_boolean())
      wrong("true or false", name_, fmt::format("{} in '{}'", detail::quoted(value), field));
    if (value.is_boolean()) out = value.get<bool>();
    return value.is_boolean();
  }
  template <class Number>
  bool number(const char* field, Number& out, double low, double high) {
    if (!object_->contains(field)) return false;
    const Json& value = (*object_)[field];
    const double v = value.is_number() ? value.get<double>() : NAN;
    const bool fits = v >= low && v <= high;
    if (!fits) wrong("a number in range", name_, fmt::format("{} in '{}'", detail::quoted(value), field));
    if (fits) out = static_cast<float>(v);
    return fits;
  }
  bool pair(const char* field, float& first, float& second, double low) {
    if (!object_->contains(field)) return false;
    const Json& list = (*object_)[field];
    const auto fits = [&](const Json& v) {
      return v.is_number() && v.get<double>() >= low && v.get<double>() <= kMaxStylePixels;
    };
    if (!list.is_array() || list.size() != 2 || !fits(list[0]) || !fits(list[1])) {
      wrong("two numbers", name_, fmt::format("{} in '{}'", detail::quoted(list), field));
      return false;
    }
    first = list[0].get<float>(), second = list[1].get<float>();
    return true;
  }
  template <class Value>
  void one_of(const char* field, Value& out, Names<Value> names, const char* expected) {
    std::string word;
    if (!text(field, word)) return;
    for (const auto& [name, value] : names) {
      if (name != word) continue;
      out = value;
      return;
    }
    wrong(expected, name_, fmt::format("'{}' in '{}'", word, field));
  }

  std::map<std::string, Entry> entries_;
  const Json* object_ = nullptr;  // of the style that is being read
  std::string name_;
  Notes* notes_;
  std::optional<Error> error_;
};

}  // namespace

Result<std::vector<NamedStyle>> read_styles(std::string_view text, Notes* notes) {
  const Result<Json> document = detail::read_json(text);
  if (!document) return fail(document.error());
  detail::Fields fields(*document);
  fields.require("styles");
  if (fields.text("format") != "grafema-styles") fields.fail_at("format", "\"grafema-styles\"");
  if (fields.whole("version", 0) < 1 || fields.whole("version", 0) > kStylesVersion) {
    fields.fail_at("version", "version 1");
  }
  const Json* styles = fields.object("styles");
  if (fields.error()) return fail(*fields.error());
  constexpr std::string_view kOfFile[] = {"$schema", "format", "version", "styles"};
  detail::note_unknown_fields(*document, kOfFile, "the file", notes);
  StylesReader reader(*styles, notes);
  std::vector<NamedStyle> out;
  for (const auto& [name, object] : styles->items()) {
    out.push_back(reader.read(name));
    if (reader.error()) break;
  }
  if (reader.error()) return fail(*reader.error());
  return out;
}

FileResult<std::vector<NamedStyle>> load_styles(const std::string& path, Notes* notes) {
  const FileResult<std::string> text = load_text(path);
  if (!text) return tl::unexpected(text.error());
  Result<std::vector<NamedStyle>> styles = read_styles(*text, notes);
  if (!styles) return tl::unexpected<FileError>({styles.error(), path});
  return *std::move(styles);
}

FileResult<void> load_styles(const std::string& path, StyleBook& book, Notes* notes) {
  const FileResult<std::vector<NamedStyle>> styles = load_styles(path, notes);
  if (!styles) return tl::unexpected(styles.error());
  for (const NamedStyle& style : *styles) {
    if (const Result<void> set = book.set(style); !set) return tl::unexpected<FileError>({set.error(), path});
  }
  return {};
}

FileResult<NamedStyle> load_style(const std::string& path_and_name, Notes* notes) {
  const std::size_t hash = path_and_name.rfind('#');
  const std::string path = path_and_name.substr(0, hash),
                    name = hash == std::string::npos ? "" : path_and_name.substr(hash + 1);
  FileResult<std::vector<NamedStyle>> styles = load_styles(path, notes);
  if (!styles) return tl::unexpected(styles.error());
  std::vector<std::string_view> names;
  for (NamedStyle& style : *styles) {
    if (style.name == name || (name.empty() && styles->size() == 1)) return std::move(style);
    names.push_back(style.name);
  }
  return tl::unexpected<FileError>(
      {make_error(ErrorKind::bad_value, "FILE#NAME with the name of a style in the file",
                  fmt::format("'{}'{}", name, suggestion(name, names))),
       path});
}

}  // namespace grafema
