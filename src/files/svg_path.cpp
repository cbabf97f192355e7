// SPDX-License-Identifier: MIT
// Path data of SVG, command by command.
#include "grafema/files/svg_path.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <pugixml.hpp>

#include "base/numbers.hpp"
#include "grafema/base/nearest.hpp"

namespace grafema {
namespace {

constexpr double kFarthest = 1e6;
constexpr std::size_t kMaxPoints = 1U << 18U;
constexpr double kPi = 3.141592653589793;

struct Point {
  double x = 0, y = 0;
};

class PathReader {
 public:
  explicit PathReader(std::string_view data) : data_(data) {}

  Result<Contours> read() {
    skip();
    while (at_ < data_.size() && !failed_) {
      const char c = data_[at_];
      if (std::string_view("MmLlHhVvCcSsQqTtAaZz").find(c) == std::string_view::npos) {
        fail_here("a path command");
        break;
      }
      if (out_.commands.empty() && c != 'M' && c != 'm') fail_here("a moveto first");
      ++at_;
      skip();
      read_command(c);
    }
    if (failed_)
      return fail(make_error(ErrorKind::damaged, expected_, fmt::format("'{}'", data_.substr(at_, 20))));
    return out_;
  }

 private:
  void skip() {
    while (at_ < data_.size() && std::string_view(" \t\r\n,").find(data_[at_]) != std::string_view::npos)
      ++at_;
  }

  void fail_here(const char* expected) {
    if (!failed_) expected_ = expected;
    failed_ = true;
  }

  double number() {
    std::size_t end = at_;
    const auto is = [&](std::string_view set) {
      return end < data_.size() && set.find(data_[end]) != std::string_view::npos;
    };
    const auto digits = [&] {
      while (is("0123456789")) ++end;
    };
    if (is("+-")) ++end;
    digits();
    if (is(".")) ++end, digits();
    if (is("eE")) {
      ++end;
      if (is("+-")) ++end;
      digits();
    }
    std::string_view text = data_.substr(at_, end - at_);
    if (text.starts_with('+')) text.remove_prefix(1);
    const std::optional<double> v = detail::find_number(text);
    if (!v || std::abs(*v) > kFarthest) {
      fail_here("a number up to a million");
      return 0;
    }
    at_ = end;
    skip();
    return *v;
  }

  /// Of an arc: 0 or 1, which need no space behind them.
  bool flag() {
    const bool is_flag = at_ < data_.size() && (data_[at_] == '0' || data_[at_] == '1');
    if (!is_flag) fail_here("a flag, 0 or 1");
    const bool on = is_flag && data_[at_] == '1';
    if (is_flag) ++at_;
    skip();
    return on;
  }

  Point point(bool relative) {
    const double x = number(), y = number();
    return relative ? Point{now_.x + x, now_.y + y} : Point{x, y};
  }

  static FontPoint out(Point p) { return {static_cast<float>(p.x), static_cast<float>(p.y)}; }

  bool goes_on() {
    if (out_.points.size() > kMaxPoints) fail_here("at most 262,144 points");
    return !failed_ && at_ < data_.size() &&
           std::string_view("+-.0123456789").find(data_[at_]) != std::string_view::npos;
  }

  void read_command(char c) {
    const bool relative = c >= 'a';
    const char kind = relative ? static_cast<char>(c - 'a' + 'A') : c;
    if (kind == 'Z') {
      out_.close();
      now_ = start_, last_ = kind;
      return;
    }
    bool first = true;
    do {
      step(kind == 'M' && !first ? 'L' : kind, relative);
      first = false;
    } while (goes_on());
  }

  void step(char kind, bool relative) {
    const Point before = now_;
    if (kind != 'M' && last_ == 'Z') out_.move_to(out(start_));
    switch (kind) {
      case 'M':
        now_ = start_ = point(relative);
        if (!failed_) out_.move_to(out(now_));
        break;
      case 'H':
        now_.x = number() + (relative ? before.x : 0);
        out_.line_to(out(now_));
        break;
      case 'V':
        now_.y = number() + (relative ? before.y : 0);
        out_.line_to(out(now_));
        break;
      case 'L':
        now_ = point(relative);
        out_.line_to(out(now_));
        break;
      case 'C':
      case 'S': {
        const bool smooth = last_ == 'C' || last_ == 'S';
        const Point one = kind == 'C' ? point(relative) : smooth ? mirrored(before) : before;
        const Point two = point(relative), end = point(relative);
        out_.curve_to(out(one), out(two), out(end));
        control_ = two, now_ = end;
        break;
      }
      case 'Q':
      case 'T': {
        const bool smooth = last_ == 'Q' || last_ == 'T';
        const Point one = kind == 'Q' ? point(relative)
                          : smooth    ? mirrored(before)
                                      : before,
                    end = point(relative);
        out_.quadratic_curve_to(out(one), out(end));
        control_ = one, now_ = end;
        break;
      }
      default:
        read_arc(relative);
        break;
    }
    last_ = kind;
  }

