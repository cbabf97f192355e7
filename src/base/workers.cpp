// SPDX-License-Identifier: MIT
// Threads that take jobs from a queue.
#include "grafema/base/workers.hpp"

#include <algorithm>
#include <atomic>
#include <condition_variable>
#include <deque>
#include <mutex>
#include <thread>
#include <vector>

namespace grafema {

struct ThreadWorkers::State {
  std::mutex mutex;
  std::condition_variable wake, idle;
  std::deque<std::function<void()>> jobs;
  std::size_t running = 0;
  bool ending = false;
  std::vector<std::thread> threads;

  void work() {
    std::unique_lock lock(mutex);
    while (true) {
      wake.wait(lock, [this] { return ending || !jobs.empty(); });
      if (ending) return;
      std::function<void()> job = std::move(jobs.front());
      jobs.pop_front();
      ++running;
      lock.unlock();
      job();
      job = nullptr;  // what it holds goes before it counts as done
      lock.lock();
      --running;
      if (running == 0 && jobs.empty()) idle.notify_all();
    }
  }
};

ThreadWorkers::ThreadWorkers(unsigned threads) : state_(std::make_unique<State>()) {
  const unsigned wanted = threads > 0 ? threads : std::max(1U, std::thread::hardware_concurrency());
  for (unsigned i = 0; i < wanted; ++i) {
    state_->threads.emplace_back([state = state_.get()] { state->work(); });
  }
}

ThreadWorkers::~ThreadWorkers() {
  {
    const std::lock_guard lock(state_->mutex);
    state_->ending = true;
    state_->jobs.clear();
  }
  state_->wake.notify_all();
  for (std::thread& thread : state_->threads) thread.join();
}

unsigned ThreadWorkers::count() const noexcept { return static_cast<unsigned>(state_->threads.size()); }

void ThreadWorkers::post(std::function<void()> job) {
  {
    const std::lock_guard lock(state_->mutex);
    state_->jobs.push_back(std::move(job));
  }
  state_->wake.notify_one();
}

void ThreadWorkers::wait() {
  std::unique_lock lock(state_->mutex);
  state_->idle.wait(lock, [this] { return state_->running == 0 && state_->jobs.empty(); });
}

namespace {

/// What the threads of one `run_parts` share; kept alive by the last job, which may begin when all is done.
struct Parts {
  std::atomic<std::size_t> next{0};
  std::size_t count = 0, done = 0;
  const std::function<void(std::size_t)>* part = nullptr;
  std::mutex mutex;
  std::condition_variable all_done;

  void take() {
    std::size_t mine = 0;
    for (std::size_t i = next++; i < count; i = next++) (*part)(i), ++mine;
    if (mine == 0) return;
    const std::lock_guard lock(mutex);
    done += mine;
    if (done == count) all_done.notify_all();
  }
};

}  // namespace

void run_parts(Workers* workers, std::size_t count, const std::function<void(std::size_t)>& part) {
  if (workers == nullptr || count < 2) {
    for (std::size_t i = 0; i < count; ++i) part(i);
    return;
  }
  const auto shared = std::make_shared<Parts>();
  shared->count = count;
  shared->part = &part;
  // This thread works too: one job less, and no deadlock where it is itself one of the workers.
  const std::size_t helpers = std::min<std::size_t>(workers->count(), count) - 1;
  for (std::size_t i = 0; i < helpers; ++i) workers->post([shared] { shared->take(); });
  shared->take();
  std::unique_lock lock(shared->mutex);
  shared->all_done.wait(lock, [&] { return shared->done == count; });
}

}  // namespace grafema
