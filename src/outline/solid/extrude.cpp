// SPDX-License-Identifier: MIT
// The front, made smaller step by step, gives the rings of the bevel; the outline gives the side.
#include <algorithm>
#include <cmath>
#include <utility>

#include "grafema/outline/mesh.hpp"
#include "outline/solid/fill_triangles.hpp"
#include "outline/solid/flip_edges.hpp"
#include "outline/solid/inset.hpp"
#include "outline/solid/solid_shell.hpp"

namespace grafema {
namespace detail {

/// (1 - t^2) / (1 + t^2) and 2t / (1 + t^2) run along a quarter of a circle; t is bent so that steps are as
/// good as even.
std::vector<BevelStep> bevel_steps(const Bevel& bevel) {
  const int count = bevel.shape == BevelShape::flat ? 1 : bevel.segments;
  std::vector<BevelStep> steps;
  for (int i = 1; i <= count; ++i) {
    const double u = static_cast<double>(i) / count, t = u * (0.785398 + 0.214602 * u * u);
    const double cosine = (1 - t * t) / (1 + t * t), sine = 2 * t / (1 + t * t);
    switch (bevel.shape) {
      case BevelShape::round:
        steps.push_back({1 - cosine, sine});
        break;
      case BevelShape::flat:
        steps.push_back({u, u});
        break;
      case BevelShape::concave:
        steps.push_back({sine, 1 - cosine});
        break;
    }
  }
  return steps;
}

}  // namespace detail

namespace {

using detail::FillTriangles;
using detail::Loops;

/// What lies at one height: loops, and triangles between them, which are the front if nothing lies above.
struct Level {
  Loops loops;
  std::vector<FillTriangles::Triangle> triangles;
  double up = 0;  ///< share of the bevel's height
};

/// Between a level and the next one: the points of both, the lower one's first.
struct Ring {
  std::vector<FillTriangles::Triangle> triangles;
};

class Extruder {
 public:
  Extruder(const Contours& contours, const Solid& solid, Notes* notes)
      : contours_(contours),
        solid_(solid),
        notes_(notes),
        grid_(detail::Grid::reaching(detail::largest_coordinate(contours))) {}

  /// False where the outline crosses itself too often.
  bool run(detail::Shell& shell) {
    if (!make_outline()) return false;
    if (levels_[0].loops.ends.empty()) return true;
    make_bevel();
    const double height = fitting_height();
    const double back_height = solid_.bevel.back ? height : 0;
    const std::uint32_t front = add_face(shell, solid_.depth, height, true);
    const std::uint32_t back = add_face(shell, 0, back_height, false);
    if (solid_.depth - height > back_height) add_side(shell, front, back);
    std::stable_sort(shell.faces.begin(), shell.faces.end(),
                     [](const auto& a, const auto& b) { return a.surface < b.surface; });
    return true;
  }

 private:
  bool make_outline() {
    levels_.resize(1);
    detail::flatten_to_grid(contours_, solid_.tolerance, grid_, levels_[0].loops);
    return fill_.run(levels_[0].loops, levels_[0].triangles, steps_);
  }

  void make_bevel() {
    if (!(solid_.bevel.width > 0)) return;
    Level top;
    width_ = widest(solid_.bevel.width, top);
    double everywhere = 0;  // the width up to which no stroke is used up
    for (const detail::BevelStep step : detail::bevel_steps(solid_.bevel)) {
      const double inward = step.inward * width_;
      Level level;
      if (step.inward == 1) {
        level = std::exchange(top, Level{});
      } else if (!inset_.run(levels_[0].loops, inward / grid_.step, level.loops, level.triangles, steps_)) {
        break;
      }
      level.up = step.up;
      Ring ring;
      if (level.loops.ends.empty() || !make_ring(levels_.back(), level, ring)) break;
      if (level.loops.ends.size() == levels_[0].loops.ends.size()) everywhere = inward;
      levels_.push_back(std::move(level));
      rings_.push_back(std::move(ring));
    }
    if (everywhere < solid_.bevel.width) note(solid_.bevel.width, static_cast<float>(everywhere));
  }

