// SPDX-License-Identifier: MIT
// Remembers which faces spans asked for and got.
#include <algorithm>

#include "text/runs/styles.hpp"

namespace grafema::detail {

const FontStack& RestyledFaces::find(const FontStack& root, const FontRequest& request, const FontBook* book,
                                     Notes* notes) {
  constexpr std::size_t kMax = 32;
  const std::uint64_t revision = book != nullptr ? book->revision() : 0;
  const auto known = std::find_if(entries_.begin(), entries_.end(), [&](const Entry& e) {
    return e.book == revision && e.request == request && e.root == root;
  });
  std::size_t at = static_cast<std::size_t>(known - entries_.begin());
  if (known == entries_.end()) {
    Notes found(16);
    Entry made{root, request, revision, restyle(root, request, book, &found), {}};
    made.notes.assign(found.all().begin(), found.all().end());
    if (entries_.size() < kMax) {
      entries_.push_back(std::move(made));
    } else {
      at = next_++ % kMax;
      entries_[at] = std::move(made);
    }
  }
  for (const Note& note : entries_[at].notes) {
    if (notes != nullptr) notes->add(note);
  }
  return entries_[at].made;
}

}  // namespace grafema::detail
