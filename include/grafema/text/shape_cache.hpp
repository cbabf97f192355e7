// SPDX-License-Identifier: MIT
// What layout remembers from text to text.
#pragma once

#include <memory>

#include "grafema/base/export.hpp"

namespace grafema {

/// What layout remembers between calls: lookups compiled for faces, scripts, languages and features; the
/// shapes of words that it has seen; opened Unicode services; working memory. Its size is bounded: when it is
/// full it forgets all words. Keeps faces alive that it has seen. Belongs to one thread. What it holds never
/// changes a result.
class GRAFEMA_API ShapeCache {
 public:
  ShapeCache();
  ~ShapeCache();
  ShapeCache(ShapeCache&&) noexcept;
  ShapeCache& operator=(ShapeCache&&) noexcept;

  /// Forgets everything and gives its memory back.
  void clear();

  struct Memory;
  Memory& memory() { return *memory_; }

 private:
  std::unique_ptr<Memory> memory_;
};

}  // namespace grafema