  Point mirrored(Point about) const { return {2 * about.x - control_.x, 2 * about.y - control_.y}; }

  /// SVG 2, appendix B.2: from the ends to the center, then in pieces of a quarter turn at most.
  void read_arc(bool relative) {
    const Point from = now_;
    double rx = std::abs(number()), ry = std::abs(number());
    const double turn = number();
    const bool large = flag(), sweep = flag();
    const Point to = point(relative);
    now_ = to;
    if (failed_ || (from.x == to.x && from.y == to.y)) return;
    if (rx == 0 || ry == 0) return out_.line_to(out(to));
    const detail::SineCosine phi = detail::sine_cosine(turn);
    const double hx = (from.x - to.x) / 2, hy = (from.y - to.y) / 2;
    const double x = phi.cosine * hx + phi.sine * hy, y = phi.cosine * hy - phi.sine * hx;
    const double wide = x * x / (rx * rx) + y * y / (ry * ry);
    if (wide > 1) rx *= std::sqrt(wide), ry *= std::sqrt(wide);
    const double ratio = rx * rx * ry * ry / (rx * rx * y * y + ry * ry * x * x) - 1;
    const double k = std::sqrt(std::max(ratio, 0.0)) * (large == sweep ? -1 : 1), cx = k * rx * y / ry,
                 cy = -k * ry * x / rx;
    const double begin = std::atan2((y - cy) / ry, (x - cx) / rx),
                 end = std::atan2((-y - cy) / ry, (-x - cx) / rx);
    double angle = end - begin;
    if (sweep && angle < 0) angle += 2 * kPi;
    if (!sweep && angle > 0) angle -= 2 * kPi;
    const Point center{phi.cosine * cx - phi.sine * cy + (from.x + to.x) / 2,
                       phi.sine * cx + phi.cosine * cy + (from.y + to.y) / 2};
    const auto on = [&](double px, double py) {
      return FontPoint{static_cast<float>(center.x + phi.cosine * rx * px - phi.sine * ry * py),
                       static_cast<float>(center.y + phi.sine * rx * px + phi.cosine * ry * py)};
    };
    const int pieces = std::max(1, static_cast<int>(std::ceil(std::abs(angle) / (kPi / 2) - 1e-9)));
    const double step = angle / pieces, pull = 4.0 / 3 * std::tan(step / 4);
    for (int i = 0; i < pieces; ++i) {
      const double a = begin + step * i, b = a + step;
      const double ax = std::cos(a), ay = std::sin(a), bx = std::cos(b), by = std::sin(b);
      out_.curve_to(on(ax - pull * ay, ay + pull * ax), on(bx + pull * by, by - pull * bx),
                    i + 1 == pieces ? out(to) : on(bx, by));
    }
  }

  std::string_view data_;
  std::size_t at_ = 0;
  Contours out_;
  Point now_, start_, control_;
  char last_ = 'M';
  bool failed_ = false;
  const char* expected_ = "";
};

/// Every path of a document, wherever it stands.
struct PathNodes : pugi::xml_tree_walker {
  std::vector<pugi::xml_node> paths;
  bool for_each(pugi::xml_node& node) override {
    constexpr int kMaxNesting = 64;
    if (std::string_view(node.name()) == "path") paths.push_back(node);
    return depth() < kMaxNesting;
  }
};

}  // namespace

Result<Contours> read_svg_path(std::string_view data) { return PathReader(data).read(); }

FileResult<Contours> load_svg_path(const std::string& path_and_id) {
  const std::size_t hash = path_and_id.rfind('#');
  const std::string path = path_and_id.substr(0, hash),
                    id = hash == std::string::npos ? "" : path_and_id.substr(hash + 1);
  const FileResult<std::string> text = load_text(path);
  if (!text) return tl::unexpected(text.error());
  const auto wrong = [&path](const char* expected, std::string_view found) {
    return tl::unexpected<FileError>({make_error(ErrorKind::damaged, expected, found), path});
  };
  pugi::xml_document document;
  const pugi::xml_parse_result parsed = document.load_buffer(text->data(), text->size());
  if (!parsed) return wrong("an SVG document", parsed.description());
  PathNodes found;
  document.traverse(found);
  std::vector<std::string_view> names;
  for (const pugi::xml_node& node : found.paths) {
    const std::string_view name = node.attribute("id").as_string();
    if (!id.empty() && name != id) {
      names.push_back(name);
      continue;
    }
    Result<Contours> contours = read_svg_path(node.attribute("d").as_string());
    if (!contours) return tl::unexpected<FileError>({contours.error(), path});
    return *std::move(contours);
  }
  return wrong("a path with that id",
               id.empty() ? std::string("no path at all") : fmt::format("'{}'{}", id, suggestion(id, names)));
}

}  // namespace grafema
