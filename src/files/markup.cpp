// SPDX-License-Identifier: MIT
// Reads markup: XML elements become spans.
#include "grafema/files/markup.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cstring>
#include <pugixml.hpp>

#include "base/numbers.hpp"
#include "grafema/base/nearest.hpp"
#include "grafema/base/utf8.hpp"

namespace grafema {
namespace {

constexpr std::size_t kMaxNested = 64;
constexpr std::size_t kMaxBytes = std::size_t{16} << 20U;
constexpr float kMaxWait = 3600;  // seconds

struct Element {
  std::string_view name;
  std::array<std::string_view, 3> attributes;
};

constexpr Element kElements[] = {{"b", {}},       {"i", {}},        {"u", {}},
                                 {"s", {}},       {"sub", {}},      {"sup", {}},
                                 {"small", {}},   {"br", {}},       {"span", {"class", "lang", "motion"}},
                                 {"a", {"href"}}, {"img", {"src"}}, {"var", {"name"}},
                                 {"wait", {"s"}}};

/// Lines and columns of bytes, both from 1; columns count characters. Bytes that ascend cost their distance.
class Places {
 public:
  explicit Places(std::string_view text) : text_(text) {}

  std::string of(std::size_t byte) {
    if (byte < at_) at_ = 0, line_ = column_ = 1;
    for (; at_ < std::min(byte, text_.size()); ++at_) {
      if (text_[at_] == '\n') {
        ++line_, column_ = 1;
      } else if ((static_cast<unsigned char>(text_[at_]) & 0xC0U) != 0x80) {
        ++column_;
      }
    }
    return fmt::format("line {}, column {}", line_, column_);
  }

 private:
  std::string_view text_;
  std::size_t at_ = 0, line_ = 1, column_ = 1;
};

/// At most 40 bytes, whole characters.
std::string_view shortened(std::string_view text) {
  std::size_t end = std::min<std::size_t>(text.size(), 40);
  while (end > 0 && end < text.size() && (static_cast<unsigned char>(text[end]) & 0xC0U) == 0x80) --end;
  return text.substr(0, end);
}

class MarkupParser {
 public:
  MarkupParser(std::string_view text, const MarkupNames& names, Notes* notes)
      : text_(text), names_(names), notes_(notes), buffer_(text) {
    buffer_ += "<!---->";  // the parser takes the last character of what it parses in place for its own use
  }

  Result<RichText> read() {
    if (text_.size() > kMaxBytes) {
      return fail(make_error(ErrorKind::damaged, "at most 16 MB of markup", std::to_string(text_.size())));
    }
    if (const std::size_t nul = text_.find('\0'); nul != std::string_view::npos) {
      wrong(nul, "text without U+0000", "U+0000");
    }
    if (!error_) parse();
    if (error_) return fail(*error_);
    return std::move(out_);
  }

 private:
  void wrong(std::size_t byte, const char* expected, std::string_view found) {
    if (error_) return;
    error_ =
        make_error(ErrorKind::damaged, expected, fmt::format("{} at {}", shortened(found), places_.of(byte)));
    error_->offset = byte;
  }

  void parse() {
    if (text_.find('<') == std::string_view::npos) return add_text(text_, 0);
    pugi::xml_document document;
    constexpr unsigned kHow = pugi::parse_fragment | pugi::parse_ws_pcdata | pugi::parse_cdata |
                              pugi::parse_pi | pugi::parse_declaration | pugi::parse_doctype;
    const pugi::xml_parse_result parsed =
        document.load_buffer_inplace(buffer_.data(), buffer_.size(), kHow, pugi::encoding_utf8);
    if (!parsed) return wrong_syntax(parsed);
    out_.text.reserve(text_.size());
    out_.spans.reserve(static_cast<std::size_t>(std::count(text_.begin(), text_.end(), '<')) / 2);
    walk(document, 0);
  }

  void wrong_syntax(const pugi::xml_parse_result& parsed) {
    const auto at = static_cast<std::size_t>(std::max<std::ptrdiff_t>(parsed.offset, 0));
    const std::string_view rest = text_.substr(std::min(at, text_.size()));
    const char* expected = "well-formed XML";
    switch (parsed.status) {
      case pugi::status_end_element_mismatch:
        expected = rest.empty() ? "an end tag for every element that was begun"
                                : "the end tag of the element begun last";
        break;
      case pugi::status_bad_attribute:
        expected = "attributes as name=\"value\"";
        break;
      case pugi::status_bad_start_element:
        expected = "a whole start tag, as <b>";
        break;
      case pugi::status_bad_end_element:
        expected = "a whole end tag, as </b>";
        break;
      case pugi::status_unrecognized_tag:
        expected = "an element behind '<', or &lt; for the sign itself";
        break;
      case pugi::status_bad_comment:
        expected = "the end of the comment, -->";
        break;
      default:
        break;
    }
    wrong(std::min(at, text_.size()), expected,
          rest.empty() ? "the end" : fmt::format("'{}'", shortened(rest)));
  }

  /// Where something that the parser left in the buffer begins.
  std::size_t byte_of(const char* in_buffer) const {
    return static_cast<std::size_t>(in_buffer - buffer_.data());
  }

