// SPDX-License-Identifier: MIT
// What went wrong, where in which table, what was expected and what was found.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <string_view>
#include <tl/expected.hpp>
#include <utility>

#include "grafema/base/export.hpp"
#include "grafema/base/tag.hpp"

namespace grafema {

enum class ErrorKind : std::uint8_t {
  file_unreadable,  ///< the file can't be opened or read
  file_unwritable,  ///< the output can't be created, written or renamed
  not_a_font,       ///< the first bytes are not those of a font container we know
  not_an_image,     ///< the bytes are not a picture that we read
  damaged,          ///< the file contradicts itself, its specification or ends too early
  unsupported,      ///< right by its specification, but not read by this version
  bad_value,        ///< a value that the caller chose is out of its range
  bad_text,         ///< a byte that is not UTF-8, where that is refused
  does_not_fit,     ///< something is larger than the room that the caller gave
  forbidden,        ///< the face's embedding permission does not allow it
  interrupted,      ///< the work was ended by the one who watches it
};

/// One failure. Trivial and free of heap memory, so it is cheap to return from the deepest parser.
struct Error {
  static constexpr std::uint64_t kNowhere = ~std::uint64_t{0};

  ErrorKind kind = ErrorKind::damaged;
  Tag table{};                       ///< the font table it stands in; Tag{} where there is none
  std::uint64_t offset = kNowhere;   ///< byte offset in that table, or in the file where there is none
  const char* expected = "";         ///< what should have been there; static storage
  std::array<char, 120> found = {};  ///< what was there, NUL-terminated; empty where that says nothing

  /// Copies as much of `text` as there is room for into `found` and gives the error back.
  GRAFEMA_API Error& with_found(std::string_view text);
};

/// Makes an error; `expected` must have static storage.
GRAFEMA_API Error make_error(ErrorKind kind, const char* expected, std::string_view found = {});

/// One sentence for whoever shows it: the file (may be empty), the table and offset, what was expected and
/// found.
GRAFEMA_API std::string describe(const Error& error, std::string_view file = {});

/// A value, or the error in its place. One that is dropped unread is a warning.
template <class T>
class [[nodiscard]] Result : public tl::expected<T, Error> {
 public:
  using Base = tl::expected<T, Error>;
  using Base::Base;
  using Base::operator=;
  Result() = default;
  Result(Base other) : Base(std::move(other)) {}  // NOLINT(google-explicit-constructor): they are the same
};

/// The failed result that holds `error`.
inline tl::unexpected<Error> fail(const Error& error) { return tl::unexpected<Error>(error); }

/// The failed result of a caller's value that is out of its range; `expected` must have static storage.
inline tl::unexpected<Error> bad_value(const char* expected, std::string_view found = {}) {
  return fail(make_error(ErrorKind::bad_value, expected, found));
}

}  // namespace grafema
