// SPDX-License-Identifier: MIT
// Writes solid letters; the glTF library lays out the file, we lay out its buffer.
#include "grafema/files/mesh_file.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <map>
#include <sstream>

#include <tiny_gltf.h>  // after <fstream>, which it forgets

#include "grafema/files/output_files.hpp"

namespace grafema {
namespace {

Result<void> check(const SolidText& text, const ModelOptions& options) {
  for (const SolidMaterial& m : {options.front, options.side, options.bevel}) {
    const auto within = [](float v) { return v >= 0 && v <= 1; };
    if (!within(m.metallic) || !within(m.roughness) || !within(m.color.red) || !within(m.color.green) ||
        !within(m.color.blue) || !within(m.color.alpha)) {
      return bad_value("colors, metallic and roughness from 0 to 1");
    }
  }
  if (text.mesh.indices.empty()) return bad_value("a letter that paints something");
  return {};
}

/// One material of the file, and what of the mesh has it.
struct Piece {
  std::size_t material = 0;
  std::uint32_t letter = 0;
  std::vector<std::uint32_t> indices;
};

/// The materials that are used, each once, and pieces of the mesh by letter and material.
class Pieces {
 public:
  Pieces(const SolidText& text, const ModelOptions& options) : text_(text), options_(options) {
    for (const MeshPart& part : text.mesh.parts) {
      const std::size_t material = material_of(part);
      Piece* piece = find(part.letter, material);
      if (piece == nullptr) piece = &pieces.emplace_back(Piece{material, part.letter, {}});
      const auto first = text.mesh.indices.begin() + part.first;
      piece->indices.insert(piece->indices.end(), first, first + part.count);
    }
  }

  std::vector<Piece> pieces;
  std::vector<SolidMaterial> materials;
  std::vector<std::string> names;

 private:
  Piece* find(std::uint32_t letter, std::size_t material) {
    for (Piece& piece : pieces) {
      if (piece.material == material && (piece.letter == letter || !options_.letter_meshes)) return &piece;
    }
    return nullptr;
  }

  std::size_t material_of(const MeshPart& part) {
    const std::optional<Color>& own = text_.letters[part.letter].color;
    const bool side = part.surface == MeshSurface::side, bevel = part.surface == MeshSurface::bevel;
    SolidMaterial material = side ? options_.side : bevel ? options_.bevel : options_.front;
    std::string name = side ? "side" : bevel ? "bevel" : "front";
    if (own && !side) {
      material.color = *own;
      name = fmt::format("layer{}", text_.letters[part.letter].layer);
    }
    if (!options_.name.empty()) name = options_.name + "-" + name;  // scenes hold several models
    for (std::size_t i = 0; i < materials.size(); ++i) {
      const bool alike = materials[i] == material && (names[i] == name || (own && !side));
      if (alike) return i;
    }
    const auto taken = std::count(names.begin(), names.end(), name);
    materials.push_back(material);
    names.push_back(taken > 0 ? fmt::format("{}-{}", name, materials.size()) : name);
    return materials.size() - 1;
  }

  const SolidText& text_;
  const ModelOptions& options_;
};

/// sRGB to linear, as glTF wants factors.
double linear(float v) { return to_linear(v); }

tinygltf::Material material_of(const SolidMaterial& m, const std::string& name) {
  tinygltf::Material out;
  out.name = name;
  out.pbrMetallicRoughness.baseColorFactor = {linear(m.color.red), linear(m.color.green),
                                              linear(m.color.blue), m.color.alpha};
  out.pbrMetallicRoughness.metallicFactor = m.metallic;
  out.pbrMetallicRoughness.roughnessFactor = m.roughness;
  if (m.color.alpha < 1) out.alphaMode = "BLEND";
  return out;
}

/// Fills one buffer: interleaved vertices, then indices.
class GltfWriter {
 public:
  GltfWriter(const SolidText& text, const ModelOptions& options)
      : text_(text), options_(options), pieces_(text, options) {}

  std::vector<std::byte> write() {
    model_.asset.version = "2.0";
    model_.asset.generator = "grafema";
    for (std::size_t i = 0; i < pieces_.materials.size(); ++i) {
      model_.materials.push_back(material_of(pieces_.materials[i], pieces_.names[i]));
    }
    model_.buffers.emplace_back();
    tinygltf::Scene scene;
    const std::size_t meshes = options_.letter_meshes ? text_.letters.size() : 1;
    for (std::size_t i = 0; i < meshes; ++i) {
      scene.nodes.push_back(static_cast<int>(model_.nodes.size()));
      add_mesh(i);
    }
    model_.scenes.push_back(scene);
    model_.defaultScene = 0;
    std::ostringstream stream;
    tinygltf::TinyGLTF().WriteGltfSceneToStream(&model_, stream, false, true);
    const std::string bytes = stream.str();
    std::vector<std::byte> out(bytes.size());
    std::memcpy(out.data(), bytes.data(), bytes.size());
    return out;
  }

