// SPDX-License-Identifier: MIT
// All that a first program needs; larger ones include what they use.
#pragma once

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/atlas/glyph_cache.hpp"
#include "grafema/draw/emit.hpp"
#include "grafema/draw/label.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/files/catalog_file.hpp"
#include "grafema/files/family_file.hpp"
#include "grafema/files/files.hpp"
#include "grafema/files/markup.hpp"
#include "grafema/files/styles_file.hpp"
#include "grafema/font/face.hpp"
#include "grafema/font/family.hpp"
#include "grafema/font/font_stack.hpp"
#include "grafema/render/software_renderer.hpp"
#include "grafema/text/character_check.hpp"
#include "grafema/text/paragraph.hpp"
#include "grafema/text/reveal.hpp"
#include "grafema/text/shaped_text.hpp"
#include "grafema/unicode/character_sets.hpp"
