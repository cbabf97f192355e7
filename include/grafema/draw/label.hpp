// SPDX-License-Identifier: MIT
// A text that is shown. Changing one thing about it redoes only what depends on that.
#pragma once

#include <memory>
#include <string>
#include <string_view>

#include "grafema/draw/motion.hpp"
#include "grafema/draw/panel.hpp"
#include "grafema/draw/placement.hpp"
#include "grafema/draw/text_context.hpp"
#include "grafema/draw/text_path.hpp"
#include "grafema/text/number_format.hpp"

namespace grafema {

/// How often a label did what; for tests and tuning.
struct LabelWork {
  std::size_t layouts = 0;   ///< text was laid out
  std::size_t resolves = 0;  ///< pictures were asked for
};

/// Belongs to the thread of its context, and may be destroyed after it but not used: asserted. A label that
/// was moved from may be destroyed or assigned to; anything else is asserted. Nothing is allocated once it
/// has held text as long as the present one.
class GRAFEMA_API Label {
 public:
  explicit Label(TextContext& context, std::string_view text = {});
  ~Label();
  Label(Label&&) noexcept;
  Label& operator=(Label&&) noexcept;

  /// What the game calls it: notes say so.
  void set_name(std::string_view name);
  std::string_view name() const&;
  std::string_view name() const&& = delete;

  /// UTF-8 of any length. The same text again costs a comparison.
  void set_text(std::string_view text);
  /// Shows the number rounded half away from zero. What is not finite shows as "-"; above 10^18 in size it is
  /// cut there.
  void set_number(double value, const NumberFormat& format = {});
  /// Text with spans and icons. Looks and motions of spans are names of the context's books, families those
  /// of its fonts_by_name; what is not there is noted. The same text again costs a comparison.
  void set_rich(const RichText& text);
  const RichText& rich() const&;  ///< what was set last
  const RichText& rich() const&& = delete;
  /// The link of the span that is seen at a device pixel; empty where none is.
  std::string_view link_at(PixelPoint device, const View& view) &;
  /// Fills `out` with the boxes of all spans of that link, one or more a line: pixels of the layout, as
  /// `box`.
  void link_boxes(std::string_view link, std::vector<Rect>& out);

  static constexpr std::size_t kAll = static_cast<std::size_t>(-1);
  /// How many clusters are shown, in the order of the text. The layout stays that of the whole text.
  void set_revealed(std::size_t clusters);
  std::size_t revealed() const;
  /// The byte at which each cluster that can be revealed begins.
  std::span<const std::uint32_t> clusters() &;
  std::string_view text() const&;
  std::string_view text() const&& = delete;

  /// Shows a message of the context's book with the values of `set_value`. Its text is made anew when a
  /// value, the language or a catalog changes, or the clock gets to `next_change`.
  void set_message(std::string_view id);
  void set_value(std::string_view name, const MessageValue& value);
  /// When the book's clock changes the text next, in its seconds; infinite where it never does.
  double next_change();

  /// Takes a style of the context's StyleBook: layout, faces and look, which follow when the book changes it.
  /// Fails with `bad_value` and the nearest name; the label is then unchanged.
  Result<void> use_style(std::string_view name);
  /// Fails with `bad_value` where `lay_out` would; the label is then unchanged.
  Result<void> set_style(const TextStyle& style);
  Result<void> set_size(float pixels_per_em);
  const TextStyle& style() const;
  /// Fonts of its own; the context's where there are none.
  void set_fonts(std::shared_ptr<const FontStack> fonts);

  /// A look of the context's book; the plain black one where it has no such look, and before this call.
  void set_look(LookId look);
  LookId look() const;
  /// Fails with `bad_value` where a number is not finite; the label is then unchanged.
  Result<void> set_placement(const Placement& placement);
  /// Moves only where it stands, `Placement::at`: the quick way for labels that move every frame.
  Result<void> move_to(PixelPoint at);
  const Placement& placement() const;
  void set_visible(bool visible);
  bool visible() const;
  /// 0..1, clamped; not a number is 0. The label fades as one thing: nothing of it shines through the rest.
  /// Between 0 and 1 one that paints over itself costs two calls and its pixels twice.
  void set_opacity(float opacity);
  float opacity() const;
  /// A box behind it, in one piece with it. Fails with `bad_value` as check_panel does; a look that the book
  /// does not have shows none.
  Result<void> set_panel(const std::optional<Panel>& panel);
  /// Lays its letters along a path, or straight again. Fails with `bad_value` where a number is not finite.
  /// Motions move letters before they are laid there; a panel stays where the label's box is.
  Result<void> set_path(const OnPath& path);
  /// Changes its glyphs letter by letter at `seconds`; an empty motion leaves them still.
  void set_motion(Motion motion);
  void set_time(double seconds);

  /// The laid-out text; lays it out where something changed since.
  const Paragraph& paragraph(Notes* notes = nullptr);
  /// The box before it is placed: pixels of the layout, origin at the top left.
  Rect box();
  /// What its look paints, before it is placed: pixels of the layout, every layer included. Empty where
  /// nothing is painted.
  Rect ink_box();
  /// The smallest upright box, in device pixels, around the placed one; of a label that crosses the near
  /// plane, around the part that is seen. Empty where nothing of it is in front of the camera.
  Rect device_box(const View& view);
  /// Whether the placed box holds a device pixel; never where the label is not visible.
  bool hit(PixelPoint device, const View& view);

  const LabelWork& work() const;

  /// False once it was moved from.
  bool valid() const { return state_ != nullptr; }

  struct State;
  State& state() const;

 private:
  std::unique_ptr<State> state_;
};

}  // namespace grafema
