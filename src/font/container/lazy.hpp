// SPDX-License-Identifier: MIT
// A value that is made once, by whichever thread asks first.
#pragma once

#include <atomic>
#include <mutex>
#include <optional>

namespace grafema::detail {

template <class T>
class Lazy {
 public:
  template <class Make>
  const T& get(Make make) const {
    if (const T* made = find()) return *made;
    std::call_once(once_, [&] {
      value_.emplace(make());
      made_.store(&*value_, std::memory_order_release);
    });
    return *value_;
  }

  /// The value where it has been made: what every letter asks for must not cost a call.
  const T* find() const { return made_.load(std::memory_order_acquire); }

 private:
  mutable std::once_flag once_;
  mutable std::atomic<const T*> made_{nullptr};
  mutable std::optional<T> value_;
};

}  // namespace grafema::detail
