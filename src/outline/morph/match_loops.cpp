// SPDX-License-Identifier: MIT
// Lays points of both loops over each other, then lets the matching give way.
#include "outline/morph/match_loops.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace grafema::detail {
namespace {

constexpr std::size_t kSamples = 64;

struct Sample {
  Place at;     // from the loop's middle, in shares of its size
  Place along;  // length 1
};

using Samples = std::array<Sample, kSamples>;

/// `size` is what a length of 1 is.
Samples sample(const MeasuredLoop& loop, double size) {
  Samples out;
  for (std::size_t i = 0; i < kSamples; ++i) {
    const double share = static_cast<double>(i) / kSamples, aside = 0.25 / kSamples;
    const Place p = loop.at(share), a = loop.at(share - aside + 1), b = loop.at(share + aside);
    const double x = b.x - a.x, y = b.y - a.y, length = std::sqrt(x * x + y * y);
    out[i].at = {(p.x - loop.middle().x) / size, (p.y - loop.middle().y) / size};
    out[i].along = length > 0 ? Place{x / length, y / length} : Place{0, 0};
  }
  return out;
}

double extent(const MeasuredLoop& loop) {
  double least_x = INFINITY, least_y = INFINITY, most_x = -INFINITY, most_y = -INFINITY;
  for (const Place p : loop.points()) {
    least_x = std::min(least_x, p.x), most_x = std::max(most_x, p.x);
    least_y = std::min(least_y, p.y), most_y = std::max(most_y, p.y);
  }
  return std::max({most_x - least_x, most_y - least_y, 1e-9});
}

/// How badly two samples match: their way, and how much the outline turns on it.
double cost(const Sample& a, const Sample& b, double turning) {
  const double x = a.at.x - b.at.x, y = a.at.y - b.at.y;
  const double turned = 1 - (a.along.x * b.along.x + a.along.y * b.along.y);
  return x * x + y * y + turning * turned;
}

double shift_cost(const Samples& a, const Samples& b, std::size_t shift, double turning) {
  double sum = 0;
  for (std::size_t i = 0; i < kSamples; ++i) sum += cost(a[i], b[(i + shift) % kSamples], turning);
  return sum;
}

/// The pair of samples that match best under the shift: where the loops are cut open.
std::size_t best_start(const Samples& a, const Samples& b, std::size_t shift, double turning) {
  std::size_t best = 0;
  double least = std::numeric_limits<double>::infinity();
  for (std::size_t i = 0; i < kSamples; ++i) {
    const double c = cost(a[i], b[(i + shift) % kSamples], turning);
    if (c < least) least = c, best = i;
  }
  return best;
}

/// Steps from share to share on both loops, from the start once around; rises in both.
struct Step {
  double from = 0, to = 0;
};

/// The cheapest way through the table of all pairs, no further than `band` samples from the even one.
std::vector<Step> warp(const Samples& a, const Samples& b, std::size_t start, std::size_t shift,
                       std::size_t band, double turning) {
  std::vector<double> sum((kSamples + 1) * (kSamples + 1), std::numeric_limits<double>::infinity());
  std::vector<std::uint8_t> came((kSamples + 1) * (kSamples + 1), 0);
  const auto at = [](std::size_t i, std::size_t j) { return i * (kSamples + 1) + j; };
  sum[0] = 0;
  for (std::size_t i = 0; i <= kSamples; ++i) {
    for (std::size_t j = i > band ? i - band : 0; j <= std::min(kSamples, i + band); ++j) {
      if (i == 0 && j == 0) continue;
      const double here = cost(a[(start + i) % kSamples], b[(start + shift + j) % kSamples], turning);
      double least = std::numeric_limits<double>::infinity();
      const auto offer = [&](double before, double weight, std::uint8_t from) {
        if (before + weight * here < least) least = before + weight * here, came[at(i, j)] = from;
      };
      if (i > 0 && j > 0) offer(sum[at(i - 1, j - 1)], 1, 0);
      if (i > 0) offer(sum[at(i - 1, j)], 1.05, 1);
      if (j > 0) offer(sum[at(i, j - 1)], 1.05, 2);
      sum[at(i, j)] = least;
    }
  }
  std::vector<Step> steps;
  for (std::size_t i = kSamples, j = kSamples;;) {
    steps.push_back(
        {static_cast<double>(start + i) / kSamples, static_cast<double>(start + shift + j) / kSamples});
    if (i == 0 && j == 0) break;
    const std::uint8_t from = came[at(i, j)];
    if (from != 2) --i;
    if (from != 1) --j;
  }
  std::reverse(steps.begin(), steps.end());
  return steps;
}

/// Where share `s` of one loop lies on the other: between the steps around it.
double follow(const std::vector<Step>& steps, double s, double Step::*from, double Step::*to) {
  auto behind = std::upper_bound(steps.begin(), steps.end(), s,
                                 [from](double v, const Step& step) { return v < step.*from; });
  if (behind == steps.begin()) ++behind;
  if (behind == steps.end()) --behind;
  const Step &a = *(behind - 1), &b = *behind;
  const double span = b.*from - a.*from;
  return span > 0 ? a.*to + (b.*to - a.*to) * ((s - a.*from) / span) : b.*to;
}

}  // namespace

