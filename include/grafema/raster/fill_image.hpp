// SPDX-License-Identifier: MIT
// An image that letters are filled with, and its smaller versions.
#pragma once

#include <memory>
#include <span>
#include <vector>

#include "grafema/base/image.hpp"

namespace grafema {

/// Shared by the looks that use it; never changed. Its levels are rgba8, each half as wide and high as the
/// one before, down to 1 x 1: light multiplied by alpha, as sRGB bytes, so that levels and texels may be
/// mixed as light.
class GRAFEMA_API FillImage : public std::enable_shared_from_this<FillImage> {
 public:
  static constexpr int kMaxSide = 4096;

  /// Takes a copy of an image of any format: gray counts as opaque, 16 bits become 8. Fails with `bad_value`
  /// where a side is 0 or above kMaxSide.
  static Result<std::shared_ptr<const FillImage>> make(const Image& image);

  int width() const { return levels_.front().width(); }
  int height() const { return levels_.front().height(); }
  std::span<const Image> levels() const { return levels_; }
  /// No other has the same in this process.
  std::uint64_t id() const { return id_; }

 private:
  FillImage() = default;

  std::vector<Image> levels_;
  std::uint64_t id_ = 0;
};

}  // namespace grafema
