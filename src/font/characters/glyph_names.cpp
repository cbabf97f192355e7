// SPDX-License-Identifier: MIT
// Glyph names by number (Technical Note 5176, appendix A; OpenType, post).
#include "font/characters/glyph_names.hpp"

#include <iterator>

namespace grafema::detail {
namespace {

#include "font/characters/glyph_names.inc"

static_assert(std::size(kStandardStrings) == kStandardStringCount);

constexpr std::size_t kPostNameCount = std::size(kPostNames);

}  // namespace

std::string_view standard_string(std::size_t id) {
  return id < kStandardStringCount ? kStandardStrings[id] : std::string_view{};
}

PostNames::PostNames(const TableView& post) : post_(post) {
  if (post.u32(0) != 0x00020000) return;
  const std::size_t count = post.u16(32);
  for (std::size_t at = 34 + count * 2; post.holds(at, 1);) {
    const auto length = static_cast<std::size_t>(post.bytes[at]);
    if (!post.holds(at + 1, length)) break;
    texts_.push_back(static_cast<std::uint32_t>(at));
    at += 1 + length;
  }
}

std::string PostNames::find(std::uint32_t glyph) const {
  const std::uint32_t version = post_.u32(0);
  if (version == 0x00010000 && glyph < kPostNameCount) return std::string(kPostNames[glyph]);
  if (version != 0x00020000 || glyph >= post_.u16(32) || !post_.holds(34 + std::size_t{glyph} * 2, 2)) {
    return {};
  }
  const std::size_t index = post_.u16(34 + std::size_t{glyph} * 2);
  if (index < kPostNameCount) return std::string(kPostNames[index]);
  if (index - kPostNameCount >= texts_.size()) return {};
  const std::size_t at = texts_[index - kPostNameCount];
  return {reinterpret_cast<const char*>(post_.bytes.data()) + at + 1,
          static_cast<std::size_t>(post_.bytes[at])};
}

}  // namespace grafema::detail
