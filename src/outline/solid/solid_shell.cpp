// SPDX-License-Identifier: MIT
// Normals, tangents and texture coordinates of solid letters.
#include "outline/solid/solid_shell.hpp"

#include <algorithm>
#include <cmath>

#include "base/numbers.hpp"

namespace grafema::detail {
namespace {

struct SpaceVector {
  double x = 0, y = 0, z = 0;
};

SpaceVector between(const ShellPoint& a, const ShellPoint& b) { return {b.x - a.x, b.y - a.y, b.z - a.z}; }
SpaceVector cross(SpaceVector a, SpaceVector b) {
  return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
double dot(SpaceVector a, SpaceVector b) { return a.x * b.x + a.y * b.y + a.z * b.z; }
SpaceVector unit(SpaceVector v) {
  const double length = std::sqrt(dot(v, v));
  return length > 0 ? SpaceVector{v.x / length, v.y / length, v.z / length} : SpaceVector{0, 0, 1};
}
std::array<float, 3> stored(SpaceVector v) {
  return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
}

/// Flat front and back first, then the side: a bevel takes over the normal of what it runs into.
int rank(MeshSurface surface) {
  return surface == MeshSurface::bevel ? 0 : surface == MeshSurface::side ? 1 : 2;
}

class Builder {
 public:
  Builder(const Shell& shell, const Solid& solid, Mesh& mesh) : shell_(shell), solid_(solid), mesh_(mesh) {
    smooth_ = sine_cosine(solid.sharp_angle).cosine;
    half_smooth_ = sine_cosine(solid.sharp_angle / 2.0).cosine;
    normals_.reserve(shell.faces.size()), weights_.reserve(shell.faces.size());
    for (const ShellFace& face : shell.faces) {
      const auto& p = face.points;
      const SpaceVector doubled = cross(between(shell.points[p[0]], shell.points[p[1]]),
                                        between(shell.points[p[0]], shell.points[p[2]]));
      normals_.push_back(unit(doubled));
      weights_.push_back(std::sqrt(dot(doubled, doubled)));
    }
    list_faces_by_point();
  }

  void run() {
    made_.assign(shell_.points.size(), 0);
    shared_.assign(shell_.points.size(), kUnknown);
    flat_.assign(shell_.points.size(), kUnknown);
    const std::uint32_t letter = mesh_.letters++;
    for (std::size_t i = 0; i < shell_.faces.size(); ++i) {
      const ShellFace& face = shell_.faces[i];
      if (mesh_.parts.empty() || mesh_.parts.back().letter != letter ||
          mesh_.parts.back().surface != face.surface) {
        mesh_.parts.push_back({face.surface, letter, static_cast<std::uint32_t>(mesh_.indices.size()), 0});
      }
      for (std::size_t corner = 0; corner < 3; ++corner) mesh_.indices.push_back(add(i, corner));
      mesh_.parts.back().count += 3;
    }
  }

 private:
  /// A face as one of its points sees it.
  struct Around {
    std::uint32_t face;
    int rank;
    SpaceVector normal;
    double weight;
  };

  void list_faces_by_point() {
    first_.assign(shell_.points.size() + 1, 0);
    for (const ShellFace& face : shell_.faces) {
      for (const std::uint32_t p : face.points) ++first_[p + 1];
    }
    for (std::size_t i = 1; i < first_.size(); ++i) first_[i] += first_[i - 1];
    around_.resize(shell_.faces.size() * 3);
    std::vector<std::uint32_t> next(first_.begin(), first_.end() - 1);
    for (std::uint32_t i = 0; i < shell_.faces.size(); ++i) {
      for (const std::uint32_t p : shell_.faces[i].points) {
        around_[next[p]++] = {i, rank(shell_.faces[i].surface), normals_[i],
                              weights_[i] * corner_weight(i, p)};
      }
    }
  }

  /// Of the faces around the point that this one is smooth with, those of the highest rank say the direction.
  SpaceVector normal(std::size_t face, std::uint32_t point) const {
    const MeshSurface surface = shell_.faces[face].surface;
    if (rank(surface) == 2) return normals_[face];
    int highest = rank(surface);
    SpaceVector sum;
    for (std::uint32_t i = first_[point]; i < first_[point + 1]; ++i) {
      const Around& other = around_[i];
      if (other.rank < highest || (other.face != face && dot(normals_[face], other.normal) < smooth_))
        continue;
      if (other.rank > highest) sum = {}, highest = other.rank;
      const SpaceVector& n = other.normal;
      sum = {sum.x + other.weight * n.x, sum.y + other.weight * n.y, sum.z + other.weight * n.z};
    }
    return unit(sum);
  }

  /// The area says how much a face counts, over the lengths of the sides that meet: long slivers do not
  /// outweigh what is wide at the point (Max 1999).
  double corner_weight(std::uint32_t face, std::uint32_t point) const {
    const auto& p = shell_.faces[face].points;
    const std::size_t k = p[0] == point ? 0 : p[1] == point ? 1 : 2;
    const SpaceVector a = between(shell_.points[p[k]], shell_.points[p[(k + 1) % 3]]);
    const SpaceVector b = between(shell_.points[p[k]], shell_.points[p[(k + 2) % 3]]);
    const double lengths = dot(a, a) * dot(b, b);
    return lengths > 0 ? 1 / lengths : 0;
  }

  MeshVertex vertex(std::size_t face, std::size_t corner) const {
    const ShellFace& f = shell_.faces[face];
    const ShellPoint& p = shell_.points[f.points[corner]];
    const double s = solid_.scale;
    const SpaceVector n = normal(face, f.points[corner]);
    MeshVertex v;
    v.position = stored({p.x * s + solid_.at[0], p.y * s + solid_.at[1], p.z * s + solid_.at[2]});
    v.normal = stored(n);
    SpaceVector tangent;
    if (f.surface == MeshSurface::side) {
      tangent = unit({-n.y, n.x, 0});
      v.uv = {static_cast<float>(f.lengths[corner] * s), static_cast<float>((solid_.depth - p.z) * s)};
    } else {
      const bool behind =
          f.surface == MeshSurface::back || (f.surface == MeshSurface::bevel && normals_[face].z < 0);
      const double right = behind ? -1 : 1;
      const SpaceVector along = {right * (1 - n.x * n.x), -right * n.x * n.y, -right * n.x * n.z};
      tangent = dot(along, along) > 1e-12 ? unit(along) : SpaceVector{0, 0, -n.x * right};
      v.uv = {static_cast<float>(right * p.x * s), static_cast<float>(-p.y * s)};
    }
    v.tangent = {static_cast<float>(tangent.x), static_cast<float>(tangent.y), static_cast<float>(tangent.z),
                 1};
    return v;
  }

  /// Whether the bevel alone meets in the point, and is smooth there: then all its faces share one vertex.
  /// Faces that lie within half of the sharp angle of one direction lie within the whole of each other.
  bool is_smooth(std::uint32_t point) const {
    SpaceVector sum;
    for (std::uint32_t i = first_[point]; i < first_[point + 1]; ++i) {
      if (around_[i].rank != 0) return false;
      const SpaceVector& n = around_[i].normal;
      sum = {sum.x + n.x, sum.y + n.y, sum.z + n.z};
    }
    sum = unit(sum);
    for (std::uint32_t i = first_[point]; i < first_[point + 1]; ++i) {
      if (dot(sum, around_[i].normal) <= half_smooth_) return false;
    }
    return true;
  }

  std::uint32_t add(std::size_t face, std::size_t corner) {
    const std::uint32_t point = shell_.faces[face].points[corner];
    if (rank(shell_.faces[face].surface) == 2) {  // flat: what meets in the point has one normal
      if (flat_[point] == kUnknown) flat_[point] = find_or_make(face, corner, point);
      return flat_[point];
    }
    if (shared_[point] == kUnknown) shared_[point] = is_smooth(point) ? kToMake : kNone;
    if (shared_[point] < kUnknown) return shared_[point];
    const std::uint32_t made = find_or_make(face, corner, point);
    if (shared_[point] == kToMake) shared_[point] = made;
    return made;
  }

  std::uint32_t find_or_make(std::size_t face, std::size_t corner, std::uint32_t point) {
    const MeshVertex v = vertex(face, corner);
    for (std::uint32_t at = made_[point]; at != 0; at = next_made_[at - 1]) {
      const std::uint32_t index = vertices_[at - 1];
      const MeshVertex& old = mesh_.vertices[index];
      if (surfaces_[at - 1] != shell_.faces[face].surface || old.uv != v.uv) continue;
      const double apart = std::abs(double{old.normal[0]} - v.normal[0]) +
                           std::abs(double{old.normal[1]} - v.normal[1]) +
                           std::abs(double{old.normal[2]} - v.normal[2]);
      if (apart < 1e-4) return index;
    }
    mesh_.vertices.push_back(v);
    const auto index = static_cast<std::uint32_t>(mesh_.vertices.size() - 1);
    vertices_.push_back(index), surfaces_.push_back(shell_.faces[face].surface),
        next_made_.push_back(made_[point]);
    made_[point] = static_cast<std::uint32_t>(vertices_.size());
    return index;
  }

  const Shell& shell_;
  const Solid& solid_;
  Mesh& mesh_;
  double smooth_, half_smooth_;
  static constexpr std::uint32_t kUnknown = ~2U, kToMake = ~1U, kNone = ~0U;
  std::vector<std::uint32_t> shared_;  // the one vertex of a point, where it has one
  std::vector<std::uint32_t> flat_;    // that of the front or back in a point
  std::vector<SpaceVector> normals_;
  std::vector<double> weights_;
  std::vector<std::uint32_t> first_;
  std::vector<Around> around_;  // by point
  // Vertices made of each point: a list through next_made_, numbers are 1 more than places; 0 ends it.
  std::vector<std::uint32_t> made_, next_made_, vertices_;
  std::vector<MeshSurface> surfaces_;
};

}  // namespace

void append_shell(const Shell& shell, const Solid& solid, Mesh& mesh) { Builder(shell, solid, mesh).run(); }

}  // namespace grafema::detail
