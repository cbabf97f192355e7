// SPDX-License-Identifier: MIT
// Takes message patterns apart with ICU's parser, and keeps values.
#include "grafema/text/message.hpp"

#include <fmt/format.h>
#include <unicode/messagepattern.h>

#include <algorithm>

#include "text/message/message_tree.hpp"

namespace grafema {

MessageValue MessageValue::date(double seconds) {
  MessageValue value(seconds);
  value.kind_ = Kind::date;
  return value;
}
MessageValue MessageValue::clock() {
  MessageValue value;
  value.kind_ = Kind::clock;
  return value;
}
MessageValue MessageValue::list(std::vector<std::string> texts) {
  MessageValue value;
  value.kind_ = Kind::list;
  value.texts_ = std::move(texts);
  return value;
}
MessageValue MessageValue::icon(const Icon& icon, std::string_view name) {
  RichText text;
  text.append(icon, name);
  MessageValue value = rich(std::move(text));
  value.kind_ = Kind::icon;
  return value;
}
MessageValue MessageValue::rich(RichText text) {
  MessageValue value;
  value.kind_ = Kind::rich;
  value.rich_ = std::make_shared<const RichText>(std::move(text));
  return value;
}
MessageValue MessageValue::message(std::string_view id) {
  MessageValue value(id);
  value.kind_ = Kind::message;
  return value;
}

const RichText& MessageValue::rich_text() const {
  static const RichText nothing;
  return rich_ ? *rich_ : nothing;
}

bool MessageValue::operator==(const MessageValue& other) const {
  const bool same_number = number_ == other.number_ || (number_ != number_ && other.number_ != other.number_);
  return kind_ == other.kind_ && same_number && text_ == other.text_ && texts_ == other.texts_ &&
         rich_text() == other.rich_text();
}

MessageValues::MessageValues(std::initializer_list<std::pair<std::string_view, MessageValue>> values) {
  for (const auto& [name, value] : values) set(name, value);
}

void MessageValues::set(std::string_view name, const MessageValue& value) {
  for (auto& [known, kept] : values_) {
    if (known != name) continue;
    if (kept == value) return;
    kept = value;
    ++revision_;
    return;
  }
  values_.emplace_back(name, value);
  ++revision_;
}

void MessageValues::clear() {
  values_.clear();
  ++revision_;
}

const MessageValue* MessageValues::find(std::string_view name) const {
  for (const auto& [known, value] : values_) {
    if (known == name) return &value;
  }
  return nullptr;
}

namespace {

constexpr std::size_t kMaxPattern = 65536;  // bytes; ICU counts parts in 16 bits
constexpr int kMaxNested = 32;

std::string to_utf8(const icu::UnicodeString& text) {
  std::string out;
  text.toUTF8String(out);
  return out;
}

/// Takes ICU's list of parts for a tree.
class TreeMaker {
 public:
  explicit TreeMaker(const icu::MessagePattern& pattern)
      : pattern_(pattern), text_(pattern.getPatternString()) {}

  const std::optional<Error>& error() const { return error_; }

  /// The message whose start is part `at`; gives the part of its end.
  int32_t read_message(int32_t at, std::vector<detail::MessagePiece>& out, int depth) {
    const int32_t limit = pattern_.getLimitPartIndex(at);
    if (depth > kMaxNested) {
      wrong("choices at most 32 deep in each other", at);
      return limit;
    }
    int32_t from = pattern_.getPart(at).getLimit();
    for (int32_t i = at + 1; i <= limit && !error_; ++i) {
      const icu::MessagePattern::Part& part = pattern_.getPart(i);
      add_words(from, part.getIndex(), out);
      from = part.getLimit();
      if (part.getType() == UMSGPAT_PART_TYPE_REPLACE_NUMBER) {
        out.push_back({.kind = detail::MessagePiece::Kind::number_sign});
      } else if (part.getType() == UMSGPAT_PART_TYPE_ARG_START) {
        const int32_t end = pattern_.getLimitPartIndex(i);
        out.push_back(read_argument(i, end, depth));
        i = end;
        from = pattern_.getPart(end).getLimit();
      }
      // SKIP_SYNTAX and INSERT_CHAR: quotes are left out of the words.
    }
    return limit;
  }

