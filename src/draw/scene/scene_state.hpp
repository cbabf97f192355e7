// SPDX-License-Identifier: MIT
// What a scene keeps: labels in two parts, one that moving touches, and the tables that renderers see.
#pragma once

#include <algorithm>
#include <cmath>
#include <optional>
#include <string>
#include <thread>
#include <unordered_map>
#include <vector>

#include "base/four.hpp"
#include "draw/content/label_content.hpp"
#include "draw/label_map.hpp"
#include "draw/scene/id_book.hpp"
#include "draw/scene/scene_fields.hpp"
#include "draw/scene/scene_grids.hpp"
#include "draw/scene/scene_layers.hpp"
#include "draw/scene/scene_numbers.hpp"
#include "draw/scene/scene_table.hpp"
#include "grafema/draw/text_scene.hpp"

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
    std::unique_ptr<LabelContent> content;  ///< of what keeps its layout
    std::optional<Matrix4> world;
    Motion motion;
    std::optional<Panel> panel;
    std::string name;
    std::optional<Placement> own;  ///< of a member of a grid: where it stands once it has left it
    std::uint32_t grid = 0;        ///< index of that grid
  };
  std::unique_ptr<Extra> extra;
  // What a new number looks at, together.
  LookId look{};
  std::uint8_t context = 0;
  bool contents_stale = true, pictures_stale = false, row_stale = true;
  bool overlaps = false;  ///< as LabelContent::overlaps_itself
  bool fades = false;     ///< it is written so that it fades as one thing
  bool even = false;  ///< its text is of signs that are all painted, one as wide as another: see NumberSigns
  std::uint32_t first_glyph = 0, glyph_room = 0, first_slot = 0, slot_room = 0, slots = 0;
  std::uint32_t arrays = 0;
  SceneFeature features = SceneFeature::none;
  std::uint64_t pages = 0;  ///< a bit for each page of its source, modulo 64
  Rect box, extent;         ///< the layout's, and around all that its look paints: pixels of the label

  float baseline = 0;  ///< of its first line

  PixelPoint anchor, pin;
  float rotate = 0, scale_x = 1, scale_y = 1, shear = 0, world_per_pixel = 0.01F;
  PlaceKind kind = PlaceKind::screen;
  bool keep_inside = false, snap = false, pixelated = false;
  bool listed_contents = false, listed_row = false,
       listed_restless = false;  ///< it stands in the list of what is to be done
  std::uint8_t zoom = 0;  ///< those of `magnified`, `minified` and `mipmapped` that hold where it stands
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
  std::uint8_t rank = 0;  ///< of labels with one sequence, which a field has
  bool in_grid = false;
  std::int32_t order = 0;
  std::uint32_t first_motion = 0, motions = 0;  ///< records of its own, for a function
  std::uint32_t first_box = 0, box_room = 0;    ///< of its quads, where fills ask for them
};

/// A context of a scene, and what of it was seen last.
struct SceneContext {
  TextContext* context = nullptr;
  std::weak_ptr<const void> life;
  std::unique_ptr<LabelContent> scratch;  ///< lays out labels that keep no layout
  std::shared_ptr<const SharedStyle> scratch_held;
  std::uint64_t revision = 0, looks_revision = 0, source_epoch = 0;
  std::uint64_t styles_revision = 0, messages_revision = 0;
  double next_change = INFINITY;  ///< when a message changes with the book's clock
  SourceId source{};
  std::vector<std::uint64_t> page_epochs;
  std::array<std::uint32_t, 64> shown = {};  ///< labels that are seen, by the bits of StillLabel::pages
};

struct KnownMotion {
  std::vector<MotionTerm> terms;
  std::uint16_t first = 0;
};

}  // namespace detail

/// All tables.
struct SceneMemory::Changes {
  detail::SceneTableOf<GlyphRecord> glyphs{6};
  detail::SceneTableOf<LabelRow> rows{6};
  detail::SceneTableOf<LabelHead> heads{8};
  detail::SceneTableOf<std::uint32_t> order{8};
  detail::SceneTableOf<LayerRecord> layers{4};
  detail::SceneTableOf<ClipRecord> clips{4};
  detail::SceneTableOf<MotionRecord> motions{4};
  detail::SceneTableOf<FillBoxes> boxes{5};
};

namespace detail {

struct SceneState {
  // --- What moving touches.
  std::vector<MovingLabel> moving;
  PixelPoint unit;                                                 ///< clip space: how long a layout pixel is
  std::vector<ClipBounds> bounds{1};                               ///< of clips, within the view
  std::vector<std::array<float, 4>> uppers{ClipBounds{}.upper()};  ///< of the same
  SceneMemory::Changes tables;
  std::uint64_t next = 1;  ///< the revision that changes belong to

