// SPDX-License-Identifier: MIT
// Finds messages by language, and puts values into them.
#include "grafema/text/message_book.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>
#include <unordered_map>

#include "text/message/formatters.hpp"
#include "text/message/message_tree.hpp"

namespace grafema {
namespace {

constexpr int kMaxNestedMessages = 8;  // messages as values of messages
constexpr std::string_view kIsolate = "\xE2\x81\xA8", kEndOfIsolate = "\xE2\x81\xA9";  // U+2068, U+2069
constexpr int kMaxCounted = 200;
constexpr double kNever = std::numeric_limits<double>::infinity();

struct Hash {
  using is_transparent = void;
  std::size_t operator()(std::string_view text) const { return std::hash<std::string_view>{}(text); }
};
template <class Value>
using ByName = std::unordered_map<std::string, Value, Hash, std::equal_to<>>;

/// A message with what formats it.
struct Compiled {
  const CatalogMessage* entry = nullptr;
  detail::Formatters* formatters = nullptr;
  std::shared_ptr<const Message> message;  // null where the pattern can't be read
  std::string error;
};

void append_escaped(std::string_view text, bool escape, std::string& out) {
  if (!escape) {
    out += text;
    return;
  }
  for (const char c : text) {
    c == '&' ? out += "&amp;" : c == '<' ? out += "&lt;" : out += c;
  }
}

}  // namespace

struct MessageBook::State {
  std::vector<std::unique_ptr<Catalog>> catalogs;
  std::vector<ByName<std::size_t>> indices;  ///< of each catalog's messages
  std::string language = "en", time_zone = "UTC";
  std::optional<double> clock;
  MarkupReader markup;
  std::uint64_t revision = 1;

  std::vector<std::pair<std::string, std::unique_ptr<detail::Formatters>>> formatters;  ///< by language
  ByName<Compiled> compiled;
  ByName<Compiled> loose;  ///< patterns of no catalog

  void changed() {
    ++revision;
    compiled.clear(), loose.clear();
  }
  detail::Formatters& formatters_of(const std::string& of) {
    for (auto& [name, kept] : formatters) {
      if (name == of) return *kept;
    }
    return *formatters.emplace_back(of, std::make_unique<detail::Formatters>(of, time_zone)).second;
  }

  /// The catalogs in which an id is looked for: pt-BR, pt, the source.
  std::vector<std::size_t> chain() const {
    std::vector<std::size_t> out;
    const auto add = [&](std::string_view wanted) {
      for (std::size_t i = 0; i < catalogs.size(); ++i) {
        const bool there = catalogs[i]->language == wanted;
        if (there && std::find(out.begin(), out.end(), i) == out.end()) out.push_back(i);
      }
    };
    for (std::string_view tag = language; !tag.empty();
         tag = tag.substr(0, tag.rfind('-') == std::string_view::npos ? 0 : tag.rfind('-'))) {
      add(tag);
    }
    if (!catalogs.empty()) add(catalogs[0]->language);
    return out;
  }

  const Compiled& compile(std::string_view id) {
    const auto known = compiled.find(id);
    if (known != compiled.end()) return known->second;
    Compiled made;
    for (const std::size_t c : chain()) {
      const auto at = indices[c].find(id);
      if (at == indices[c].end()) continue;
      made.entry = &catalogs[c]->messages[at->second];
      made.formatters = &formatters_of(catalogs[c]->language);
      set_pattern(made, made.entry->pattern);
      break;
    }
    return compiled.emplace(std::string(id), std::move(made)).first->second;
  }
  const Compiled& compile_pattern(std::string_view pattern) {
    constexpr std::size_t kMaxLoose = 1024;
    const auto known = loose.find(pattern);
    if (known != loose.end()) return known->second;
    if (loose.size() == kMaxLoose) loose.clear();
    Compiled made;
    made.formatters = &formatters_of(language);
    set_pattern(made, pattern);
    return loose.emplace(std::string(pattern), std::move(made)).first->second;
  }
  static void set_pattern(Compiled& made, std::string_view pattern) {
    Result<Message> parsed = Message::parse(pattern);
    if (!parsed) made.error = describe(parsed.error());
    if (parsed) made.message = std::make_shared<const Message>(*std::move(parsed));
  }

  struct Call;
  double format(const Compiled& made, std::string_view id, const MessageValues& values, RichText& out,
                const MarkupNames& names, Notes* notes, int depth);
};

/// Puts values into one message.
struct MessageBook::State::Call {
  State& book;
  const MessageValues& values;
  detail::Formatters& formatters;
  std::string_view id;
  Notes* notes;
  bool markup = false;  // the words are markup, so values are escaped
  double next = kNever;

  using Piece = detail::MessagePiece;

  void note(const std::string& text) const {
    if (notes != nullptr)
      notes->add({.kind = NoteKind::bad_message, .text = fmt::format("message '{}': {}", id, text)});
  }