MeasuredLoop::MeasuredLoop(std::vector<Place> points) : points_(std::move(points)) {
  double x = 0, y = 0;
  for (std::size_t i = 0; i < points_.size(); ++i) {
    const Place a = points_[i], b = points_[i + 1 < points_.size() ? i + 1 : 0];
    const double step = std::sqrt((b.x - a.x) * (b.x - a.x) + (b.y - a.y) * (b.y - a.y));
    shares_.push_back(length_);
    length_ += step;
    x += step * (a.x + b.x) / 2, y += step * (a.y + b.y) / 2;
    doubled_area_ +=
        (a.x - points_[0].x) * (b.y - points_[0].y) - (a.y - points_[0].y) * (b.x - points_[0].x);
  }
  const double whole = std::max(length_, 1e-12);
  middle_ = {x / whole, y / whole};
  for (double& share : shares_) share /= whole;
}

Place MeasuredLoop::at(double share) const {
  share -= std::floor(share);
  auto behind = std::upper_bound(shares_.begin(), shares_.end(), share);
  const std::size_t i =
      behind == shares_.begin() ? 0 : static_cast<std::size_t>(behind - shares_.begin()) - 1;
  const double begin = shares_[i], end = i + 1 < shares_.size() ? shares_[i + 1] : 1;
  const Place a = points_[i], b = points_[i + 1 < points_.size() ? i + 1 : 0];
  const double t = end > begin ? (share - begin) / (end - begin) : 0;
  return {a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t};
}

/// How much turns weigh against travel, and how far a matching gives way.
struct Give {
  double turning;
  std::size_t band;
};
constexpr std::array<Give, 5> kGives = {{{0.15, 20}, {0.5, 24}, {0.05, 8}, {0.02, 30}, {0, 0}}};

struct LoopMatcher::Memory {
  const MeasuredLoop& from;
  const MeasuredLoop& to;
  Samples a, b;
  std::vector<std::size_t> shifts;  // from the best on
};

LoopMatcher::LoopMatcher(const MeasuredLoop& from, const MeasuredLoop& to) {
  constexpr double kTurning = 0.15;
  constexpr std::size_t kTried = 24;
  const double size = std::max(extent(from), extent(to));
  memory_ = std::make_unique<Memory>(Memory{from, to, sample(from, size), sample(to, size), {}});
  std::vector<std::pair<double, std::size_t>> order;
  for (std::size_t shift = 0; shift < kSamples; ++shift) {
    order.emplace_back(shift_cost(memory_->a, memory_->b, shift, kTurning), shift);
  }
  std::sort(order.begin(), order.end());
  for (std::size_t i = 0; i < kTried; ++i) memory_->shifts.push_back(order[i].second);
}

LoopMatcher::~LoopMatcher() = default;

std::size_t LoopMatcher::ways() const { return memory_->shifts.size() * kGives.size(); }

void LoopMatcher::match(std::size_t way, std::vector<MorphPoint>& out) const {
  const MeasuredLoop &from = memory_->from, &to = memory_->to;
  const Give give = kGives[way % kGives.size()];
  const std::size_t shift = memory_->shifts[way / kGives.size()];
  const std::size_t start = best_start(memory_->a, memory_->b, shift, give.turning);
  const std::vector<Step> steps = warp(memory_->a, memory_->b, start, shift, give.band, give.turning);
  // Every corner of either loop, in the order in which the way passes them; corners stay exactly where they
  // are.
  struct Stop {
    Step at;
    Place from, to;
  };
  std::vector<Stop> stops;
  const auto unwound = [](double share, double begin) {
    return begin + (share - begin - std::floor(share - begin));
  };
  for (std::size_t i = 0; i < from.points().size(); ++i) {
    const double s = unwound(from.share(i), steps.front().from),
                 other = follow(steps, s, &Step::from, &Step::to);
    stops.push_back({{s, other}, from.points()[i], to.at(other)});
  }
  for (std::size_t i = 0; i < to.points().size(); ++i) {
    const double s = unwound(to.share(i), steps.front().to), other = follow(steps, s, &Step::to, &Step::from);
    stops.push_back({{other, s}, from.at(other), to.points()[i]});
  }
  std::stable_sort(stops.begin(), stops.end(),
                   [](const Stop& x, const Stop& y) { return x.at.from + x.at.to < y.at.from + y.at.to; });
  out.clear();
  for (const Stop& stop : stops) {
    out.push_back({static_cast<float>(stop.from.x), static_cast<float>(stop.from.y),
                   static_cast<float>(stop.to.x), static_cast<float>(stop.to.y)});
  }
}

}  // namespace grafema::detail
