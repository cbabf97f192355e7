// SPDX-License-Identifier: MIT
// PNG by libpng, whose errors come back by longjmp: functions that it leaves hold no C++ objects.
#include <png.h>

#include <bit>
#include <csetjmp>
#include <cstring>

#include "grafema/files/files.hpp"

namespace grafema {
namespace {

struct Source {
  const std::uint8_t* data;
  std::size_t size, at;
};

struct Header {
  int width, height, channels, bits;
};

struct Problem {
  char text[96];
};

void keep_error(png_structp png, png_const_charp message) {
  auto* problem = static_cast<Problem*>(png_get_error_ptr(png));
  std::strncpy(problem->text, message, sizeof problem->text - 1);
  std::longjmp(png_jmpbuf(png), 1);
}

void keep_quiet(png_structp, png_const_charp) {}

void read_bytes(png_structp png, png_bytep to, std::size_t count) {
  auto* source = static_cast<Source*>(png_get_io_ptr(png));
  if (count > source->size - source->at) png_error(png, "the file ends too early");
  std::memcpy(to, source->data + source->at, count);
  source->at += count;
}

/// Sets the header and asks libpng for whole channels: no palettes, no packed bits, transparency as alpha.
bool read_header(png_structp png, png_infop info, Header* header) {
  if (setjmp(png_jmpbuf(png)) != 0) return false;
  png_set_user_limits(png, Image::kMaxSide, Image::kMaxSide);
  png_read_info(png, info);
  png_set_expand(png);
  if (png_get_color_type(png, info) == PNG_COLOR_TYPE_GRAY_ALPHA ||
      (png_get_color_type(png, info) == PNG_COLOR_TYPE_GRAY &&
       png_get_valid(png, info, PNG_INFO_tRNS) != 0)) {
    png_set_gray_to_rgb(png);
  }
  if (std::endian::native == std::endian::little) png_set_swap(png);
  png_set_interlace_handling(png);
  png_read_update_info(png, info);
  header->width = static_cast<int>(png_get_image_width(png, info));
  header->height = static_cast<int>(png_get_image_height(png, info));
  header->channels = png_get_channels(png, info);
  header->bits = png_get_bit_depth(png, info);
  return true;
}

bool read_rows(png_structp png, png_infop info, png_bytepp rows) {
  if (setjmp(png_jmpbuf(png)) != 0) return false;
  png_read_image(png, rows);
  png_read_end(png, info);
  return true;
}

PixelFormat format_of(const Header& header) {
  const bool wide = header.bits == 16;
  if (header.channels == 1) return wide ? PixelFormat::r16 : PixelFormat::r8;
  if (header.channels == 3) return wide ? PixelFormat::rgb16 : PixelFormat::rgb8;
  return wide ? PixelFormat::rgba16 : PixelFormat::rgba8;
}

struct Reading {
  Problem problem = {};
  png_structp png = png_create_read_struct(PNG_LIBPNG_VER_STRING, &problem, keep_error, keep_quiet);
  png_infop info = png != nullptr ? png_create_info_struct(png) : nullptr;
  ~Reading() { png_destroy_read_struct(&png, &info, nullptr); }
};

void write_bytes(png_structp png, png_bytep from, std::size_t count) {
  auto* out = static_cast<std::vector<std::byte>*>(png_get_io_ptr(png));
  const auto* bytes = reinterpret_cast<const std::byte*>(from);
  out->insert(out->end(), bytes, bytes + count);
}

void flush_nothing(png_structp) {}

bool write_rows(png_structp png, png_infop info, const Header& header, png_bytepp rows) {
  if (setjmp(png_jmpbuf(png)) != 0) return false;
  const int type = header.channels == 1   ? PNG_COLOR_TYPE_GRAY
                   : header.channels == 3 ? PNG_COLOR_TYPE_RGB
                                          : PNG_COLOR_TYPE_RGB_ALPHA;
  png_set_IHDR(png, info, static_cast<png_uint_32>(header.width), static_cast<png_uint_32>(header.height),
               header.bits, type, PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
  png_write_info(png, info);
  if (std::endian::native == std::endian::little) png_set_swap(png);
  png_write_image(png, rows);
  png_write_end(png, info);
  return true;
}

struct Writing {
  Problem problem = {};
  png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, &problem, keep_error, keep_quiet);
  png_infop info = png != nullptr ? png_create_info_struct(png) : nullptr;
  ~Writing() { png_destroy_write_struct(&png, &info); }
};

}  // namespace

Result<Image> read_png(std::span<const std::byte> bytes) {
  const auto* data = reinterpret_cast<const std::uint8_t*>(bytes.data());
  if (bytes.size() < 8 || png_sig_cmp(data, 0, 8) != 0) {
    return fail(make_error(ErrorKind::not_an_image, "a PNG file",
                           bytes.empty() ? "an empty file" : "another signature"));
  }
  Reading reading;
  if (reading.info == nullptr) return fail(make_error(ErrorKind::does_not_fit, "memory for a PNG reader"));
  Source source{data, bytes.size(), 0};
  png_set_read_fn(reading.png, &source, read_bytes);
  Header header = {};
  const auto damaged = [&] {
    Error error = make_error(ErrorKind::damaged, "a whole PNG file", reading.problem.text);
    error.offset = source.at;
    return fail(error);
  };
  if (!read_header(reading.png, reading.info, &header)) return damaged();
  // Compressed by at most 1032 to 1 (RFC 1951): what the file can't hold is not made room for.
  constexpr std::uint64_t kMaxRatio = 1032;
  const std::uint64_t needed = static_cast<std::uint64_t>(png_get_rowbytes(reading.png, reading.info)) *
                               static_cast<std::uint64_t>(header.height);
  if (needed / 8 > kMaxRatio * bytes.size()) {  // eight: packed bits were expanded to whole bytes
    Error error = make_error(ErrorKind::damaged, "a picture that the file can hold",
                             std::to_string(header.width) + "x" + std::to_string(header.height) + " in " +
                                 std::to_string(bytes.size()) + " bytes");
    return fail(error);
  }
  Result<Image> image = Image::make(header.width, header.height, format_of(header));
  if (!image) return image;
  std::vector<png_bytep> rows(static_cast<std::size_t>(header.height));
  for (std::size_t y = 0; y < rows.size(); ++y) rows[y] = image->row(static_cast<int>(y));
  if (!read_rows(reading.png, reading.info, rows.data())) return damaged();
  return image;
}

FileResult<Image> load_png(const std::string& path) {
  const Result<FontData> data = FontData::read(path);
  if (!data) return tl::unexpected<FileError>({data.error(), path});
  Result<Image> image = read_png(data->bytes());
  if (!image) return tl::unexpected<FileError>({image.error(), path});
  return *std::move(image);
}

Result<std::vector<std::byte>> make_png(const Image& image) {
  std::vector<std::byte> out;
  Writing writing;
  if (writing.info == nullptr) return fail(make_error(ErrorKind::does_not_fit, "memory for a PNG writer"));
  png_set_write_fn(writing.png, &out, write_bytes, flush_nothing);
  const Header header{image.width(), image.height(), channel_count(image.format()),
                      bits_per_channel(image.format())};
  std::vector<png_bytep> rows(static_cast<std::size_t>(image.height()));
  for (std::size_t y = 0; y < rows.size(); ++y) {
    rows[y] = const_cast<png_bytep>(image.row(static_cast<int>(y)));  // libpng does not write to it
  }
  if (!write_rows(writing.png, writing.info, header, rows.data())) {
    return bad_value("a picture that PNG can hold", writing.problem.text);
  }
  return out;
}

FileResult<void> save_png(const std::string& path, const Image& image) {
  const Result<std::vector<std::byte>> bytes = make_png(image);
  if (!bytes) return tl::unexpected<FileError>({bytes.error(), path});
  return save_file(path, *bytes);
}

}  // namespace grafema