  void write(const std::vector<Piece>& pieces, double number, std::string& out) {
    for (const Piece& piece : pieces) {
      switch (piece.kind) {
        case Piece::Kind::words:
          out += piece.words;
          break;
        case Piece::Kind::number_sign:
          write_number(number, out);
          break;
        case Piece::Kind::value:
          write_value(piece, out);
          break;
        case Piece::Kind::plural:
        case Piece::Kind::ordinal:
        case Piece::Kind::select:
          write_choice(piece, number, out);
          break;
      }
    }
  }

  void write_number(double number, std::string& out) { (void)formatters.number(number, "", "", out); }

  const MessageValue* find(const Piece& piece, std::string& out) const {
    const MessageValue* value = values.find(piece.name);
    if (value != nullptr) return value;
    note(fmt::format("no value '{}'", piece.name));
    out += '{' + piece.name + '}';
    return nullptr;
  }

  void write_choice(const Piece& piece, double outer, std::string& out) {
    const MessageValue* value = find(piece, out);
    if (value == nullptr) return;
    const detail::MessageCase* chosen = piece.kind == Piece::Kind::select
                                            ? choose(piece, selector_of(*value), 0)
                                            : choose_plural(piece, *value);
    const bool counts = piece.kind != Piece::Kind::select;
    if (chosen != nullptr) write(chosen->pieces, counts ? value->number() - piece.offset : outer, out);
  }

  static std::string selector_of(const MessageValue& value) {
    if (value.kind() == MessageValue::Kind::number) return fmt::format("{}", value.number());
    return value.text();
  }

  static const detail::MessageCase* choose(const Piece& piece, std::string_view selector, std::size_t) {
    const detail::MessageCase* other = nullptr;
    for (const detail::MessageCase& one : piece.cases) {
      if (!one.is_exact && one.selector == selector) return &one;
      if (one.selector == "other") other = &one;
    }
    return other;
  }

  const detail::MessageCase* choose_plural(const Piece& piece, const MessageValue& value) const {
    if (value.kind() != MessageValue::Kind::number) note(fmt::format("'{}' is no number", piece.name));
    const double number = value.number();
    if (!std::isfinite(number)) note(fmt::format("'{}' is not finite", piece.name));
    for (const detail::MessageCase& one : piece.cases) {
      if (one.is_exact && one.exact == number) return &one;
    }
    return choose(piece, formatters.plural(number - piece.offset, piece.kind == Piece::Kind::ordinal), 0);
  }

  /// A name in letters that run against the message's stays one piece.
  void write_text(const std::string& text, std::string& out) const {
    const bool apart = formatters.must_isolate(text);
    if (apart) out += kIsolate;
    out += text;
    if (apart) out += kEndOfIsolate;
  }

