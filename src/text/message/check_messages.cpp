// SPDX-License-Identifier: MIT
// Compares catalogs, and lays every message out in the box of its style.
#include "grafema/text/message_check.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "grafema/base/tag.hpp"
#include "grafema/text/paragraph.hpp"
#include "grafema/text/shaped_text.hpp"
#include "grafema/unicode/characters.hpp"
#include "text/message/message_tree.hpp"

namespace grafema {
namespace {

constexpr std::size_t kMaxVariants = 64;  // of one message: plural forms times selections

/// Scripts that read wrong where a face has no tables to shape them by.
constexpr Tag kShapedScripts[] = {
    tag("arab"), tag("syrc"), tag("nko "), tag("deva"), tag("dev2"), tag("beng"), tag("bng2"),
    tag("guru"), tag("gur2"), tag("gujr"), tag("gjr2"), tag("orya"), tag("ory2"), tag("taml"),
    tag("tml2"), tag("telu"), tag("tel2"), tag("knda"), tag("knd2"), tag("mlym"), tag("mlm2"),
    tag("sinh"), tag("khmr"), tag("mymr"), tag("mym2"), tag("tibt")};

/// The opening tags in the words of a message, with their attributes, each once.
std::set<std::string> tags_of(const Message& message) {
  std::set<std::string> out;
  for (const std::string& words : message.texts()) {
    for (std::size_t at = words.find('<'); at != std::string::npos; at = words.find('<', at + 1)) {
      const std::size_t end = words.find('>', at);
      if (end == std::string::npos || at + 1 == end || words[at + 1] == '/' || words[at + 1] == '!') continue;
      std::string tag = words.substr(at, end + 1 - at);
      // `lang` is what differs between languages.
      if (const std::size_t lang = tag.find(" lang=\""); lang != std::string::npos) {
        const std::size_t close = tag.find('"', lang + 7);
        if (close != std::string::npos) tag.erase(lang, close + 1 - lang);
      }
      out.insert(std::move(tag));
    }
  }
  return out;
}

std::set<std::string> names_of(const std::vector<MessageArgument>& arguments) {
  std::set<std::string> out;
  for (const MessageArgument& argument : arguments) out.insert(argument.name);
  return out;
}

std::string joined(const std::vector<std::string>& words) {
  std::string out;
  for (const std::string& word : words) out += (out.empty() ? "" : ", ") + word;
  return out;
}

/// What one set has and the other has not, in quotes.
std::vector<std::string> without(const std::set<std::string>& all, const std::set<std::string>& other) {
  std::vector<std::string> out;
  for (const std::string& name : all) {
    if (other.count(name) == 0) out.push_back("'" + name + "'");
  }
  return out;
}

std::string quote_characters(const std::set<char32_t>& characters) {
  std::vector<std::string> words;
  words.reserve(characters.size());
  for (const char32_t c : characters) words.push_back(fmt::format("U+{:04X}", static_cast<std::uint32_t>(c)));
  if (words.size() > 12) {
    const std::size_t more = words.size() - 12;
    words.resize(12);
    words.push_back(fmt::format("{} more", more));
  }
  return joined(words);
}

class MessageChecker {
 public:
  MessageChecker(std::span<const Catalog> catalogs, const MessageCheck& check)
      : catalogs_(catalogs), check_(check) {
    if (check.markup) book_.set_markup(check.markup);
    book_.set_clock(0);  // any time will do
    for (const CatalogMessage& message : catalogs[0].messages) source_.emplace(message.id, &message);
  }

  std::vector<MessageFault> run() {
    for (const Catalog& catalog : catalogs_) check_catalog(catalog);
    return std::move(faults_);
  }

 private:
  void check_catalog(const Catalog& catalog) {
    catalog_ = &catalog;
    book_.set_language(catalog.language);
    missing_characters_.clear(), scripts_.clear(), forms_.clear(), numbers_.clear();
    std::set<std::string> here;
    for (const CatalogMessage& message : catalog.messages) {
      here.insert(message.id);
      check_message(message);
    }
    for (const CatalogMessage& message : catalogs_[0].messages) {
      if (here.count(message.id) == 0)
        add(MessageFaultKind::missing, {.id = message.id}, "the source has it, this catalog does not");
    }
    for (const auto& [id, characters] : missing_characters_) {
      CatalogMessage where;
      where.id = id.first, where.line = id.second;
      add(MessageFaultKind::character, where, "no face has " + quote_characters(characters));
    }
  }