  double fitting_height() const {
    if (rings_.empty()) return 0;
    const double room = solid_.bevel.back ? solid_.depth / 2 : solid_.depth;
    const double wanted = solid_.bevel.height > 0 ? solid_.bevel.height : width_;
    if (wanted > room) note(static_cast<float>(wanted), static_cast<float>(room));
    return std::min(wanted, room);
  }

  bool leaves_front(double width, Level& top) {
    return inset_.run(levels_[0].loops, width / grid_.step, top.loops, top.triangles, steps_) &&
           !top.loops.ends.empty();
  }

  /// The width, or about the largest below it at which something of the front is left: `top`.
  double widest(double width, Level& top) {
    if (leaves_front(width, top)) return width;
    constexpr int kHalvings = 24, kFiner = 5;
    double fits = width;
    for (int i = 0; i < kHalvings; ++i) {
      fits /= 2;
      if (leaves_front(fits, top)) break;
      if (i + 1 == kHalvings) return 0;
    }
    double too_wide = 2 * fits;
    for (int i = 0; i < kFiner; ++i) {
      const double middle = (fits + too_wide) / 2;
      (leaves_front(middle, top) ? fits : too_wide) = middle;
    }
    return leaves_front(fits, top) ? fits : 0;
  }

  bool make_ring(const Level& below, const Level& above, Ring& ring) {
    Loops both = below.loops;
    for (std::size_t loop = 0; loop < above.loops.ends.size(); ++loop) {
      const auto points = above.loops.of(loop);
      both.points.insert(both.points.end(), points.rbegin(), points.rend());
      both.ends.push_back(static_cast<std::uint32_t>(both.points.size()));
    }
    if (!fill_.run_on_boundary(both, ring.triangles, steps_)) return false;
    detail::flip_edges(both.points, ring.triangles);
    // The loops above were turned round for this: back to their own order.
    const auto lower = static_cast<std::uint32_t>(below.loops.points.size());
    const auto& ends = above.loops.ends;
    for (auto& triangle : ring.triangles) {
      for (std::uint32_t& corner : triangle) {
        if (corner < lower) continue;
        const std::uint32_t i = corner - lower;
        const auto loop =
            static_cast<std::size_t>(std::upper_bound(ends.begin(), ends.end(), i) - ends.begin());
        corner = lower + static_cast<std::uint32_t>(above.loops.first(loop)) + ends[loop] - 1 - i;
      }
    }
    return true;
  }

  void note(float wanted, float given) const {
    if (notes_ != nullptr) notes_->add({.kind = NoteKind::clamped_bevel, .wanted = wanted, .given = given});
  }

  std::uint32_t add_points(detail::Shell& shell, const Loops& loops, double z) const {
    const auto first = static_cast<std::uint32_t>(shell.points.size());
    for (const detail::GridPoint p : loops.points)
      shell.points.push_back({grid_.from(p.x), grid_.from(p.y), z});
    return first;
  }

  /// The front or back, at `z`, and its bevel. Gives back the first of the outline's points in the shell.
  std::uint32_t add_face(detail::Shell& shell, double z, double height, bool front) {
    const double away = front ? -height : height;
    const std::size_t rings = height > 0 ? rings_.size() : 0;
    const auto level_z = [&](std::size_t level) { return z + away * (1 - levels_[level].up); };
    const std::uint32_t outline = add_points(shell, levels_[0].loops, level_z(0));
    std::uint32_t lower = outline;
    for (std::size_t i = 0; i < rings; ++i) {
      const std::uint32_t upper = add_points(shell, levels_[i + 1].loops, level_z(i + 1));
      const auto split = static_cast<std::uint32_t>(levels_[i].loops.points.size());
      for (auto triangle : rings_[i].triangles) {
        for (std::uint32_t& corner : triangle)
          corner = corner < split ? lower + corner : upper + corner - split;
        add_triangle(shell, triangle, MeshSurface::bevel, front);
      }
      lower = upper;
    }
    for (auto triangle : levels_[rings].triangles) {
      for (std::uint32_t& corner : triangle) corner += lower;
      add_triangle(shell, triangle, front ? MeshSurface::front : MeshSurface::back, front);
    }
    return outline;
  }