  // --- The rest.
  std::vector<StillLabel> still;
  std::vector<std::uint32_t> free;  ///< indices of labels that were removed
  std::vector<SceneContext> contexts;
  IdBook<LabelGroup> groups{12};
  IdBook<LabelClip> clips{8};
  std::vector<std::uint32_t> contents_todo, rows_todo, todo_now, restless, unsettled;
  std::vector<std::uint32_t> followers;  ///< labels that show messages or named styles
  std::vector<LookId> looks_changed;
  RangeBook glyph_ranges, motion_ranges, box_ranges;
  SceneLayers layers;
  SceneNumbers numbers;
  std::unordered_multimap<std::size_t, KnownMotion> known_motions;  ///< by a hash of their terms
  std::vector<SceneArray> arrays;
  std::shared_ptr<const SharedStyle> plain_style, last_style;  ///< of a new label; set last
  std::optional<View> view;
  std::optional<ViewProduct> product;  ///< of the view
  std::size_t label_count = 0;
  std::uint32_t next_sequence = 0;
  double clock = 0, clock_base = 0;
  Notes* notes = nullptr;  ///< of the update that is going on
  Notes pending{64};       ///< of calls since the last one
  ContentMemory content_memory;
  SceneMemory memory;
  SceneWork work;
  std::thread::id thread = std::this_thread::get_id();  ///< that it belongs to
  std::shared_ptr<const int> life = std::make_shared<const int>(0);

  // --- Order: scene_order.cpp.
  struct Drawn {
    std::uint32_t label, first_slot;
  };
  std::vector<Drawn> drawn;              ///< labels with room in the order, back to front
  bool is_drawn(const Drawn& d) const {  ///< still, and there
    return still[d.label].slot_room > 0 && still[d.label].first_slot == d.first_slot;
  }
  std::vector<std::uint32_t> chunks;  ///< of kChunk entries of the order: how many labels are seen
  std::vector<SceneBatch> all_batches, batches;
  std::vector<std::uint32_t> slots_made, order_made;  ///< working memory
  std::vector<FillBoxes> boxes_made;                  ///< the same
  struct Composite {
    TexelKind kind;
    LookId look;
    std::uint32_t glyph;  ///< index in the label
    bool is_there = true;
  };
  std::vector<Composite> composites_made;  ///< of the label that is being written
  std::uint32_t dead_slots = 0;
  bool order_stale = false, batches_stale = false, chunks_stale = false, trim_stale = false;
  static constexpr std::uint32_t kChunk = 1024;

  GridBook grids;
  std::vector<SceneField> fields;
  static constexpr std::uint32_t kNoLabel = 0xFFFFFFFF;
  static constexpr std::uint8_t kMaxContexts = 8, kNoContext = 255;
  static constexpr std::uint32_t kMaxArrays = 32;  ///< a bit and five bits of GlyphRecord::page each
  bool is_alive(std::uint32_t i) const { return (moving[i].generation & 1U) != 0; }
  std::uint32_t add(TextContext& context, std::string_view text);
  void remove(std::uint32_t i);
  std::uint8_t find_context(TextContext& context);
  StillLabel::Extra& extra(std::uint32_t i);
  LabelContent* content_of(std::uint32_t i) const;
  /// The label keeps its layout from now on.
  LabelContent& keep_content(std::uint32_t i);
  /// Its context, or null where that was destroyed.
  TextContext* context_of(std::uint32_t i) const;
  void note(NoteKind kind, const char* call, std::uint32_t label = kNoLabel);
  std::string_view name_of(std::uint32_t i) const;
  /// Its index where the group is there.
  std::optional<std::uint32_t> index_of(GroupId id) const;
  std::optional<std::uint32_t> index_of(ClipId id) const;
  void set_text(std::uint32_t i, std::string_view text);
  void set_placement(std::uint32_t i, const Placement& p);
  Placement own_placement(std::uint32_t i) const;
  Rect box_of(std::uint32_t i);
  Rect box_with_panel(std::uint32_t i);
  std::optional<LabelMap> map_of(std::uint32_t i);
  bool is_hit(std::uint32_t i, PixelPoint device);
  const LabelContent& laid_out(std::uint32_t i);
  void follow_label(std::uint32_t i);
  void touch_contents(std::uint32_t i);
  void touch_pictures(std::uint32_t i);
  void touch_row(std::uint32_t i);
  void find_shown(std::uint32_t i);
  void set_style(std::uint32_t i, const TextStyle& style, std::shared_ptr<const FontStack> fonts);

