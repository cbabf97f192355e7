// SPDX-License-Identifier: MIT
// Runs the scene of ticker_scene.cpp.
#include "scene_window.hpp"

int main(int argc, char** argv) { return run_scene(argc, argv, "Departures", make_ticker); }
