// SPDX-License-Identifier: MIT
// Walks over an SVG document and lists the shapes of each drawing.
#include "grafema/files/svg_drawings.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <pugixml.hpp>

#include "base/numbers.hpp"
#include "files/svg_style.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/files/svg_path.hpp"

namespace grafema {
namespace {

using detail::SvgMatrix;
using detail::SvgStyle;

constexpr int kDeepest = 64;
/// `use` may multiply: more shapes are refused.
constexpr std::size_t kMaxShapes = 200'000;

std::string_view tag_of(pugi::xml_node node) {
  const std::string_view name = node.name();
  const std::size_t colon = name.find(':');
  return colon == std::string_view::npos ? name : name.substr(colon + 1);
}

bool is_one_of(std::string_view word, std::initializer_list<std::string_view> words) {
  return std::find(words.begin(), words.end(), word) != words.end();
}

bool is_shape(std::string_view tag) {
  return is_one_of(tag, {"path", "rect", "circle", "ellipse", "line", "polyline", "polygon"});
}

/// What holds no ink and says nothing about any.
bool is_silent(std::string_view tag) {
  return is_one_of(tag, {"defs", "title", "desc", "metadata", "symbol", "namedview", "RDF"});
}

class Reader {
 public:
  explicit Reader(std::string_view svg) : svg_(svg) {}

  Result<std::vector<CharacterDrawing>> read(SvgSheet sheet, std::string_view name) {
    const pugi::xml_parse_result parsed = document_.load_buffer(svg_.data(), svg_.size());
    if (!parsed) {
      return fail(make_error(ErrorKind::damaged, "an SVG document",
                             fmt::format("{} in line {}", parsed.description(), line_at(parsed.offset))));
    }
    const pugi::xml_node root = document_.document_element();
    if (tag_of(root) != "svg") return fail(make_error(ErrorKind::damaged, "an svg element", root.name()));
    const Result<SvgStyle> style = style_of(root, {});
    if (!style) return fail(style.error());
    if (sheet == SvgSheet::groups) {
      if (const Result<void> listed = list_groups(root, *style, 0); !listed) return fail(listed.error());
      return std::move(drawings_);
    }
    begin(root, std::string(name));
    if (const Result<void> added = finish(root, *style); !added) return fail(added.error());
    return std::move(drawings_);
  }

 private:
  std::size_t line_at(std::ptrdiff_t offset) const {
    const auto end = std::min(static_cast<std::size_t>(std::max<std::ptrdiff_t>(offset, 0)), svg_.size());
    return 1 + static_cast<std::size_t>(
                   std::count(svg_.begin(), svg_.begin() + static_cast<std::ptrdiff_t>(end), '\n'));
  }

  std::string place_of(pugi::xml_node node) const {
    const std::string_view id = node.attribute("id").as_string();
    return fmt::format("<{}{}> in line {}", node.name(),
                       id.empty() ? std::string() : fmt::format(" id=\"{}\"", id.substr(0, 40)),
                       line_at(node.offset_debug()));
  }

  tl::unexpected<Error> wrong(ErrorKind kind, const char* expected, pugi::xml_node node,
                              std::string_view found = {}) const {
    return fail(make_error(
        kind, expected,
        (found.empty() ? std::string() : fmt::format("'{}' in ", found.substr(0, 50))) + place_of(node)));
  }
  /// The same error with the element named.
  tl::unexpected<Error> at(const Error& error, pugi::xml_node node) const {
    return wrong(error.kind, error.expected, node, error.found.data());
  }

  Result<SvgStyle> style_of(pugi::xml_node node, SvgStyle style) const {
    for (const pugi::xml_attribute& attribute : node.attributes()) {
      const std::string_view name = attribute.name();
      const Result<void> set =
          name == "style" ? style.set_all(attribute.as_string()) : style.set(name, attribute.as_string());
      if (!set) return at(set.error(), node);
    }
    return style;
  }

  Result<SvgMatrix> matrix_of(pugi::xml_node node) const {
    const pugi::xml_attribute attribute = node.attribute("transform");
    if (!attribute) return SvgMatrix{};
    const Result<SvgMatrix> matrix = detail::read_svg_transform(attribute.as_string());
    if (!matrix) return at(matrix.error(), node);
    return *matrix;
  }

  /// Whether a group only holds drawings.
  static bool is_sheet(pugi::xml_node group) {
    bool any = false;
    for (const pugi::xml_node& child : group.children()) {
      if (child.type() != pugi::node_element || is_silent(tag_of(child))) continue;
      if (tag_of(child) != "g" || !child.attribute("id")) return false;
      any = true;
    }
    return any;
  }

