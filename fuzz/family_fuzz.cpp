// SPDX-License-Identifier: MIT
// Any text as a family file whose fonts are all the built-in one.
#include "grafema/files/family_file.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  if (size > 1 << 20) return 0;
  const auto set = read_families({reinterpret_cast<const char*>(data), size},
                                 [](const std::string& file) -> Result<FontData> {
                                   if (file.empty()) {
                                     return fail(make_error(ErrorKind::file_unreadable, "a name"));
                                   }
                                   return built_in_font();
                                 });
  if (!set) return 0;
  for (const char* style : {"Regular", "bold italic", "condensed 250"}) {
    const FontStack stack = make_stack(*set, style);
    fuzz::require(!stack.empty());
    for (const auto& face : stack) fuzz::require(face.metrics != nullptr);
  }
  return 0;
}
