// SPDX-License-Identifier: MIT
// The street of the night scene: walls with lit windows, lanterns, rails, trams, boards for signs.
#pragma once

#include <vector>

#include "grafema/draw/view.hpp"

/// A board on a wall or over the street; its label lies a little in front of it.
struct Sign {
  const char* text;
  float x, y, z, degrees;           ///< about the upright axis; 0 looks at the camera
  bool late = false, neon = false;  ///< neon: a narrow board, its letters one below the other

  grafema::Matrix4 label_plane() const;
};

/// Half the width and height of a board.
constexpr float kBoard[2] = {2.2F, 0.45F}, kNeonBoard[2] = {0.5F, 1.55F};

struct Tram {
  const char *line, *driver;
  float x, z, speed;
};

grafema::Matrix4 turn_about_y(float degrees);

class Street {
 public:
  std::vector<Sign> signs;
  std::vector<Tram> trams;

  Street();
  ~Street();
  Street(const Street&) = delete;
  Street& operator=(const Street&) = delete;
  void move(double seconds);
  grafema::Matrix4 camera() const;
  /// Clears the framebuffer and draws everything but words.
  void draw(const grafema::View& view);

 private:
  struct Vertex {
    float x, y, z, r, g, b;
  };
  void quad(const Vertex& a, const Vertex& b, const Vertex& c, const Vertex& d);
  void upright(float x0, float z0, float x1, float z1, float bottom, float top, float r, float g, float b);
  void build_ground();
  void build_walls();
  void build_signs();
  void build_trams();

  std::vector<Vertex> vertices_;
  std::size_t still_ = 0;  ///< vertices before this one never move
  double seconds_ = 0;
  unsigned program_ = 0, array_ = 0, buffer_ = 0;
};