  void walk(const pugi::xml_node& parent, std::size_t depth) {
    for (const pugi::xml_node& node : parent) {
      if (error_) return;
      switch (node.type()) {
        case pugi::node_pcdata:
          add_text(node.text().get(), byte_of(node.text().get()));
          break;
        case pugi::node_cdata:
          out_.text += node.text().get();
          break;
        case pugi::node_comment:
          break;
        case pugi::node_element:
          if (depth == kMaxNested) {
            wrong(byte_of(node.name()), "elements at most 64 deep in each other",
                  fmt::format("<{}>", node.name()));
          } else {
            add_element(node, depth);
          }
          break;
        default:
          wrong(node.name()[0] != 0 ? byte_of(node.name()) : 0,
                "markup without a declaration, DOCTYPE or instruction", "one");
      }
    }
  }

  /// Text with its references put in (XML 1.0, 4.1 and 4.6).
  void add_text(std::string_view raw, std::size_t byte) { decode(raw, byte, out_.text); }

  void decode(std::string_view raw, std::size_t byte, std::string& to) {
    for (std::size_t i = 0; i < raw.size() && !error_;) {
      const std::size_t amp = std::min(raw.find('&', i), raw.size());
      to += raw.substr(i, amp - i);
      if (amp == raw.size()) return;
      const std::size_t semicolon = raw.find(';', amp);
      const bool near = semicolon != std::string_view::npos && semicolon - amp <= 16;
      const std::string_view name = near ? raw.substr(amp + 1, semicolon - amp - 1) : std::string_view{};
      const std::optional<char32_t> character = near ? find_entity(name) : std::nullopt;
      if (!character) {
        return wrong(byte + amp, "&amp; &lt; &gt; &quot; &apos; or a character as &#x41;",
                     near ? fmt::format("'&{};'", name) : "'&'");
      }
      append_utf8(to, *character);
      i = semicolon + 1;
    }
  }

  static std::optional<char32_t> find_entity(std::string_view name) {
    constexpr std::pair<std::string_view, char32_t> kNamed[] = {
        {"amp", U'&'}, {"lt", U'<'}, {"gt", U'>'}, {"quot", U'"'}, {"apos", U'\''}};
    for (const auto& [known, character] : kNamed) {
      if (known == name) return character;
    }
    if (name.size() < 2 || name[0] != '#') return std::nullopt;
    const bool hex = name[1] == 'x';
    const std::string_view digits = name.substr(hex ? 2 : 1);
    std::uint32_t value = 0;
    const auto [end, status] =
        std::from_chars(digits.data(), digits.data() + digits.size(), value, hex ? 16 : 10);
    const bool whole = status == std::errc() && end == digits.data() + digits.size() && !digits.empty();
    const bool allowed = value == 9 || value == 10 || value == 13 || (value >= 0x20 && value < 0xD800) ||
                         (value >= 0xE000 && value < 0xFFFE) || (value >= 0x10000 && value <= 0x10FFFF);
    return whole && allowed ? std::optional(static_cast<char32_t>(value)) : std::nullopt;
  }

  const Element* find_known(const pugi::xml_node& node) {
    const std::string_view name = node.name();
    for (const Element& e : kElements) {
      if (e.name == name) return &e;
    }
    std::vector<std::string_view> names;
    for (const Element& e : kElements) names.push_back(e.name);
    wrong(byte_of(node.name()), "b, i, u, s, sub, sup, small, br, span, a, img, var or wait",
          fmt::format("<{}>{}", shortened(node.name()), suggestion(node.name(), names)));
    return nullptr;
  }

  void check_attributes(const pugi::xml_node& node, const Element& known) {
    for (const pugi::xml_attribute& a : node.attributes()) {
      if (error_) return;
      const std::string_view name = a.name();
      const bool there =
          std::find(known.attributes.begin(), known.attributes.end(), name) != known.attributes.end();
      if (!there || name.empty()) {
        wrong(byte_of(a.name()), "an attribute that the element has",
              fmt::format("'{}' of <{}>{}", shortened(name), known.name, suggestion(name, known.attributes)));
      }
      if (node.attribute(a.name()) != a) {
        wrong(byte_of(a.name()), "each attribute once", fmt::format("'{}' again", shortened(name)));
      }
      if (const char* less = std::strchr(a.as_string(), '<'); less != nullptr) {
        wrong(byte_of(less), "&lt; in the value of an attribute", "'<'");
      }
    }
  }

  /// The value of an attribute; nothing where the element has none.
  std::optional<std::string> attribute(const pugi::xml_node& node, const char* name) {
    const pugi::xml_attribute found = node.attribute(name);
    if (found.empty()) return std::nullopt;
    std::string out;
    decode(found.as_string(), byte_of(found.as_string()), out);
    return out;
  }
  std::string required(const pugi::xml_node& node, const char* name, const char* expected) {
    std::optional<std::string> found = attribute(node, name);
    if (!found) wrong(byte_of(node.name()), expected, fmt::format("<{}>", node.name()));
    return found.value_or("");
  }

