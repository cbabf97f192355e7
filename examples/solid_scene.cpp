// SPDX-License-Identifier: MIT
// Spans of the mesh go straight into buffers; the rest is a small renderer.
#include "solid_scene.hpp"

#include <epoxy/gl.h>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <vector>

using namespace grafema;

namespace {

using Matrix = std::array<float, 16>;  // columns, as OpenGL has them

struct Vector {
  float x, y, z;
};
Vector minus(Vector a, Vector b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
float dot(Vector a, Vector b) { return a.x * b.x + a.y * b.y + a.z * b.z; }
Vector cross(Vector a, Vector b) {
  return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
Vector unit(Vector v) {
  const float length = std::sqrt(dot(v, v));
  return {v.x / length, v.y / length, v.z / length};
}

Matrix times(const Matrix& a, const Matrix& b) {
  Matrix out{};
  for (std::size_t column = 0; column < 4; ++column) {
    for (std::size_t row = 0; row < 4; ++row) {
      for (std::size_t k = 0; k < 4; ++k) out[column * 4 + row] += a[k * 4 + row] * b[column * 4 + k];
    }
  }
  return out;
}

/// What a camera at `eye` that looks at `at` sees; `half` is the tangent of half its angle upward.
Matrix camera(Vector eye, Vector at, float half, float aspect, float near, float far) {
  const Vector back = unit(minus(eye, at)), right = unit(cross({0, 1, 0}, back)), up = cross(back, right);
  const Matrix view{right.x, up.x, back.x, 0, right.y,          up.y,          back.y,          0,
                    right.z, up.z, back.z, 0, -dot(right, eye), -dot(up, eye), -dot(back, eye), 1};
  const Matrix projection{
      1 / (half * aspect),           0, 0, 0, 0, 1 / half, 0, 0, 0, 0, (far + near) / (near - far), -1, 0, 0,
      2 * far * near / (near - far), 0};
  return times(projection, view);
}

constexpr const char* kVertex = R"(#version 330 core
layout(location = 0) in vec3 position;
layout(location = 1) in vec3 normal;
uniform mat4 seen;
out vec3 at;
out vec3 facing;
void main() {
  at = position;
  facing = normal;
  gl_Position = seen * vec4(position, 1.0);
}
)";

constexpr const char* kShadowFragment = R"(#version 330 core
void main() {}
)";

constexpr const char* kFragment = R"(#version 330 core
in vec3 at;
in vec3 facing;
uniform vec3 eye, color, night;
uniform float metallic, roughness;
uniform vec3 lamp[2], lamp_color[2];
uniform mat4 lamp_sees[2];
uniform sampler2DShadow dark[2];
out vec4 painted;

float reached(sampler2DShadow map, mat4 sees, vec3 n, vec3 l) {
  vec4 p = sees * vec4(at + n * 0.012, 1.0);
  vec3 q = p.xyz / p.w * 0.5 + 0.5;
  if (p.w <= 0.0 || any(lessThan(q.xy, vec2(0.0))) || any(greaterThan(q.xy, vec2(1.0)))) return 0.0;
  float sum = 0.0;
  for (int i = 0; i < 9; ++i) sum += texture(map, vec3(q.xy + (vec2(i % 3, i / 3) - 1.0) * 0.0012, q.z - 0.0004));
  float edge = smoothstep(0.5, 0.12, length(q.xy - 0.5));
  return sum / 9.0 * edge;
}

vec3 lit(vec3 n, vec3 v, vec3 l, vec3 light) {
  vec3 h = normalize(l + v);
  float nl = max(dot(n, l), 0.0), nv = max(dot(n, v), 1e-3), nh = max(dot(n, h), 0.0);
  float a = roughness * roughness, d = nh * nh * (a * a - 1.0) + 1.0, k = a * 0.5;
  float shine = a * a / (3.14159265 * d * d) * 0.25 / ((nl * (1.0 - k) + k) * (nv * (1.0 - k) + k));
  vec3 f0 = mix(vec3(0.04), color, metallic), f = f0 + (1.0 - f0) * pow(1.0 - max(dot(h, v), 0.0), 5.0);
  return ((1.0 - f) * (1.0 - metallic) * color / 3.14159265 + f * shine) * light * nl;
}

void main() {
  vec3 n = normalize(facing), v = normalize(eye - at);
  vec3 sky = mix(vec3(0.006, 0.007, 0.014), vec3(0.022, 0.032, 0.06), n.y * 0.5 + 0.5);
  vec3 sum = color * sky * (1.0 + 2.0 * metallic * pow(1.0 - max(dot(n, v), 0.0), 2.0));
  for (int i = 0; i < 2; ++i) {
    vec3 way = lamp[i] - at;
    vec3 l = normalize(way);
    float r = i == 0 ? reached(dark[0], lamp_sees[0], n, l) : reached(dark[1], lamp_sees[1], n, l);
    sum += lit(n, v, l, lamp_color[i] / dot(way, way)) * r;
  }
  float far = length(at - eye);
  sum = mix(sum / (1.0 + 0.35 * sum), night, smoothstep(8.0, 17.0, far));
  painted = vec4(sum, 1.0);
}
)";

