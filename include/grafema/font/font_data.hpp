// SPDX-License-Identifier: MIT
// The bytes of a font file, however they came into memory.
#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "grafema/base/error.hpp"

namespace grafema {

/// Shared, unchanging bytes. Copies are cheap and keep the bytes alive.
class GRAFEMA_API FontData {
 public:
  FontData() = default;

  /// Maps the file into memory. Fast for large files, but the process dies where another one cuts the file
  /// short while a face still uses it: use `read` for files that others may rewrite. Fails with
  /// `file_unreadable`.
  static Result<FontData> map(const std::string& path);
  /// Reads the file into memory, at most `max_bytes`. Fails with `file_unreadable`.
  static Result<FontData> read(const std::string& path, std::size_t max_bytes = std::size_t{1} << 30);
  /// Copies bytes of the caller.
  static FontData copy(std::span<const std::byte> bytes);
  /// Takes bytes over.
  static FontData own(std::vector<std::byte> bytes);
  /// Refers to bytes of the caller, which must outlive every copy and every face made from it.
  static FontData borrow(std::span<const std::byte> bytes);

  /// Good while any copy of this object lives.
  std::span<const std::byte> bytes() const { return bytes_; }

 private:
  std::shared_ptr<const void> owner_;
  std::span<const std::byte> bytes_;
};

/// How faces are packed into a file.
enum class Container : std::uint8_t { sfnt, collection, woff, woff2 };

/// The container that the first bytes tell of; nothing for bytes that are no font.
GRAFEMA_API std::optional<Container> find_container(std::span<const std::byte> bytes);

/// Unpacks WOFF and WOFF2; anything else is given back as it is. Face::open does this by itself; call it to
/// open several faces of one packed collection without unpacking it for each. Fails with `damaged`, also
/// where a file would unfold into more than its size allows.
GRAFEMA_API Result<FontData> unpack(FontData data);

/// The font file of Quillmere Dot, the pixel face that is compiled into the library.
GRAFEMA_API FontData built_in_font();

/// The font file of `built_in_sans_face`, some 50 KB.
GRAFEMA_API FontData built_in_sans_font();

}  // namespace grafema
