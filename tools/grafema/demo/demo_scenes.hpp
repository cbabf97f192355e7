// SPDX-License-Identifier: MIT
// The pictures of `grafema demo`: scenes of Last Tram to Quillmere.
#pragma once

#include <memory>
#include <optional>
#include <string>

#include "grafema/atlas/atlas.hpp"
#include "grafema/draw/paint.hpp"

namespace grafema::tool {

/// A face of the system for scripts that the demo's own has not; the built-in one where it is not there.
std::shared_ptr<const Face> face_at(const std::string& path);

/// The project's own faces, large and small, with signs between words and pairs of letters.
Image draw_faces();
Image draw_board();
Image draw_title();
/// The word in the sizes of a game's interface, plain and with outline, on light and dark.
Image draw_sizes();
/// Speech boxes in each way of overflowing, columns, and tab stops.
Image draw_layout();
/// Announcements in nine languages, and mixed directions with caret stops.
Image draw_languages();
/// The street of examples/night_scene at 1280x800 through OpenGL; nothing without a driver.
std::optional<Image> draw_night();
/// One word magnified eight times from pages of three kinds.
Image draw_magnified();
/// A page painted by a script, its guide, and labels drawn from it.
Image draw_painted();
/// A scene by the software renderer, by OpenGL, and their difference times 32; without OpenGL a caption in
/// its place.
Image draw_side_by_side();
/// The scenes of examples/speech, typed_log and ticker.
Image draw_speech();
Image draw_typed_log();
Image draw_ticker();
/// Messages of a catalog with faults that do not fit their boxes.
Image draw_worst_messages();
/// Each ready-made motion as a strip of six moments.
Image draw_motions();
/// Letters as dots, lines, marks and pieces, and five moments of a word that melts.
Image draw_letters();
/// A file of data/demo, which are compiled in; empty where there is none of that name.
std::string demo_file(const std::string& name);
/// The first page of an atlas on a checkered ground, with a caption.
Image draw_page(const Atlas& atlas, const std::string& caption);

}  // namespace grafema::tool
