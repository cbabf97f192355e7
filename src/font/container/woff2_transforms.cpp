// SPDX-License-Identifier: MIT
// Writes glyf, loca and hmtx back from the streams that WOFF 2.0 splits them into.
#include "font/container/woff2_transforms.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "font/container/web_font.hpp"

namespace grafema::detail {

std::size_t StreamReader::base128() {
  std::uint32_t value = 0;
  for (int i = 0; i < 5; ++i) {
    const std::uint8_t byte = u8();
    if ((i == 0 && byte == 0x80) || (value & 0xFE000000U) != 0) good_ = false;
    value = value << 7 | (byte & 0x7FU);
    if ((byte & 0x80) == 0) return value;
  }
  good_ = false;
  return 0;
}

std::uint16_t StreamReader::short255() {
  const std::uint8_t code = u8();
  constexpr unsigned kWord = 253, kMore2 = 254, kMore1 = 255;
  if (code == kWord) return u16();
  if (code == kMore1) return static_cast<std::uint16_t>(u8() + 253U);
  if (code == kMore2) return static_cast<std::uint16_t>(u8() + 506U);
  return code;
}

namespace {

constexpr std::size_t kGlyfHeaderBytes = 36;
constexpr std::uint16_t kMoreComponents = 0x20, kHasInstructions = 0x100;

struct Step {
  int dx = 0, dy = 0;
  bool on_curve = false;
};

/// The point coding of WOFF 2.0, section 5.2: the flag tells how many bytes follow and what they mean.
Step read_step(std::uint8_t flag, StreamReader& in) {
  Step step;
  step.on_curve = (flag & 0x80) == 0;
  const int code = flag & 0x7F;
  const auto with_sign = [](int bits, int value) { return (bits & 1) != 0 ? value : -value; };
  const int b0 = in.u8();
  if (code < 10) {
    step.dy = with_sign(code, ((code & 14) << 7) + b0);
  } else if (code < 20) {
    step.dx = with_sign(code, (((code - 10) & 14) << 7) + b0);
  } else if (code < 84) {
    const int base = code - 20;
    step.dx = with_sign(code, 1 + (base & 0x30) + (b0 >> 4));
    step.dy = with_sign(code >> 1, 1 + ((base & 0x0C) << 2) + (b0 & 0x0F));
  } else if (code < 120) {
    const int base = code - 84, b1 = in.u8();
    step.dx = with_sign(code, 1 + ((base / 12) << 8) + b0);
    step.dy = with_sign(code >> 1, 1 + (((base % 12) >> 2) << 8) + b1);
  } else if (code < 124) {
    const int b1 = in.u8(), b2 = in.u8();
    step.dx = with_sign(code, (b0 << 4) + (b1 >> 4));
    step.dy = with_sign(code >> 1, ((b1 & 0x0F) << 8) + b2);
  } else {
    const int b1 = in.u8(), b2 = in.u8(), b3 = in.u8();
    step.dx = with_sign(code, (b0 << 8) + b1);
    step.dy = with_sign(code >> 1, (b2 << 8) + b3);
  }
  return step;
}

class OutlineRebuilder {
 public:
  OutlineRebuilder(const TableView& data, std::size_t room) : data_(data), room_(room) {}

  Result<RebuiltOutlines> rebuild() {
    if (const Result<void> split = split_streams(); !split) return fail(split.error());
    for (std::size_t glyph = 0; glyph < glyph_count_; ++glyph) {
      add_offset();
      out_.x_mins.push_back(0);
      const std::size_t contours = contours_.u16();
      const bool has_box = (static_cast<unsigned>(box_bits_[glyph / 8]) >> (7 - glyph % 8) & 1U) != 0;
      const bool ok = contours == 0        ? !has_box
                      : contours == 0xFFFF ? add_composite(has_box)
                                           : add_simple(glyph, contours, has_box);
      if (!ok || !good()) {
        return damaged(data_, 0, "streams that hold every glyph", fmt::format("an end in glyph {}", glyph));
      }
      while (out_.glyf.size() % 4 != 0) out_.glyf.push_back(std::byte{0});
      if (out_.glyf.size() + out_.loca.size() > room_) {
        return damaged(data_, 0, "outlines that a file of this size can hold",
                       fmt::format("more than {} bytes", room_));
      }
    }
    add_offset();
    return std::move(out_);
  }

