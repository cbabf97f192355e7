// SPDX-License-Identifier: MIT
// Labels that live where renderers find them: what a label draws lies still, what moves is one row.
#pragma once

#include <memory>
#include <string_view>

#include "grafema/draw/label.hpp"
#include "grafema/draw/set_memory.hpp"

namespace grafema {

class SetLabel;

/// Labels that are shown, moved and ordered together.
enum class GroupId : std::uint32_t {};
/// An area that labels are cut off at. 0: none.
enum class ClipId : std::uint32_t {};

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

/// How often a set did what since it was made; for tests and tuning.
struct SetWork {
  std::uint64_t contents = 0;  ///< labels whose glyphs were written
  std::uint64_t numbers = 0;   ///< of those, numbers that needed no layout
  std::uint64_t rows = 0;      ///< rows that were made from a placement
  std::uint64_t orders = 0;    ///< the order of all was made anew
};

/// Labels of one or several contexts. What a label draws is written once, when its text, look or pictures
/// change; moving it, fading it, showing it or leaving it out writes its row. Belongs to the thread of its
/// contexts, which must outlive it; asserted. At most kMaxLabels labels, 8 contexts, 255 clips, and pages of
/// 32 texture arrays: glyphs beyond them are not shown. Motions have room for 65,535 terms and glyphs that a
/// function moves; what is beyond stands still.
class GRAFEMA_API LabelSet {
 public:
  static constexpr std::size_t kMaxLabels = std::size_t{1} << 22U, kMaxGlyphs = std::size_t{1} << 28U;

  /// Labels are of this context where `add` is not told another.
  explicit LabelSet(TextContext& context);
  ~LabelSet();
  LabelSet(LabelSet&&) noexcept;
  LabelSet& operator=(LabelSet&&) = delete;

  /// A plain white label at the top left, behind no other. Not valid where the set is full.
  SetLabel add(std::string_view text = {});
  SetLabel add(TextContext& context, std::string_view text);
  void clear();
  std::size_t size() const;
  /// Takes memory for as many labels with so many glyphs in all. Fails with `does_not_fit` where a set can't
  /// hold as many, or the memory can't be had.
  Result<void> reserve(std::size_t labels, std::size_t glyphs);

  /// Moves many labels, the quickest way. Fails with `bad_value` where there is not one place for each or a
  /// number is not finite; nothing is moved then. Labels that are not there are passed over (asserted).
  Result<void> move(std::span<const SetLabel> labels, std::span<const PixelPoint> to);

  /// What shines on its labels from now on; may change in every frame. Fails with `bad_value` as
  /// check_lighting does.
  Result<void> set_lighting(const Lighting& lighting);

  GroupId add_group(const LabelGroup& group = {});
  /// Fails with `bad_value` where a number is not finite or there is no such group.
  Result<void> set_group(GroupId id, const LabelGroup& group);
  LabelGroup group(GroupId id) const;
  /// Fails with `bad_value` as set_clip does, and where there are too many.
  Result<ClipId> add_clip(const LabelClip& clip);
  /// Fails with `bad_value` where a number is not finite, the box is empty or there is no such clip.
  Result<void> set_clip(ClipId id, const LabelClip& clip);

  /// Makes everything ready to be drawn as it is at `seconds`: call it once a frame, then give `memory` to a
  /// renderer. Labels whose text, style, fonts, looks or pictures changed are written; where nothing changed
  /// it costs next to nothing. What had to be noted for labels that were written is noted. Allocates nothing
  /// in steady state. Fails with `bad_value` where the view can't be used; nothing is changed then.
  Result<void> update(const View& view, double seconds, Notes* notes = nullptr);
  const SetMemory& memory() const&;
  const SetMemory& memory() const&& = delete;
  const SetWork& work() const;

  struct State;

 private:
  std::unique_ptr<State> state_;
};

/// A label of a set. It may be copied; after its label was removed it does nothing (asserted in debug
/// builds), as does one that was never given. The set must outlive its use.
class GRAFEMA_API SetLabel {
 public:
  SetLabel() = default;

  bool valid() const;  ///< whether its label is there
  void remove();

  /// UTF-8 of any length. The same text again costs a comparison.
  void set_text(std::string_view text);
  /// As Label::set_number. Where digits stand alone, as they do in most faces, only their records are
  /// written.
  void set_number(double value, const NumberFormat& format = {});
  /// Fails with `bad_value` where `lay_out` would; the label is then unchanged.
  Result<void> set_style(const TextStyle& style);
  Result<void> set_size(float pixels_per_em);
  /// Fonts of its own; those of its context where there are none.
  void set_fonts(std::shared_ptr<const FontStack> fonts);
  /// A look of its context's book; plain black before this call.
  void set_look(LookId look);
  /// For all else that a label shows: spans, messages, reveal, named styles, links. It stands where the set
  /// puts it; placement, opacity, visibility and motion are set here, not there. The label keeps its layout
  /// from then on. Null where this handle is not valid.
  Label* whole();

  /// Fails with `bad_value` where a number is not finite; the label is then unchanged.
  Result<void> set_placement(const Placement& placement);
  /// The quick way for labels that move every frame.
  Result<void> move_to(PixelPoint at);
  void set_visible(bool visible);
  void set_opacity(float opacity);   ///< as Label::set_opacity
  void set_tint(const Color& tint);  ///< multiplies all fills
  /// Terms cost nothing from then on; with a function its glyphs are placed anew in every frame.
  void set_motion(const Motion& motion);
  /// When its motion's time was 0, in the seconds of LabelSet::update.
  void begin_motion(double seconds);
  /// As Label::set_path. The label keeps its layout from then on; it costs nothing in a frame unless it has a
  /// motion.
  Result<void> set_path(const OnPath& path);
  /// As Label::set_panel.
  Result<void> set_panel(const std::optional<Panel>& panel);
  void set_clip(ClipId clip);
  void set_group(GroupId group);
  /// Labels of a group with a higher one are in front; of equal ones those that were added later.
  void set_order(std::int32_t order);
  void set_name(std::string_view name);  ///< notes say so

  std::string_view text() const;
  Placement placement() const;
  float opacity() const;
  bool visible() const;
  /// The box before it is placed: pixels of the layout. Lays the text out where it changed.
  Rect box() const;
  /// Of its first line, in the pixels of `box`.
  float baseline() const;
  /// The smallest upright box, in device pixels, around the placed one; as Label::device_box.
  Rect device_box(const View& view) const;
  /// Whether the placed box holds a device pixel; never where the label is not visible.
  bool hit(PixelPoint device, const View& view) const;
  /// Whether it was seen in the last update: visible, and not wholly outside the view.
  bool seen() const;
  /// Whether both are the same label of the same set.
  bool operator==(const SetLabel&) const = default;

 private:
  friend class LabelSet;
  SetLabel(LabelSet::State& set, std::uint32_t index, std::uint32_t generation)
      : set_(&set), index_(index), generation_(generation) {}
  LabelSet::State* use() const;
  LabelSet::State* set_ = nullptr;
  std::uint32_t index_ = 0, generation_ = 0;
};

}  // namespace grafema
