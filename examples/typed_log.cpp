// SPDX-License-Identifier: MIT
// Runs the scene of typed_log_scene.cpp.
#include "scene_window.hpp"

int main(int argc, char** argv) { return run_scene(argc, argv, "The driver's log", make_typed_log); }
