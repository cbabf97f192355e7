// SPDX-License-Identifier: MIT
// Builds and draws the street with one small shader: colors that fade into fog.
#include "street.hpp"

#include <epoxy/gl.h>

#include <cmath>

using grafema::Matrix4;
using grafema::translation;

Matrix4 turn_about_y(float degrees) {
  const float c = std::cos(degrees * 3.14159265F / 180), s = std::sin(degrees * 3.14159265F / 180);
  return {{c, 0, -s, 0, 0, 1, 0, 0, s, 0, c, 0, 0, 0, 0, 1}};
}

Matrix4 Sign::label_plane() const {
  return translation({x, y, z}) * turn_about_y(degrees) * translation({0, 0, 0.03F});
}

namespace {

constexpr float kWall = 5.5F, kStreetFar = -90, kStreetNear = 8;

constexpr const char* kVertex = R"(#version 330 core
layout(location = 0) in vec3 position;
layout(location = 1) in vec3 color;
uniform mat4 camera, projection;
out vec3 light;
out float depth;
void main() {
  vec4 seen = camera * vec4(position, 1.0);
  gl_Position = projection * seen;
  light = color;
  depth = length(seen.xyz);
})";

constexpr const char* kFragment = R"(#version 330 core
in vec3 light;
in float depth;
out vec4 color_out;
void main() {
  float clear = exp(-depth * 0.022);
  color_out = vec4(mix(vec3(0.010, 0.017, 0.040), light, clear), 1.0);
})";

unsigned shader(unsigned type, const char* text) {
  const unsigned made = glCreateShader(type);
  glShaderSource(made, 1, &text, nullptr);
  glCompileShader(made);
  return made;
}

/// The same windows are lit every night.
unsigned scattered(unsigned a, unsigned b) {
  unsigned h = a * 0x9E3779B1U ^ b * 0x85EBCA77U;
  h ^= h >> 15, h *= 0x2C1B3C6DU, h ^= h >> 13;
  return h;
}

}  // namespace

Street::Street() {
  signs = {{"Foxglove Cross", 0, 5.3F, -7, 0},
           {"Tinker\xE2\x80\x99s Weir", -kWall + 0.12F, 2.6F, -2.4F, 90, true},
           {"Saltglass Quay", kWall - 0.12F, 2.6F, -4.4F, -90},
           {"Pale Orchard", -kWall + 0.12F, 2.6F, -10, 90},
           {"Ninth Lantern", kWall - 0.12F, 2.6F, -14, -90},
           {"Marrow Hill", 0, 6.2F, -26, 0},
           {"Caf\xC3\xA9 Orv\xC3\xA9lie", -kWall + 0.12F, 2.6F, -20, 90},
           {"LANTERN", kWall - 0.95F, 4.5F, -4.6F, 0, false, true}};
  trams = {{"4", "Ilse Varga", 1.7F, -9, 2.0F},
           {"12", "Tomek Oyelaran", -1.7F, -16, -1.6F},
           {"N1", "Wren Achterberg", 1.7F, -34, 2.4F}};
  build_ground();
  build_walls();
  build_signs();
  still_ = vertices_.size();
  program_ = glCreateProgram();
  const unsigned vertex = shader(GL_VERTEX_SHADER, kVertex), fragment = shader(GL_FRAGMENT_SHADER, kFragment);
  glAttachShader(program_, vertex), glAttachShader(program_, fragment);
  glLinkProgram(program_);
  glDeleteShader(vertex), glDeleteShader(fragment);
  glGenVertexArrays(1, &array_);
  glGenBuffers(1, &buffer_);
}

Street::~Street() {
  glDeleteProgram(program_);
  glDeleteVertexArrays(1, &array_);
  glDeleteBuffers(1, &buffer_);
}

void Street::quad(const Vertex& a, const Vertex& b, const Vertex& c, const Vertex& d) {
  for (const Vertex& v : {a, b, c, a, c, d}) vertices_.push_back(v);
}

/// An upright rectangle over a line of the ground.
void Street::upright(float x0, float z0, float x1, float z1, float bottom, float top, float r, float g,
                     float b) {
  quad({x0, bottom, z0, r, g, b}, {x1, bottom, z1, r, g, b}, {x1, top, z1, r, g, b}, {x0, top, z0, r, g, b});
}

void Street::build_ground() {
  const auto strip = [this](float x0, float x1, float y, float r, float g, float b) {
    quad({x0, y, kStreetNear, r, g, b}, {x1, y, kStreetNear, r, g, b}, {x1, y, kStreetFar, r, g, b},
         {x0, y, kStreetFar, r, g, b});
  };
  strip(-kWall, kWall, 0, 0.016F, 0.018F, 0.026F);
  for (const float track : {-1.7F, 1.7F}) {
    for (const float rail : {-0.55F, 0.55F}) {
      strip(track + rail - 0.04F, track + rail + 0.04F, 0.01F, 0.10F, 0.10F, 0.12F);
    }
  }
  for (const float side : {-1.0F, 1.0F}) {
    strip(side * kWall - 0.9F * (side > 0), side * kWall + 0.9F * (side < 0), 0.02F, 0.035F, 0.035F, 0.045F);
  }
}

