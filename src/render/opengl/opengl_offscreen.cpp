// SPDX-License-Identifier: MIT
// An OpenGL context through EGL without a surface.
#include "grafema/render/opengl_offscreen.hpp"

#include <epoxy/egl.h>
#include <epoxy/gl.h>

#include <algorithm>

namespace grafema {

namespace {

/// The context that is current on this thread, to come back to.
struct Current {
  EGLDisplay display = eglGetCurrentDisplay();
  EGLContext context = eglGetCurrentContext();
  EGLSurface draw = eglGetCurrentSurface(EGL_DRAW), read = eglGetCurrentSurface(EGL_READ);
  EGLenum api = eglQueryAPI();

  void restore() const {
    eglBindAPI(api);
    if (context != EGL_NO_CONTEXT) eglMakeCurrent(display, draw, read, context);
  }
};

}  // namespace

struct OpenGLOffscreen::State {
  EGLDisplay display = EGL_NO_DISPLAY;
  EGLContext context = EGL_NO_CONTEXT;
  GLuint framebuffer = 0, color = 0, depth = 0;
  int width = 0, height = 0;
  std::vector<std::string> complaints;

  Result<void> begin(int wanted_width, int wanted_height, OpenGLFlavor flavor, Blending blending);
  ~State() {
    if (context == EGL_NO_CONTEXT) return;
    const Current before;
    eglMakeCurrent(display, EGL_NO_SURFACE, EGL_NO_SURFACE, context);
    glDeleteFramebuffers(1, &framebuffer);
    glDeleteRenderbuffers(1, &color);
    glDeleteRenderbuffers(1, &depth);
    eglMakeCurrent(display, EGL_NO_SURFACE, EGL_NO_SURFACE, EGL_NO_CONTEXT);
    if (before.context != context) before.restore();
    eglDestroyContext(display, context);  // the display is shared by all contexts and stays initialized
  }
};

namespace {

void GLAPIENTRY keep_complaint(GLenum, GLenum type, GLuint, GLenum severity, GLsizei, const GLchar* message,
                               const void* user) {
  const bool serious = type == GL_DEBUG_TYPE_ERROR || type == GL_DEBUG_TYPE_UNDEFINED_BEHAVIOR ||
                       type == GL_DEBUG_TYPE_DEPRECATED_BEHAVIOR;
  if (!serious || severity == GL_DEBUG_SEVERITY_NOTIFICATION) return;
  auto* list = const_cast<std::vector<std::string>*>(static_cast<const std::vector<std::string>*>(user));
  if (list->size() < 100) list->emplace_back(message);
}

bool make_context(EGLDisplay display, OpenGLFlavor flavor, EGLContext& context) {
  const bool core = flavor == OpenGLFlavor::core_33;
  if (eglBindAPI(core ? EGL_OPENGL_API : EGL_OPENGL_ES_API) == EGL_FALSE) return false;
  const EGLint core_attributes[] = {EGL_CONTEXT_MAJOR_VERSION,
                                    3,
                                    EGL_CONTEXT_MINOR_VERSION,
                                    3,
                                    EGL_CONTEXT_OPENGL_PROFILE_MASK,
                                    EGL_CONTEXT_OPENGL_CORE_PROFILE_BIT,
                                    EGL_CONTEXT_OPENGL_DEBUG,
                                    EGL_TRUE,
                                    EGL_NONE};
  const EGLint es_attributes[] = {EGL_CONTEXT_MAJOR_VERSION,
                                  3,
                                  EGL_CONTEXT_MINOR_VERSION,
                                  0,
                                  EGL_CONTEXT_OPENGL_DEBUG,
                                  EGL_TRUE,
                                  EGL_NONE};
  context =
      eglCreateContext(display, EGL_NO_CONFIG_KHR, EGL_NO_CONTEXT, core ? core_attributes : es_attributes);
  return context != EGL_NO_CONTEXT &&
         eglMakeCurrent(display, EGL_NO_SURFACE, EGL_NO_SURFACE, context) == EGL_TRUE;
}

}  // namespace

OpenGLOffscreen::OpenGLOffscreen(std::unique_ptr<State> state) : state_(std::move(state)) {}
OpenGLOffscreen::~OpenGLOffscreen() = default;
OpenGLOffscreen::OpenGLOffscreen(OpenGLOffscreen&&) noexcept = default;
OpenGLOffscreen& OpenGLOffscreen::operator=(OpenGLOffscreen&&) noexcept = default;
const std::vector<std::string>& OpenGLOffscreen::complaints() const { return state_->complaints; }

Result<OpenGLOffscreen> OpenGLOffscreen::make(int width, int height, OpenGLFlavor flavor, Blending blending) {
  if (!epoxy_has_egl()) {
    return fail(make_error(ErrorKind::unsupported, "EGL without a surface", "no EGL"));
  }
  const Current before;
  auto state = std::make_unique<State>();
  if (const Result<void> begun = state->begin(width, height, flavor, blending); !begun) {
    state.reset();
    before.restore();
    return fail(begun.error());
  }
  return OpenGLOffscreen(std::move(state));
}

Result<void> OpenGLOffscreen::State::begin(int wanted_width, int wanted_height, OpenGLFlavor flavor,
                                           Blending blending) {
  const auto refuse = [](const char* found) {
    return fail(make_error(ErrorKind::unsupported, "EGL without a surface, OpenGL 3.3 or ES 3.0", found));
  };
  if (!epoxy_has_egl_extension(EGL_NO_DISPLAY, "EGL_MESA_platform_surfaceless")) {
    return refuse("no surfaceless platform");
  }
  display = eglGetPlatformDisplayEXT(EGL_PLATFORM_SURFACELESS_MESA, nullptr, nullptr);
  if (display == EGL_NO_DISPLAY || eglInitialize(display, nullptr, nullptr) == EGL_FALSE) {
    return refuse("no display");
  }
  if (!make_context(display, flavor, context)) return refuse("no context");
  GLint most = 0;
  glGetIntegerv(GL_MAX_RENDERBUFFER_SIZE, &most);
  if (wanted_width < 1 || wanted_height < 1 || wanted_width > most || wanted_height > most) {
    return fail(make_error(ErrorKind::bad_value,
                           "a framebuffer of at least 1 pixel and at most what the device allows a side",
                           std::to_string(wanted_width) + "x" + std::to_string(wanted_height)));
  }
  if (epoxy_has_gl_extension("GL_KHR_debug")) {
    glEnable(GL_DEBUG_OUTPUT);
    glEnable(GL_DEBUG_OUTPUT_SYNCHRONOUS);
    const auto callback = reinterpret_cast<GLDEBUGPROC>(keep_complaint);
    epoxy_is_desktop_gl() ? glDebugMessageCallback(callback, &complaints)
                          : glDebugMessageCallbackKHR(callback, &complaints);
  }
  width = wanted_width, height = wanted_height;
  glGenRenderbuffers(1, &color);
  glBindRenderbuffer(GL_RENDERBUFFER, color);
  glRenderbufferStorage(GL_RENDERBUFFER, blending == Blending::linear ? GL_SRGB8_ALPHA8 : GL_RGBA8, width,
                        height);
  glGenFramebuffers(1, &framebuffer);
  glBindFramebuffer(GL_FRAMEBUFFER, framebuffer);
  glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_RENDERBUFFER, color);
  if (glCheckFramebufferStatus(GL_FRAMEBUFFER) != GL_FRAMEBUFFER_COMPLETE) {
    return refuse("an incomplete framebuffer");
  }
  glViewport(0, 0, width, height);
  if (epoxy_is_desktop_gl() && blending == Blending::linear) glEnable(GL_FRAMEBUFFER_SRGB);
  return {};
}

