// SPDX-License-Identifier: MIT
// All text that a game shows at once: labels, their order, what moves and cuts them together.
#pragma once

#include "grafema/draw/grid.hpp"
#include "grafema/draw/label.hpp"
#include "grafema/draw/scene_memory.hpp"
#include "grafema/draw/text_context.hpp"
#include "grafema/draw/text_field.hpp"

namespace grafema {

/// What labels of a group have in common.
struct LabelGroup {
  std::int32_t order = 0;  ///< groups with a higher one are in front
  PixelPoint offset = {};  ///< layout pixels, added to where labels on the screen and pinned ones stand
  float opacity = 1;       ///< 0..1, multiplied with theirs
  bool visible = true;
  ClipId clip{};  ///< of labels that have none of their own
  bool operator==(const LabelGroup&) const = default;
};

/// What a label is cut off at: nothing of it is seen outside the box.
struct LabelClip {
  enum class Space : std::uint8_t {
    device,  ///< device pixels, from the target's top left corner
    panel,   ///< pixels of a panel of this box, which stands where `placement` says
    label,   ///< the label's own pixels
  };
  Rect box = {};
  Space space = Space::device;
  Placement placement = {};
  bool operator==(const LabelClip&) const = default;
};

/// How often a scene did what since it was made; for tests and tuning.
struct SceneWork {
  std::uint64_t contents = 0;  ///< labels whose glyphs were written
  std::uint64_t layouts = 0;   ///< texts that were laid out
  std::uint64_t numbers = 0;   ///< numbers that needed no layout
  std::uint64_t rows = 0;      ///< rows that were made from a placement
  std::uint64_t orders = 0;    ///< the order of all was made anew
  std::uint64_t grids = 0;     ///< grids that were laid out
};

/// Labels, grids and fields of one or several contexts. What a label draws is written once, when its text,
/// look or pictures change; moving it, fading it, showing it or leaving it out writes its row. Belongs to one
/// thread, that of its contexts. Handles stay valid when the scene is moved. At most kMaxLabels labels,
/// 8 contexts, 255 clips, 4,095 groups, and pages of 32 texture arrays: glyphs beyond them are not shown, and
/// that is noted. Motions have room for 65,535 terms and glyphs that a function moves; what is beyond stands
/// still. Labels of a context that was destroyed are removed by the next update.
class GRAFEMA_API TextScene {
 public:
  static constexpr std::size_t kMaxLabels = std::size_t{1} << 22U, kMaxGlyphs = std::size_t{1} << 28U;

  /// Labels are of this context where `add` is not told another.
  explicit TextScene(TextContext& context);
  ~TextScene();
  TextScene(TextScene&&) noexcept;
  TextScene& operator=(TextScene&&) = delete;

  /// A plain black label at the top left, behind no other. Not valid where the scene is full, which is noted.
  Label add(std::string_view text = {});
  Label add(TextContext& context, std::string_view text);
  /// A label without text: a box with the layers of a look. Move it as any label.
  Label add_box(const Rect& box, LookId look);
  /// Fails with `bad_value` as Grid::set_options does.
  Result<Grid> add_grid(const GridOptions& options = {});
  /// Text that a player edits. Fails with `bad_value` where `lay_out` would refuse the style, and where there
  /// are too many clips: each field takes one.
  Result<TextField> add_field(const TextStyle& style, const EditOptions& options = {});
  /// Removes all labels, grids and fields; groups and clips stay.
  void clear();
  std::size_t size() const;  ///< labels, those of boxes and fields included
  /// Takes memory for as many labels with so many glyphs in all. Fails with `does_not_fit` where a scene
  /// can't hold as many, or the memory can't be had.
  Result<void> reserve(std::size_t labels, std::size_t glyphs);

  /// Moves many labels, the quickest way. Fails with `bad_value` where there is not one place for each or a
  /// number is not finite; nothing is moved then. Labels that are not there are passed over and noted.
  Result<void> move(std::span<const Label> labels, std::span<const PixelPoint> to);
  /// The topmost visible label whose box or panel holds a device pixel, by the view of the last update; not
  /// valid where there is none.
  Label label_at(PixelPoint device) const;

  /// What shines on its labels from now on; may change in every frame. Fails with `bad_value` as
  /// check_lighting does.
  Result<void> set_lighting(const Lighting& lighting);

  /// The id of none (0) where a number is not finite or there are 4,095 groups, which is noted.
  GroupId add_group(const LabelGroup& group = {});
  /// Fails with `bad_value` where a number is not finite or there is no such group.
  Result<void> set_group(GroupId id, const LabelGroup& group);
  LabelGroup group(GroupId id) const;
  /// Its labels are of no group then. An id that is not there is noted, here and below.
  void erase(GroupId id);
  /// Fails with `bad_value` as set_clip does, and where there are too many.
  Result<ClipId> add_clip(const LabelClip& clip);
  /// Fails with `bad_value` where a number is not finite, the box is empty or there is no such clip.
  Result<void> set_clip(ClipId id, const LabelClip& clip);
  /// What it cut off is seen whole then.
  void erase(ClipId id);

  /// Makes everything ready to be drawn as it is at `seconds`: call it once a frame, then give `memory` to a
  /// renderer; and again for another view of the same frame. Begins a frame of caches of the contexts' own.
  /// Labels whose text, style, fonts, looks or pictures changed are written; where nothing changed it costs
  /// next to nothing. Adds to `notes` what there is to say of labels that were written, and of calls since
  /// the last update. Allocates nothing in steady state. Fails with `bad_value` where the view or the time
  /// can't be used; nothing is changed then.
  Result<void> update(const View& view, double seconds, Notes* notes = nullptr);
  const SceneMemory& memory() const&;
  const SceneMemory& memory() const&& = delete;
  const SceneWork& work() const;

 private:
  std::unique_ptr<detail::SceneState> state_;
};

}  // namespace grafema