 private:
  void add_mesh(std::size_t number) {
    tinygltf::Node node;
    tinygltf::Mesh mesh;
    node.name = mesh.name =
        options_.letter_meshes ? fmt::format("{}-{}", options_.name, number) : options_.name;
    node.mesh = static_cast<int>(model_.meshes.size());
    std::array<float, 3> pivot{};
    if (options_.letter_meshes) {
      pivot = text_.letters[number].pivot;
      node.translation = {pivot[0], pivot[1], pivot[2]};
    }
    for (const Piece& piece : pieces_.pieces) {
      if (options_.letter_meshes && piece.letter != number) continue;
      mesh.primitives.push_back(add_primitive(piece, pivot));
    }
    model_.meshes.push_back(mesh);
    model_.nodes.push_back(node);
  }

  tinygltf::Primitive add_primitive(const Piece& piece, const std::array<float, 3>& pivot) {
    std::map<std::uint32_t, std::uint32_t> numbers;
    std::vector<MeshVertex> vertices;
    std::vector<std::uint32_t> indices;
    for (const std::uint32_t index : piece.indices) {
      const auto [place, is_new] = numbers.emplace(index, static_cast<std::uint32_t>(vertices.size()));
      if (is_new) {
        vertices.push_back(text_.mesh.vertices[index]);
        for (std::size_t i = 0; i < 3; ++i) vertices.back().position[i] -= pivot[i];
      }
      indices.push_back(place->second);
    }
    tinygltf::Primitive out;
    out.mode = TINYGLTF_MODE_TRIANGLES;
    out.material = static_cast<int>(piece.material);
    const int view = add_view(vertices.data(), vertices.size() * sizeof(MeshVertex),
                              TINYGLTF_TARGET_ARRAY_BUFFER, sizeof(MeshVertex));
    out.attributes["POSITION"] = add_positions(view, vertices);
    out.attributes["NORMAL"] = add_accessor(view, offsetof(MeshVertex, normal), vertices.size(),
                                            TINYGLTF_TYPE_VEC3, TINYGLTF_COMPONENT_TYPE_FLOAT);
    out.attributes["TANGENT"] = add_accessor(view, offsetof(MeshVertex, tangent), vertices.size(),
                                             TINYGLTF_TYPE_VEC4, TINYGLTF_COMPONENT_TYPE_FLOAT);
    out.attributes["TEXCOORD_0"] = add_accessor(view, offsetof(MeshVertex, uv), vertices.size(),
                                                TINYGLTF_TYPE_VEC2, TINYGLTF_COMPONENT_TYPE_FLOAT);
    const int index_view = add_view(indices.data(), indices.size() * sizeof(std::uint32_t),
                                    TINYGLTF_TARGET_ELEMENT_ARRAY_BUFFER, 0);
    out.indices = add_accessor(index_view, 0, indices.size(), TINYGLTF_TYPE_SCALAR,
                               TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT);
    return out;
  }

  int add_view(const void* data, std::size_t size, int target, std::size_t stride) {
    std::vector<unsigned char>& to = model_.buffers[0].data;
    tinygltf::BufferView view;
    view.buffer = 0;
    view.byteOffset = to.size();
    view.byteLength = size;
    view.byteStride = stride;
    view.target = target;
    const auto* const bytes = static_cast<const unsigned char*>(data);
    to.insert(to.end(), bytes, bytes + size);
    model_.bufferViews.push_back(view);
    return static_cast<int>(model_.bufferViews.size() - 1);
  }

  int add_accessor(int view, std::size_t offset, std::size_t count, int type, int component) {
    tinygltf::Accessor accessor;
    accessor.bufferView = view;
    accessor.byteOffset = offset;
    accessor.componentType = component;
    accessor.count = count;
    accessor.type = type;
    model_.accessors.push_back(accessor);
    return static_cast<int>(model_.accessors.size() - 1);
  }