void OpenGLOffscreen::add_depth() {
  if (state_->depth == 0) glGenRenderbuffers(1, &state_->depth);
  glBindRenderbuffer(GL_RENDERBUFFER, state_->depth);
  glRenderbufferStorage(GL_RENDERBUFFER, GL_DEPTH_COMPONENT24, state_->width, state_->height);
  glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_RENDERBUFFER, state_->depth);
}

void OpenGLOffscreen::put(const Image& image) {
  // Through a texture of the same encoding, so that no conversion takes place: the numbers arrive as they
  // are.
  const int width = std::min(image.width(), state_->width), height = std::min(image.height(), state_->height);
  GLint encoding = GL_LINEAR;
  glGetFramebufferAttachmentParameteriv(GL_DRAW_FRAMEBUFFER, GL_COLOR_ATTACHMENT0,
                                        GL_FRAMEBUFFER_ATTACHMENT_COLOR_ENCODING, &encoding);
  GLuint texture = 0, source = 0;
  glGenTextures(1, &texture);
  glActiveTexture(GL_TEXTURE0);
  glBindTexture(GL_TEXTURE_2D, texture);
  glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
  glTexImage2D(GL_TEXTURE_2D, 0, encoding == GL_SRGB ? GL_SRGB8_ALPHA8 : GL_RGBA8, image.width(),
               image.height(), 0, GL_RGBA, GL_UNSIGNED_BYTE, image.row(0));
  glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_NEAREST);
  glGenFramebuffers(1, &source);
  glBindFramebuffer(GL_READ_FRAMEBUFFER, source);
  glFramebufferTexture2D(GL_READ_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_TEXTURE_2D, texture, 0);
  glBlitFramebuffer(0, 0, width, height, 0, state_->height, width, state_->height - height,
                    GL_COLOR_BUFFER_BIT, GL_NEAREST);
  glBindFramebuffer(GL_FRAMEBUFFER, state_->framebuffer);
  glDeleteFramebuffers(1, &source);
  glDeleteTextures(1, &texture);
}

Image OpenGLOffscreen::read() const {
  Image image = *Image::make(state_->width, state_->height, PixelFormat::rgba8);
  glBindFramebuffer(GL_READ_FRAMEBUFFER, state_->framebuffer);
  glPixelStorei(GL_PACK_ALIGNMENT, 1);
  glReadPixels(0, 0, state_->width, state_->height, GL_RGBA, GL_UNSIGNED_BYTE, image.row(0));
  for (int y = 0; y < image.height() / 2; ++y) {
    std::swap_ranges(image.row(y), image.row(y) + image.row_bytes(), image.row(image.height() - 1 - y));
  }
  return image;
}

}  // namespace grafema