 private:
  using Piece = detail::MessagePiece;

  void wrong(const char* expected, int32_t part) {
    if (error_) return;
    error_ = make_error(ErrorKind::bad_value, expected, "another");
    error_->offset = static_cast<std::uint64_t>(pattern_.getPart(part).getIndex());
  }

  void add_words(int32_t from, int32_t to, std::vector<Piece>& out) const {
    if (to <= from) return;
    if (out.empty() || out.back().kind != Piece::Kind::words) out.push_back({});
    out.back().words += to_utf8(text_.tempSubStringBetween(from, to));
  }

  Piece read_argument(int32_t at, int32_t end, int depth) {
    Piece piece;
    const UMessagePatternArgType type = pattern_.getPart(at).getArgType();
    piece.name = to_utf8(pattern_.getSubstring(pattern_.getPart(at + 1)));
    int32_t i = at + 2;
    switch (type) {
      case UMSGPAT_ARG_TYPE_NONE:
        piece.kind = Piece::Kind::value;
        return piece;
      case UMSGPAT_ARG_TYPE_SIMPLE:
        piece.kind = Piece::Kind::value;
        piece.type = to_utf8(pattern_.getSubstring(pattern_.getPart(i)));
        if (i + 1 < end) piece.style = trimmed(to_utf8(pattern_.getSubstring(pattern_.getPart(i + 1))));
        return piece;
      case UMSGPAT_ARG_TYPE_PLURAL:
      case UMSGPAT_ARG_TYPE_SELECTORDINAL:
        piece.kind = type == UMSGPAT_ARG_TYPE_PLURAL ? Piece::Kind::plural : Piece::Kind::ordinal;
        piece.offset = pattern_.getPluralOffset(i);
        if (UMessagePatternPartType first = pattern_.getPartType(i);
            first == UMSGPAT_PART_TYPE_ARG_INT || first == UMSGPAT_PART_TYPE_ARG_DOUBLE) {
          ++i;
        }
        break;
      case UMSGPAT_ARG_TYPE_SELECT:
        piece.kind = Piece::Kind::select;
        break;
      case UMSGPAT_ARG_TYPE_CHOICE:
        wrong("plural or select instead of choice, which Unicode has given up", at);
        return piece;
    }
    while (i < end && !error_) {
      detail::MessageCase one;
      one.selector = to_utf8(pattern_.getSubstring(pattern_.getPart(i)));
      ++i;
      const UMessagePatternPartType next = pattern_.getPartType(i);
      if (next == UMSGPAT_PART_TYPE_ARG_INT || next == UMSGPAT_PART_TYPE_ARG_DOUBLE) {
        one.is_exact = true;
        one.exact = pattern_.getNumericValue(pattern_.getPart(i));
        ++i;
      }
      i = read_message(i, one.pieces, depth + 1) + 1;
      piece.cases.push_back(std::move(one));
    }
    return piece;
  }

  static std::string trimmed(const std::string& text) {
    const std::size_t first = text.find_first_not_of(" \t\n"), last = text.find_last_not_of(" \t\n");
    return first == std::string::npos ? "" : text.substr(first, last - first + 1);
  }