  int add_positions(int view, const std::vector<MeshVertex>& vertices) {
    const int index = add_accessor(view, offsetof(MeshVertex, position), vertices.size(), TINYGLTF_TYPE_VEC3,
                                   TINYGLTF_COMPONENT_TYPE_FLOAT);
    tinygltf::Accessor& accessor = model_.accessors.back();
    for (std::size_t i = 0; i < 3; ++i) {
      const auto by_place = [i](const MeshVertex& a, const MeshVertex& b) {
        return a.position[i] < b.position[i];
      };
      const auto [least, most] = std::minmax_element(vertices.begin(), vertices.end(), by_place);
      accessor.minValues.push_back(least->position[i]);
      accessor.maxValues.push_back(most->position[i]);
    }
    return index;
  }

  const SolidText& text_;
  const ModelOptions& options_;
  Pieces pieces_;
  tinygltf::Model model_;
};

std::string in_hex(Color c) { return fmt::format("{:.6g} {:.6g} {:.6g}", c.red, c.green, c.blue); }

std::string materials_document(const Pieces& pieces) {
  std::string out = "# materials of solid letters\n";
  for (std::size_t i = 0; i < pieces.materials.size(); ++i) {
    const SolidMaterial& m = pieces.materials[i];
    // Kd and Ks as a metal and a plastic of that color have them; Pm and Pr for programs that know them.
    out += fmt::format("newmtl {}\nKd {}\nKs {:.3f} {:.3f} {:.3f}\nd {:.6g}\nPm {:.6g}\nPr {:.6g}\n",
                       pieces.names[i], in_hex(m.color), 0.04 + m.metallic * m.color.red,
                       0.04 + m.metallic * m.color.green, 0.04 + m.metallic * m.color.blue, m.color.alpha,
                       m.metallic, m.roughness);
  }
  return out;
}

}  // namespace

Result<std::vector<std::byte>> make_glb(const SolidText& text, const ModelOptions& options) {
  if (const Result<void> right = check(text, options); !right) return fail(right.error());
  return GltfWriter(text, options).write();
}

Result<ObjDocuments> make_obj(const SolidText& text, const ModelOptions& options,
                              const std::string& materials_name) {
  if (const Result<void> right = check(text, options); !right) return fail(right.error());
  ModelOptions by_letter = options;
  by_letter.letter_meshes = true;
  const Pieces pieces(text, by_letter);
  ObjDocuments out;
  out.model = fmt::format("# {}: {} letters\nmtllib {}\n", options.name, text.letters.size(), materials_name);
  auto to = std::back_inserter(out.model);
  for (const MeshVertex& v : text.mesh.vertices) {
    fmt::format_to(to, "v {} {} {}\n", v.position[0], v.position[1], v.position[2]);
  }
  // OBJ has v of a texture upward.
  for (const MeshVertex& v : text.mesh.vertices) fmt::format_to(to, "vt {} {}\n", v.uv[0], -v.uv[1]);
  for (const MeshVertex& v : text.mesh.vertices)
    fmt::format_to(to, "vn {} {} {}\n", v.normal[0], v.normal[1], v.normal[2]);
  std::uint32_t letter = ~0U;
  for (const Piece& piece : pieces.pieces) {
    if (piece.letter != letter) fmt::format_to(to, "g {}-{}\n", options.name, letter = piece.letter);
    fmt::format_to(to, "usemtl {}\n", pieces.names[piece.material]);
    for (std::size_t i = 0; i < piece.indices.size(); i += 3) {
      const std::uint32_t a = piece.indices[i] + 1, b = piece.indices[i + 1] + 1,
                          c = piece.indices[i + 2] + 1;
      fmt::format_to(to, "f {0}/{0}/{0} {1}/{1}/{1} {2}/{2}/{2}\n", a, b, c);
    }
  }
  out.materials = materials_document(pieces);
  return out;
}

FileResult<void> save_model(const std::string& path, const SolidText& text, const ModelOptions& options) {
  if (path.ends_with(".obj")) {
    std::filesystem::path materials = path;
    materials.replace_extension(".mtl");
    const Result<ObjDocuments> made = make_obj(text, options, materials.filename().string());
    if (!made) return tl::unexpected<FileError>({made.error(), path});
    OutputFiles both;
    FileResult<void> saved = save_text(materials.string(), made->materials);
    if (saved) saved = save_text(path, made->model);
    return saved ? both.commit() : saved;
  }
  const Result<std::vector<std::byte>> made = make_glb(text, options);
  if (!made) return tl::unexpected<FileError>({made.error(), path});
  return save_file(path, *made);
}

}  // namespace grafema