  /// `known`: among which the nearest name is looked for, as long as notes have room.
  template <class Names>
  void note(std::string text, std::string_view name, const Names& known, std::size_t byte) {
    if (notes_ == nullptr) return;
    if (!notes_->full()) text += suggestion(name, known());
    notes_->add({.kind = NoteKind::unknown_name, .text = fmt::format("{} at {}", text, places_.of(byte))});
  }

  void add_element(const pugi::xml_node& node, std::size_t depth) {
    const Element* known = find_known(node);
    if (known == nullptr) return;
    check_attributes(node, *known);
    if (error_) return;
    const std::string_view name = known->name;
    const bool single = name == "br" || name == "img" || name == "var" || name == "wait";
    if (single) {
      if (node.first_child())
        wrong(byte_of(node.name()), "an empty element, as <br/>", fmt::format("<{}>", name));
      return add_single(node, name);
    }
    Span span;
    span.start = static_cast<std::uint32_t>(out_.text.size());
    span.style = style_of(node, name);
    const std::size_t index = out_.spans.size();
    out_.spans.push_back(std::move(span));
    walk(node, depth + 1);
    out_.spans[index].end = static_cast<std::uint32_t>(out_.text.size());
  }

  void add_single(const pugi::xml_node& node, std::string_view name) {
    if (name == "br") {
      out_.text += '\n';
    } else if (name == "img") {
      add_icon(required(node, "src", "the icon's name, as <img src=\"bell\"/>"), byte_of(node.name()));
    } else if (name == "var") {
      const std::string value = required(node, "name", "the value's name, as <var name=\"minutes\"/>");
      if (error_ || (names_.value && names_.value(value, out_))) return;
      note(
          fmt::format("value '{}'", value), value, [] { return std::vector<std::string_view>(); },
          byte_of(node.name()));
      out_.text += fmt::format("{{{}}}", value);
    } else {
      const std::string seconds = required(node, "s", "how many seconds, as <wait s=\"0.5\"/>");
      const std::optional<double> number = detail::find_number(seconds);
      if (!number || !(*number >= 0 && *number <= static_cast<double>(kMaxWait))) {
        return wrong(byte_of(node.name()), "0 to 3600 seconds", fmt::format("'{}'", shortened(seconds)));
      }
      out_.pauses.push_back({static_cast<std::uint32_t>(out_.text.size()), static_cast<float>(*number)});
    }
  }

  void add_icon(const std::string& name, std::size_t byte) {
    if (error_) return;
    const Icon* icon = names_.icons != nullptr ? names_.icons->find(name) : nullptr;
    if (icon == nullptr) {
      const auto known = [&] {
        return names_.icons != nullptr ? names_.icons->names() : std::vector<std::string_view>{};
      };
      note(fmt::format("icon '{}'", name), name, known, byte);
    }
    out_.append(icon != nullptr ? *icon : Icon{}, name);  // its room stays
  }

  SpanStyle style_of(const pugi::xml_node& node, std::string_view name) {
    constexpr float kMinified = 0.8F, kScript = 0.65F, kBelow = -0.15F, kAbove = 0.35F;
    SpanStyle style;
    if (name == "b") style.font.weight = 700;
    if (name == "i") style.font.slant = Slant::italic;
    if (name == "u") style.underline = true;
    if (name == "s") style.strike = true;
    if (name == "small") style.scale = kMinified;
    if (name == "sub") style.scale = kScript, style.raise = kBelow;
    if (name == "sup") style.scale = kScript, style.raise = kAbove;
    if (name == "a") style.link = required(node, "href", "where it leads, as <a href=\"stop-4\">");
    if (name != "span") return style;
    if (const auto named = attribute(node, "class")) {
      const NamedStyle* found = names_.styles != nullptr ? names_.styles->find(*named) : nullptr;
      if (found != nullptr) style = found->span;
      if (found == nullptr) note_class(*named, byte_of(node.name()));
    }
    if (const auto language = attribute(node, "lang")) style.language = *language;
    if (const auto motion = attribute(node, "motion")) style.motion = *motion;
    return style;
  }

  void note_class(const std::string& name, std::size_t byte) {
    const auto known = [&] {
      std::vector<std::string_view> names;
      if (names_.styles == nullptr) return names;
      for (const NamedStyle& style : names_.styles->all()) names.push_back(style.name);
      return names;
    };
    note(fmt::format("style '{}'", name), name, known, byte);
  }

  std::string_view text_;
  const MarkupNames& names_;
  Notes* notes_;
  std::string buffer_;  // parsed in place, so that all that the parser gives stands where it stood
  RichText out_;
  Places places_{text_};
  std::optional<Error> error_;
};

}  // namespace

Result<RichText> read_markup(std::string_view text, const MarkupNames& names, Notes* notes) {
  return MarkupParser(text, names, notes).read();
}

RichText markup_or_plain(std::string_view text, const MarkupNames& names, Notes* notes) {
  Result<RichText> read = read_markup(text, names, notes);
  if (read) return *std::move(read);
  if (notes != nullptr) notes->add({.kind = NoteKind::bad_markup, .text = describe(read.error())});
  return RichText(strip_markup(text));
}

}  // namespace grafema
