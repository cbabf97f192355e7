// SPDX-License-Identifier: MIT
// The tables of a scene on the device: what changed since the last time is sent, and nothing else.
#pragma once

#include <epoxy/gl.h>

#include <vector>

#include "grafema/base/error.hpp"
#include "grafema/draw/scene_memory.hpp"

namespace grafema::detail {

/// A table as a texture array of 1024 texels a line, 1024 lines a layer.
struct DeviceTable {
  GLuint texture = 0;
  int lines = 0, layers = 0;
};

class HeldScene {
 public:
  explicit HeldScene(const SceneMemory& scene) : life_(scene.life()) {}

  bool is_of(const SceneMemory& scene) const {
    return !life_.owner_before(scene.life()) && !scene.life().owner_before(life_);
  }
  bool is_gone() const { return life_.expired(); }
  /// Fails with `does_not_fit` where the device has no room; what it had before then no longer holds.
  Result<void> send(const SceneMemory& scene, std::uint64_t& bytes_sent);
  void bind() const;
  GLuint order() const { return order_; }
  void free();

 private:
  Result<void> send_table(const SceneMemory& scene, SceneTable table, std::uint64_t& bytes_sent);
  Result<void> send_order(const SceneMemory& scene, std::uint64_t& bytes_sent);
  void send_layers(const SceneMemory& scene, std::uint64_t& bytes_sent);

  std::weak_ptr<const void> life_;
  std::uint64_t revision_ = 0;  // that was sent last
  DeviceTable tables_[kSceneTables];
  GLuint order_ = 0;
  std::size_t order_room_ = 0;
  std::vector<float> padded_;
};

}  // namespace grafema::detail
