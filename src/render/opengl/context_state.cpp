// SPDX-License-Identifier: MIT
// Keeps and restores OpenGL state.
#include "render/opengl/context_state.hpp"

#include <dlfcn.h>

#include <iterator>

namespace grafema::detail {
namespace {

/// Calls a function without arguments of a library that is loaded; null where either is not there.
void* ask_loaded(const char* library, const char* function) {
  void* handle = dlopen(library, RTLD_LAZY | RTLD_NOLOAD);
  if (handle == nullptr) return nullptr;
  const auto call = reinterpret_cast<void* (*)()>(dlsym(handle, function));
  void* answer = call != nullptr ? call() : nullptr;
  dlclose(handle);
  return answer;
}

constexpr GLenum kBlend[] = {GL_BLEND_SRC_RGB,   GL_BLEND_DST_RGB,      GL_BLEND_SRC_ALPHA,
                             GL_BLEND_DST_ALPHA, GL_BLEND_EQUATION_RGB, GL_BLEND_EQUATION_ALPHA};

/// Blending is on while text is drawn, the others are off. Those behind the first five are of desktop OpenGL
/// alone.
constexpr GLenum kSwitch[] = {GL_BLEND,
                              GL_CULL_FACE,
                              GL_SAMPLE_ALPHA_TO_COVERAGE,
                              GL_SAMPLE_COVERAGE,
                              GL_RASTERIZER_DISCARD,
                              GL_COLOR_LOGIC_OP,
                              GL_SAMPLE_ALPHA_TO_ONE,
                              GL_POLYGON_SMOOTH};
constexpr int kPortableSwitches = 5;

/// The last two are of desktop OpenGL alone.
constexpr GLenum kUnpackNames[] = {GL_UNPACK_ALIGNMENT,  GL_UNPACK_ROW_LENGTH,  GL_UNPACK_SKIP_PIXELS,
                                   GL_UNPACK_SKIP_ROWS,  GL_UNPACK_SKIP_IMAGES, GL_UNPACK_IMAGE_HEIGHT,
                                   GL_UNPACK_SWAP_BYTES, GL_UNPACK_LSB_FIRST};
constexpr int kPortableUnpack = 6;

GLint get(GLenum name) {
  GLint value = 0;
  glGetIntegerv(name, &value);
  return value;
}

void turn(GLenum name, bool on) { on ? glEnable(name) : glDisable(name); }

}  // namespace

bool has_current_context() {
  return ask_loaded("libEGL.so.1", "eglGetCurrentContext") != nullptr ||
         ask_loaded("libGLX.so.0", "glXGetCurrentContext") != nullptr ||
         ask_loaded("libGL.so.1", "glXGetCurrentContext") != nullptr;
}

StateGuard::StateGuard(int units)
    : units_(units),
      desktop_(epoxy_is_desktop_gl()),
      program_(get(GL_CURRENT_PROGRAM)),
      vertex_array_(get(GL_VERTEX_ARRAY_BINDING)),
      array_buffer_(get(GL_ARRAY_BUFFER_BINDING)),
      unpack_buffer_(get(GL_PIXEL_UNPACK_BUFFER_BINDING)),
      active_unit_(get(GL_ACTIVE_TEXTURE)) {
  static_assert(std::size(kSwitch) == kSwitches && std::size(kUnpackNames) == kUnpack);
  for (int unit = 0; unit < units_; ++unit) {
    glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(unit));
    pages_[unit] = get(GL_TEXTURE_BINDING_2D_ARRAY);
    flat_[unit] = get(GL_TEXTURE_BINDING_2D);
    samplers_[unit] = get(GL_SAMPLER_BINDING);
    glBindSampler(static_cast<GLuint>(unit), 0);
  }
  for (int i = 0; i < 6; ++i) blend_[i] = get(kBlend[i]);
  glBlendFunc(GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
  glBlendEquation(GL_FUNC_ADD);
  for (int i = 0; i < (desktop_ ? kSwitches : kPortableSwitches); ++i) {
    switches_[i] = glIsEnabled(kSwitch[i]);
    turn(kSwitch[i], kSwitch[i] == GL_BLEND);
  }
  for (int i = 0; i < (desktop_ ? kUnpack : kPortableUnpack); ++i) {
    unpack_[i] = get(kUnpackNames[i]);
    glPixelStorei(kUnpackNames[i], kUnpackNames[i] == GL_UNPACK_ALIGNMENT ? 1 : 0);
  }
  glBindBuffer(GL_PIXEL_UNPACK_BUFFER, 0);
  if (desktop_) {
    glGetIntegerv(GL_POLYGON_MODE, polygon_mode_);
    glPolygonMode(GL_FRONT_AND_BACK, GL_FILL);
  }
}

StateGuard::~StateGuard() {
  if (desktop_) glPolygonMode(GL_FRONT_AND_BACK, static_cast<GLenum>(polygon_mode_[0]));
  for (int i = 0; i < (desktop_ ? kUnpack : kPortableUnpack); ++i) glPixelStorei(kUnpackNames[i], unpack_[i]);
  for (int i = 0; i < (desktop_ ? kSwitches : kPortableSwitches); ++i) turn(kSwitch[i], switches_[i] != 0);
  const auto as_enum = [](GLint v) { return static_cast<GLenum>(v); };
  glBlendFuncSeparate(as_enum(blend_[0]), as_enum(blend_[1]), as_enum(blend_[2]), as_enum(blend_[3]));
  glBlendEquationSeparate(as_enum(blend_[4]), as_enum(blend_[5]));
  for (int unit = 0; unit < units_; ++unit) {
    glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(unit));
    glBindTexture(GL_TEXTURE_2D_ARRAY, static_cast<GLuint>(pages_[unit]));
    glBindTexture(GL_TEXTURE_2D, static_cast<GLuint>(flat_[unit]));
    glBindSampler(static_cast<GLuint>(unit), static_cast<GLuint>(samplers_[unit]));
  }
  glActiveTexture(as_enum(active_unit_));
  glBindVertexArray(static_cast<GLuint>(vertex_array_));
  glBindBuffer(GL_ARRAY_BUFFER, static_cast<GLuint>(array_buffer_));
  glBindBuffer(GL_PIXEL_UNPACK_BUFFER, static_cast<GLuint>(unpack_buffer_));
  glUseProgram(static_cast<GLuint>(program_));
}

}  // namespace grafema::detail