  Result<void> list_groups(pugi::xml_node parent, const SvgStyle& style, int depth) {
    if (depth > kDeepest) return wrong(ErrorKind::unsupported, "groups at most 64 deep", parent);
    for (const pugi::xml_node& node : parent.children()) {
      if (node.type() != pugi::node_element || is_silent(tag_of(node)) || node.attribute("data-guide"))
        continue;
      if (tag_of(node) != "g") {
        if (Result<void> known = check_tag(node); !known) return known;
        return wrong(ErrorKind::damaged, "a group with an id around each drawing", node);
      }
      const Result<SvgStyle> of_group = style_of(node, style);
      if (!of_group) return fail(of_group.error());
      if (is_sheet(node)) {
        if (Result<void> listed = list_groups(node, *of_group, depth + 1); !listed) return listed;
        continue;
      }
      const std::string_view id = node.attribute("id").as_string();
      if (id.empty()) return wrong(ErrorKind::damaged, "an id for each drawing", node);
      begin(node, std::string(id));
      if (Result<void> added = finish(node, *of_group); !added) return added;
    }
    return {};
  }

  void begin(pugi::xml_node node, std::string name) {
    CharacterDrawing drawing;
    drawing.name = std::move(name);
    drawing.place = place_of(node);
    drawings_.push_back(std::move(drawing));
  }

  Result<void> finish(pugi::xml_node node, const SvgStyle& style) {
    CharacterDrawing& drawing = drawings_.back();
    if (Result<void> named = read_characters(node, drawing); !named) return named;
    for (const auto& [name, to] :
         {std::pair{"data-advance", &drawing.advance}, std::pair{"data-left", &drawing.left},
          std::pair{"data-right", &drawing.right}}) {
      const pugi::xml_attribute attribute = node.attribute(name);
      if (!attribute) continue;
      const std::optional<double> value = detail::read_svg_length(attribute.as_string());
      if (!value)
        return wrong(ErrorKind::damaged, "a number as advance or bearing", node, attribute.as_string());
      *to = static_cast<float>(*value);
    }
    return add_children(node, style, SvgMatrix{}, 0);
  }

  Result<void> read_characters(pugi::xml_node node, CharacterDrawing& drawing) const {
    const auto add_all = [&](std::string_view text) {
      for (std::size_t i = 0; i < text.size();) {
        const DecodedCharacter next = decode_utf8(text, i);
        drawing.characters.push_back(next.character), i += next.length;
      }
    };
    if (const pugi::xml_attribute listed = node.attribute("data-characters"); listed) {
      add_all(listed.as_string());
      return {};
    }
    const std::string_view name = drawing.name;
    if (name.starts_with("U+")) {
      char32_t c = 0;
      const std::string_view digits = name.substr(2);
      for (const char digit : digits) {
        const int value = digit >= '0' && digit <= '9'   ? digit - '0'
                          : digit >= 'A' && digit <= 'F' ? digit - 'A' + 10
                          : digit >= 'a' && digit <= 'f' ? digit - 'a' + 10
                                                         : -1;
        if (value < 0 || digits.size() > 6)
          return wrong(ErrorKind::damaged, "U+ and the character's number", node, name);
        c = c * 16 + static_cast<char32_t>(value);
      }
      if (digits.empty() || c == 0 || c > 0x10FFFF || (c >= 0xD800 && c < 0xE000))
        return wrong(ErrorKind::damaged, "U+ and the character's number", node, name);
      drawing.characters = {c};
      return {};
    }
    if (!name.empty() && decode_utf8(name, 0).length == name.size()) add_all(name);
    return {};
  }

  Result<void> check_tag(pugi::xml_node node) const {
    const std::string_view tag = tag_of(node);
    if (is_shape(tag) || is_silent(tag) || is_one_of(tag, {"g", "a", "use"})) return {};
    return wrong(ErrorKind::unsupported, "shapes, groups and use alone", node);
  }

  Result<void> add_children(pugi::xml_node parent, const SvgStyle& style, const SvgMatrix& to_drawing,
                            int depth) {
    if (depth > kDeepest) return wrong(ErrorKind::unsupported, "elements at most 64 deep", parent);
    for (const pugi::xml_node& node : parent.children()) {
      if (node.type() == pugi::node_element && !is_silent(tag_of(node)) && !node.attribute("data-guide")) {
        if (Result<void> added = add(node, style, to_drawing, depth); !added) return added;
      }
    }
    return {};
  }

