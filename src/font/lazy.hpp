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
    if (!ready_.load(std::memory_order_acquire)) {
      std::call_once(once_, [&] {
        value_.emplace(make());
        ready_.store(true, std::memory_order_release);
      });
    }
    return *value_;
  }

 private:
  mutable std::once_flag once_;
  mutable std::atomic<bool> ready_{false};
  mutable std::optional<T> value_;
};

}  // namespace grafema::detail
