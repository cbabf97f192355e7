// SPDX-License-Identifier: MIT
// Compiles and links programs.
#include "render/opengl/programs.hpp"

#include <fmt/format.h>

#include "render/opengl/shaders.hpp"

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

}  // namespace

Features features_of(const QuadList& list, Blending blending) {
  Features f;
  f.gamma = blending == Blending::gamma;
  for (const LayerRecord& r : list.records.first(list.record_count)) {
    f.hollow = f.hollow || r.hollow > 0;
    f.effects = f.effects || r.grow != 0 || r.blur != 0;
    f.fills = f.fills || r.corners[0] != r.corners[1] || r.corners[0] != r.corners[2] ||
              r.corners[0] != r.corners[3];
  }
  return f;
}

Program make_program(QuadKind kind, const Features& f, std::string& complaint) {
  const std::string head =
      (epoxy_is_desktop_gl() ? "#version 330 core\n"
                             : "#version 300 es\nprecision highp float;\nprecision highp int;\n") +
      fmt::format(
          "#define KIND {}\n#define GAMMA {}\n#define HOLLOW {}\n#define EFFECTS {}\n#define FILLS {}\n"
          "#define CONTRAST {:.6f}\n",
          static_cast<int>(kind), f.gamma ? 1 : 0, f.hollow ? 1 : 0, f.effects ? 1 : 0, f.fills ? 1 : 0,
          kContrast);
  const GLuint vertex = compile(GL_VERTEX_SHADER, head + kVertexShader, complaint);
  const GLuint fragment = compile(GL_FRAGMENT_SHADER, head + kFragmentShader, complaint);
  Program program;
  program.name = vertex != 0 && fragment != 0 ? link(vertex, fragment, complaint) : 0;
  if (vertex != 0) glDeleteShader(vertex);
  if (fragment != 0) glDeleteShader(fragment);
  if (program.name == 0) return program;
  program.viewport = glGetUniformLocation(program.name, "viewport");
  program.first_record = glGetUniformLocation(program.name, "first_record");
  glUseProgram(program.name);
  glUniform1i(glGetUniformLocation(program.name, "pages"), 0);
  glUniform1i(glGetUniformLocation(program.name, "records"), 1);
  return program;
}

}  // namespace grafema::detail
