// Exact distribution of the sum of signed ranks, or of other positive scores, given the ties.
#ifndef VANDRO_SIGNED_RANK_NULL_HPP
#define VANDRO_SIGNED_RANK_NULL_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <memory>
#include <numeric>
#include <utility>
#include <vector>

#include "rank_null.hpp"

namespace vandro {

// Sums of those of some positive scores whose sign is positive, each with probability 1/2. Of
// ranks: twice the sum of the ranks of the positive ones among `runs` of equally large changes;
// `below`: zeros that took the lowest ranks.
class SignedRankSum : public RankNull {
 public:
  static std::unique_ptr<SignedRankSum> make(const std::vector<std::int32_t>& runs,
                                             std::int64_t below,
                                             const std::function<bool()>& keep_going = {}) {
    return of_scores(detail::doubled_midranks(runs, below), keep_going);
  }

  // At least one score must be above 0.
  static std::unique_ptr<SignedRankSum> of_scores(std::vector<std::int64_t> scores,
                                                  const std::function<bool()>& keep_going = {}) {
    std::unique_ptr<SignedRankSum> out(new SignedRankSum);
    out->scores_ = std::move(scores);
    out->step_ = 0;
    for (const std::int64_t score : out->scores_) out->step_ = std::gcd(out->step_, score);
    for (std::int64_t& score : out->scores_) score /= out->step_;
    out->total_ = std::accumulate(out->scores_.begin(), out->scores_.end(), std::int64_t{0});
    out->most_ = out->total_ * out->step_;
    return out->plain_.build(out->scores_, 0.0, out->total_, keep_going) ? std::move(out) : nullptr;
  }

  static Cost cost(double n) {
    const double total = n * (n + 1.0);
    return {1.2 * n * total / 6.0, 8.0 * 1.5 * total};
  }

  Tail at_most(std::int64_t w) const override {
    const std::int64_t sum = w < 0 ? -1 : w / step_;
    if (sum < 0) return {};
    if (sum >= total_) return {1.0, 0.0};
    if (sum == 0) return none_counted();
    const double p = plain_.weighted_tail(sum);
    if (p > 1e-280) return {std::min(p, 1.0), std::min(0.0, std::log(p))};
    return far_tail(sum);
  }
  // The distribution is symmetric.
  Tail at_least(std::int64_t w) const override { return at_most(most_ - w); }

 private:
  // Sums of every second score, and of the others, when a score x is taken with probability
  // e^(tilt x) / (1 + e^(tilt x)).
  struct Halves {
    double tilt = 0.0;
    detail::Counts odd, running;

    bool build(const std::vector<std::int64_t>& scores, double tilt_by, std::int64_t most,
               const std::function<bool()>& keep_going) {
      tilt = tilt_by;
      detail::Counts even;
      if (!sums(scores, 0, odd, keep_going) || !sums(scores, 1, even, keep_going)) return false;
      // running(v): sum over t <= v of even(t) e^(tilt (v - t)).
      const std::size_t size = tilt == 0.0 ? even.size() : static_cast<std::size_t>(most + 1);
      running.resize(size);
      detail::CarriedSum sum;
      const double fade = std::exp(tilt);
      for (std::size_t v = 0; v < size; ++v) {
        if (tilt != 0.0) sum = {sum.total() * fade, 0.0};
        if (v < even.size()) sum.add(even[v]);
        running[v] = sum.total();
      }
      return true;
    }

    bool sums(const std::vector<std::int64_t>& scores, std::size_t from, detail::Counts& out,
              const std::function<bool()>& keep_going) const {
      std::int64_t reach = 0;
      for (std::size_t k = from; k < scores.size(); k += 2) reach += scores[k];
      out.assign(static_cast<std::size_t>(reach + 1), 0.0);
      out[0] = 1.0;
      reach = 0;
      for (std::size_t k = from; k < scores.size(); k += 2) {
        if (keep_going && !keep_going()) return false;
        reach += scores[k];
        const double take = 1.0 / (1.0 + std::exp(-tilt * static_cast<double>(scores[k])));
        const double leave = 1.0 / (1.0 + std::exp(tilt * static_cast<double>(scores[k])));
        detail::mix_shifted(out.data(), static_cast<std::size_t>(reach + 1),
                            static_cast<std::size_t>(scores[k]), leave, take);
      }
      return true;
    }

    // Sum over all sums s <= at of their probability times e^(tilt (at - s)).
    double weighted_tail(std::int64_t at) const {
      return detail::product_sum(odd, running, at, 0.0, running.back());
    }
  };

  // The outermost sum: every change that has a rank lies on the other side.
  Tail none_counted() const {
    const auto ranked =
        std::count_if(scores_.begin(), scores_.end(), [](std::int64_t x) { return x > 0; });
    return {std::ldexp(1.0, -static_cast<int>(ranked)),
            -std::log(2.0) * static_cast<double>(ranked)};
  }

  // Where even the halves leave the range of a double: probabilities tilted towards `sum` (Esscher
  // 1932).
  Tail far_tail(std::int64_t sum) const {
    double low = -1.0, high = 0.0;
    const auto mean = [this](double tilt) {
      double out = 0.0;
      for (const std::int64_t score : scores_) {
        const double x = static_cast<double>(score);
        out += x / (1.0 + std::exp(-tilt * x));
      }
      return out;
    };
    const double wanted = std::max(0.5, static_cast<double>(sum));
    while (mean(low) > wanted) low *= 2.0;
    for (int k = 0; k < 60; ++k) {
      const double middle = 0.5 * (low + high);
      (mean(middle) > wanted ? high : low) = middle;
    }
    Halves tilted;
    tilted.build(scores_, low, sum, {});
    detail::CarriedSum log_mean;
    for (const std::int64_t score : scores_) {
      log_mean.add(std::log(2.0) - std::log1p(std::exp(low * static_cast<double>(score))));
    }
    const double log_p =
        std::log(tilted.weighted_tail(sum)) - low * static_cast<double>(sum) - log_mean.total();
    return {std::exp(log_p), log_p};
  }

  std::vector<std::int64_t> scores_;
  std::int64_t total_ = 0;
  Halves plain_;
};

}  // namespace vandro

#endif
