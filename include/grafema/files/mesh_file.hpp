// SPDX-License-Identifier: MIT
// Solid letters as files that 3D scenes take: binary glTF 2.0, and OBJ.
#pragma once

#include <cstddef>
#include <string>
#include <vector>

#include "grafema/base/color.hpp"
#include "grafema/files/files.hpp"
#include "grafema/text/solid_text.hpp"

namespace grafema {

/// What a surface is made of (glTF 2.0, section 3.9.2: metallic-roughness).
struct SolidMaterial {
  Color color{0.8F, 0.8F, 0.8F, 1};
  float metallic = 0;      ///< 0 to 1
  float roughness = 0.6F;  ///< 0 to 1
  bool operator==(const SolidMaterial&) const = default;
};

/// How solid text is written.
struct ModelOptions {
  SolidMaterial front = {}, side = {}, bevel = {};  ///< the back is as the front. Letters with a color of
                                                    ///< their own keep it on front, back and bevel
  bool letter_meshes = false;  ///< glTF: a node and a mesh for each letter, moved to its pivot; else one mesh
  std::string name = "text";   ///< the mesh's name; letters and materials are named after it
};

/// A binary glTF 2.0 file (section 4.4): positions, normals, tangents, texture coordinates; a primitive for
/// each material. Fails with `bad_value` where a material is out of its range or there is nothing to write.
GRAFEMA_API Result<std::vector<std::byte>> make_glb(const SolidText& text, const ModelOptions& options);
/// A Wavefront OBJ document with a group for each letter, and the materials that it names, as a document of
/// their own; `materials_name` is that file's.
struct ObjDocuments {
  std::string model = {}, materials = {};
};
GRAFEMA_API Result<ObjDocuments> make_obj(const SolidText& text, const ModelOptions& options,
                                          const std::string& materials_name);
/// Writes FILE.glb, or FILE.obj and FILE.mtl beside it.
GRAFEMA_API FileResult<void> save_model(const std::string& path, const SolidText& text,
                                        const ModelOptions& options);

}  // namespace grafema
