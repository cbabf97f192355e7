// SPDX-License-Identifier: MIT
// A text that a scene shows. Changing one thing about it redoes only what depends on that.
#pragma once

#include <memory>
#include <span>
#include <string_view>
#include <vector>

#include "grafema/draw/motion.hpp"
#include "grafema/draw/panel.hpp"
#include "grafema/draw/placement.hpp"
#include "grafema/draw/text_path.hpp"
#include "grafema/text/message.hpp"
#include "grafema/text/number_format.hpp"
#include "grafema/text/paragraph.hpp"

namespace grafema {

namespace detail {
struct SceneState;
}

/// Labels that are shown, moved and ordered together: an id of one scene.
enum class GroupId : std::uint32_t {};
/// An area that labels are cut off at: an id of one scene. 0: none.
enum class ClipId : std::uint32_t {};

/// A handle of a label of a TextScene, 16 bytes: as a pointer to it. Copies show the same label. The scene
/// must outlive its use, on the scene's own thread (asserted).
///
/// A handle whose label was removed, or that was never given, does nothing; that is noted. A setter of
/// numbers leaves the label as it is where one is not finite or out of its range; the next TextScene::update
/// notes that once. What asks for the layout (boxes, clusters, paragraph) lays the text out where it changed.
class GRAFEMA_API Label {
 public:
  static constexpr std::size_t kAll = static_cast<std::size_t>(-1);

  Label() = default;
  bool valid() const;  ///< whether its label is there
  void remove();
  /// Whether both are the same label of the same scene.
  bool operator==(const Label&) const = default;
  void set_name(std::string_view name);  ///< notes say so

  // What it shows: the last of text, number, rich text and message.

  /// UTF-8 of any length. The same text again costs a comparison.
  void set_text(std::string_view text);
  /// Shows the number rounded half away from zero. What is not finite shows as "-"; above 10^18 in size it is
  /// cut there. Where digits stand alone, as they do in most faces, it is not laid out.
  void set_number(double value, const NumberFormat& format = {});
  /// Text with spans and icons. Looks and motions of spans are names of the context's books, families those
  /// of its fonts_by_name; what is not there is noted. The same text again costs a comparison.
  void set_rich(const RichText& text);
  /// Shows a message of the context's book with the values of `set_value`. Its text is made anew when a
  /// value, the language or a catalog changes, or the clock gets to `next_change`.
  void set_message(std::string_view id);
  /// Does nothing to a label without a message.
  void set_value(std::string_view name, const MessageValue& value);
  /// When the book's clock changes the text next, in its seconds; infinite where it never does.
  double next_change() const;
  /// Without the tags of markup. This and `rich` are good until the label changes.
  std::string_view text() const;
  const RichText& rich() const;  ///< empty where the label has neither spans nor icons

  /// How many clusters are shown, in the order of the text. The layout stays that of the whole text.
  void set_revealed(std::size_t clusters);
  std::size_t revealed() const;
  /// The byte at which each cluster that can be revealed begins; good until the label changes.
  std::span<const std::uint32_t> clusters() const;

  // How it looks.

  /// Takes a style of the context's StyleBook: layout, faces and look, which follow when the book changes it.
  /// Fails with `bad_value` and the nearest name; the label is then unchanged.
  Result<void> use_style(std::string_view name);
  /// Fails with `bad_value` where `lay_out` would; the label is then unchanged.
  Result<void> set_style(const TextStyle& style);
  const TextStyle& style() const;
  void set_size(float pixels_per_em);  ///< kMinSize to kMaxSize
  /// Fonts of its own; those of its context where there are none.
  void set_fonts(std::shared_ptr<const FontStack> fonts);
  /// A look of the context's book; the plain black one where it has no such look, and before this call.
  void set_look(LookId look);
  LookId look() const;
  /// A box behind it, in one piece with it. Fails with `bad_value` as check_panel does; a look that the book
  /// does not have shows none.
  Result<void> set_panel(const std::optional<Panel>& panel);
  /// Lays its letters along a path, or straight again. Fails with `bad_value` where a number is not finite.
  /// Motions move letters before they are laid there; a panel stays where the label's box is.
  Result<void> set_path(const OnPath& path);

  // Where it stands, and how it is seen.

  /// Of a member of a Grid: where it stands once it has left it.
  void set_placement(const Placement& placement);
  Placement placement() const;
  /// Moves only where it stands, `Placement::at`: the quick way for labels that move every frame.
  void move_to(PixelPoint at);
  void set_visible(bool visible);
  bool visible() const;
  /// 0..1, clamped. The label fades as one thing: nothing of it shines through the rest. Between 0 and 1 one
  /// that paints over itself costs two calls and its pixels twice.
  void set_opacity(float opacity);
  float opacity() const;
  void set_tint(const Color& tint);  ///< multiplies all fills
  /// Changes its glyphs letter by letter; an empty motion leaves them still. Terms cost nothing from then on;
  /// with a function its glyphs are placed anew in every frame.
  void set_motion(const Motion& motion);
  /// When its motion's time was 0, in the seconds of TextScene::update.
  void begin_motion(double seconds);
  /// An id that the scene does not have changes nothing and is noted.
  void set_group(GroupId group);
  void set_clip(ClipId clip);
  /// Labels of a group with a higher one are in front; of equal ones those that were added later.
  void set_order(std::int32_t order);

  // Where it has come to.

  /// The laid-out text, which the label keeps from then on; good until the label changes. Adds what layout
  /// has to say to `notes`.
  const Paragraph& paragraph(Notes* notes = nullptr) const;
  /// The box before it is placed: pixels of the layout, origin at the top left.
  Rect box() const;
  Rect panel_box() const;  ///< the same with its panel
  /// What its look paints, before it is placed: pixels of the layout, every layer included. Empty where
  /// nothing is painted.
  Rect ink_box() const;
  /// Around the pictures of its letters in all layers, with the room that they have for looks, each where
  /// motion and path have taken it at the last update: pixels of the layout.
  Rect letters_box() const;
  float baseline() const;  ///< of its first line, in the pixels of `box`
  /// The smallest upright box, in device pixels, around the placed one, its panel included; of a label that
  /// crosses the near plane, around the part that is seen. Empty where nothing of it is in front of the
  /// camera. This and the next three see it through the view of the last update.
  Rect device_box() const;
  /// Whether the placed box or its panel holds a device pixel; never where the label is not visible.
  bool hit(PixelPoint device) const;
  /// The link of the span that is seen at a device pixel; empty where none is. Good until the label changes.
  std::string_view link_at(PixelPoint device) const;
  /// Whether it was seen in the last update: visible, and not wholly outside the view.
  bool seen() const;
  /// Fills `out` with the boxes of all spans of that link, one or more a line: pixels of the layout, as
  /// `box`.
  void link_boxes(std::string_view link, std::vector<Rect>& out) const;

 private:
  friend class Grid;
  friend class TextScene;
  friend struct detail::SceneState;
  Label(detail::SceneState& scene, std::uint32_t index, std::uint32_t generation)
      : scene_(&scene), index_(index), generation_(generation) {}
  detail::SceneState* use(const char* call) const;
  detail::SceneState* scene_ = nullptr;
  std::uint32_t index_ = 0, generation_ = 0;
};

}  // namespace grafema