GLuint compile(GLenum kind, const char* source) {
  const GLuint shader = glCreateShader(kind);
  glShaderSource(shader, 1, &source, nullptr);
  glCompileShader(shader);
  GLint good = 0;
  glGetShaderiv(shader, GL_COMPILE_STATUS, &good);
  if (good == GL_FALSE) {
    std::array<char, 1024> log{};
    glGetShaderInfoLog(shader, static_cast<GLsizei>(log.size()), nullptr, log.data());
    std::fprintf(stderr, "solid_title: %s\n", log.data());
  }
  return shader;
}

GLuint link(const char* fragment) {
  const GLuint program = glCreateProgram(), v = compile(GL_VERTEX_SHADER, kVertex),
               f = compile(GL_FRAGMENT_SHADER, fragment);
  glAttachShader(program, v), glAttachShader(program, f);
  glLinkProgram(program);
  glDeleteShader(v), glDeleteShader(f);
  return program;
}

struct Material {
  Vector color;
  float metallic, roughness;
};
/// The backdrop of the window, in linear light: floors end in it.
constexpr Vector kNight{0.00155F, 0.00193F, 0.00387F};

constexpr Material kFront{{0.83F, 0.56F, 0.22F}, 1, 0.34F}, kSide{{0.18F, 0.20F, 0.30F}, 0.2F, 0.45F},
    kBevel{{0.98F, 0.78F, 0.42F}, 1, 0.22F}, kFloor{{0.30F, 0.31F, 0.36F}, 0, 0.75F};

}  // namespace

struct SolidScene::State {
  static constexpr int kShadowSize = 1024;

  GLuint program = 0, shadow_program = 0, letters = 0, floor = 0, frame = 0;
  std::array<GLuint, 3> buffers{};
  std::array<GLuint, 2> maps{};
  std::vector<MeshPart> parts;
  Vector least{1e9F, 1e9F, 1e9F}, most{-1e9F, -1e9F, -1e9F};

  void set(const char* name, Vector v) const {
    glUniform3f(glGetUniformLocation(program, name), v.x, v.y, v.z);
  }
  void set(const char* name, float v) const { glUniform1f(glGetUniformLocation(program, name), v); }
  void use(const Material& m) const {
    set("color", m.color), set("metallic", m.metallic), set("roughness", m.roughness);
  }

  /// `vertices` as they are: 48 bytes each, of which position and normal are read.
  void fill(GLuint array, GLuint buffer, const MeshVertex* vertices, std::size_t count) const {
    glBindVertexArray(array);
    glBindBuffer(GL_ARRAY_BUFFER, buffer);
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(count * sizeof(MeshVertex)), vertices,
                 GL_STATIC_DRAW);
    glEnableVertexAttribArray(0), glEnableVertexAttribArray(1);
    glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, sizeof(MeshVertex),
                          reinterpret_cast<const void*>(offsetof(MeshVertex, position)));
    glVertexAttribPointer(1, 3, GL_FLOAT, GL_FALSE, sizeof(MeshVertex),
                          reinterpret_cast<const void*>(offsetof(MeshVertex, normal)));
  }

  void draw_letters(bool with_materials) const {
    glBindVertexArray(letters);
    for (const MeshPart& part : parts) {
      if (with_materials)
        use(part.surface == MeshSurface::side ? kSide : part.surface == MeshSurface::bevel ? kBevel : kFront);
      glDrawElements(GL_TRIANGLES, static_cast<GLsizei>(part.count), GL_UNSIGNED_INT,
                     reinterpret_cast<const void*>(part.first * sizeof(std::uint32_t)));
    }
  }

  void make_map(GLuint map) const {
    glBindTexture(GL_TEXTURE_2D, map);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_DEPTH_COMPONENT24, kShadowSize, kShadowSize, 0, GL_DEPTH_COMPONENT,
                 GL_UNSIGNED_INT, nullptr);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_LINEAR);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MAG_FILTER, GL_LINEAR);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_WRAP_S, GL_CLAMP_TO_EDGE);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_WRAP_T, GL_CLAMP_TO_EDGE);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_COMPARE_MODE, GL_COMPARE_REF_TO_TEXTURE);
  }
};

SolidScene::SolidScene(const SolidText& text) : state_(std::make_unique<State>()) {
  State& s = *state_;
  s.parts = text.mesh.parts;
  for (const MeshVertex& v : text.mesh.vertices) {
    s.least = {std::min(s.least.x, v.position[0]), std::min(s.least.y, v.position[1]),
               std::min(s.least.z, v.position[2])};
    s.most = {std::max(s.most.x, v.position[0]), std::max(s.most.y, v.position[1]),
              std::max(s.most.z, v.position[2])};
  }
  s.program = link(kFragment), s.shadow_program = link(kShadowFragment);
  glGenBuffers(3, s.buffers.data());
  glGenVertexArrays(1, &s.letters), glGenVertexArrays(1, &s.floor);
  s.fill(s.letters, s.buffers[0], text.mesh.vertices.data(), text.mesh.vertices.size());
  glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, s.buffers[1]);
  glBufferData(GL_ELEMENT_ARRAY_BUFFER,
               static_cast<GLsizeiptr>(text.mesh.indices.size() * sizeof(std::uint32_t)),
               text.mesh.indices.data(), GL_STATIC_DRAW);
  std::array<MeshVertex, 4> floor;
  for (std::size_t i = 0; i < 4; ++i) {
    floor[i].position = {i % 2 == 0 ? -30.0F : 40.0F, s.least.y, i < 2 ? 20.0F : -40.0F};
    floor[i].normal = {0, 1, 0};
  }
  s.fill(s.floor, s.buffers[2], floor.data(), floor.size());
  glBindVertexArray(0);
  glGenTextures(2, s.maps.data());
  for (const GLuint map : s.maps) s.make_map(map);
  glGenFramebuffers(1, &s.frame);
}

