// SPDX-License-Identifier: MIT
// What a set keeps: labels in two parts, one that moving touches, and the tables that renderers see.
#pragma once

#include <algorithm>
#include <cmath>
#include <optional>
#include <string>
#include <vector>

#include "base/four.hpp"
#include "draw/label_map.hpp"
#include "draw/label_state.hpp"
#include "draw/set/set_layers.hpp"
#include "draw/set/set_numbers.hpp"
#include "draw/set/set_table.hpp"
#include "grafema/draw/label_set.hpp"

namespace grafema {

namespace detail {

/// A rectangle in clip space; y is up.
struct ClipBounds {
  float left = -1, bottom = -1, right = 1, top = 1;
  /// As `MovingLabel::is_within` takes it.
  std::array<float, 4> upper() const { return {right, top, -left, -bottom}; }
};

/// What moving a label looks at: half a line of a cache.
struct MovingLabel {
  /// 256ths of clip space, rounded outward; what reaches farther is never quick.
  static constexpr float kReachUnit = 1.0F / 256, kMaxReach = 127;

  float rest_x = 0, rest_y = 0;  ///< clip space: where the origin is when the label stands at 0, 0
  PixelPoint at;
  /// Around what it paints, seen from the origin: left, bottom, -right, -top.
  std::array<std::int16_t, 4> reach = {};
  std::uint32_t generation = 0;  ///< of handles; even: there is no label
  std::uint8_t clip = 0;         ///< its own, or that of its group
  bool quick = false;            ///< a step is a sum
  bool seen = false;             ///< in the view, so that its row shows it
  bool paints = false;  ///< it would be seen there: it is visible, not faded, and has something to show

  void set_reach(const ClipBounds& around) {
    const auto outward = [](float v) {
      return static_cast<std::int16_t>(std::clamp(std::floor(v / kReachUnit), -32768.0F, 32767.0F));
    };
    reach = {outward(around.left), outward(around.bottom), outward(-around.right), outward(-around.top)};
  }
  /// Whether anything of it is within bounds when its origin is at x, y.
  bool is_within(Four upper, float x, float y) const {
    return all_set(to_floats(reach.data()) * kReachUnit + Four{x, y, -x, -y} <= upper);
  }
};
static_assert(sizeof(MovingLabel) == 32);

/// Fonts and style that many labels share.
struct SharedStyle {
  TextStyle text;
  std::shared_ptr<const FontStack> fonts;
};

struct StillLabel {
  std::string text;
  std::shared_ptr<const SharedStyle> style;
  /// What few labels have.
  struct Extra {
    std::unique_ptr<Label> whole;
    std::optional<Matrix4> world;
    Motion motion;
    std::optional<Panel> panel;
    std::string name;
  };
  std::unique_ptr<Extra> extra;
  // What a new number looks at, together.
  LookId look{};
  std::uint8_t context = 0;
  bool contents_stale = true, pictures_stale = false, row_stale = true;
  bool overlaps = false;  ///< as Label::State::overlaps_itself
  bool fades = false;     ///< it is written so that it fades as one thing
  bool even = false;  ///< its text is of signs that are all painted, one as wide as another: see NumberSigns
  std::uint32_t first_glyph = 0, glyph_room = 0, first_slot = 0, slot_room = 0, slots = 0;
  std::uint32_t arrays = 0, features = 0;
  std::uint64_t pages = 0;  ///< a bit for each page of its source, modulo 64
  Rect box, extent;         ///< the layout's, and around all that its look paints: pixels of the label

  float baseline = 0;  ///< of its first line

