#include <vandro/crossing.hpp>
#include <vandro/enumerate.hpp>
#include <vandro/fixed_point.hpp>
#include <vandro/location.hpp>

#include "glue-blocks.h"
#include "glue.h"

using Rcpp::_;

namespace {

struct LocationCase {
  vandro::FixedPoint fixed;
  std::vector<vandro::Block> blocks;  // none: changes
  std::vector<double> trims;
  std::uint64_t seed;
  std::size_t draws;
  int threads;

  template <class Result>
  bool run(const std::vector<std::int64_t>& values, std::int64_t shift, Result& result) const {
    const auto trim = static_cast<std::size_t>(trims.at(0));
    if (blocks.empty()) {
      const vandro::ChangeLocation location(values, trim, shift);
      return draws > 0 ? vandro::flip_location(location, values.size(), seed, draws, threads,
                                               result, glue::keep_going)
                       : vandro::every_flipped_location(location, values.size(), result,
                                                        glue::keep_going);
    }
    const vandro::GroupLocation location(values, blocks, trim,
                                         static_cast<std::size_t>(trims.at(1)), shift);
    return draws > 0 ? vandro::reassign_location(location, blocks, seed, draws, threads, result,
                                                 glue::keep_going)
                     : vandro::every_location(location, blocks, result, glue::keep_going);
  }
  std::vector<std::int64_t> mirrored() const {
    std::vector<std::int64_t> out = fixed.values;
    for (std::int64_t& value : out) value = -value;
    return out;
  }
  double scale() const {
    const auto trim = static_cast<std::size_t>(trims.at(0));
    if (blocks.empty()) return vandro::ChangeLocation(fixed.values, trim, 0).scale();
    return vandro::GroupLocation(fixed.values, blocks, trim, static_cast<std::size_t>(trims.at(1)),
                                 0)
        .scale();
  }
};

LocationCase location_case(const std::vector<double>& values, const std::vector<double>& times,
                           const std::vector<double>& sizes, const std::vector<double>& chosen,
                           const std::vector<double>& trims, double beyond, double draws,
                           double seed, int threads) {
  // Sums are multiplied by numbers of values.
  const int room = 60 - static_cast<int>(std::ceil(std::log2(static_cast<double>(values.size()))));
  const double origin = sizes.empty() ? 0.0 : values.at(0);
  return {vandro::fixed_point(values, origin, times, beyond, room),
          glue::as_blocks(sizes, chosen),
          trims,
          static_cast<std::uint64_t>(seed),
          static_cast<std::size_t>(draws),
          threads};
}

}  // namespace

// Trimmed means (`trims`: values left out at each end, of both groups or of changes) in all or in
// `draws` random reassignments: both tails, and for each of `alphas` the limits of the shift, less
// `beyond`, between which neither tail is as small; NA where there is none. `sizes` empty: changes.
// [[Rcpp::export]]
Rcpp::List native_location(std::vector<double> values, std::vector<double> times,
                           std::vector<double> sizes, std::vector<double> chosen,
                           std::vector<double> trims, double beyond, double total, double draws,
                           double seed, int threads, std::vector<double> alphas, double observed,
                           double reach) {
  const LocationCase here =
      location_case(values, times, sizes, chosen, trims, beyond, draws, seed, threads);
  const double extra = draws > 0 ? 1.0 : 0.0;
  // The outermost statistics tell how small p can be.
  vandro::ShiftTails tails(static_cast<std::size_t>(std::min(total, 5000.0)));
  glue::stop_unless(here.run(here.fixed.values, 0, tails));
  const auto tied = [](const std::vector<double>& sorted) {
    return static_cast<double>(std::count(sorted.begin(), sorted.end(), sorted.at(0)));
  };
  const double tied_high = tied(tails.low.sorted()), tied_low = tied(tails.high.sorted());
  const double unit = here.fixed.unit;
  // One limit: the tail that grows with the shift, of the values or of their mirror image.
  const auto limit = [&](const std::vector<std::int64_t>& of, double known, double guess,
                         double alpha) {
    if (vandro::above_level(1.0 / total, alpha)) return NA_REAL;
    const auto tail = [&](double shift) {
      if (std::fabs(shift) > 0x1p61) return shift < 0 ? 0.0 : 1.0;
      vandro::ShiftTails found;
      if (!here.run(of, static_cast<std::int64_t>(shift), found)) return -1.0;
      return (static_cast<double>(found.at_least) + extra) / total;
    };
    const vandro::Crossing at = vandro::find_crossing(tail, alpha, 0.0, known, guess / unit,
                                                      reach / unit, 1.0, 1e-8 * reach / unit);
    glue::stop_unless(at.finished);
    return at.above * unit;
  };
  const double p_low = (static_cast<double>(tails.at_least) + extra) / total;
  const double p_high = (static_cast<double>(tails.at_most) + extra) / total;
  const std::vector<std::int64_t> turned = here.mirrored();
  Rcpp::NumericVector lower(alphas.size()), upper(alphas.size());
  for (std::size_t i = 0; i < alphas.size(); ++i) {
    if (i > 0 && std::fabs(alphas[i] - alphas[0]) <= 1e-12 * alphas[0]) {
      lower[static_cast<R_xlen_t>(i)] = lower[0];
      upper[static_cast<R_xlen_t>(i)] = upper[0];
      continue;
    }
    lower[static_cast<R_xlen_t>(i)] =
        limit(here.fixed.values, p_low, observed - 2.0 * reach, alphas[i]);
    upper[static_cast<R_xlen_t>(i)] = -limit(turned, p_high, -observed - 2.0 * reach, alphas[i]);
  }
  return Rcpp::List::create(_["at_least"] = static_cast<double>(tails.at_least),
                            _["at_most"] = static_cast<double>(tails.at_most), _["lower"] = lower,
                            _["upper"] = upper, _["tied_low"] = tied_low,
                            _["tied_high"] = tied_high);
}

// How many statistics, less the observed one, fall between `breaks`.
// [[Rcpp::export]]
Rcpp::NumericVector native_location_histogram(std::vector<double> values, std::vector<double> times,
                                              std::vector<double> sizes, std::vector<double> chosen,
                                              std::vector<double> trims, double beyond,
                                              double draws, double seed, int threads,
                                              std::vector<double> breaks) {
  const LocationCase here =
      location_case(values, times, sizes, chosen, trims, beyond, draws, seed, threads);
  for (double& at : breaks) at *= here.scale() / here.fixed.unit;
  vandro::Histogram bars(breaks);
  glue::stop_unless(here.run(here.fixed.values, 0, bars));
  return Rcpp::NumericVector(bars.counts.begin(), bars.counts.end());
}
