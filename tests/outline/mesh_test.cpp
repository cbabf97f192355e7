// SPDX-License-Identifier: MIT
// Solid letters are closed, as large as they should be, and lit as they should be.
#include "grafema/outline/mesh.hpp"

#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

#include "support/shapes.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

double length(const std::array<float, 3>& v) {
  return std::sqrt(double{v[0]} * v[0] + double{v[1]} * v[1] + double{v[2]} * v[2]);
}

std::size_t count_of(const Mesh& mesh, MeshSurface surface) {
  std::size_t count = 0;
  for (const MeshPart& part : mesh.parts) count += part.surface == surface ? part.count : 0;
  return count;
}

Contours square(float side) { return test::polygon({{0, 0}, {0, side}, {side, side}, {side, 0}}); }

}  // namespace

TEST_CASE("solid letters are closed and hold the volume of their shape", "[mesh][property]") {
  const std::string file = GENERATE("DejaVuSans.ttf", "DejaVuSerif.ttf", "DejaVuSansMono-Bold.ttf");
  const auto shape = GENERATE(BevelShape::round, BevelShape::flat, BevelShape::concave);
  const auto face = test::dejavu(file);
  Triangles t;
  for (char32_t letter = 0x21; letter < 0x250; letter += (letter < 0x7F ? 1 : 7) * test::kStride) {
    const Contours c = test::outline_of(*face, letter);
    INFO(file << " U+" << std::hex << static_cast<unsigned>(letter));
    REQUIRE(triangulate(c, 3, t));
    Mesh plain, beveled;
    REQUIRE(extrude(c, {.depth = 300, .tolerance = 3}, plain));
    REQUIRE(extrude(
        c, {.depth = 300, .bevel = {.shape = shape, .width = 25, .back = letter % 2 == 0}, .tolerance = 3},
        beveled));
    CHECK(test::is_closed(plain));
    CHECK(test::is_closed(beveled));
    CHECK(test::volume(plain) == Approx(t.area() * 300).epsilon(1e-5));
    CHECK(test::volume(beveled) < test::volume(plain) * 1.000001);
    CHECK(test::volume(beveled) > test::volume(plain) * 0.7);
    double wrong_length = 0, slant = 0;  // the worst of all vertices
    for (const MeshVertex& v : beveled.vertices) {
      const double normal = length(v.normal), tangent = length({v.tangent[0], v.tangent[1], v.tangent[2]});
      const double across = double{v.normal[0]} * v.tangent[0] + double{v.normal[1]} * v.tangent[1] +
                            double{v.normal[2]} * v.tangent[2];
      wrong_length = std::max({wrong_length, std::abs(normal - 1), std::abs(tangent - 1)});
      slant = std::max(slant, std::abs(across));
    }
    CHECK(wrong_length < 1e-5);
    CHECK(slant < 1e-4);
  }
}

TEST_CASE("meshes of polygons that cross and touch are closed too", "[mesh][property]") {
  std::mt19937 random(11);
  for (std::uint32_t round = 0; round < 400 / test::kStride; ++round) {
    INFO("round " << round);
    Mesh mesh;
    REQUIRE(extrude(test::tangled(random), {.depth = 5, .bevel = {.width = 0.7F, .segments = 3}}, mesh));
    REQUIRE(test::is_closed(mesh));
    REQUIRE(test::volume(mesh) >= 0);
  }
}

TEST_CASE("a beveled block has the volume that its steps add up to", "[mesh]") {
  Mesh mesh;
  REQUIRE(extrude(square(100),
                  {.depth = 50, .bevel = {.shape = BevelShape::flat, .width = 10, .back = false}}, mesh));
  // 40 high with straight sides, then a frustum: (A + B + sqrt(A B)) h / 3.
  CHECK(test::volume(mesh) == Approx(100 * 100 * 40 + (10000.0 + 6400 + 8000) * 10 / 3).epsilon(1e-6));
  CHECK(count_of(mesh, MeshSurface::front) == 6);
  CHECK(count_of(mesh, MeshSurface::back) == 6);
  CHECK(count_of(mesh, MeshSurface::side) == 24);
  CHECK(count_of(mesh, MeshSurface::bevel) == 24);
  for (const MeshPart& part : mesh.parts) {
    for (std::uint32_t i = part.first; i < part.first + part.count; ++i) {
      const MeshVertex& v = mesh.vertices[mesh.indices[i]];
      if (part.surface == MeshSurface::front) CHECK(v.position[2] == 50);
      if (part.surface == MeshSurface::back) CHECK(v.normal == std::array{0.0F, 0.0F, -1.0F});
      if (part.surface == MeshSurface::bevel)
        CHECK(v.normal[2] == Approx(std::sqrt(0.5)).margin(1e-5));  // 45 degrees: sharp
      if (part.surface == MeshSurface::side)
        CHECK(v.uv[0] == Approx(std::round(v.uv[0] / 100) * 100).margin(1e-3));
    }
  }
}