  MessageFault& add(MessageFaultKind kind, const CatalogMessage& message, std::string text) {
    faults_.push_back({kind, catalog_->language, message.id, message.line, std::move(text)});
    return faults_.back();
  }

  void check_message(const CatalogMessage& message) {
    const auto source = source_.find(message.id);
    const CatalogMessage* original = source != source_.end() ? source->second : nullptr;
    if (original == nullptr) add(MessageFaultKind::spare, message, "the source does not have it");
    const Result<Message> parsed = Message::parse(message.pattern);
    if (!parsed) {
      add(MessageFaultKind::pattern, message, describe(parsed.error(), "the pattern"));
      return;
    }
    const std::vector<MessageArgument> arguments = parsed->arguments();
    check_plurals(message, *parsed);
    if (original != nullptr && original != &message) compare(message, *parsed, *original);
    // The source's example stands in where a translation has none of its own.
    const CatalogMessage* model = message.example.all().empty() && original != nullptr ? original : &message;
    show(message, arguments, model->example,
         !message.style.empty() || original == nullptr ? message.style : original->style);
  }

  void compare(const CatalogMessage& message, const Message& parsed, const CatalogMessage& original) {
    const Result<Message> source = Message::parse(original.pattern);
    if (!source) return;
    const std::set<std::string> own = names_of(parsed.arguments()), theirs = names_of(source->arguments());
    if (const auto lacks = without(theirs, own); !lacks.empty()) {
      add(MessageFaultKind::values, message, "the value " + joined(lacks) + " of the source is not used");
    }
    if (const auto more = without(own, theirs); !more.empty()) {
      add(MessageFaultKind::values, message, "the source has no value " + joined(more));
    }
    const std::set<std::string> own_tags = tags_of(parsed), their_tags = tags_of(*source);
    if (!check_.markup) return;
    if (const auto lacks = without(their_tags, own_tags); !lacks.empty()) {
      add(MessageFaultKind::markup, message, "the source also has " + joined(lacks));
    }
    if (const auto more = without(own_tags, their_tags); !more.empty()) {
      add(MessageFaultKind::markup, message, "the source does not have " + joined(more));
    }
  }

  void check_plurals(const CatalogMessage& message, const Message& parsed) {
    std::set<std::string> said;
    for (const MessageArgument& argument : parsed.arguments()) {
      const bool ordinal = argument.type == "selectordinal";
      if (argument.type != "plural" && !ordinal) continue;
      std::vector<std::string> lacks;
      for (const std::string& form : forms(ordinal)) {
        const bool there =
            std::find(argument.cases.begin(), argument.cases.end(), form) != argument.cases.end();
        if (!there && !is_covered(argument, form, ordinal)) lacks.push_back(form);
      }
      if (!lacks.empty() && said.insert(argument.name).second) {
        add(MessageFaultKind::plural_form, message,
            fmt::format("'{}' needs the form {} in this language", argument.name, joined(lacks)));
      }
    }
  }

  const std::vector<std::string>& forms(bool ordinal) {
    auto& kept = forms_[ordinal];
    if (kept.empty()) kept = MessageBook::plural_forms(catalog_->language, ordinal);
    return kept;
  }
  const std::vector<double>& numbers(const std::string& form, bool ordinal) {
    const auto at = numbers_.find({form, ordinal});
    if (at != numbers_.end()) return at->second;
    return numbers_[{form, ordinal}] = MessageBook::numbers_of(catalog_->language, form, ordinal);
  }

  /// Whether cases for single numbers, as `=1`, stand for all that the form is used for.
  bool is_covered(const MessageArgument& argument, const std::string& form, bool ordinal) {
    const std::vector<double>& all = numbers(form, ordinal);
    return !all.empty() && std::all_of(all.begin(), all.end(), [&](double n) {
      return std::find(argument.cases.begin(), argument.cases.end(), fmt::format("={}", n)) !=
             argument.cases.end();
    });
  }

