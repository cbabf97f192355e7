// SPDX-License-Identifier: MIT
// Ready-made looks: a fill from above to below, up to two outlines, a shadow or a glow.
#include "grafema/draw/ready_looks.hpp"

#include <fmt/format.h>

#include <array>

#include "grafema/base/nearest.hpp"

namespace grafema {
namespace {

/// 0xRRGGBBAA
constexpr Color color(std::uint32_t v) {
  const auto channel = [v](unsigned shift) { return static_cast<float>(v >> shift & 255U) / 255; };
  return {channel(24), channel(16), channel(8), channel(0)};
}

/// What lies behind the letter, soft: how far it is moved down, grown and blurred. Lengths are ems.
struct Behind {
  float down = 0, grow = 0, blur = 0;
  std::uint32_t fill = 0;  ///< 0: none
};

struct Outline {
  float width = 0;  ///< 0: none
  std::uint32_t fill = 0;
};

struct ReadyLook {
  std::string_view name;
  std::uint32_t top, bottom;  ///< of the letter
  Outline outline, outer;
  Behind behind;
};

constexpr std::array<ReadyLook, 14> kReadyLooks = {{
    {"lamplight", 0xFFF3C9FF, 0xFFC34DFF, {0.05F, 0x3A1D05FF}, {}, {0, 0.06F, 0.12F, 0xFF9D2E90}},
    {"snowfall", 0xFFFFFFFF, 0xF3F8FFFF, {0.05F, 0x24507CFF}, {}, {0.04F, 0.03F, 0.08F, 0x0E2238B0}},
    {"harbor", 0xD9F1FFFF, 0xD9F1FFFF, {0.06F, 0x0B2A45FF}, {}, {}},
    {"saltglass", 0xD8FFF2FF, 0x7FD8C0FF, {0.05F, 0x0E3B36FF}, {}, {}},
    {"foxglove", 0xFFE3F1FF, 0xF08CC0FF, {0.055F, 0x3B0F33FF}, {}, {}},
    {"signboard", 0xFDF6E0FF, 0xFDF6E0FF, {0.07F, 0x161D3FFF}, {}, {}},
    {"night-tram", 0xFFC233FF, 0xFFB000FF, {0.05F, 0x1A0F00FF}, {}, {0, 0.05F, 0.12F, 0xFFB00070}},
    {"ferry", 0x1D2F4FFF, 0x1D2F4FFF, {0.06F, 0xFFFFFFFF}, {0.11F, 0xA3202AFF}, {}},
    {"chalk", 0xF4F1E8FF, 0xF4F1E8FF, {0.055F, 0x22251FFF}, {}, {0.02F, 0.02F, 0.1F, 0x000000A0}},
    {"market", 0xFFE27AFF, 0xFFCB3BFF, {0.06F, 0x4A2406FF}, {}, {}},
    {"canal", 0xD2FCFFFF, 0x5CC4D1FF, {0.05F, 0x06262BFF}, {}, {}},
    {"ember", 0xFFE9A6FF, 0xFF9A5CFF, {0.055F, 0x35090AFF}, {}, {0, 0.06F, 0.12F, 0xFF3C0080}},
    {"frost", 0xFFFFFFFF, 0xBFE3FFFF, {0.05F, 0x17395EFF}, {}, {0, 0.06F, 0.12F, 0xE8F6FFA0}},
    {"weir", 0x1B2A33FF, 0x1B2A33FF, {0.06F, 0xF2F6F3FF}, {}, {}},
}};

constexpr std::array<std::string_view, kReadyLooks.size()> kLookNames = [] {
  std::array<std::string_view, kReadyLooks.size()> names;
  for (std::size_t i = 0; i < kReadyLooks.size(); ++i) names[i] = kReadyLooks[i].name;
  return names;
}();

Look made(const ReadyLook& ready) {
  Look look;
  look.in_ems = true;
  const Behind& b = ready.behind;
  if (b.fill != 0) {
    look.add({.shift = {0, b.down}, .grow = b.grow, .blur = b.blur, .fill = Fill::solid(color(b.fill))});
  }
  for (const Outline& o : {ready.outer, ready.outline}) {
    if (o.width > 0) look.add({.grow = o.width, .fill = Fill::solid(color(o.fill))});
  }
  const Color top = color(ready.top), bottom = color(ready.bottom);
  look.add({.fill = {{top, top, bottom, bottom}}});
  return look;
}

}  // namespace

std::span<const std::string_view> look_names() { return kLookNames; }

Result<Look> read_ready_look(std::string_view name) {
  for (const ReadyLook& ready : kReadyLooks) {
    if (ready.name == name) return made(ready);
  }
  return fail(make_error(ErrorKind::bad_value, "the name of a ready-made look",
                         fmt::format("'{}'{}", name, suggestion(name, kLookNames))));
}

void add_ready_looks(LookBook& book) {
  for (const ReadyLook& ready : kReadyLooks) (void)book.set(ready.name, made(ready));
}

}  // namespace grafema
