// SPDX-License-Identifier: MIT
// Work that can run side by side: a game hands in its own threads, or takes the ready-made ones.
#pragma once

#include <functional>
#include <memory>

#include "grafema/base/export.hpp"

namespace grafema {

/// Runs jobs. A job touches only what it was handed, never waits for another job, and does not throw.
class GRAFEMA_API Workers {
 public:
  virtual ~Workers() = default;
  /// How many jobs may run at once, at least 1.
  virtual unsigned count() const noexcept = 0;
  /// Runs the job soon, on any thread, once. Jobs begin in the order in which they were posted.
  virtual void post(std::function<void()> job) = 0;
};

/// Ready-made threads. The destructor waits for jobs that have begun and drops the others.
class GRAFEMA_API ThreadWorkers final : public Workers {
 public:
  /// 0: as many threads as the machine has cores.
  explicit ThreadWorkers(unsigned threads = 0);
  ~ThreadWorkers() override;
  ThreadWorkers(const ThreadWorkers&) = delete;
  ThreadWorkers& operator=(const ThreadWorkers&) = delete;

  unsigned count() const noexcept override;
  void post(std::function<void()> job) override;
  /// Returns when nothing is queued or running.
  void wait();

 private:
  struct State;
  std::unique_ptr<State> state_;
};

/// Calls `part` for every index below `count`, on the workers and on this thread, in any order; returns when
/// all are done. `workers` may be null: then one after the other.
GRAFEMA_API void run_parts(Workers* workers, std::size_t count, const std::function<void(std::size_t)>& part);

}  // namespace grafema
