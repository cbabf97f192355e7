// SPDX-License-Identifier: MIT
// Runs a scene in a window, or without one.
#pragma once

#include "stage.hpp"

/// `--frames N` ends after so many; with `--shot PNG` the last frame is saved, drawn off screen through
/// OpenGL, and with `--reference PNG` the same by the software renderer. `--at SECONDS` is the time of that
/// frame.
int run_scene(int argc, char** argv, const char* title, std::unique_ptr<Scene> (*make)(const DemoReader&));
