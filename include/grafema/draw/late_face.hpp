// SPDX-License-Identifier: MIT
// A face that arrives while the game already shows text: the fallback stands in until then.
#pragma once

#include <memory>
#include <mutex>
#include <utility>

#include "grafema/atlas/glyph_source.hpp"

namespace grafema {

/// Where one thread leaves a face and another takes it. May be used from any thread.
class LateFace {
 public:
  struct Arrival {
    std::shared_ptr<const GlyphMetrics> face = {};
    std::shared_ptr<GlyphSource> source =
        {};  ///< holds the pictures of its glyphs too; null: the context's source does
  };

  void arrive(std::shared_ptr<const GlyphMetrics> face, std::shared_ptr<GlyphSource> source = nullptr) {
    const std::lock_guard lock(mutex_);
    arrival_ = {std::move(face), std::move(source)};
  }
  /// What arrived, once; without a face where nothing did.
  Arrival take() {
    const std::lock_guard lock(mutex_);
    return std::exchange(arrival_, {});
  }

 private:
  std::mutex mutex_;
  Arrival arrival_;
};

}  // namespace grafema