  PixelPoint anchor, pin;
  float rotate = 0, scale_x = 1, scale_y = 1, shear = 0, world_per_pixel = 0.01F;
  PlaceKind kind = PlaceKind::screen;
  bool keep_inside = false, snap = false, pixelated = false;
  bool listed_contents = false, listed_row = false,
       listed_restless = false;         ///< it stands in the list of what is to be done
  std::uint8_t zoom = 0;                ///< those of kNear, kMinified and kFar that hold where it stands
  float texels = 1, finest_texels = 1;  ///< a pixel, of the coarsest of its pictures and of the finest
  bool unsettled = false;               ///< a picture is on its way
  bool lively = false;                  ///< it has outgrown its room in the order before
  std::uint8_t clip = 0;
  bool visible = true, shown = true;          ///< it, whatever its group; it and its group
  std::array<std::uint8_t, 4> row_tint = {};  ///< where it is seen
  float opacity = 1;
  std::array<std::uint8_t, 4> tint = {255, 255, 255, 255};
  double begun = 0;
  std::uint32_t group = 0, sequence = 0;
  std::int32_t order = 0;
  std::uint32_t first_motion = 0, motions = 0;  ///< records of its own, for a function
  std::uint32_t first_box = 0, box_room = 0;    ///< of its quads, where fills ask for them
};

/// A context of a set, and what of it was seen last.
struct SetContext {
  TextContext* context = nullptr;
  std::weak_ptr<const void> life;
  std::unique_ptr<Label> scratch;  ///< lays out labels that keep no layout
  const SharedStyle* scratch_style = nullptr;
  std::shared_ptr<const SharedStyle> scratch_held;
  std::uint64_t revision = 0, looks_revision = 0, source_epoch = 0;
  SourceId source{};
  std::vector<std::uint64_t> page_epochs;
  std::array<std::uint32_t, 64> shown = {};  ///< labels that are seen, by the bits of StillLabel::pages
};

struct KnownMotion {
  std::vector<MotionTerm> terms;
  std::uint16_t first = 0;
};

}  // namespace detail

struct SetMemory::Changes {
  detail::SetRows<GlyphRecord> glyphs{6};
  detail::SetRows<LabelRow> rows{6};
  detail::SetRows<LabelHead> heads{8};
  detail::SetRows<std::uint32_t> order{8};
  detail::SetRows<LayerRecord> layers{4};
  detail::SetRows<ClipRecord> clips{4};
  detail::SetRows<MotionRecord> motions{4};
  detail::SetRows<FillBoxes> boxes{5};
};

struct LabelSet::State {
  using StillLabel = detail::StillLabel;
  using MovingLabel = detail::MovingLabel;

  // --- What moving touches.
  std::vector<MovingLabel> moving;
  PixelPoint unit;                            ///< clip space: how long a layout pixel is
  std::vector<detail::ClipBounds> bounds{1};  ///< of clips, within the view
  std::vector<std::array<float, 4>> uppers{detail::ClipBounds{}.upper()};  ///< of the same
  SetMemory::Changes tables;
  std::uint64_t next = 1;  ///< the revision that changes belong to

  // --- The rest.
  std::vector<StillLabel> still;
  std::vector<std::uint32_t> free;  ///< indices of labels that were removed
  std::vector<detail::SetContext> contexts;
  std::vector<LabelGroup> groups{1};
  std::vector<LabelClip> clips{1};
  std::vector<std::uint32_t> contents_todo, rows_todo, todo_now, whole, restless, unsettled;
  std::vector<LookId> looks_changed;
  detail::RangeBook glyph_ranges, motion_ranges, box_ranges;
  detail::SetLayers layers;
  detail::SetNumbers numbers;
  std::vector<detail::KnownMotion> known_motions;
  std::vector<SetArray> arrays;
  std::shared_ptr<const detail::SharedStyle> plain_style, last_style;  ///< of a new label; set last
  std::optional<View> view;
  std::optional<detail::ViewProduct> product;  ///< of the view
  std::size_t label_count = 0;
  std::uint32_t next_sequence = 0;
  double clock = 0, clock_base = 0;
  Notes* notes = nullptr;  ///< of the update that is going on
  SetMemory memory;
  SetWork work;
  std::shared_ptr<const int> life = std::make_shared<const int>(0);

  // --- Order: set_order.cpp.
  struct Drawn {
    std::uint32_t label, first_slot;
  };
  std::vector<Drawn> drawn;              ///< labels with room in the order, back to front
  bool is_drawn(const Drawn& d) const {  ///< still, and there
    return still[d.label].slot_room > 0 && still[d.label].first_slot == d.first_slot;
  }
  std::vector<std::uint32_t> chunks;  ///< of kChunk entries of the order: how many labels are seen
  std::vector<SetBatch> all_batches, batches;
  std::vector<std::uint32_t> slots_made, order_made;  ///< working memory
  std::vector<FillBoxes> boxes_made;                  ///< the same
  struct Cover {
    QuadKind kind;
    LookId look;
    std::uint32_t glyph;  ///< index in the label
    bool is_there = true;
  };
  std::vector<Cover> covers_made;  ///< of the label that is being written
  std::uint32_t dead_slots = 0;
  bool order_stale = false, batches_stale = false, chunks_stale = false, trim_stale = false;
  static constexpr std::uint32_t kChunk = 1024;

  static constexpr std::uint32_t kNoLabel = 0xFFFFFFFF;
  static constexpr std::uint32_t kMaxArrays = 32;  ///< a bit and five bits of GlyphRecord::page each
  bool is_alive(std::uint32_t i) const { return (moving[i].generation & 1U) != 0; }
  std::uint32_t add(TextContext& context, std::string_view text);
  void remove(std::uint32_t i);
  std::uint8_t find_context(TextContext& context);
  StillLabel::Extra& extra(std::uint32_t i);
  Label* whole_of(std::uint32_t i) const;
  void touch_contents(std::uint32_t i);
  void touch_pictures(std::uint32_t i);
  void touch_row(std::uint32_t i);
  void find_shown(std::uint32_t i);
  void set_style(std::uint32_t i, const TextStyle& style, std::shared_ptr<const FontStack> fonts);

