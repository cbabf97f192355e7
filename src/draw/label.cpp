// SPDX-License-Identifier: MIT
// Labels: what changed is noted at once and done when it is needed.
#include "grafema/draw/label.hpp"
#include "grafema/draw/paint.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cassert>
#include <cmath>

#include "draw/label_map.hpp"
#include "draw/label_state.hpp"
#include "grafema/base/utf8.hpp"

namespace grafema {

Label::Label(TextContext& context, std::string_view text) : state_(std::make_unique<State>()) {
  state_->context = &context;
  state_->context_life = context.life();
  state_->text = text;
}
Label::~Label() = default;
Label::Label(Label&&) noexcept = default;
Label& Label::operator=(Label&&) noexcept = default;

Label::State& Label::state() const {
  assert(state_ != nullptr && "a label that was moved from is used");
  return *state_;
}

void Label::set_name(std::string_view name) {
  state().name = name;
  state().name_notes();
}

std::string_view Label::name() const& { return state().name; }

void Label::set_text(std::string_view text) {
  if (state().text == text) return;
  state().text.assign(text);
  state().layout_stale = true;
}

namespace {

/// Room for a sign, 18 digits in groups, a point and 9 decimals, and for what fmt makes of the largest
/// number.
using NumberText = std::array<char, 64>;

/// Digits with separators between groups of three, from the right.
std::size_t write_grouped(std::string_view digits, char group, char* out) {
  std::size_t count = 0;
  for (std::size_t i = 0; i < digits.size(); ++i) {
    if (i > 0 && group != '\0' && (digits.size() - i) % 3 == 0) out[count++] = group;
    out[count++] = digits[i];
  }
  return count;
}

std::string_view write_number(double value, const NumberFormat& format, NumberText& out) {
  if (!std::isfinite(value)) return "-";
  constexpr double kMost = 1e18, kPowers[] = {1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9};
  const int decimals = std::clamp(format.decimals, 0, 9), digits = std::clamp(format.digits, 1, 18);
  const double power = kPowers[decimals], size = std::min(std::abs(value), kMost);
  // Whole and fraction apart, so that both are exact in 64 bits; half rounds away from zero.
  auto whole = static_cast<std::uint64_t>(size);
  auto fraction = static_cast<std::uint64_t>(std::floor((size - static_cast<double>(whole)) * power + 0.5));
  if (fraction >= static_cast<std::uint64_t>(power)) {
    ++whole;
    fraction = 0;
  }
  const bool zero = whole == 0 && fraction == 0;
  std::size_t count = 0;
  if (value < 0 && !zero) out[count++] = '-';
  if (value > 0 && !zero && format.plus) out[count++] = '+';
  std::array<char, 24> plain = {};
  const auto end = fmt::format_to_n(plain.data(), plain.size(), "{:0{}}", whole, digits);
  count += write_grouped({plain.data(), end.size}, format.group, out.data() + count);
  if (decimals > 0) {
    out[count++] = format.point;
    count += fmt::format_to_n(out.data() + count, out.size() - count, "{:0{}}", fraction, decimals).size;
  }
  return {out.data(), count};
}

}  // namespace

void Label::set_number(double value, const NumberFormat& format) {
  NumberText text = {};
  set_text(write_number(value, format, text));
}

std::string_view Label::text() const& { return state().text; }

Result<void> Label::set_style(const TextStyle& style) {
  if (const Result<void> checked = check_style(style); !checked) return checked;
  state().style = style;
  state().layout_stale = true;
  return {};
}

Result<void> Label::set_size(float size) {
  if (size == state().style.size) return {};
  if (!(size >= kMinSize && size <= kMaxSize)) {
    return fail(
        make_error(ErrorKind::bad_value, "a size of 0.25 to 8192 pixels per em", fmt::format("{}", size)));
  }
  state().style.size = size;
  state().layout_stale = true;
  return {};
}

const TextStyle& Label::style() const { return state().style; }

void Label::set_fonts(std::shared_ptr<const FontStack> fonts) {
  state().own_fonts = std::move(fonts);
  state().layout_stale = true;
}

void Label::set_look(LookId look) { state().look = look; }
LookId Label::look() const { return state().look; }

Result<void> Label::set_placement(const Placement& placement) {
  if (const Result<void> checked = detail::check_placement(placement); !checked) return checked;
  state().placement = placement;
  return {};
}

Result<void> Label::move_to(PixelPoint at) {
  if (!std::isfinite(at.x) || !std::isfinite(at.y)) {
    return fail(make_error(ErrorKind::bad_value, "a place of finite numbers"));
  }
  state().placement.at = at;
  return {};
}

const Placement& Label::placement() const { return state().placement; }
void Label::set_visible(bool visible) { state().visible = visible; }
bool Label::visible() const { return state().visible; }
void Label::set_opacity(float opacity) { state().opacity = opacity >= 0 ? std::min(opacity, 1.0F) : 0.0F; }
float Label::opacity() const { return state().opacity; }
void Label::set_motion(Motion motion) {
  state().motion = std::move(motion);
  state().moving = static_cast<bool>(state().motion);
}
void Label::set_time(double seconds) { state().seconds = seconds; }
const LabelWork& Label::work() const { return state().work; }

const Paragraph& Label::paragraph(Notes* notes) {
  State& s = state();
  s.prepare_layout();
  if (notes != nullptr) {
    for (const Note& note : s.layout_notes) notes->add(note);
  }
  return s.paragraph;
}

Rect Label::box() { return paragraph().box; }

Rect Label::ink_box() {
  const Paragraph& laid = paragraph();
  return grafema::ink_box(state().fonts(), laid, state().context->looks().get(state().look));
}

Rect Label::device_box(const View& view) {
  const Rect own = box();
  const Result<LabelMap> map = map_label(own, state().placement, view);
  return map ? device_bounds(*map, own, view) : Rect{};
}

bool Label::hit(PixelPoint device, const View& view) {
  if (!state().visible) return false;
  const Rect own = box();
  const Result<LabelMap> map = map_label(own, state().placement, view);
  const std::optional<PixelPoint> p = map ? from_device(*map, device, view) : std::nullopt;
  return p && p->x >= own.left && p->x < own.right && p->y >= own.top && p->y < own.bottom;
}

void Label::State::prepare_layout() {
  assert(!context_life.expired() && "a label is used whose context is gone");
  if (context_revision != context->revision()) {
    context_revision = context->revision();
    layout_stale = true;
  }
  if (layout_stale) lay_out_text();
}

void Label::State::prepare() {
  prepare_layout();
  if (quads_stale || source_epoch != context->source().epoch()) resolve_glyphs();
  TextContext::Records& records = context->records();
  records.refresh(context->looks());
  // A full table starts over in the middle of asking: ask until one generation has all that this label needs.
  for (int rounds = 0; records_generation != records.generation || records_look != look; ++rounds) {
    if (rounds > 0) records.limit = std::max(records.limit, variants.size() * 2);
    records_generation = records.generation;
    records_look = look;
    for (Variant& variant : variants) variant.first_record = records.find(context->looks(), look, variant);
    first_record = variants.empty() ? 0 : variants[0].first_record;
  }
}

void Label::State::lay_out_text() {
  ++work.layouts;
  Notes& found = context->records().notes;
  found.clear();
  // The style was checked when it was set; an empty stack of fonts leaves nothing to show.
  (void)lay_out(fonts(), text, style, context->shapes(), paragraph, &found);
  layout_notes.assign(found.all().begin(), found.all().end());
  name_notes();
  box = paragraph.box;
  layout_stale = false;
  quads_stale = true;
}

void Label::State::name_notes() {
  for (std::vector<Note>* list : {&layout_notes, &picture_notes}) {
    for (Note& note : *list) note.label = name;
  }
}

namespace {

/// A picture of this size whose pen stands at the quarter pixel that is nearest to the glyph's.
GlyphKey key_of(FaceId face, const PlacedGlyph& glyph, float size) {
  const float quarters = glyph.origin().x * 4, within = quarters - std::floor(quarters / 4) * 4;
  const auto phase = static_cast<std::uint8_t>(static_cast<int>(within + 0.5F) & 3);
  return {face, glyph.glyph, static_cast<std::uint16_t>(std::clamp(std::round(size * 4), 0.0F, 65535.0F)),
          phase};
}

}  // namespace

void Label::State::resolve_glyphs() {
  ++work.resolves;
  context->offer(fonts());
  source_epoch = context->source().epoch();
  quads_stale = false;
  quads.clear();
  infos.clear();
  variants.clear();
  pages.clear();
  picture_notes.clear();
  records_generation = 0;
  std::vector<GlyphKey>& keys = context->records().keys_wanted;
  std::vector<Sprite>& sprites = context->records().sprites;
  keys.clear();
  for (const PlacedGlyph& glyph : paragraph.glyphs) {
    keys.push_back(key_of(fonts()[glyph.face]->id(), glyph, paragraph.face_size(glyph.face)));
  }
  quads.reserve(keys.size());
  infos.reserve(keys.size());
  sprites.resize(keys.size());
  context->source().resolve(keys, sprites);
  for (std::size_t i = 0; i < sprites.size(); ++i) {
    note_picture(sprites[i], i);
    Sprite sprite = sprites[i];
    if (sprite.state == SpriteState::absent) {
      sprite = resolve_missing_shape(i, paragraph.face_size(paragraph.glyphs[i].face));
    }
    const bool shown =
        sprite.state == SpriteState::ready || (sprite.state == SpriteState::waiting && sprite.cell[2] > 0);
    if (shown) add_quad(sprite, static_cast<std::uint32_t>(i));
  }
  name_notes();
  extent = {};
  for (const LocalQuad& q : quads) extent = enclosing(extent, {q.x, q.y, q.x + q.width, q.y + q.height});
  kind = variants.empty() ? QuadKind::distance : variants[0].kind;
  page = infos.empty() ? std::uint16_t{0} : infos[0].page;
  alike = variants.size() <= 1 &&
          std::all_of(infos.begin(), infos.end(), [this](const QuadInfo& info) { return info.page == page; });
}

/// The missing-glyph shape of the glyph's face, or of the first that has one, for a glyph without a picture.
Sprite Label::State::resolve_missing_shape(std::size_t glyph, float size) {
  Sprite sprite;
  PlacedGlyph missing = paragraph.glyphs[glyph];
  missing.glyph = kMissingGlyph;
  const auto ask = [&](const GlyphMetrics& face) {
    const GlyphKey key = key_of(face.id(), missing, size);
    context->source().resolve(std::span(&key, 1), std::span(&sprite, 1));
    return sprite.state != SpriteState::absent;
  };
  if (ask(*fonts()[missing.face].metrics)) return sprite;
  for (const StackFace& face : fonts()) {
    if (ask(*face.metrics)) break;
  }
  return sprite;
}

/// Notes what is wrong with the picture of a glyph, a few times a label.
void Label::State::note_picture(const Sprite& sprite, std::size_t glyph) {
  constexpr std::size_t kMost = 64;
  const PlacedGlyph& placed = paragraph.glyphs[glyph];
  const float size = paragraph.face_size(placed.face);
  Note note;
  if (sprite.state == SpriteState::absent) {
    note = {.kind = NoteKind::missing_picture,
            .character = static_cast<std::uint32_t>(decode_utf8(text, placed.text_start).character),
            .position = index_of(placed.glyph),
            .face = fonts()[placed.face]->title()};
  } else if (sprite.state == SpriteState::ready && sprite.kind == PictureKind::coverage &&
             size != sprite.size) {
    note = {.kind = NoteKind::scaled_picture, .wanted = size, .given = sprite.size};
  } else {
    return;
  }
  const bool known = std::any_of(picture_notes.begin(), picture_notes.end(), [&note](const Note& other) {
    return other.kind == note.kind && other.position == note.position && other.face == note.face &&
           other.wanted == note.wanted;
  });
  if (!known && picture_notes.size() < kMost) picture_notes.push_back(std::move(note));
}

std::uint16_t Label::State::find_variant(const Sprite& sprite, float size) {
  const float texels_per_pixel = sprite.size / size;
  for (std::size_t i = 0; i < variants.size(); ++i) {
    const Variant& v = variants[i];
    if (v.texels_per_pixel == texels_per_pixel && v.reach == sprite.reach &&
        v.kind == quad_kind(sprite.kind)) {
      return static_cast<std::uint16_t>(i);
    }
  }
  variants.push_back({paragraph.size, texels_per_pixel, sprite.reach, quad_kind(sprite.kind), 0});
  return static_cast<std::uint16_t>(variants.size() - 1);
}

void Label::State::add_quad(const Sprite& sprite, std::uint32_t glyph) {
  const PixelPoint pen = paragraph.glyphs[glyph].origin();
  const float size = paragraph.face_size(paragraph.glyphs[glyph].face),
              pixel = size / sprite.size;  // layout pixels a texel
  LocalQuad quad{};
  quad.x = pen.x + (sprite.offset.x - static_cast<float>(sprite.phase) / 4 - 0.5F) * pixel;
  quad.y = pen.y + (sprite.offset.y - 0.5F) * pixel;
  quad.width = static_cast<float>(sprite.cell[2] + 1) * pixel;
  quad.height = static_cast<float>(sprite.cell[3] + 1) * pixel;
  quad.cell = sprite.cell;
  const auto fraction = [](float v, float whole) {
    return static_cast<std::int16_t>(std::clamp(whole > 0 ? v / whole * 4096 : 0.0F, -32767.0F, 32767.0F));
  };
  quad.box = {fraction(quad.x, box.width()), fraction(quad.y, box.height()),
              fraction(quad.x + quad.width, box.width()), fraction(quad.y + quad.height, box.height())};
  quads.push_back(quad);
  if (std::find(pages.begin(), pages.end(), sprite.page) == pages.end()) pages.push_back(sprite.page);
  infos.push_back({context->source().pages()[sprite.page].array_layer, find_variant(sprite, size),
                   quad_kind(sprite.kind), glyph});
}

}  // namespace grafema
