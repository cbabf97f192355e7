// SPDX-License-Identifier: MIT
// Files of solid letters: read back, and held against the specification.
#include "grafema/files/mesh_file.hpp"

#include <catch2/catch.hpp>
#include <cstring>
#include <nlohmann/json.hpp>
#include <sstream>

#include "support/shapes.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

SolidText solid(std::string_view text) {
  const FontStack stack{test::dejavu("DejaVuSans-Bold.ttf")};
  ShapeCache cache;
  Paragraph paragraph;
  REQUIRE(lay_out(stack, text, {.size = 40}, cache, paragraph));
  SolidText out;
  REQUIRE(make_solid_text(stack, paragraph, {.bevel = 0.02F, .bevel_segments = 2}, out));
  return out;
}

const ModelOptions kBrass{.front = {{0.9F, 0.7F, 0.3F, 1}, 1, 0.3F},
                          .side = {{0.1F, 0.1F, 0.2F, 1}, 0, 0.8F},
                          .bevel = {{1, 0.8F, 0.4F, 0.5F}, 1, 0.2F}};

std::uint32_t u32(std::span<const std::byte> bytes, std::size_t at) {
  std::uint32_t v = 0;
  REQUIRE(at + 4 <= bytes.size());
  std::memcpy(&v, bytes.data() + at, 4);
  return v;
}

/// The two chunks of a binary glTF file (section 4.4).
struct Glb {
  std::string text;
  nlohmann::json json;
  std::span<const std::byte> buffer;

  explicit Glb(std::span<const std::byte> bytes) {
    REQUIRE(u32(bytes, 0) == 0x46546C67);
    REQUIRE(u32(bytes, 4) == 2);
    REQUIRE(u32(bytes, 8) == bytes.size());
    const std::size_t length = u32(bytes, 12);
    REQUIRE(u32(bytes, 16) == 0x4E4F534A);
    REQUIRE(length % 4 == 0);
    text.assign(reinterpret_cast<const char*>(bytes.data()) + 20, length);
    json = nlohmann::json::parse(text);
    REQUIRE(u32(bytes, 24 + length) == 0x004E4942);
    buffer = bytes.subspan(28 + length, u32(bytes, 20 + length));
  }

  template <class T>
  std::vector<T> read(std::size_t accessor) const {
    const auto& a = json["accessors"][accessor];
    const auto& view = json["bufferViews"][a["bufferView"].get<std::size_t>()];
    const std::size_t stride = view.value("byteStride", sizeof(T)),
                      begin = view.value("byteOffset", 0U) + a.value("byteOffset", 0U);
    std::vector<T> out(a["count"].get<std::size_t>());
    for (std::size_t i = 0; i < out.size(); ++i) {
      REQUIRE(begin + i * stride + sizeof(T) <= buffer.size());
      std::memcpy(&out[i], buffer.data() + begin + i * stride, sizeof(T));
    }
    return out;
  }
};

/// All triangles of the file where its nodes put them.
Mesh mesh_of(const Glb& glb) {
  Mesh out;
  for (const auto& node : glb.json["nodes"]) {
    const auto moved = node.value("translation", std::vector<double>{0, 0, 0});
    for (const auto& primitive : glb.json["meshes"][node["mesh"].get<std::size_t>()]["primitives"]) {
      const auto first = static_cast<std::uint32_t>(out.vertices.size());
      const auto& attributes = primitive["attributes"];
      const auto positions = glb.read<std::array<float, 3>>(attributes["POSITION"]);
      const auto normals = glb.read<std::array<float, 3>>(attributes["NORMAL"]);
      const auto tangents = glb.read<std::array<float, 4>>(attributes["TANGENT"]);
      const auto uvs = glb.read<std::array<float, 2>>(attributes["TEXCOORD_0"]);
      const auto& accessor = glb.json["accessors"][attributes["POSITION"].get<std::size_t>()];
      for (std::size_t i = 0; i < positions.size(); ++i) {
        MeshVertex v{positions[i], normals[i], tangents[i], uvs[i]};
        for (std::size_t k = 0; k < 3; ++k) {
          REQUIRE(v.position[k] >= accessor["min"][k].get<float>());
          REQUIRE(v.position[k] <= accessor["max"][k].get<float>());
          v.position[k] += static_cast<float>(moved[k]);
        }
        out.vertices.push_back(v);
      }
      for (const std::uint32_t index : glb.read<std::uint32_t>(primitive["indices"])) {
        REQUIRE(index < positions.size());
        out.indices.push_back(first + index);
      }
    }
  }
  return out;
}

}  // namespace

