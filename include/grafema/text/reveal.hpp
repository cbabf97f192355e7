// SPDX-License-Identifier: MIT
// When each cluster of a text appears: speed, and pauses where a speaker breathes.
#pragma once

#include <functional>
#include <span>
#include <string_view>
#include <vector>

#include "grafema/text/rich_text.hpp"

namespace grafema {

/// Pauses are seconds, and come on top of the clusters' own time.
struct RevealPace {
  float clusters_per_second = 30;  ///< above 0
  float clause = 0.15F;            ///< behind commas, colons and the like
  float sentence = 0.4F;           ///< behind the end of a sentence, as the language's rules find it
  float line = 0.25F;              ///< behind a line break
  bool operator==(const RevealPace&) const = default;
};

/// Counts how many clusters of a text are shown; `Label::set_revealed` takes the number. Keeps its memory.
class GRAFEMA_API Reveal {
 public:
  /// Begins with nothing shown. `clusters` are the bytes where clusters begin, ascending, as
  /// `Label::clusters` gives them; `language` is BCP 47. Pauses of the text (`<wait>`) are kept.
  void start(const RichText& text, std::span<const std::uint32_t> clusters, const RevealPace& pace = {},
             std::string_view language = {});
  /// Goes on by some seconds and gives how many clusters are shown. `on_cluster` is called for each that
  /// appears, in their order, with its index and its first byte.
  std::size_t advance(double seconds,
                      const std::function<void(std::size_t cluster, std::uint32_t byte)>& on_cluster = {});
  /// Shows all at once, without calls.
  void skip();
  std::size_t shown() const { return shown_; }
  std::size_t count() const { return times_.size(); }
  bool done() const { return shown_ == times_.size(); }
  /// When a cluster appears, seconds from the beginning.
  double time_of(std::size_t cluster) const { return times_[cluster]; }

 private:
  std::vector<double> times_;
  std::vector<std::uint32_t> bytes_;
  double now_ = 0;
  std::size_t shown_ = 0;
};

}  // namespace grafema
