// SPDX-License-Identifier: MIT
// What the labels of a game share: default fonts, pictures of glyphs, looks and other books.
#pragma once

#include <memory>
#include <vector>

#include "grafema/atlas/glyph_cache.hpp"
#include "grafema/draw/late_face.hpp"
#include "grafema/draw/looks.hpp"
#include "grafema/draw/motion.hpp"
#include "grafema/text/message_book.hpp"
#include "grafema/text/paragraph.hpp"

namespace grafema {

/// Owned by the game; there may be several. Belongs to one thread and must outlive the use of its labels.
class GRAFEMA_API TextContext {
 public:
  /// `source` holds the pictures of the glyphs of `fonts`. Without faces the built-in face stands in, here
  /// and in the setters. Without a source a GlyphCache of the context's own makes the pictures, at once, of
  /// these fonts and of those that labels choose.
  TextContext(FontStack fonts, std::shared_ptr<GlyphSource> source);
  ~TextContext();
  TextContext(const TextContext&) = delete;
  TextContext& operator=(const TextContext&) = delete;

  const FontStack& fonts() const { return fonts_; }
  /// Labels that did not choose fonts of their own are laid out anew.
  void set_fonts(FontStack fonts);
  /// When the face arrives it is put before the default font at `place`, at most behind the last; until then
  /// the faces that are there draw.
  void expect(std::shared_ptr<LateFace> late, std::size_t place = 0);
  /// Takes the faces that have arrived; labels that did not choose fonts of their own follow. To be called
  /// when a frame begins. Whether one had arrived.
  bool take_arrivals();
  GlyphSource& source() const { return *source_; }
  void set_source(std::shared_ptr<GlyphSource> source);
  /// Tells a cache of the context's own of faces; nothing where the game gave a source.
  void offer(const FontStack& fonts);
  /// Begins a frame of a cache of the context's own; TextScene::update does so.
  void begin_frame();
  LookBook& looks() { return looks_; }
  const LookBook& looks() const { return looks_; }
  MotionBook& motions() { return motions_; }
  /// Families that spans name, and what bold and italic are chosen from. Setting it lays labels out anew.
  const FontBook& fonts_by_name() const { return book_; }
  void set_fonts_by_name(FontBook book);
  /// What labels show that have a message.
  MessageBook& messages() { return messages_; }
  StyleBook& styles() { return styles_; }  ///< for labels, and for spans of messages
  IconBook& icons() { return icons_; }     ///< for messages
  ShapeCache& shapes() { return shapes_; }

  /// Moves when fonts or source are set.
  std::uint64_t revision() const { return revision_; }

  /// Expires with the context.
  std::weak_ptr<const void> life() const { return life_; }

 private:
  FontStack fonts_;
  std::shared_ptr<GlyphSource> source_;
  std::shared_ptr<GlyphCache> own_cache_;  // the source, where the game gave none
  LookBook looks_;
  MotionBook motions_;
  FontBook book_;
  MessageBook messages_;
  StyleBook styles_;
  IconBook icons_;
  ShapeCache shapes_;
  struct Expected {
    std::shared_ptr<LateFace> late = {};
    std::size_t place = {};
  };
  std::vector<Expected> expected_;
  std::shared_ptr<const int> life_ = std::make_shared<const int>(0);
  std::uint64_t revision_ = 1;
};

}  // namespace grafema