  /// Formats the message in each of its forms, and looks at what comes out.
  void show(const CatalogMessage& message, const std::vector<MessageArgument>& arguments,
            const MessageValues& example, const std::string& style) {
    std::vector<MessageValues> variants = {with_defaults(arguments, example)};
    std::set<std::string> done;
    for (const MessageArgument& argument : arguments) {
      if (argument.cases.empty() || !done.insert(argument.name).second) continue;
      const std::size_t before = variants.size();
      for (const MessageValue& value : choices(argument)) {
        for (std::size_t v = 0; v < before && variants.size() < kMaxVariants; ++v) {
          variants.push_back(variants[v]);
          variants.back().set(argument.name, value);
        }
      }
    }
    worst_ = {};
    std::set<std::string> said;
    for (const MessageValues& values : variants) show_one(message, values, style, said);
    if (worst_.over_x > 0 || worst_.over_y > 0) {
      MessageFault& fault = add(MessageFaultKind::overflow, message, worst_.text);
      fault.over_x = worst_.over_x, fault.over_y = worst_.over_y, fault.style = style;
      fault.shown = std::move(worst_.shown);
    }
  }

  std::vector<MessageValue> choices(const MessageArgument& argument) {
    std::vector<MessageValue> out;
    for (const std::string& one : argument.cases) {
      if (argument.type == "select") {
        out.push_back(MessageValue(one));
      } else if (one.size() > 1 && one[0] == '=') {
        out.push_back(MessageValue(std::strtod(one.c_str() + 1, nullptr)));
      } else {
        const std::vector<double>& all = numbers(one, argument.type == "selectordinal");
        if (!all.empty()) out.push_back(MessageValue(all.back()));
      }
    }
    return out;
  }

  static MessageValues with_defaults(const std::vector<MessageArgument>& arguments,
                                     const MessageValues& example) {
    constexpr double kLongNumber = 88;
    MessageValues out = example;
    for (const MessageArgument& argument : arguments) {
      if (out.find(argument.name) != nullptr) continue;
      const bool date = argument.type == "date" || argument.type == "time";
      const bool text = argument.type.empty() || argument.type == "select";
      out.set(argument.name, date                      ? MessageValue::clock()
                             : argument.type == "list" ? MessageValue::list({argument.name})
                             : text                    ? MessageValue(argument.name)
                                                       : MessageValue(kLongNumber));
    }
    return out;
  }

  void show_one(const CatalogMessage& message, const MessageValues& values, const std::string& style,
                std::set<std::string>& said) {
    Notes notes;
    RichText shown;
    book_.format_pattern(message.pattern, values, shown, {check_.styles, check_.icons}, &notes);
    for (const Note& note : notes.all()) {
      const bool markup = note.kind == NoteKind::bad_markup;
      if (!said.insert(note.text).second) continue;
      const auto names = [&](std::string_view what) { return note.text.compare(0, what.size(), what) == 0; };
      if ((names("style '") && check_.styles == nullptr) || (names("icon '") && check_.icons == nullptr))
        continue;
      add(markup ? MessageFaultKind::markup : MessageFaultKind::name, message, describe(note));
    }
    if (!check_.fonts.empty()) measure(message, shown, style);
  }

