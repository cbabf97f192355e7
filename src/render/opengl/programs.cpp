// SPDX-License-Identifier: MIT
// Compiles and links programs.
#include "render/opengl/programs.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "grafema/draw/look.hpp"
#include "render/opengl/fill_shader.hpp"
#include "render/opengl/fragment_main.hpp"
#include "render/opengl/fragment_shader.hpp"
#include "render/opengl/light_shader.hpp"
#include "render/opengl/mipmap_shader.hpp"
#include "render/opengl/vertex_shader.hpp"

namespace grafema::detail {
namespace {

GLuint compile(GLenum type, const std::string& source, std::string& complaint) {
  const GLuint shader = glCreateShader(type);
  const char* text = source.c_str();
  glShaderSource(shader, 1, &text, nullptr);
  glCompileShader(shader);
  GLint good = 0;
  glGetShaderiv(shader, GL_COMPILE_STATUS, &good);
  if (good != 0) return shader;
  char log[256] = {};
  glGetShaderInfoLog(shader, sizeof log, nullptr, log);
  complaint = log;
  glDeleteShader(shader);
  return 0;
}

GLuint link(GLuint vertex, GLuint fragment, std::string& complaint) {
  const GLuint program = glCreateProgram();
  glAttachShader(program, vertex);
  glAttachShader(program, fragment);
  glLinkProgram(program);
  GLint good = 0;
  glGetProgramiv(program, GL_LINK_STATUS, &good);
  if (good != 0) return program;
  char log[256] = {};
  glGetProgramInfoLog(program, sizeof log, nullptr, log);
  complaint = log;
  glDeleteProgram(program);
  return 0;
}

/// The version line and the definitions that shaders begin with.
std::string head_of(const ProgramKey& key) {
  const bool desktop = epoxy_is_desktop_gl();
  std::string head =
      desktop ? "#version 330 core\n" : "#version 300 es\nprecision highp float;\nprecision highp int;\n";
  const auto define = [&head](std::string_view name, int value) {
    fmt::format_to(std::back_inserter(head), "#define {} {}\n", name, value);
  };
  const auto kinds = std::span(key.kinds).first(key.kind_count);
  const auto has = [&kinds](TexelKind kind) {
    return std::find(kinds.begin(), kinds.end(), kind) != kinds.end() ? 1 : 0;
  };
  const auto feature = [&key](SceneFeature some) { return has_any(key.features, some) ? 1 : 0; };
  define("KINDS", key.kind_count);
  for (std::size_t i = 0; i < key.kinds.size(); ++i) {
    const std::size_t of = i < kinds.size() ? i : 0;
    fmt::format_to(std::back_inserter(head), "#define KIND_{} {}\n", i, static_cast<int>(kinds[of]));
  }
  define("HAS_COLOR", has(TexelKind::color)), define("HAS_BARS", has(TexelKind::bar));
  define("HAS_PANELS", has(TexelKind::panel));
  define("GAMMA", key.gamma ? 1 : 0), define("EMPTIES", key.empties ? 1 : 0);
  define("HOLLOW", feature(SceneFeature::hollow)), define("EFFECTS", feature(SceneFeature::effects)),
      define("FILLS", feature(SceneFeature::fills));
  define("GRADIENTS", feature(SceneFeature::gradients)), define("IMAGES", feature(SceneFeature::images)),
      define("SWEEPS", feature(SceneFeature::sweeps));
  define("LIT", feature(SceneFeature::lit)),
      define("FILL_RECORDS", feature(SceneFeature::gradients | SceneFeature::images | SceneFeature::lit));
  define("MOVES", feature(SceneFeature::moves)), define("CLIPS", feature(SceneFeature::clips)),
      define("MAGNIFIED", feature(SceneFeature::magnified));
  define("GRAIN", feature(SceneFeature::grain)), define("MIRROR", feature(SceneFeature::mirrors));
  define("PIXELATED", feature(SceneFeature::pixelated));
  define("JOINS", feature(SceneFeature::joins)), define("FADES", feature(SceneFeature::fades));
  define("COMPOSITE", has(TexelKind::mask) != 0 ? 1 : has(TexelKind::intermediate) != 0 ? 2 : 0);
  define("MINIFIED", feature(SceneFeature::minified | SceneFeature::mipmapped)),
      define("MIPMAPS", feature(SceneFeature::mipmapped));
  fmt::format_to(std::back_inserter(head), "#define CONTRAST {:.6f}\n#define SHARP_REACH {:.6f}\n", kContrast,
                 kSharpReach);
  return head;
}

Program make_program(const ProgramKey& key, std::string& complaint) {
  const std::string head = head_of(key);
  const GLuint vertex =
      compile(GL_VERTEX_SHADER,
              head + kRecordTexels + kVertexHead + kFillPlaces + kGlyphVertices + kVertexMain, complaint);
  const bool has_panels = std::find(key.kinds.begin(), key.kinds.end(), TexelKind::panel) != key.kinds.end();
  const bool has_fills = has_any(key.features, SceneFeature::fills | SceneFeature::gradients |
                                                   SceneFeature::images | SceneFeature::lit) ||
                         std::find(key.kinds.begin(), key.kinds.end(), TexelKind::color) != key.kinds.end();
  const GLuint fragment = compile(
      GL_FRAGMENT_SHADER,
      head + (has_fills || has_panels ? kRecordTexels : "") + kFragmentHead +
          (has_fills && !has_any(key.features, SceneFeature::joins) ? kFillColors : "") + kStrengths +
          kLights + kMipmapSamples + kPaint + (is_composite(key.kinds[0]) ? kCoverMain : kFragmentMain),
      complaint);
  Program program;
  program.key = key;
  program.name = vertex != 0 && fragment != 0 ? link(vertex, fragment, complaint) : 0;
  if (vertex != 0) glDeleteShader(vertex);
  if (fragment != 0) glDeleteShader(fragment);
  if (program.name == 0) return program;
  const auto at = [&program](const char* name) { return glGetUniformLocation(program.name, name); };
  program.viewport = at("viewport");
  program.clock = at("clock"), program.arrays = at("arrays");
  program.light_places = at("light_places"), program.light_colors = at("light_colors");
  program.light_ambient = at("light_ambient"), program.light_count = at("light_count");
  program.light_origin = at("light_origin");
  program.plane_origin = at("plane_origin");
  glUseProgram(program.name);
  const std::pair<const char*, int> units[] = {{"pages_0", 0},
                                               {"pages_1", 1},
                                               {"pages_2", 2},
                                               {"pages_3", 3},
                                               {"records", kRecordUnit},
                                               {"glyphs", kGlyphUnit},
                                               {"rows", kRowUnit},
                                               {"heads", kHeadUnit},
                                               {"clips", kClipUnit},
                                               {"motions", kMotionUnit},
                                               {"mipmaps_0", kMipmapUnit},
                                               {"mipmaps_1", kMipmapUnit + 1},
                                               {"mipmaps_2", kMipmapUnit + 2},
                                               {"mipmaps_3", kMipmapUnit + 3},
                                               {"boxes", kBoxUnit},
                                               {"fill_image", image_unit(0)},
                                               {"plane", kPlaneUnit},
                                               {"grain_image", image_unit(1)},
                                               {"mirror_image", image_unit(2)}};
  for (const auto& [name, unit] : units) glUniform1i(at(name), unit);
  return program;
}

}  // namespace

void set_lights(const Program& program, const LightVectors& lights, const GLint* viewport) {
  if (!has_any(program.key.features, SceneFeature::lit)) return;
  std::array<float, Lighting::kMaxLights* 4> places = {};
  for (std::size_t i = 0; i < lights.count; ++i) {
    const Vector& v = lights.places[i];
    const std::array<float, 4> place = {v.x, v.y, v.z, lights.is_point[i]};
    std::copy(place.begin(), place.end(), places.begin() + static_cast<std::ptrdiff_t>(i * 4));
  }
  constexpr auto kMax = static_cast<GLsizei>(Lighting::kMaxLights);
  glUniform4fv(program.light_places, kMax, places.data());
  glUniform3fv(program.light_colors, kMax, lights.colors[0].data());
  glUniform3fv(program.light_ambient, 1, lights.ambient.data());
  glUniform1i(program.light_count, static_cast<GLint>(lights.count));
  glUniform2f(program.light_origin, static_cast<float>(viewport[0]),
              static_cast<float>(viewport[1] + viewport[3]));
}

const Program& Programs::use(const ProgramKey& key, std::string* complaint) {
  auto at =
      std::find_if(programs_.begin(), programs_.end(), [&key](const Program& p) { return p.key == key; });
  if (at == programs_.end()) {
    std::string said;
    at = programs_.insert(at, make_program(key, said));
    if (complaint != nullptr) *complaint = said;
  }
  glUseProgram(at->name);
  return *at;
}

void Programs::free() {
  for (const Program& program : programs_) glDeleteProgram(program.name);
  programs_.clear();
}

}  // namespace grafema::detail
