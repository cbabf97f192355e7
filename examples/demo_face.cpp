// SPDX-License-Identifier: MIT
// The build gives each face a header: see grafema_embed_face in CMakeLists.txt.
#include "demo_face.hpp"

#include <quillmere_sans.hpp>
#include <quillmere_sans_bold.hpp>
#include <quillmere_signs.hpp>

std::shared_ptr<const grafema::Face> demo_face(bool bold) {
  return grafema::or_built_in(bold ? quillmere_sans_bold::open() : quillmere_sans::open());
}

std::shared_ptr<const grafema::Face> demo_signs() { return grafema::or_built_in(quillmere_signs::open()); }
