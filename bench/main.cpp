// SPDX-License-Identifier: MIT
// Runs the benchmarks; after each pair of a step and its floor stands how many times the floor it takes.
#include <cstdio>
#include <map>

#include "bench.hpp"

namespace {

/// Prints as usual, remembers the median of each name and prints ratios at the end: "x" against "x/floor".
class RatioReporter : public benchmark::ConsoleReporter {
 public:
  void ReportRuns(const std::vector<Run>& runs) override {
    ConsoleReporter::ReportRuns(runs);
    for (const Run& run : runs) {
      const bool median = run.run_type == Run::RT_Aggregate && run.aggregate_name == "median";
      const bool single = run.run_type == Run::RT_Iteration && run.repetitions <= 1;
      if (median || single) {
        // Where threads of a driver do the work, only the clock on the wall sees it.
        const double time =
            run.run_name.time_type.empty() ? run.GetAdjustedCPUTime() : run.GetAdjustedRealTime();
        times_[run.run_name.function_name] = time * (run.time_unit == benchmark::kMicrosecond ? 1000 : 1);
      }
    }
  }

  void Finalize() override {
    ConsoleReporter::Finalize();
    std::puts("\nstep                                      ns        floor ns   ratio");
    for (const auto& [name, time] : times_) {
      const auto floor = times_.find(name + "/floor");
      if (floor != times_.end()) {
        std::printf("%-36s %10.0f %12.0f %8.2f\n", name.c_str(), time, floor->second, time / floor->second);
      }
    }
  }

 private:
  std::map<std::string, double> times_;
};

}  // namespace

int main(int argc, char** argv) {
  benchmark::Initialize(&argc, argv);
  if (benchmark::ReportUnrecognizedArguments(argc, argv)) return 1;
  RatioReporter reporter;
  benchmark::RunSpecifiedBenchmarks(&reporter);
  return 0;
}
