// SPDX-License-Identifier: MIT
// Tells whoever watches how far many threads have come.
#pragma once

#include <atomic>
#include <functional>
#include <mutex>

namespace grafema::detail {

/// Tells one thread at a time, and hears whether to go on. The function must outlive this.
class Progress {
 public:
  Progress(const std::function<bool(std::size_t done, std::size_t total)>& tell, std::size_t total)
      : tell_(tell), total_(total) {}

  bool go_on() const { return !ended_.load(std::memory_order_relaxed); }
  void add(std::size_t count) {
    if (!tell_) return;
    const std::lock_guard lock(mutex_);
    done_ += count;
    if (!tell_(done_, total_)) ended_ = true;
  }

 private:
  const std::function<bool(std::size_t, std::size_t)>& tell_;
  std::size_t total_, done_ = 0;
  std::mutex mutex_;
  std::atomic<bool> ended_{false};
};

}  // namespace grafema::detail