  // Contents: set_contents.cpp.
  void follow(std::uint8_t number);
  void follow_looks(std::uint8_t number);
  void follow_pages(std::uint8_t number);
  void follow_whole_labels();
  void write_contents();
  void write_contents(std::uint32_t i);
  void measure(std::uint32_t i, const Label::State& label);
  Label::State& prepare(std::uint32_t i);
  void write_glyphs(std::uint32_t i, Label::State& label);
  void write_slots(std::uint32_t i, const Label::State& label);
  void start_layers_over();
  // Covers: set_covers.cpp.
  bool wants_to_fade(std::uint32_t i) const;
  void follow_fading(std::uint32_t i);
  void find_covers(std::uint32_t i, const Label::State& label);
  bool write_covers(std::uint32_t i, const Label::State& label);
  bool write_cover(std::uint32_t i, const Cover& cover, const Rect& extent, float size);
  void add_slots(std::uint32_t i, const QuadRun& run, std::uint32_t layer);
  void add_joined_slots(std::uint32_t i, const Label::State& label, const QuadRun& first,
                        std::uint32_t layer);
  SetBatch batch_of_entry(const StillLabel& label, std::uint32_t slot, std::uint32_t features) const;
  GlyphRecord record_of(std::uint32_t i, const Label::State& label, std::size_t quad, std::size_t run) const;
  // Motions: set_motions.cpp.
  void write_motions(std::uint32_t i, Label::State& label);
  void move_by_functions();
  void move_by_function(std::uint32_t i, Label::State& label);
  std::uint16_t motion_number(const Motion& motion);
  std::uint32_t array_number(std::uint8_t context, Variant& variant);
  float motion_reach_of(std::uint32_t i, const Label::State& label) const;
  void leave_out_too_many(std::uint32_t i, Label::State& label);
  void take_glyph_room(std::uint32_t i, std::uint32_t count);
  void write_fill_boxes(std::uint32_t i, const Label::State& label);
  void free_boxes(std::uint32_t i);
  void add_batches_by_entry(const StillLabel& label, std::uint32_t features);
  void add_batch(const SetBatch& batch);
  void free_motions(std::uint32_t i);
  void note_crowded(const Label::State& label, const char* what) const;
  void forget_context(std::uint8_t number);
  void drop_dead_contexts();
  void keep_pages();
  void settle();
  void follow_clock(double seconds);
  void touch_tint(std::uint32_t i);
  std::array<std::uint8_t, 4> tint_of(std::uint32_t i) const;
  Placement placement_in_group(std::uint32_t i) const;

  static std::uint64_t pages_of(const Label::State& label);
  void change_pages(std::uint32_t i, std::uint64_t pages);

  // Numbers: set_numbers.cpp.
  const detail::NumberSigns* learn_numbers(std::uint32_t i);
  bool write_number_of(std::uint32_t i, std::string_view text);
  bool write_even_number(std::uint32_t i, const detail::NumberSigns& signs, std::string_view text,
                         std::size_t same);
  bool write_signs(std::uint32_t i, const detail::NumberSigns& signs, std::string_view text,
                   std::size_t same);
  void follow_signs(std::uint32_t i, const detail::NumberSigns& signs, float pen, bool paints);

  // Rows: set_rows.cpp.
  Placement placement_of(std::uint32_t i) const;
  void write_rows();
  void write_row(std::uint32_t i);
  std::uint8_t zoom_of(const StillLabel& s, const LabelMap& map) const;
  void set_seen(std::uint32_t i, bool seen);
  void follow_view(const View& now);
  void write_clips();
  void write_clip(std::size_t i);
  detail::ClipBounds make_clip(std::size_t i);
  bool is_in_bounds(const MovingLabel& m, float x, float y) const {
    return m.is_within(detail::load(uppers[m.clip].data()), x, y);
  }

  void move(std::uint32_t i, PixelPoint at);

  // Order: set_order.cpp.
  void place_slots(std::uint32_t i, std::span<const std::uint32_t> slots);
  void free_slots(std::uint32_t i);
  bool is_before(std::uint32_t a, std::uint32_t b) const;
  void write_order();
  void find_batches();
  void count_chunks();
  void count_in_chunks(const StillLabel& label, bool more);
  void trim_batches();
  void publish();
};

}  // namespace grafema