 private:
  /// The header gives the length of seven streams that follow each other.
  Result<void> split_streams() {
    if (!data_.holds(0, kGlyfHeaderBytes)) return damaged(data_, 0, "a header of 36 bytes");
    glyph_count_ = data_.u16(4);
    std::size_t at = kGlyfHeaderBytes;
    TableView parts[7];
    for (std::size_t i = 0; i < 7; ++i) {
      const std::size_t size = data_.u32(8 + 4 * i);
      if (!data_.holds(at, size)) {
        return damaged(data_, 8 + 4 * i, "a stream that lies inside the table",
                       fmt::format("{} bytes", size));
      }
      parts[i] = {data_.tag, data_.bytes.subspan(at, size)};
      at += size;
    }
    const std::size_t bitmap = (glyph_count_ + 31) / 32 * 4;
    if (!parts[5].holds(0, bitmap)) return damaged(data_, 28, "a bit for every glyph's box");
    box_bits_ = parts[5].bytes.first(bitmap);
    contours_ = StreamReader(parts[0]);
    counts_ = StreamReader(parts[1]);
    flags_ = StreamReader(parts[2]);
    glyphs_ = StreamReader(parts[3]);
    composites_ = StreamReader(parts[4]);
    boxes_ = StreamReader(parts[5], bitmap);
    instructions_ = StreamReader(parts[6]);
    if ((data_.u16(2) & 1) != 0 && data_.holds(at, (glyph_count_ + 7) / 8)) {
      overlap_bits_ = data_.bytes.subspan(at);
    }
    return {};
  }

  bool good() const {
    return contours_.good() && counts_.good() && flags_.good() && glyphs_.good() && composites_.good() &&
           boxes_.good() && instructions_.good();
  }

  /// Always long ones: written anew, outlines may be larger than short offsets can tell.
  void add_offset() { put32(out_.loca, out_.glyf.size()); }

  bool add_simple(std::size_t glyph, std::size_t contours, bool has_box) {
    ends_.clear();
    std::size_t count = 0;
    for (std::size_t i = 0; i < contours && counts_.good(); ++i) {
      count += counts_.short255();
      ends_.push_back(count);
    }
    if (!counts_.good() || count > 0xFFFF) return false;
    const std::span<const std::byte> flags = flags_.bytes(count);
    if (flags.size() != count) return false;
    steps_.clear();
    for (const std::byte flag : flags) steps_.push_back(read_step(static_cast<std::uint8_t>(flag), glyphs_));
    const std::size_t instruction_count = glyphs_.short255();
    const std::span<const std::byte> instructions = instructions_.bytes(instruction_count);
    put16(out_.glyf, contours);
    put_box(has_box);
    for (const std::size_t end : ends_) put16(out_.glyf, end - 1);
    put16(out_.glyf, instructions.size());
    out_.glyf.insert(out_.glyf.end(), instructions.begin(), instructions.end());
    put_points(!overlap_bits_.empty() &&
               (static_cast<unsigned>(overlap_bits_[glyph / 8]) >> (7 - glyph % 8) & 1U) != 0);
    return true;
  }

  /// The stated box, else that of the points.
  void put_box(bool stated) {
    int x = 0, y = 0, box[4] = {0, 0, 0, 0};
    for (std::size_t i = 0; i < steps_.size(); ++i) {
      x += steps_[i].dx;
      y += steps_[i].dy;
      box[0] = i == 0 ? x : std::min(box[0], x);
      box[1] = i == 0 ? y : std::min(box[1], y);
      box[2] = i == 0 ? x : std::max(box[2], x);
      box[3] = i == 0 ? y : std::max(box[3], y);
    }
    for (int& side : box) {
      if (stated) side = static_cast<std::int16_t>(boxes_.u16());
      put16(out_.glyf, static_cast<std::size_t>(static_cast<std::uint16_t>(side)));
    }
    out_.x_mins.back() = static_cast<std::int16_t>(box[0]);
  }

