// SPDX-License-Identifier: MIT
// Any text as a looks file: what is read can be asked for its reach.
#include "grafema/draw/look_painter.hpp"
#include "grafema/files/files.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  if (size > 1 << 20) return 0;
  const auto looks = read_looks({reinterpret_cast<const char*>(data), size});
  if (!looks) return 0;
  for (const NamedLook& named : *looks) {
    fuzz::require(named.look.count <= Look::kMaxLayers);
    const Look pixels = in_pixels(named.look, 32);
    fuzz::require(required_reach(pixels, 32) >= 0);
    const Overhang room = overhang(pixels, 32);
    fuzz::require(room.left >= 0 && room.top >= 0 && room.right >= 0 && room.bottom >= 0);
    (void)make_painter(named.look, 32);
  }
  return 0;
}