  void write_value(const Piece& piece, std::string& out) {
    const MessageValue* value = find(piece, out);
    if (value == nullptr) return;
    // Escaped only where it may hold signs of markup.
    const std::size_t before = out.size();
    Result<void> written;
    bool escapes = markup, isolated = false;
    detail::ClockUnit unit = detail::ClockUnit::never;
    switch (value->kind()) {
      case MessageValue::Kind::text:
        if (!piece.type.empty())
          note(fmt::format("'{}' is a text where {} is asked for", piece.name, piece.type));
        write_text(value->text(), out);
        break;
      case MessageValue::Kind::number:
        if (!std::isfinite(value->number())) note(fmt::format("'{}' is not finite", piece.name));
        written = piece.type == "date" || piece.type == "time"
                      ? formatters.date(value->number(), piece.type, piece.style, out, unit)
                      : formatters.number(value->number(), piece.type, piece.style, out);
        unit = detail::ClockUnit::never;
        break;
      case MessageValue::Kind::date:
      case MessageValue::Kind::clock: {
        const bool is_clock = value->kind() == MessageValue::Kind::clock;
        if (is_clock && !book.clock)
          note(fmt::format("'{}' is the book's clock, which nobody set", piece.name));
        const double moment = is_clock ? book.clock.value_or(0) : value->number();
        written = formatters.date(moment, piece.type, piece.style, out, unit);
        if (is_clock) next = std::min(next, formatters.next_change(moment, unit));
        break;
      }
      case MessageValue::Kind::list:
        written = formatters.list(value->texts(), piece.style, out);
        break;
      case MessageValue::Kind::icon:
      case MessageValue::Kind::rich:
      case MessageValue::Kind::message:
        escapes = false;
        if (value->kind() == MessageValue::Kind::rich && formatters.must_isolate(value->rich_text().text)) {
          out += kIsolate;
          isolated = true;
        }
        out += markup ? "<var name=\"" + piece.name + "\"/>" : "{" + piece.name + "}";
        break;
    }
    if (isolated) out += kEndOfIsolate;
    if (!written) {
      out.resize(before);
      out += '{' + piece.name + '}';
      note(fmt::format("expected {}, found '{}'", written.error().expected, written.error().found.data()));
    }
    if (!escapes || out.find_first_of("<&", before) == std::string::npos) return;
    const std::string plain = out.substr(before);
    out.resize(before);
    append_escaped(plain, true, out);
  }
};

double MessageBook::State::format(const Compiled& made, std::string_view id, const MessageValues& values,
                                  RichText& out, const MarkupNames& names, Notes* notes, int depth) {
  if (!made.message) {
    const std::string why = made.error.empty() ? "no catalog has it" : made.error;
    if (notes != nullptr) {
      notes->add({.kind = NoteKind::bad_message, .text = fmt::format("message '{}': {}", id, why)});
    }
    out.text += made.entry != nullptr ? std::string_view(made.entry->pattern) : id;
    return kNever;
  }
  const Message::Tree& tree = made.message->tree();
  bool rich_values = false;
  for (const auto& [name, value] : values.all())
    rich_values = rich_values || value.kind() >= MessageValue::Kind::icon;
  Call call{*this, values, *made.formatters, id, notes};
  call.markup = markup && (tree.has_markup || rich_values);
  if (!call.markup && !rich_values) {
    call.write(tree.pieces, 0, out.text);
    return call.next;
  }
  std::string words;
  call.write(tree.pieces, 0, words);
  if (!call.markup) {
    out.text += words;
    return call.next;
  }
  MarkupNames with_values = names;
  with_values.value = [&](std::string_view name, RichText& to) {
    const MessageValue* value = values.find(name);
    if (value == nullptr) return names.value && names.value(name, to);
    if (value->kind() == MessageValue::Kind::message && depth < kMaxNestedMessages) {
      const Compiled& inner = compile(value->text());
      RichText text;
      call.next = std::min(call.next, format(inner, value->text(), values, text, names, notes, depth + 1));
      to.append(text);
    } else if (value->kind() == MessageValue::Kind::icon || value->kind() == MessageValue::Kind::rich) {
      to.append(value->rich_text());
    } else {
      const detail::MessagePiece piece{.kind = detail::MessagePiece::Kind::value, .name = std::string(name)};
      Call plain{*this, values, *made.formatters, id, notes};
      plain.write_value(piece, to.text);
      call.next = std::min(call.next, plain.next);
    }
    return true;
  };
  out.append(markup(words, with_values, notes));
  return call.next;
}

MessageBook::MessageBook() : state_(std::make_unique<State>()) {}
MessageBook::~MessageBook() = default;

void MessageBook::add(Catalog catalog) {
  State& s = *state_;
  s.changed();
  ByName<std::size_t> index;
  for (std::size_t i = 0; i < catalog.messages.size(); ++i) index[catalog.messages[i].id] = i;
  auto kept = std::make_unique<Catalog>(std::move(catalog));
  for (std::size_t i = 0; i < s.catalogs.size(); ++i) {
    if (s.catalogs[i]->language != kept->language) continue;
    s.catalogs[i] = std::move(kept);
    s.indices[i] = std::move(index);
    return;
  }
  s.catalogs.push_back(std::move(kept));
  s.indices.push_back(std::move(index));
}

void MessageBook::set_language(std::string_view language) {
  if (state_->language == language) return;
  state_->language = language;
  state_->changed();
}
const std::string& MessageBook::language() const& { return state_->language; }

void MessageBook::set_time_zone(std::string_view name) {
  if (state_->time_zone == name) return;
  state_->time_zone = name;
  state_->formatters.clear();
  state_->changed();
}

void MessageBook::set_clock(double seconds) { state_->clock = seconds; }
double MessageBook::clock() const { return state_->clock.value_or(0); }

void MessageBook::set_markup(MarkupReader reader) {
  state_->markup = std::move(reader);
  state_->changed();
}

const CatalogMessage* MessageBook::find(std::string_view id) const { return state_->compile(id).entry; }

double MessageBook::format(std::string_view id, const MessageValues& values, RichText& out,
                           const MarkupNames& names, Notes* notes) {
  out.clear();
  return state_->format(state_->compile(id), id, values, out, names, notes, 0);
}

double MessageBook::format_pattern(std::string_view pattern, const MessageValues& values, RichText& out,
                                   const MarkupNames& names, Notes* notes) {
  out.clear();
  return state_->format(state_->compile_pattern(pattern), pattern, values, out, names, notes, 0);
}

std::vector<std::string> MessageBook::plural_forms(std::string_view language, bool ordinal) {
  detail::Formatters formatters(language, "UTC");
  std::vector<std::string> out;
  for (const char* form : {"zero", "one", "two", "few", "many", "other"}) {
    bool used = form == std::string_view("other");
    for (int n = 0; n <= kMaxCounted && !used; ++n) used = formatters.plural(n, ordinal) == form;
    if (used) out.emplace_back(form);
  }
  return out;
}

std::vector<double> MessageBook::numbers_of(std::string_view language, std::string_view form, bool ordinal) {
  detail::Formatters formatters(language, "UTC");
  std::vector<double> out;
  for (int n = 0; n <= kMaxCounted; ++n) {
    if (formatters.plural(n, ordinal) == form) out.push_back(n);
  }
  return out;
}

std::uint64_t MessageBook::revision() const { return state_->revision; }

}  // namespace grafema