  // Contents: scene_contents.cpp.
  void catch_up(std::uint8_t number);
  LabelContent* followed(std::uint32_t i);
  void follow_looks(std::uint8_t number);
  void follow_pages(std::uint8_t number);
  void follow_books(std::uint8_t number);
  void write_contents();
  void write_contents(std::uint32_t i);
  void measure(std::uint32_t i, const LabelContent& label);
  LabelContent& prepare(std::uint32_t i);
  LabelContent& lay_out_scratch(std::uint32_t i);
  void write_glyphs(std::uint32_t i, LabelContent& label);
  void write_slots(std::uint32_t i, const LabelContent& label);
  void start_layers_over();
  // Composites: scene_composites.cpp.
  bool wants_to_fade(std::uint32_t i) const;
  void follow_fading(std::uint32_t i);
  void find_composites(std::uint32_t i, const LabelContent& label);
  bool write_composites(std::uint32_t i, const LabelContent& label);
  bool write_composite(std::uint32_t i, const Composite& composite, const Rect& extent, float size);
  void add_slots(std::uint32_t i, const QuadRun& run, std::uint32_t layer);
  void add_joined_slots(std::uint32_t i, const LabelContent& label, const QuadRun& first,
                        std::uint32_t layer);
  SceneBatch batch_of_entry(const StillLabel& label, std::uint32_t slot, SceneFeature features) const;
  GlyphRecord record_of(std::uint32_t i, const LabelContent& label, std::size_t quad, std::size_t run) const;
  // Motions: scene_motions.cpp.
  void write_motions(std::uint32_t i, LabelContent& label);
  void move_by_functions();
  void move_by_function(std::uint32_t i, LabelContent& label);
  std::uint16_t motion_number(const Motion& motion);
  std::uint32_t array_number(std::uint8_t context, Variant& variant);
  float motion_reach_of(std::uint32_t i, const LabelContent& label) const;
  void leave_out_too_many(std::uint32_t i, LabelContent& label);
  void take_glyph_room(std::uint32_t i, std::uint32_t count);
  void write_fill_boxes(std::uint32_t i, const LabelContent& label);
  void free_boxes(std::uint32_t i);
  void add_batches_by_entry(const StillLabel& label, SceneFeature features);
  void add_batch(const SceneBatch& batch);
  void free_motions(std::uint32_t i);
  void note_crowded(const LabelContent& label, const char* what) const;
  void forget_context(std::uint8_t number);
  void drop_dead_contexts();
  void keep_pages();
  void settle();
  void follow_clock(double seconds);
  void touch_tint(std::uint32_t i);
  std::array<std::uint8_t, 4> tint_of(std::uint32_t i) const;
  Placement placement_in_group(std::uint32_t i) const;

  static std::uint64_t pages_of(const LabelContent& label);
  void change_pages(std::uint32_t i, std::uint64_t pages);

  // Numbers: scene_numbers.cpp.
  const NumberSigns* learn_numbers(std::uint32_t i);
  bool write_number_of(std::uint32_t i, std::string_view text);
  bool write_even_number(std::uint32_t i, const NumberSigns& signs, std::string_view text, std::size_t same);
  bool write_signs(std::uint32_t i, const NumberSigns& signs, std::string_view text, std::size_t same);
  void follow_signs(std::uint32_t i, const NumberSigns& signs, float pen, bool paints);

  // Rows: scene_rows.cpp.
  Placement placement_of(std::uint32_t i) const;
  void write_rows();
  void write_row(std::uint32_t i);
  std::uint8_t zoom_of(const StillLabel& s, const LabelMap& map) const;
  void set_seen(std::uint32_t i, bool seen);
  void follow_view(const View& now);
  void write_clips();
  void write_clip(std::size_t i);
  ClipBounds make_clip(std::size_t i);
  bool is_in_bounds(const MovingLabel& m, float x, float y) const {
    return m.is_within(load(uppers[m.clip].data()), x, y);
  }

  void move(std::uint32_t i, PixelPoint at);

  // Grids: scene_grids.cpp.
  void lay_out_grids();
  static std::uint32_t index_in(const GridItem& item);
  void measure_members(std::uint32_t grid);
  void plan_members(std::uint32_t grid);
  void place_members(std::uint32_t grid, const Placement& where, PixelPoint anchor, PixelPoint from);
  void touch_grid(std::uint32_t i);
  void leave_grid(const GridItem& item);
  Result<void> check_items(std::uint32_t grid, std::span<const GridItem> items) const;
  void set_items(std::uint32_t grid, std::span<const GridItem> items);
  void remove_grid(std::uint32_t grid);

  // Fields: scene_fields.cpp.
  void show_fields();
  void show_field(SceneField& field);
  void show_lines(SceneField& field, PixelPoint origin);
  void show_boxes(SceneField& field, PixelPoint origin);
  void show_box(SceneField& field, Label& label, std::uint8_t rank, const Rect& box, LookId look);
  void cut_off(SceneField& field);
  void touch_field(SceneField& field);
  void remove_field(std::uint32_t field);
  Label add_part(SceneField& field, std::uint8_t rank);
  PixelPoint origin_of(const SceneField& field) const;

  // Order: scene_order.cpp.
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

}  // namespace detail
}  // namespace grafema