  static void add_triangle(detail::Shell& shell, FillTriangles::Triangle t, MeshSurface surface, bool front) {
    if (!front) std::swap(t[1], t[2]);
    shell.faces.push_back({t, {}, surface});
  }

  /// Between the outline's points at the front, from `front` on, and those at the back.
  void add_side(detail::Shell& shell, std::uint32_t front, std::uint32_t back) const {
    const Loops& loops = levels_[0].loops;
    for (std::size_t loop = 0; loop < loops.ends.size(); ++loop) {
      const auto first = static_cast<std::uint32_t>(loops.first(loop));
      double length = 0;
      for (std::uint32_t i = first; i < loops.ends[loop]; ++i) {
        const std::uint32_t j = i + 1 < loops.ends[loop] ? i + 1 : first;
        const double x = double{1} * loops.points[j].x - loops.points[i].x,
                     y = double{1} * loops.points[j].y - loops.points[i].y;
        const auto from = static_cast<float>(length);
        length += std::sqrt(x * x + y * y) * grid_.step;
        const auto to = static_cast<float>(length);
        shell.faces.push_back({{back + i, back + j, front + j}, {from, to, to}, MeshSurface::side});
        shell.faces.push_back({{back + i, front + j, front + i}, {from, to, from}, MeshSurface::side});
      }
    }
  }

  const Contours& contours_;
  const Solid& solid_;
  Notes* notes_;
  detail::Grid grid_;
  detail::Steps steps_;
  FillTriangles fill_;
  detail::Inset inset_;
  std::vector<Level> levels_;
  std::vector<Ring> rings_;
  double width_ = 0;  ///< of the bevel, in font units: what there was room for
};

bool in_range(float value, float least, float most) {
  return std::isfinite(value) && value >= least && value <= most;
}

Result<void> check(const Solid& solid) {
  const auto bad = [](const char* expected) { return fail(make_error(ErrorKind::bad_value, expected)); };
  constexpr float kLargest = 1e9F;
  if (!in_range(solid.depth, 1e-9F, kLargest)) return bad("a depth above 0");
  if (!in_range(solid.tolerance, 1e-9F, kLargest)) return bad("a tolerance above 0");
  if (!in_range(solid.scale, 1e-9F, kLargest)) return bad("a scale above 0");
  if (!in_range(solid.bevel.width, 0, kLargest)) return bad("a bevel 0 or more wide");
  if (!in_range(solid.bevel.height, 0, kLargest)) return bad("a bevel 0 or more high");
  if (solid.bevel.segments < 1 || solid.bevel.segments > 64) return bad("a bevel of 1 to 64 segments");
  if (!in_range(solid.sharp_angle, 0, 180)) return bad("a sharp angle from 0 to 180 degrees");
  for (const float v : solid.at) {
    if (!std::isfinite(v)) return bad("a finite place");
  }
  return {};
}

}  // namespace

Result<void> extrude(const Contours& contours, const Solid& solid, Mesh& mesh, Notes* notes) {
  if (const Result<void> right = check(solid); !right) return right;
  detail::Shell shell;
  if (!Extruder(contours, solid, notes).run(shell)) {
    return fail(make_error(ErrorKind::unsupported, "an outline that crosses itself less often"));
  }
  detail::append_shell(shell, solid, mesh);
  return {};
}

}  // namespace grafema
