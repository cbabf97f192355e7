// SPDX-License-Identifier: MIT
// Jobs run once each, parts all and on any number of threads.
#include "grafema/base/workers.hpp"

#include <atomic>
#include <catch2/catch.hpp>
#include <future>
#include <memory>
#include <vector>

using namespace grafema;

TEST_CASE("every job runs once", "[workers]") {
  ThreadWorkers workers(3);
  CHECK(workers.count() == 3);
  std::vector<std::atomic<int>> ran(500);
  for (auto& r : ran) workers.post([&r] { ++r; });
  workers.wait();
  for (const auto& r : ran) REQUIRE(r == 1);
}

TEST_CASE("parts are done when the call returns, with and without workers", "[workers]") {
  ThreadWorkers workers(4);
  for (Workers* who : {static_cast<Workers*>(nullptr), static_cast<Workers*>(&workers)}) {
    for (const std::size_t count : {0U, 1U, 2U, 1000U}) {
      std::vector<std::atomic<int>> done(count);
      run_parts(who, count, [&done](std::size_t i) { ++done[i]; });
      for (const auto& d : done) REQUIRE(d == 1);
    }
  }
}

TEST_CASE("parts inside a job do not wait for a free worker", "[workers]") {
  ThreadWorkers workers(1);
  std::atomic<int> sum{0};
  workers.post([&] { run_parts(&workers, 100, [&sum](std::size_t i) { sum += static_cast<int>(i); }); });
  workers.wait();
  CHECK(sum == 4950);
}

TEST_CASE("what has not begun is dropped at the end", "[workers]") {
  std::promise<void> begun, dropped;
  /// Tells when the job that holds it is gone, whether it ran or not.
  struct Guard {
    explicit Guard(std::promise<void>& told) : gone(told) {}
    ~Guard() { gone.set_value(); }
    std::promise<void>& gone;
  };
  std::atomic<int> ran{0};
  {
    ThreadWorkers workers(1);
    workers.post([&] {
      begun.set_value();
      dropped.get_future().wait();  // holds the only thread until the other job has been dropped
      ++ran;
    });
    begun.get_future().wait();
    workers.post([&ran, guard = std::make_shared<Guard>(dropped)] { ran += 100; });
  }
  CHECK(ran == 1);
}