  Result<void> add(pugi::xml_node node, const SvgStyle& outer, const SvgMatrix& to_drawing, int depth) {
    if (Result<void> known = check_tag(node); !known) return known;
    if (node.attribute("viewBox"))
      return wrong(ErrorKind::unsupported, "a viewBox on the document alone", node);
    const Result<SvgStyle> style = style_of(node, outer);
    if (!style) return fail(style.error());
    const Result<SvgMatrix> own = matrix_of(node);
    if (!own) return fail(own.error());
    const SvgMatrix matrix = to_drawing * *own;
    const std::string_view tag = tag_of(node);
    if (tag == "use") return add_used(node, *style, matrix, depth);
    if (!is_shape(tag)) return add_children(node, *style, matrix, depth + 1);
    if (!style->shown) return {};
    return add_shape(node, *style, matrix);
  }

  Result<void> add_used(pugi::xml_node node, const SvgStyle& style, const SvgMatrix& matrix, int depth) {
    pugi::xml_attribute href = node.attribute("href");
    if (!href) href = node.attribute("xlink:href");
    const std::string_view target = href.as_string();
    if (target.size() < 2 || target[0] != '#')
      return wrong(ErrorKind::damaged, "'#' and the id of an element", node, target);
    const std::string_view id = target.substr(1);
    const pugi::xml_node used = document_.find_node(
        [&](pugi::xml_node n) { return std::string_view(n.attribute("id").as_string()) == id; });
    if (!used) return wrong(ErrorKind::damaged, "the id of an element", node, id);
    if (depth + 1 > kDeepest) return wrong(ErrorKind::damaged, "uses that do not go in circles", node);
    const std::optional<double> x = detail::read_svg_length(node.attribute("x").as_string("0")),
                                y = detail::read_svg_length(node.attribute("y").as_string("0"));
    if (!x || !y) return wrong(ErrorKind::damaged, "x and y as lengths", node);
    return add(used, style, matrix * SvgMatrix{1, 0, 0, 1, *x, *y}, depth + 1);
  }

  Result<void> add_shape(pugi::xml_node node, const SvgStyle& style, const SvgMatrix& matrix) {
    CharacterDrawing& drawing = drawings_.back();
    if (++shapes_ > kMaxShapes) return wrong(ErrorKind::unsupported, "at most 200,000 shapes", node);
    Result<Contours> path = path_of(node);
    if (!path) return fail(path.error());
    const char* const anchor = node.attribute("data-anchor").as_string();
    const char* const attach = node.attribute("data-attach").as_string();
    if (*anchor != '\0' || *attach != '\0') {
      add_anchor(*path, matrix, *anchor != '\0' ? anchor : attach, *attach != '\0');
      return {};
    }
    if (!style.filled && !style.stroked) return {};
    if (style.filled && !style.stroked && is_open(*path))
      return wrong(ErrorKind::damaged, "a path that ends where it began, or no fill", node);
    if (std::abs(matrix.a * matrix.d - matrix.b * matrix.c) < 1e-12)
      return wrong(ErrorKind::damaged, "a transform that leaves an area", node);
    DrawnShape shape;
    shape.path = *std::move(path);
    shape.to_drawing = matrix.rounded();
    shape.filled = style.filled, shape.stroked = style.stroked, shape.even_odd = style.even_odd;
    shape.fill = style.fill, shape.stroke = style.stroke;
    shape.width = static_cast<float>(style.width), shape.miter_limit = static_cast<float>(style.miter_limit);
    shape.pen_share = static_cast<float>(style.pen_share);
    shape.cap = style.cap, shape.join = style.join;
    shape.element = place_of(node);
    drawing.shapes.push_back(std::move(shape));
    return {};
  }

