// Simultaneous band for the ordered values of a normal sample, standardized by its own mean and SD:
// the whole curve stays inside with a given probability, and every place is equally likely to leave
// it (the tail-sensitive band of Aldor-Noiman, Brown, Buja, Rolke & Stine 2013, whose calibration
// by simulation is kept, with mean and SD estimated in every simulated sample).
#ifndef VANDRO_NORMAL_BAND_HPP
#define VANDRO_NORMAL_BAND_HPP

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <numeric>
#include <vector>

#include "normal.hpp"
#include "random.hpp"

namespace vandro {

struct NormalBand {
  std::vector<double> lower;
  std::vector<double> upper;
};

namespace detail {

constexpr std::size_t whole_samples_up_to = 1000;

// Ordered values at `places` (1-based, increasing) of one simulated sample of size n.
inline void simulated_order(Random& random, std::size_t n, const std::vector<std::size_t>& places,
                            std::vector<double>& sample, double* out) {
  if (n <= whole_samples_up_to) {
    sample.resize(n);
    double mean = 0.0, m2 = 0.0;
    for (double& x : sample) mean += x = random.normal();
    mean /= static_cast<double>(n);
    for (double x : sample) m2 += (x - mean) * (x - mean);
    const double sd = std::sqrt(m2 / static_cast<double>(n - 1));
    std::sort(sample.begin(), sample.end());
    for (std::size_t j = 0; j < places.size(); ++j) out[j] = (sample[places[j] - 1] - mean) / sd;
    return;
  }
  // Large samples: spacings of uniform order statistics are gamma variates.
  std::size_t before = 0;
  double sum = 0.0;
  for (std::size_t j = 0; j < places.size(); ++j) {
    sum += random.gamma(static_cast<double>(places[j] - before));
    before = places[j];
    out[j] = sum;
  }
  sum += random.gamma(static_cast<double>(n + 1 - before));
  // The places stand for the sample: weighted by the stretch of probability each one covers, their
  // distances from the quantiles tell how far its mean and SD are off.
  const auto share = [&](std::size_t place) {
    return static_cast<double>(place) / static_cast<double>(n + 1);
  };
  double mean = 0.0, sd = 1.0;
  for (std::size_t j = 0; j < places.size(); ++j) {
    out[j] = probit(out[j] / sum, 1.0 - out[j] / sum);
    const double low = j == 0 ? 0.0 : share(places[j - 1]);
    const double high = j + 1 == places.size() ? 1.0 : share(places[j + 1]);
    const double here = share(places[j]);
    const double quantile = probit(here, 1.0 - here);
    const double weighted = 0.5 * (high - low) * (out[j] - quantile);
    mean += weighted;
    sd += weighted * quantile;
  }
  for (std::size_t j = 0; j < places.size(); ++j) out[j] = (out[j] - mean) / sd;
}

}  // namespace detail

// Returns false when `keep_going` asked to stop.
inline bool normal_band(std::size_t n, const std::vector<std::size_t>& places, double level,
                        std::size_t draws, std::uint64_t seed, NormalBand& out,
                        const std::function<bool()>& keep_going = {}) {
  const std::size_t m = places.size();
  std::vector<double> curves(draws * m), sample;
  for (std::size_t k = 0; k < draws; ++k) {
    Random random(seed, k);
    detail::simulated_order(random, n, places, sample, &curves[k * m]);
    if (k % 256 == 255 && keep_going && !keep_going()) return false;
  }
  // For each simulated curve the most extreme rank it has at any place, from either end.
  std::vector<std::size_t> extreme(draws, draws), order(draws);
  std::vector<std::vector<double>> sorted(m, std::vector<double>(draws));
  for (std::size_t j = 0; j < m; ++j) {
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::sort(order.begin(), order.end(),
              [&](std::size_t a, std::size_t b) { return curves[a * m + j] < curves[b * m + j]; });
    for (std::size_t rank = 0; rank < draws; ++rank) {
      const std::size_t curve = order[rank];
      sorted[j][rank] = curves[curve * m + j];
      extreme[curve] = std::min({extreme[curve], rank + 1, draws - rank});
    }
  }
  // The narrowest pair of ranks, counted from both ends, that holds enough whole curves.
  std::sort(extreme.begin(), extreme.end());
  const auto outside = static_cast<std::size_t>((1.0 - level) * static_cast<double>(draws));
  const std::size_t rank = std::max<std::size_t>(1, extreme[outside]);
  out.lower.resize(m);
  out.upper.resize(m);
  for (std::size_t j = 0; j < m; ++j) {
    out.lower[j] = sorted[j][rank - 1];
    out.upper[j] = sorted[j][draws - rank];
  }
  return true;
}

}  // namespace vandro

#endif
