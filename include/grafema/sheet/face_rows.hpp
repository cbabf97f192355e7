// SPDX-License-Identifier: MIT
// Many faces below each other, to choose one from a folder by one's own words.
#pragma once

#include <memory>
#include <span>
#include <string>

#include "grafema/base/color.hpp"
#include "grafema/base/image.hpp"
#include "grafema/font/face.hpp"

namespace grafema {

struct FaceRowsOptions {
  std::string text = "Last tram to Quillmere 0123456789";
  float letter_height = 18;  ///< pixels from the baseline to the top of an x, in every row; 4 to 100
  int width = 1280,
      height = 1600;  ///< the page in pixels; 320 to 16384. The last page is as high as its rows
  Color ink{0.10F, 0.11F, 0.14F, 1}, paper{0.965F, 0.957F, 0.93F, 1};
};

/// How many pages `count` faces take.
GRAFEMA_API std::size_t count_face_pages(std::size_t count, const FaceRowsOptions& options);

/// Draws one page, from 0: a row for each face, with its name, how much is in it, and the words. Small
/// letters are equally high in all rows; words that are too long end in an ellipsis. Fails with `bad_value`
/// for options out of their ranges or a page that is not there.
GRAFEMA_API Result<Image> draw_face_rows(std::span<const std::shared_ptr<const Face>> faces,
                                         const FaceRowsOptions& options, std::size_t page = 0);

/// Returns the words that show a face. `text`: the face has more than half of the text's characters. Else the
/// sample text in the face's `name` table. Else the face's first `most` characters that paint something.
GRAFEMA_API std::string words_for(const Face& face, std::string_view text, std::size_t most = 40);

}  // namespace grafema