  void add_anchor(const Contours& path, const SvgMatrix& matrix, std::string name, bool attaches) {
    FontPoint low = path.points[0], high = low;
    for (const FontPoint p : path.points) {
      low = {std::min(low.x, p.x), std::min(low.y, p.y)},
      high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
    const PixelPoint p = matrix.rounded()((low.x + high.x) / 2, (low.y + high.y) / 2);
    drawings_.back().anchors.push_back({std::move(name), {p.x, p.y}, attaches});
  }

  /// Whether a contour that has an area is not closed.
  static bool is_open(const Contours& path) {
    const FontPoint* p = path.points.data();
    FontPoint first{}, last{};
    std::size_t points = 0;
    bool closed = true;
    for (const PathCommand command : path.commands) {
      switch (command) {
        case PathCommand::moveto:
          if (!closed && points > 1 && !(first.x == last.x && first.y == last.y)) return true;
          first = last = *p++, points = 1, closed = false;
          continue;
        case PathCommand::lineto:
          p += 1;
          break;
        case PathCommand::quadratic_curveto:
          p += 2;
          break;
        case PathCommand::curveto:
          p += 3;
          break;
        case PathCommand::closepath:
          closed = true;
          continue;
      }
      last = p[-1], ++points;
    }
    return !closed && points > 1 && !(first.x == last.x && first.y == last.y);
  }

  Result<Contours> path_of(pugi::xml_node node) const {
    const std::string_view tag = tag_of(node);
    const Result<std::string> data =
        tag == "path" ? Result<std::string>(node.attribute("d").as_string()) : data_of(node, tag);
    if (!data) return fail(data.error());
    Result<Contours> path = read_svg_path(*data);
    if (!path) return at(path.error(), node);
    if (path->points.empty()) return wrong(ErrorKind::damaged, "a path that is not empty", node);
    return path;
  }

  /// Basic shapes as path data (SVG 2, chapter 10).
  Result<std::string> data_of(pugi::xml_node node, std::string_view tag) const {
    bool good = true;
    const auto length = [&](const char* name, double fallback) {
      const pugi::xml_attribute attribute = node.attribute(name);
      if (!attribute || std::string_view(attribute.as_string()) == "auto") return fallback;
      const std::optional<double> value = detail::read_svg_length(attribute.as_string());
      good = good && value.has_value();
      return value.value_or(0);
    };
    std::string data;
    if (tag == "line") {
      const double x1 = length("x1", 0), y1 = length("y1", 0), x2 = length("x2", 0), y2 = length("y2", 0);
      data = fmt::format("M{} {}L{} {}", x1, y1, x2, y2);
    } else if (tag == "polyline" || tag == "polygon") {
      const std::optional<std::vector<double>> points =
          detail::read_svg_numbers(node.attribute("points").as_string());
      good = points && points->size() >= 4 && points->size() % 2 == 0;
      for (std::size_t i = 0; good && i < points->size(); i += 2) {
        data += fmt::format("{}{} {}", i == 0 ? 'M' : 'L', (*points)[i], (*points)[i + 1]);
      }
      if (tag == "polygon") data += 'Z';
    } else if (tag == "rect") {
      const double x = length("x", 0), y = length("y", 0), w = length("width", 0), h = length("height", 0);
      const double given_x = length("rx", -1), given_y = length("ry", -1);
      double rx = given_x >= 0 ? given_x : std::max(given_y, 0.0),
             ry = given_y >= 0 ? given_y : std::max(given_x, 0.0);
      good = good && w > 0 && h > 0;
      rx = std::min(rx, w / 2), ry = std::min(ry, h / 2);
      data = rx > 0 && ry > 0
                 ? fmt::format(
                       "M{} {}H{}A{} {} 0 0 1 {} {}V{}A{} {} 0 0 1 {} {}H{}A{} {} 0 0 1 {} {}V{}A{} {} 0 0 1 "
                       "{} {}Z",
                       x + rx, y, x + w - rx, rx, ry, x + w, y + ry, y + h - ry, rx, ry, x + w - rx, y + h,
                       x + rx, rx, ry, x, y + h - ry, y + ry, rx, ry, x + rx, y)
                 : fmt::format("M{} {}H{}V{}H{}Z", x, y, x + w, y + h, x);
    } else {
      const double cx = length("cx", 0), cy = length("cy", 0);
      const double rx = tag == "circle" ? length("r", 0) : length("rx", 0),
                   ry = tag == "circle" ? rx : length("ry", 0);
      good = good && rx > 0 && ry > 0;
      data = fmt::format("M{} {}A{} {} 0 0 1 {} {}A{} {} 0 0 1 {} {}Z", cx + rx, cy, rx, ry, cx - rx, cy, rx,
                         ry, cx + rx, cy);
    }
    if (!good) return wrong(ErrorKind::damaged, "lengths and points that make a shape", node);
    return data;
  }

  std::string_view svg_;
  pugi::xml_document document_;
  std::vector<CharacterDrawing> drawings_;
  std::size_t shapes_ = 0;
};

}  // namespace

Result<std::vector<CharacterDrawing>> read_svg_drawings(std::string_view svg, SvgSheet sheet,
                                                        std::string_view name) {
  return Reader(svg).read(sheet, name);
}

}  // namespace grafema
