// SPDX-License-Identifier: MIT
// Runs the scene of speech_scene.cpp.
#include "scene_window.hpp"

int main(int argc, char** argv) { return run_scene(argc, argv, "Speech at the ninth lantern", make_speech); }