void Street::build_walls() {
  for (int side = 0; side < 2; ++side) {
    const float x = side == 0 ? -kWall : kWall, in = side == 0 ? 0.02F : -0.02F;
    for (int house = 0; house < 16; ++house) {
      const float z0 = kStreetNear - static_cast<float>(house) * 6, z1 = z0 - 6,
                  tone =
                      0.6F + static_cast<float>(
                                 scattered(static_cast<unsigned>(house), static_cast<unsigned>(side)) % 40) /
                                 100;
      const float height =
          8 +
          static_cast<float>(scattered(static_cast<unsigned>(house) + 7, static_cast<unsigned>(side)) % 5);
      upright(x, z0, x, z1, 0, height, 0.034F * tone, 0.030F * tone, 0.046F * tone);
      for (int floor = 0; floor < 3; ++floor) {
        for (int column = 0; column < 3; ++column) {
          const bool lit = scattered(static_cast<unsigned>(house * 9 + floor * 3 + column),
                                     static_cast<unsigned>(side) + 11) %
                               3 ==
                           0;
          const float z = z0 - 0.9F - static_cast<float>(column) * 1.8F,
                      y = 3.6F + static_cast<float>(floor) * 1.9F;
          upright(x + in, z, x + in, z - 0.9F, y, y + 1.2F, lit ? 0.75F : 0.012F, lit ? 0.42F : 0.014F,
                  lit ? 0.13F : 0.026F);
        }
      }
      upright(x + in * 2, z0 - 5.9F, x + in * 2, z0 - 5.75F, 3.0F, 3.3F, 1.0F, 0.75F,
              0.35F);  // a lantern between houses
    }
  }
}

void Street::build_signs() {
  for (const Sign& sign : signs) {
    const Matrix4 plane = translation({sign.x, sign.y, sign.z}) * turn_about_y(sign.degrees);
    const auto corner = [&plane](float u, float v) {
      return Vertex{
          plane.m[0] * u + plane.m[12], plane.m[13] + v, plane.m[2] * u + plane.m[14], 0.012F, 0.03F, 0.05F};
    };
    const auto& half = sign.neon ? kNeonBoard : kBoard;
    quad(corner(-half[0], -half[1]), corner(half[0], -half[1]), corner(half[0], half[1]),
         corner(-half[0], half[1]));
  }
}

void Street::build_trams() {
  vertices_.resize(still_);
  for (const Tram& tram : trams) {
    const float left = tram.x - 1.05F, right = tram.x + 1.05F, front = tram.z + 1.5F, back = tram.z - 5.5F;
    upright(left, front, right, front, 0.3F, 3.0F, 0.20F, 0.030F, 0.025F);
    upright(left, front, left, back, 0.3F, 3.0F, 0.12F, 0.020F, 0.018F);
    upright(right, front, right, back, 0.3F, 3.0F, 0.12F, 0.020F, 0.018F);
    upright(left + 0.15F, front + 0.01F, right - 0.15F, front + 0.01F, 1.5F, 2.45F, 0.55F, 0.42F, 0.20F);
    for (const float lamp : {left + 0.25F, right - 0.45F}) {
      upright(lamp, front + 0.01F, lamp + 0.2F, front + 0.01F, 0.7F, 0.9F, 1.0F, 0.95F, 0.75F);
    }
    for (const float side : {left - 0.01F, right + 0.01F}) {
      for (int window = 0; window < 4; ++window) {
        const float z = front - 0.5F - static_cast<float>(window) * 1.6F;
        upright(side, z, side, z - 1.2F, 1.5F, 2.4F, 0.6F, 0.45F, 0.2F);
      }
    }
    quad({left, 3, front, 0.05F, 0.01F, 0.01F}, {right, 3, front, 0.05F, 0.01F, 0.01F},
         {right, 3, back, 0.05F, 0.01F, 0.01F}, {left, 3, back, 0.05F, 0.01F, 0.01F});
  }
}

void Street::move(double seconds) {
  const double step = seconds - seconds_;
  seconds_ = seconds;
  for (Tram& tram : trams) {
    tram.z += static_cast<float>(step) * tram.speed;
    if (tram.z > 2) tram.z = -60;
    if (tram.z < -60) tram.z = -6;
  }
  build_trams();
}

Matrix4 Street::camera() const {
  const float sway = static_cast<float>(std::sin(seconds_ * 0.4)) * 0.3F;
  return turn_about_y(-sway * 4) * translation({-sway, -2.1F, -5.5F});
}

void Street::draw(const grafema::View& view) {
  glDisable(GL_BLEND);
  glEnable(GL_DEPTH_TEST);
  glDepthMask(GL_TRUE);
  glClearColor(0.010F, 0.017F, 0.040F, 1);
  glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
  glUseProgram(program_);
  glUniformMatrix4fv(glGetUniformLocation(program_, "camera"), 1, GL_FALSE, view.camera.m.data());
  glUniformMatrix4fv(glGetUniformLocation(program_, "projection"), 1, GL_FALSE, view.projection.m.data());
  glBindVertexArray(array_);
  glBindBuffer(GL_ARRAY_BUFFER, buffer_);
  glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(vertices_.size() * sizeof(Vertex)), vertices_.data(),
               GL_STREAM_DRAW);
  glEnableVertexAttribArray(0);
  glEnableVertexAttribArray(1);
  glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, sizeof(Vertex), nullptr);
  glVertexAttribPointer(1, 3, GL_FLOAT, GL_FALSE, sizeof(Vertex),
                        reinterpret_cast<const void*>(3 * sizeof(float)));
  glDrawArrays(GL_TRIANGLES, 0, static_cast<GLsizei>(vertices_.size()));
}