  void measure(const CatalogMessage& message, const RichText& shown, const std::string& style_name) {
    const NamedStyle* named =
        check_.styles != nullptr && !style_name.empty() ? check_.styles->find(style_name) : nullptr;
    if (named == nullptr && check_.styles != nullptr && !style_name.empty() &&
        unknown_styles_.insert(style_name).second) {
      add(MessageFaultKind::name, message, fmt::format("the styles have no '{}'", style_name));
    }
    TextStyle style = named != nullptr ? named->text : TextStyle{};
    style.language = catalog_->language;
    // What would be cut off must be seen to stand out.
    if (style.overflow == Overflow::clip || style.overflow == Overflow::ellipsis)
      style.overflow = Overflow::show;
    const std::size_t most_lines = std::exchange(style.max_lines, 0);
    const FontStack fonts =
        named != nullptr ? restyle(check_.fonts, named->span.font, check_.families) : check_.fonts;
    Notes notes;
    if (!lay_out(fonts, shown, style, cache_, paragraph_, &notes, check_.families)) return;
    for (const Note& note : notes.all()) {
      if (note.kind == NoteKind::missing_character) {
        missing_characters_[{message.id, message.line}].insert(static_cast<char32_t>(note.character));
      }
    }
    check_scripts(message, shown, fonts);
    const Rect box = paragraph_.advance_box;
    const float over_x = style.wrap ? std::max({0.0F, box.right - *style.wrap, -box.left}) : 0.0F;
    float bottom = box.height();
    if (style.overflow == Overflow::show && most_lines != 0 && paragraph_.lines.size() > most_lines &&
        !style.box_height) {
      style.box_height =
          paragraph_.lines[most_lines - 1].top + paragraph_.lines[most_lines - 1].height - box.top;
    }
    const float over_y = style.box_height ? std::max(0.0F, bottom - *style.box_height) : 0.0F;
    constexpr float kSlack = 0.01F;
    if (over_x <= kSlack && over_y <= kSlack) return;
    if (over_x + over_y <= worst_.over_x + worst_.over_y) return;
    worst_.over_x = over_x > kSlack ? over_x : 0, worst_.over_y = over_y > kSlack ? over_y : 0;
    worst_.shown = shown;
    std::vector<std::string> sides;
    if (worst_.over_x > 0) sides.push_back(fmt::format("{:.0f} px too wide", std::ceil(worst_.over_x)));
    if (worst_.over_y > 0) sides.push_back(fmt::format("{:.0f} px too high", std::ceil(worst_.over_y)));
    worst_.text = fmt::format(
        "{} for style '{}'{}", joined(sides), style_name,
        style.overflow == Overflow::smaller ? fmt::format(" at its smallest, {} px", paragraph_.size) : "");
  }

  /// Each script once a language.
  void check_scripts(const CatalogMessage& message, const RichText& shown, const FontStack& fonts) {
    ShapedText shaped;
    if (!shaped.set(fonts, shown.text, {}, cache_)) return;
    for (const ShapedRun& run : shaped.runs()) {
      const bool needs = std::find(std::begin(kShapedScripts), std::end(kShapedScripts), run.script) !=
                         std::end(kShapedScripts);
      if (!needs || !scripts_.insert(run.script).second) continue;
      const Face* face = fonts[run.face]->face();
      const char32_t first = shaped.analysis().characters[run.first];
      if (face == nullptr || face->find_glyph(first) == kMissingGlyph)
        continue;  // its characters are missing
      const std::vector<Tag> known = face->scripts();
      const std::string name = to_string(run.script).substr(0, 3);
      const bool shapes =
          std::any_of(known.begin(), known.end(), [&](Tag t) { return to_string(t).substr(0, 3) == name; });
      if (!shapes)
        add(MessageFaultKind::script, message,
            fmt::format("{} has no tables that shape the script '{}'", face->title(), to_string(run.script)));
    }
  }

  std::span<const Catalog> catalogs_;
  const MessageCheck& check_;
  MessageBook book_;
  ShapeCache cache_;
  Paragraph paragraph_;
  const Catalog* catalog_ = nullptr;
  std::map<std::string, const CatalogMessage*> source_;
  std::map<std::pair<std::string, std::uint32_t>, std::set<char32_t>> missing_characters_;
  std::set<Tag> scripts_;
  std::map<bool, std::vector<std::string>> forms_;
  std::map<std::pair<std::string, bool>, std::vector<double>> numbers_;
  std::set<std::string> unknown_styles_;
  MessageFault worst_;
  std::vector<MessageFault> faults_;
};

}  // namespace

std::vector<MessageFault> check_messages(std::span<const Catalog> catalogs, const MessageCheck& check) {
  return catalogs.empty() ? std::vector<MessageFault>{} : MessageChecker(catalogs, check).run();
}

}  // namespace grafema