TEST_CASE("a binary glTF file holds the mesh, and is what its schema asks for", "[mesh]") {
  const SolidText text = solid("Salt 4");
  ModelOptions options = kBrass;
  options.letter_meshes = GENERATE(false, true);
  const auto bytes = make_glb(text, options);
  REQUIRE(bytes);
  const Glb glb(*bytes);
  const test::Folder folder;
  REQUIRE(save_text(folder.path("model.json"), glb.text));
  const test::Ran ran = test::run("python3 -W ignore -m jsonschema -i " + folder.path("model.json") + " " +
                                  GRAFEMA_SOURCE_DIR "/tests/data/gltf_schema.json");
  INFO(ran.err << ran.out);
  CHECK(ran.exit == 0);
  CHECK(glb.json["materials"].size() == 3);
  CHECK(glb.json["nodes"].size() == (options.letter_meshes ? 5 : 1));
  CHECK(glb.json["materials"][0]["pbrMetallicRoughness"]["baseColorFactor"][0].get<double>() ==
        Approx(to_linear(0.9F)).margin(1e-6));
  const Mesh back = mesh_of(glb);
  CHECK(back.indices.size() == text.mesh.indices.size());
  CHECK(test::volume(back) == Approx(test::volume(text.mesh)).epsilon(1e-5));
  if (!options.letter_meshes) CHECK(test::is_closed(back));
}

TEST_CASE("the schema refuses what glTF does not allow", "[mesh]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("wrong.json"),
                    R"({"asset": {"version": "2.0"}, "meshes": [{"primitives": []}]})"));
  CHECK(test::run("python3 -W ignore -m jsonschema -i " + folder.path("wrong.json") + " " +
                  GRAFEMA_SOURCE_DIR "/tests/data/gltf_schema.json")
            .exit == 1);
}

TEST_CASE("an OBJ document holds the mesh", "[mesh]") {
  const SolidText text = solid("Ox");
  const auto made = make_obj(text, kBrass, "ox.mtl");
  REQUIRE(made);
  Mesh back;
  std::istringstream lines(made->model);
  std::string word, a, b, c;
  int groups = 0;
  for (std::string line; std::getline(lines, line);) {
    std::istringstream in(line);
    in >> word;
    if (word == "v") {
      MeshVertex v;
      in >> v.position[0] >> v.position[1] >> v.position[2];
      back.vertices.push_back(v);
    } else if (word == "f") {
      in >> a >> b >> c;
      for (const std::string& corner : {a, b, c})
        back.indices.push_back(static_cast<std::uint32_t>(std::stoul(corner) - 1));
    } else if (word == "g") {
      ++groups;
    } else if (word == "usemtl") {
      in >> a;
      CHECK(made->materials.find("newmtl " + a + "\n") != std::string::npos);
    }
  }
  CHECK(groups == 2);
  CHECK(test::is_closed(back));
  CHECK(test::volume(back) == Approx(test::volume(text.mesh)).epsilon(1e-5));
}

TEST_CASE("models are saved whole or not at all", "[mesh]") {
  const test::Folder folder;
  REQUIRE(save_model(folder.path("a.glb"), solid("A"), kBrass));
  REQUIRE(save_model(folder.path("a.obj"), solid("A"), kBrass));
  CHECK(folder.file_count() == 3);
  CHECK(save_model(folder.path("b.glb"), {}, kBrass).error().error.kind == ErrorKind::bad_value);
  ModelOptions wrong = kBrass;
  wrong.front.metallic = 2;
  CHECK(save_model(folder.path("b.glb"), solid("A"), wrong).error().error.kind == ErrorKind::bad_value);
  CHECK(folder.file_count() == 3);
}
