// SPDX-License-Identifier: MIT
// Puts chunks of still pictures together as frames; libpng compresses each.
#include "grafema/files/animated_png.hpp"

#include <zlib.h>

#include <cmath>
#include <optional>
#include <string_view>

namespace grafema {
namespace {

using Bytes = std::vector<std::byte>;

struct Chunk {
  std::string_view type;
  std::span<const std::byte> data;
};

std::uint32_t read_32(std::span<const std::byte> at) {
  std::uint32_t v = 0;
  for (std::size_t i = 0; i < 4; ++i) v = v << 8U | std::to_integer<std::uint32_t>(at[i]);
  return v;
}

/// The chunks of a file that libpng has written.
std::vector<Chunk> chunks_of(std::span<const std::byte> png) {
  constexpr std::size_t kSignature = 8, kAround = 12;
  std::vector<Chunk> out;
  for (std::size_t at = kSignature; at + kAround <= png.size();) {
    const std::size_t size = read_32(png.subspan(at));
    if (size > png.size() - at - kAround) break;
    out.push_back({{reinterpret_cast<const char*>(png.data() + at + 4), 4}, png.subspan(at + 8, size)});
    at += size + kAround;
  }
  return out;
}

class Writer {
 public:
  explicit Writer(std::span<const std::byte> signature) : out_(signature.begin(), signature.end()) {}

  void put(std::string_view type, std::span<const std::byte> data) {
    put_32(out_, static_cast<std::uint32_t>(data.size()));
    const std::size_t begin = out_.size();
    for (const char c : type) out_.push_back(static_cast<std::byte>(c));
    out_.insert(out_.end(), data.begin(), data.end());
    const uLong sum =
        crc32(0, reinterpret_cast<const Bytef*>(out_.data() + begin), static_cast<uInt>(out_.size() - begin));
    put_32(out_, static_cast<std::uint32_t>(sum));
  }

  static void put_32(Bytes& to, std::uint32_t v) {
    for (const unsigned shift : {24U, 16U, 8U, 0U}) to.push_back(static_cast<std::byte>(v >> shift));
  }
  static void put_16(Bytes& to, std::uint32_t v) {
    for (const unsigned shift : {8U, 0U}) to.push_back(static_cast<std::byte>(v >> shift));
  }

  Bytes take() { return std::move(out_); }

 private:
  Bytes out_;
};

Bytes frame_control(std::uint32_t sequence, const Image& frame, double frames_per_second) {
  constexpr std::uint32_t kParts = 100;  // of a second's share: 100 / (100 * frames a second)
  Bytes data;
  Writer::put_32(data, sequence);
  Writer::put_32(data, static_cast<std::uint32_t>(frame.width()));
  Writer::put_32(data, static_cast<std::uint32_t>(frame.height()));
  Writer::put_32(data, 0), Writer::put_32(data, 0);  // where it stands
  Writer::put_16(data, kParts);
  Writer::put_16(data, static_cast<std::uint32_t>(std::lround(frames_per_second * kParts)));
  data.push_back(std::byte{0});  // APNG_DISPOSE_OP_NONE
  data.push_back(std::byte{0});  // APNG_BLEND_OP_SOURCE
  return data;
}

}  // namespace

Result<std::vector<std::byte>> make_animated_png(std::span<const Image> frames, double frames_per_second) {
  const auto bad = [](const char* expected) { return fail(make_error(ErrorKind::bad_value, expected)); };
  if (frames.empty()) return bad("at least one frame");
  if (!(frames_per_second >= 0.01 && frames_per_second <= 600)) return bad("0.01 to 600 frames a second");
  for (const Image& frame : frames) {
    const bool same = frame.width() == frames[0].width() && frame.height() == frames[0].height() &&
                      frame.format() == frames[0].format();
    if (!same) return bad("frames of one size and format");
  }
  std::uint32_t sequence = 0;
  Bytes control;
  Writer::put_32(control, static_cast<std::uint32_t>(frames.size()));
  Writer::put_32(control, 0);  // without end
  std::optional<Writer> writer;
  for (std::size_t i = 0; i < frames.size(); ++i) {
    const Result<Bytes> png = make_png(frames[i]);
    if (!png) return fail(png.error());
    if (i == 0) writer.emplace(std::span(*png).first(8));
    bool has_control = false;
    for (const Chunk& chunk : chunks_of(*png)) {
      const bool is_data = chunk.type == "IDAT";
      if (is_data && !has_control) {
        writer->put("fcTL", frame_control(sequence++, frames[i], frames_per_second));
        has_control = true;
      }
      if (is_data && i > 0) {
        Bytes data;
        Writer::put_32(data, sequence++);
        data.insert(data.end(), chunk.data.begin(), chunk.data.end());
        writer->put("fdAT", data);
      } else if (i == 0 && chunk.type != "IEND") {
        writer->put(chunk.type, chunk.data);
        if (chunk.type == "IHDR") writer->put("acTL", control);
      }
    }
  }
  writer->put("IEND", {});
  return writer->take();
}

FileResult<void> save_animated_png(const std::string& path, std::span<const Image> frames,
                                   double frames_per_second) {
  const Result<Bytes> bytes = make_animated_png(frames, frames_per_second);
  if (!bytes) return tl::unexpected<FileError>({bytes.error(), path});
  return save_file(path, *bytes);
}

}  // namespace grafema
