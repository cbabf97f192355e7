// SPDX-License-Identifier: MIT
// Whatever a font file says, using all of it takes no more memory than eight times the file and 16 MB.
#include <malloc.h>

#include <algorithm>
#include <atomic>
#include <cerrno>
#include <cstdlib>

namespace {
std::atomic<long> live{0}, peak{0};

void* counted(void* p) {
  if (p == nullptr) return p;
  const long now = live += static_cast<long>(malloc_usable_size(p));
  long most = peak;
  while (now > most && !peak.compare_exchange_weak(most, now)) {
  }
  return p;
}
void uncount(void* p) {
  if (p != nullptr) live -= static_cast<long>(malloc_usable_size(p));
}
}  // namespace

extern "C" {
void* __libc_malloc(size_t);
void* __libc_calloc(size_t, size_t);
void* __libc_realloc(void*, size_t);
void* __libc_memalign(size_t, size_t);
void __libc_free(void*);
void* malloc(size_t size) noexcept { return counted(__libc_malloc(size)); }
void* calloc(size_t count, size_t size) noexcept { return counted(__libc_calloc(count, size)); }
void* realloc(void* old, size_t size) noexcept {
  uncount(old);
  return counted(__libc_realloc(old, size));
}
void* memalign(size_t to, size_t size) noexcept { return counted(__libc_memalign(to, size)); }
void* aligned_alloc(size_t to, size_t size) noexcept { return counted(__libc_memalign(to, size)); }
int posix_memalign(void** out, size_t to, size_t size) noexcept {
  *out = counted(__libc_memalign(to, size));
  return *out == nullptr ? ENOMEM : 0;
}
void free(void* p) noexcept {
  uncount(p);
  __libc_free(p);
}
}

#include <catch2/catch.hpp>
#include <filesystem>
#include <random>

#include "grafema/font/license.hpp"
#include "grafema/font/reachable.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

void use_glyphs(const Face& face) {
  Contours outline;
  for (std::uint32_t g = 0; g < std::min(face.glyph_count(), 200U); ++g) {
    (void)face.read_outline(GlyphId{g}, outline);
    (void)face.kerning(GlyphId{g}, GlyphId{g / 2}, tag("latn"));
    (void)face.read_paint(GlyphId{g});
    (void)face.color_layers(GlyphId{g});
    (void)face.find_bitmap(GlyphId{g}, 64);
    (void)face.glyph_name(GlyphId{g});
    (void)face.vertical_origin(GlyphId{g});
  }
}

void use(const Face& face) {
  use_glyphs(face);
  std::vector<char32_t> characters;
  for (const auto& [character, glyph] : face.characters()) {
    if (characters.size() < 64) characters.push_back(character);
  }
  (void)reachable_glyphs(face, characters);
  (void)read_license(face.names(), face.facts());
  (void)face.palettes();
  (void)face.style_attributes();
  for (std::size_t i = 0; i < face.substitutions().lookup_count(); ++i) {
    (void)face.substitutions().substitution(i);
  }
  for (std::size_t i = 0; i < face.positions().lookup_count(); ++i) (void)face.positions().positioning(i);
}

void use(const std::vector<std::byte>& bytes) {
  const Result<FontData> plain = unpack(FontData::borrow(bytes));
  const Result<std::size_t> count = plain ? Face::count(*plain) : Result<std::size_t>(0U);
  for (std::size_t i = 0; count && i < std::min<std::size_t>(*count, 2); ++i) {
    const auto face = Face::open(*plain, i);
    if (!face) continue;
    use(**face);
    std::vector<AxisValue> place;
    for (const Axis& axis : (*face)->axes()) place.push_back({axis.tag, (axis.standard + axis.max) / 2});
    if (!place.empty()) use_glyphs(*(*face)->instance(place));
  }
}

/// The most memory that using the bytes took at a time.
long taken(const std::vector<std::byte>& bytes) {
  const long before = live;
  peak = before;
  use(bytes);
  return peak - before;
}

long allowed(const std::vector<std::byte>& bytes) {
  return 8 * static_cast<long>(bytes.size()) + 16 * 1024 * 1024;
}

/// The inputs that fuzzing starts from: a small file of each kind.
std::vector<std::vector<std::byte>> seeds() {
  std::vector<std::vector<std::byte>> out;
  for (const char* kind : {"font", "woff2"}) {
    std::vector<std::filesystem::path> paths;
    for (const auto& entry :
         std::filesystem::directory_iterator(std::string(GRAFEMA_SOURCE_DIR) + "/fuzz/seeds/" + kind)) {
      paths.push_back(entry.path());
    }
    std::sort(paths.begin(), paths.end());
    for (const auto& path : paths) {
      const std::string text = *load_text(path.string());
      const auto* bytes = reinterpret_cast<const std::byte*>(text.data());
      out.emplace_back(bytes, bytes + text.size());
    }
  }
  return out;
}

}  // namespace

TEST_CASE("memory is counted", "[memory]") {
  const long before = live;
  const std::vector<char> some(1 << 20);
  CHECK(live - before >= 1 << 20);
}

TEST_CASE("fonts as they are take little", "[memory]") {
  for (const char* file : {"DejaVuSans.ttf", "DejaVuSerif-BoldItalic.ttf"}) {
    const std::string text = *load_text(test::dejavu_path(file));
    const auto* bytes = reinterpret_cast<const std::byte*>(text.data());
    const std::vector<std::byte> whole(bytes, bytes + text.size());
    CHECK(taken(whole) < allowed(whole) / 4);
  }
}

TEST_CASE("fonts with any bytes changed stay within eight times the file and 16 MB", "[memory][property]") {
  std::mt19937 random(20);
  for (const std::vector<std::byte>& seed : seeds()) {
    for (int round = 0; round < 200; ++round) {
      std::vector<std::byte> changed = seed;
      const int changes = 1 + static_cast<int>(random() % 6);
      for (int i = 0; i < changes; ++i) {
        const std::size_t at = random() % changed.size(),
                          count = std::min<std::size_t>(1 + random() % 4, changed.size() - at);
        // Counts and offsets are most harmful where they are large.
        const auto value = random() % 3 == 0 ? std::byte{0xFF} : static_cast<std::byte>(random());
        std::fill_n(changed.begin() + static_cast<std::ptrdiff_t>(at), count, value);
      }
      REQUIRE(taken(changed) <= allowed(changed));
    }
  }
}