SolidScene::~SolidScene() {
  State& s = *state_;
  glDeleteFramebuffers(1, &s.frame);
  glDeleteTextures(2, s.maps.data());
  glDeleteVertexArrays(1, &s.letters), glDeleteVertexArrays(1, &s.floor);
  glDeleteBuffers(3, s.buffers.data());
  glDeleteProgram(s.program), glDeleteProgram(s.shadow_program);
}

void SolidScene::draw(const View& view, double seconds) {
  State& s = *state_;
  GLint target = 0;
  glGetIntegerv(GL_DRAW_FRAMEBUFFER_BINDING, &target);
  const auto t = static_cast<float>(seconds);
  const Vector middle{(s.least.x + s.most.x) / 2, (s.least.y + s.most.y) / 2, (s.least.z + s.most.z) / 2};
  const float wide = s.most.x - s.least.x, high = s.most.y - s.least.y;
  // A warm one walks past in front, a cold one behind the letters throws their shadows toward us.
  const std::array<Vector, 2> lamps = {Vector{middle.x + wide * 0.5F * std::sin(t * 0.6F - 0.7F),
                                              s.least.y + high * 2.6F, middle.z + wide * 0.55F},
                                       Vector{middle.x - wide * 0.35F * std::sin(t * 0.45F - 1.1F),
                                              s.least.y + high * 3.2F, middle.z - wide * 0.32F}};
  const std::array<Vector, 2> colors = {Vector{78, 52, 27}, Vector{22, 50, 74}};
  std::array<Matrix, 2> sees{};
  glEnable(GL_DEPTH_TEST), glDepthFunc(GL_LESS), glDepthMask(GL_TRUE);
  glDisable(GL_BLEND), glDisable(GL_CULL_FACE);
  glUseProgram(s.shadow_program);
  glBindFramebuffer(GL_FRAMEBUFFER, s.frame);
  glDrawBuffer(GL_NONE);
  glViewport(0, 0, State::kShadowSize, State::kShadowSize);
  for (std::size_t i = 0; i < 2; ++i) {
    sees[i] = camera(lamps[i], {middle.x, s.least.y, middle.z}, 1.5F, 1, 0.5F, 20);
    glFramebufferTexture2D(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_TEXTURE_2D, s.maps[i], 0);
    glClear(GL_DEPTH_BUFFER_BIT);
    glUniformMatrix4fv(glGetUniformLocation(s.shadow_program, "seen"), 1, GL_FALSE, sees[i].data());
    s.draw_letters(false);
  }
  glBindFramebuffer(GL_FRAMEBUFFER, static_cast<GLuint>(target));
  const auto width = static_cast<int>(view.width), height = static_cast<int>(view.height);
  glViewport(0, 0, width, height);
  glUseProgram(s.program);
  const float aspect = view.width / view.height, away = wide * 0.56F / (0.36F * aspect);
  const Vector eye{middle.x + wide * 0.16F * std::sin(t * 0.3F), s.least.y + high * 1.7F, middle.z + away};
  const Matrix seen = camera(eye, {middle.x, s.least.y + high * 0.3F, middle.z}, 0.36F, aspect, 0.1F, 100);
  glUniformMatrix4fv(glGetUniformLocation(s.program, "seen"), 1, GL_FALSE, seen.data());
  s.set("eye", eye);
  s.set("night", kNight);
  for (int i = 0; i < 2; ++i) {
    const auto k = static_cast<std::size_t>(i);
    s.set(i == 0 ? "lamp[0]" : "lamp[1]", lamps[k]);
    s.set(i == 0 ? "lamp_color[0]" : "lamp_color[1]", colors[k]);
    glUniformMatrix4fv(glGetUniformLocation(s.program, i == 0 ? "lamp_sees[0]" : "lamp_sees[1]"), 1, GL_FALSE,
                       sees[k].data());
    glUniform1i(glGetUniformLocation(s.program, i == 0 ? "dark[0]" : "dark[1]"), i);
    glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(i));
    glBindTexture(GL_TEXTURE_2D, s.maps[k]);
  }
  s.draw_letters(true);
  s.use(kFloor);
  glBindVertexArray(s.floor);
  glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
  glBindVertexArray(0);
  glActiveTexture(GL_TEXTURE0);
  glDisable(GL_DEPTH_TEST);
}