  const icu::MessagePattern& pattern_;
  const icu::UnicodeString& text_;
  std::optional<Error> error_;
};

/// The byte of a UTF-16 position, and its line and column from 1.
std::string place_of(const icu::UnicodeString& text, int32_t index, std::uint64_t& byte) {
  std::size_t line = 1, column = 1;
  for (int32_t i = 0; i < std::min(index, text.length()); i = text.moveIndex32(i, 1)) {
    if (text.charAt(i) == u'\n') {
      ++line, column = 1;
    } else {
      ++column;
    }
  }
  byte = to_utf8(text.tempSubStringBetween(0, index)).size();
  return fmt::format("line {}, column {}", line, column);
}

/// The brace that is opened and never closed; ICU does not say which.
int32_t find_open_brace(const icu::UnicodeString& text) {
  std::vector<int32_t> open;
  bool quoted = false;
  for (int32_t i = 0; i < text.length(); ++i) {
    const char16_t c = text.charAt(i);
    if (c == u'\'')
      quoted = quoted ? false
                      : i + 1 < text.length() && (text.charAt(i + 1) == u'{' || text.charAt(i + 1) == u'}');
    if (quoted) continue;
    if (c == u'{') open.push_back(i);
    if (c == u'}' && !open.empty()) open.pop_back();
  }
  return open.empty() ? 0 : open.back();
}

const char* expected_by(UErrorCode status) {
  switch (status) {
    case U_UNMATCHED_BRACES:
      return "a closing brace for each opening one";
    case U_DEFAULT_KEYWORD_MISSING:
      return "a case 'other' in every plural, selectordinal and select";
    case U_INDEX_OUTOFBOUNDS_ERROR:
      return "a shorter name, type or pattern";
    case U_UNSUPPORTED_ERROR:
    case U_BAD_VARIABLE_DEFINITION:
      return "a name of letters and digits";
    default:
      return "a message pattern, as {minutes, plural, one {# minute} other {# minutes}}";
  }
}

void add_arguments(const std::vector<detail::MessagePiece>& pieces, std::vector<MessageArgument>& out) {
  using Kind = detail::MessagePiece::Kind;
  for (const detail::MessagePiece& piece : pieces) {
    if (piece.kind == Kind::words || piece.kind == Kind::number_sign) continue;
    MessageArgument argument{piece.name, piece.type, {}};
    if (piece.kind == Kind::plural) argument.type = "plural";
    if (piece.kind == Kind::ordinal) argument.type = "selectordinal";
    if (piece.kind == Kind::select) argument.type = "select";
    for (const detail::MessageCase& one : piece.cases) argument.cases.push_back(one.selector);
    out.push_back(std::move(argument));
    for (const detail::MessageCase& one : piece.cases) add_arguments(one.pieces, out);
  }
}

void add_texts(const std::vector<detail::MessagePiece>& pieces, std::vector<std::string>& out) {
  for (const detail::MessagePiece& piece : pieces) {
    if (piece.kind == detail::MessagePiece::Kind::words) out.push_back(piece.words);
    for (const detail::MessageCase& one : piece.cases) add_texts(one.pieces, out);
  }
}

}  // namespace

Result<Message> Message::parse(std::string_view pattern) {
  if (pattern.size() > kMaxPattern) {
    return fail(
        make_error(ErrorKind::bad_value, "a pattern of at most 65536 bytes", std::to_string(pattern.size())));
  }
  UErrorCode status = U_ZERO_ERROR;
  UParseError where = {};
  icu::MessagePattern parsed(UMSGPAT_APOS_DOUBLE_OPTIONAL, status);
  const icu::UnicodeString text =
      icu::UnicodeString::fromUTF8(icu::StringPiece(pattern.data(), static_cast<int32_t>(pattern.size())));
  parsed.parse(text, &where, status);
  const auto fail_at = [&](const char* expected, int32_t index) {
    Error error = make_error(ErrorKind::damaged, expected);
    const std::string place = place_of(text, index, error.offset);
    const std::string rest = to_utf8(text.tempSubString(index, 20));
    error.with_found(fmt::format("{} at {}", rest.empty() ? "the end" : "'" + rest + "'", place));
    return fail(error);
  };
  if (status == U_UNMATCHED_BRACES) where.offset = find_open_brace(text);
  if (U_FAILURE(status)) return fail_at(expected_by(status), std::clamp(where.offset, 0, text.length()));
  auto tree = std::make_shared<Tree>();
  TreeMaker maker(parsed);
  maker.read_message(0, tree->pieces, 0);
  if (maker.error()) return fail_at(maker.error()->expected, static_cast<int32_t>(maker.error()->offset));
  Message out;
  out.tree_ = tree;
  const std::vector<std::string> words = out.texts();
  tree->has_markup = std::any_of(words.begin(), words.end(), [](const std::string& w) {
    return w.find_first_of("<&") != std::string::npos;
  });
  return out;
}

std::vector<MessageArgument> Message::arguments() const {
  std::vector<MessageArgument> out;
  add_arguments(tree_->pieces, out);
  return out;
}

std::vector<std::string> Message::texts() const {
  std::vector<std::string> out;
  add_texts(tree_->pieces, out);
  return out;
}

}  // namespace grafema