  /// Flags, then steps along x, then along y (OpenType, glyf, simple glyph description).
  void put_points(bool overlaps) {
    enum Flag : unsigned { on = 1, x_byte = 2, y_byte = 4, x_same = 16, y_same = 32, overlap = 64 };
    const auto kind = [](int step, unsigned byte, unsigned same) {
      return step == 0 ? same : std::abs(step) < 256 ? byte | (step > 0 ? same : 0U) : 0U;
    };
    for (std::size_t i = 0; i < steps_.size(); ++i) {
      const unsigned flag = (steps_[i].on_curve ? on : 0U) | kind(steps_[i].dx, x_byte, x_same) |
                            kind(steps_[i].dy, y_byte, y_same) | (overlaps && i == 0 ? overlap : 0U);
      out_.glyf.push_back(static_cast<std::byte>(flag));
    }
    const auto put_step = [this](int step) {
      if (step == 0) return;
      if (std::abs(step) < 256) {
        out_.glyf.push_back(static_cast<std::byte>(std::abs(step)));
      } else {
        put16(out_.glyf, static_cast<std::uint16_t>(step));
      }
    };
    for (const Step& step : steps_) put_step(step.dx);
    for (const Step& step : steps_) put_step(step.dy);
  }

  bool add_composite(bool has_box) {
    if (!has_box) return false;
    put16(out_.glyf, 0xFFFF);
    steps_.clear();
    put_box(true);
    bool has_instructions = false;
    for (std::uint16_t flags = kMoreComponents; (flags & kMoreComponents) != 0;) {
      flags = composites_.u16();
      has_instructions = has_instructions || (flags & kHasInstructions) != 0;
      const std::size_t scale = (flags & 8) != 0 ? 2 : (flags & 0x40) != 0 ? 4 : (flags & 0x80) != 0 ? 8 : 0;
      const std::span<const std::byte> rest = composites_.bytes(2 + ((flags & 1) != 0 ? 4 : 2) + scale);
      if (!composites_.good()) return false;
      put16(out_.glyf, flags);
      out_.glyf.insert(out_.glyf.end(), rest.begin(), rest.end());
    }
    if (!has_instructions) return true;
    const std::span<const std::byte> instructions = instructions_.bytes(glyphs_.short255());
    put16(out_.glyf, instructions.size());
    out_.glyf.insert(out_.glyf.end(), instructions.begin(), instructions.end());
    return true;
  }

  TableView data_;
  std::size_t room_, glyph_count_ = 0;
  std::span<const std::byte> box_bits_, overlap_bits_;
  StreamReader contours_, counts_, flags_, glyphs_, composites_, boxes_, instructions_;
  std::vector<std::size_t> ends_;
  std::vector<Step> steps_;
  RebuiltOutlines out_;
};

}  // namespace

Result<RebuiltOutlines> rebuild_outlines(const TableView& transformed, std::size_t room) {
  return OutlineRebuilder(transformed, room).rebuild();
}

Result<std::vector<std::byte>> rebuild_metrics(const TableView& transformed, std::size_t long_count,
                                               std::size_t glyph_count,
                                               const std::vector<std::int16_t>& x_mins) {
  StreamReader in(transformed);
  const std::uint8_t flags = in.u8();
  const bool has_long = (flags & 1) == 0, has_rest = (flags & 2) == 0;
  if (long_count == 0 || long_count > glyph_count || glyph_count > x_mins.size() || (flags & 0xFC) != 0 ||
      (has_long && has_rest)) {
    return damaged(transformed, 0, "a transform of hmtx that leaves bearings out",
                   fmt::format("flags {:02X}, {} advances of {} glyphs", flags, long_count, glyph_count));
  }
  const std::span<const std::byte> advances = in.bytes(long_count * 2);
  const std::span<const std::byte> bearings = in.bytes(has_long ? long_count * 2 : 0);
  const std::span<const std::byte> rest = in.bytes(has_rest ? (glyph_count - long_count) * 2 : 0);
  if (!in.good()) return damaged(transformed, in.place(), "a metric for every glyph");
  std::vector<std::byte> out;
  for (std::size_t i = 0; i < glyph_count; ++i) {
    const bool is_long = i < long_count;
    if (is_long) put16(out, be16(advances, i * 2));
    const bool stated = is_long ? has_long : has_rest;
    put16(out, !stated   ? static_cast<std::uint16_t>(x_mins[i])
               : is_long ? be16(bearings, i * 2)
                         : be16(rest, (i - long_count) * 2));
  }
  return out;
}

}  // namespace grafema::detail
