// SPDX-License-Identifier: MIT
// The layer records of a scene: looks of its contexts in texels of the pictures that they are drawn from.
#pragma once

#include "draw/content/label_content.hpp"
#include "draw/scene/scene_table.hpp"

namespace grafema::detail {

class SceneLayers {
 public:
  static constexpr std::uint32_t kShared = 0xFFFFFFFF;
  struct Found {
    std::uint16_t first = 0;
    SceneFeature features = SceneFeature::none;
  };
  /// The records of a look for pictures of a kind; nothing where the table is full: then `clear` it and ask
  /// for all again.
  /// A panel's records are those of one label, its `owner`, and written over where the panel changes: a
  /// bubble that points at what moves has another outline in every frame.
  std::optional<Found> find(std::uint8_t context, const LookBook& looks, const Variant& variant, LookId look,
                            SceneTableOf<LayerRecord>& out, std::uint64_t revision,
                            std::uint32_t owner = kShared);
  /// Writes records of looks that changed anew. Fills `changed` with those looks whose glyphs must be written
  /// too, since layers came, went, moved or do something else now.
  void follow(std::uint8_t context, const LookBook& looks, SceneTableOf<LayerRecord>& out,
              std::uint64_t revision, std::vector<LookId>& changed);
  void clear();
  /// The images that a layer is painted with. Kept until its look changes.
  LayerImages images_of(std::size_t record) const {
    return record < images_.size() ? images_[record].get() : LayerImages{};
  }
  /// Whether what is drawn with it goes into the mask of its layer.
  bool joins(std::size_t record) const { return record < joins_.size() && joins_[record]; }

 private:
  static constexpr std::size_t kMaxRecords = 60000;
  struct Key {
    std::uint8_t context;
    LookId look;
    Variant variant;
    std::uint16_t first;
    std::uint16_t room;  ///< records that fit there
    SceneFeature features;
    Look as_written;
    std::uint32_t owner;
  };
  void write(const Key& key, SceneTableOf<LayerRecord>& out, std::uint64_t revision);

  std::vector<Key> keys_;
  std::vector<HeldLayerImages> images_;  // by record: labels that are hidden still say them
  std::vector<bool> joins_;              // by record
  std::size_t last_ = 0, used_ = 0;
};

/// What layers of a look do: bits as in SceneBatch::features.
SceneFeature features_of(const Look& look, float made_bold);

}  // namespace grafema::detail