TEST_CASE("a bevel lies inside the outline: the silhouette stays", "[mesh]") {
  const Contours c = test::outline_of(*test::dejavu(), U'S');
  const FontRect box = bounds(c);
  Mesh mesh;
  REQUIRE(extrude(c, {.depth = 200, .bevel = {.width = 40}}, mesh));
  float left = 1e9F, right = -1e9F, low = 1e9F, high = -1e9F;
  for (const MeshVertex& v : mesh.vertices) {
    left = std::min(left, v.position[0]), right = std::max(right, v.position[0]);
    low = std::min(low, v.position[2]), high = std::max(high, v.position[2]);
  }
  CHECK(left == Approx(box.x_min).margin(1));
  CHECK(right == Approx(box.x_max).margin(1));
  CHECK(low == 0);
  CHECK(high == 200);
}

TEST_CASE("normals of a round letter are smooth, those of a block sharp", "[mesh]") {
  Contours ring;
  ring.move_to({500, 0});
  ring.curve_to({500, -276}, {276, -500}, {0, -500});
  ring.curve_to({-276, -500}, {-500, -276}, {-500, 0});
  ring.curve_to({-500, 276}, {-276, 500}, {0, 500});
  ring.curve_to({276, 500}, {500, 276}, {500, 0});
  ring.close();
  Mesh mesh;
  REQUIRE(extrude(ring, {.depth = 100}, mesh));
  for (const MeshPart& part : mesh.parts) {
    if (part.surface != MeshSurface::side) continue;
    for (std::uint32_t i = part.first; i < part.first + part.count; ++i) {
      const MeshVertex& v = mesh.vertices[mesh.indices[i]];
      const double r = std::hypot(v.position[0], v.position[1]);
      CHECK(v.normal[0] * v.position[0] / r + v.normal[1] * v.position[1] / r > 0.999);
    }
  }
  Mesh block;
  REQUIRE(extrude(square(100), {.depth = 100}, block));
  for (const MeshVertex& v : block.vertices) {
    CHECK(std::max({std::abs(v.normal[0]), std::abs(v.normal[1]), std::abs(v.normal[2])}) == 1);
  }
  CHECK(block.vertices.size() == 24);
}

TEST_CASE("what there is no room for is made smaller, and noted", "[mesh]") {
  Notes notes;
  Mesh mesh;
  REQUIRE(extrude(square(100), {.depth = 30, .bevel = {.width = 400}}, mesh, &notes));
  CHECK(test::is_closed(mesh));
  REQUIRE(notes.all().size() == 2);
  CHECK(notes.all()[0].kind == NoteKind::clamped_bevel);
  CHECK(notes.all()[0].wanted == 400);
  CHECK(notes.all()[0].given < 50);
  CHECK(notes.all()[0].given > 45);   // as wide as there is room for, not much less
  CHECK(notes.all()[1].given == 15);  // half of the depth: front and back
  notes.clear();
  // A thick and a thin stroke: the thin one is used up, the thick one has its bevel.
  Contours two = square(100);
  test::add_polygon(two, std::array<FontPoint, 4>{{{200, 0}, {200, 100}, {206, 100}, {206, 0}}});
  mesh.clear();
  REQUIRE(extrude(two, {.depth = 50, .bevel = {.width = 10}}, mesh, &notes));
  CHECK(test::is_closed(mesh));
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0].given < 3);
}

TEST_CASE("numbers out of range are refused, and the mesh stays as it was", "[mesh]") {
  Mesh mesh;
  REQUIRE(extrude(square(10), {.depth = 5}, mesh));
  const std::size_t vertices = mesh.vertices.size();
  for (const Solid& wrong : std::initializer_list<Solid>{{.depth = 0},
                                                         {.depth = -1},
                                                         {.depth = NAN},
                                                         {.bevel = {.width = -1}},
                                                         {.bevel = {.width = NAN}},
                                                         {.bevel = {.width = 1, .segments = 0}},
                                                         {.bevel = {.width = 1, .segments = 65}},
                                                         {.sharp_angle = 181},
                                                         {.tolerance = 0},
                                                         {.scale = INFINITY},
                                                         {.at = {NAN, 0, 0}}}) {
    const Result<void> made = extrude(square(10), wrong, mesh);
    REQUIRE_FALSE(made);
    CHECK(made.error().kind == ErrorKind::bad_value);
  }
  CHECK(mesh.vertices.size() == vertices);
  REQUIRE(extrude({}, {}, mesh));
  CHECK(mesh.vertices.size() == vertices);
  CHECK(mesh.letters == 2);
}
