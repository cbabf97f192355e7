// SPDX-License-Identifier: MIT
// Family files: which font files make up which families, and the order of fallback.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "grafema/files/files.hpp"
#include "grafema/font/family.hpp"
#include "grafema/font/font_book.hpp"
#include "grafema/font/font_stack.hpp"
#include "grafema/font/license.hpp"

namespace grafema {

/// What a family file holds, its faces opened.
struct FamilySet {
  std::vector<Family> families = {};  ///< the families that `fallback` names, in its order, then the others
  std::size_t fallback_count = 0;     ///< how many of `families`, from the first, `make_stack` puts into a
                                      ///< stack: those that `fallback` names, at least one
  bool match_x_height = false;
  std::vector<std::string> files = {};  ///< the font files, each once
  std::string style = "Regular";        ///< the style that `make_stack` takes where none is named
};

/// Loads a family file and the fonts beside it. Fields that are not known are noted. Fails with `damaged` and
/// the field, or as opening a face does.
GRAFEMA_API FileResult<FamilySet> load_families(const std::string& path, Notes* notes = nullptr);

/// The same from memory: reads the document, and calls `open` for the bytes of each font file that it names.
/// Files are spelled as in the document.
GRAFEMA_API FileResult<FamilySet> read_families(
    std::string_view text, const std::function<Result<FontData>(const std::string& file)>& open,
    Notes* notes = nullptr);

/// A stack of one face from each family of the fallback, the face of that style ("Bold", "light italic"); the
/// set's own style where none is named. Their x-heights are matched where the file asks for it.
GRAFEMA_API FontStack make_stack(const FamilySet& set, std::string_view style_words = {});

/// All families of the file, those of its fallback first.
GRAFEMA_API FontBook make_book(const FamilySet& set);

/// One face of a credits page, with the license files that stand beside it.
struct CreditedFace {
  std::shared_ptr<const Face> face = {};
  std::string file = {};
  std::vector<std::string> license_texts = {};
};

/// A credits page in plain text: each family once with its makers, copyright and license; license texts once
/// at the end.
GRAFEMA_API std::string make_credits(std::span<const CreditedFace> faces);

}  // namespace grafema
