#include <vandro/enumerate.hpp>
#include <vandro/fixed_point.hpp>
#include <vandro/permutation.hpp>

#include "glue-blocks.h"
#include "glue.h"

using Rcpp::_;

namespace {

using Values = std::vector<double>;

Rcpp::List described(vandro::ShiftTails& tails, double unit) {
  Rcpp::NumericVector low = Rcpp::wrap(tails.low.sorted()), high = Rcpp::wrap(tails.high.sorted());
  return Rcpp::List::create(_["at_least"] = static_cast<double>(tails.at_least),
                            _["at_most"] = static_cast<double>(tails.at_most),
                            _["same"] = static_cast<double>(tails.same), _["low"] = low * unit,
                            _["high"] = -unit * high);
}

}  // namespace

// Reassignments of `values`, which stand block by block with the first group's own in front, less
// `beyond`: `draws` random ones, or with 0 all. Keeps the `kept` outermost critical shifts.
// [[Rcpp::export]]
Rcpp::List native_reassign_sums(std::vector<double> values, std::vector<double> times,
                                std::vector<double> sizes, std::vector<double> chosen,
                                double beyond, double draws, double seed, int threads, double kept,
                                double from) {
  const vandro::FixedPoint fixed = vandro::fixed_point(values, values.at(0), times, beyond);
  const std::vector<vandro::Block> blocks = glue::as_blocks(sizes, chosen);
  vandro::ShiftTails tails(static_cast<std::size_t>(kept), fixed.slack());
  glue::stop_unless(
      draws > 0 ? vandro::reassign_sums(fixed.values, blocks, static_cast<std::uint64_t>(seed),
                                        static_cast<std::size_t>(draws), threads, tails,
                                        glue::keep_going, static_cast<std::size_t>(from))
                : vandro::every_sum(fixed.values, blocks, tails, glue::keep_going));
  return described(tails, fixed.unit);
}

// The same for the signs of sums of changes, each standing for `weights` of them.
// [[Rcpp::export]]
Rcpp::List native_flip_sums(std::vector<double> values, std::vector<double> weights, double beyond,
                            double draws, double seed, int threads, double kept, double from) {
  const vandro::FixedPoint fixed = vandro::fixed_point(values, 0.0, weights, beyond);
  vandro::ShiftTails tails(static_cast<std::size_t>(kept), fixed.slack());
  glue::stop_unless(draws > 0
                        ? vandro::flip_sums(fixed.values, weights, static_cast<std::uint64_t>(seed),
                                            static_cast<std::size_t>(draws), threads, tails,
                                            glue::keep_going, static_cast<std::size_t>(from))
                        : vandro::every_flip(fixed.values, weights, tails, glue::keep_going));
  return described(tails, fixed.unit);
}

// Welch's t of centred values, told apart up to `most`.
// [[Rcpp::export]]
Rcpp::List native_reassign_studentized(std::vector<double> values, std::vector<double> sizes,
                                       std::vector<double> chosen, double observed, double slack,
                                       double most, double draws, double seed, int threads,
                                       double kept, double from) {
  const std::vector<vandro::Block> blocks = glue::as_blocks(sizes, chosen);
  vandro::StatisticTails tails(observed, slack, static_cast<std::size_t>(kept), most);
  glue::stop_unless(
      draws > 0 ? vandro::reassign_studentized(values, blocks, static_cast<std::uint64_t>(seed),
                                               static_cast<std::size_t>(draws), threads, tails,
                                               glue::keep_going, static_cast<std::size_t>(from))
                : vandro::every_studentized(values, blocks, tails, glue::keep_going));
  Rcpp::NumericVector low = Rcpp::wrap(tails.low.sorted()), high = Rcpp::wrap(tails.high.sorted());
  return Rcpp::List::create(_["at_least"] = static_cast<double>(tails.at_least),
                            _["at_most"] = static_cast<double>(tails.at_most), _["low"] = low,
                            _["high"] = -high);
}

// How many rises of the first group's sum over the observed one (of the sum of changes with
// `flips`), or values of t (`studentized`), fall between `breaks`.
// [[Rcpp::export]]
Rcpp::NumericVector native_permuted_histogram(std::vector<double> values, std::vector<double> times,
                                              std::vector<double> sizes, std::vector<double> chosen,
                                              double beyond, double draws, double seed, int threads,
                                              std::string statistic, std::vector<double> breaks) {
  const auto seed_of = static_cast<std::uint64_t>(seed);
  const auto count = static_cast<std::size_t>(draws);
  std::vector<std::uint64_t> found;
  if (statistic == "studentized") {
    const std::vector<vandro::Block> blocks = glue::as_blocks(sizes, chosen);
    vandro::Histogram bars(breaks);
    glue::stop_unless(draws > 0
                          ? vandro::reassign_studentized(values, blocks, seed_of, count, threads,
                                                         bars, glue::keep_going)
                          : vandro::every_studentized(values, blocks, bars, glue::keep_going));
    found = bars.counts;
  } else {
    const bool flips = statistic == "flips";
    const vandro::FixedPoint fixed =
        vandro::fixed_point(values, flips ? 0.0 : values.at(0), times, beyond);
    // A flipped sum changes the total twice.
    for (double& at : breaks) at /= fixed.unit * (flips ? 2.0 : 1.0);
    vandro::Histogram bars(breaks);
    if (flips) {
      glue::stop_unless(draws > 0
                            ? vandro::flip_sums(fixed.values, times, seed_of, count, threads, bars,
                                                glue::keep_going)
                            : vandro::every_flip(fixed.values, times, bars, glue::keep_going));
    } else {
      const std::vector<vandro::Block> blocks = glue::as_blocks(sizes, chosen);
      glue::stop_unless(draws > 0
                            ? vandro::reassign_sums(fixed.values, blocks, seed_of, count, threads,
                                                    bars, glue::keep_going)
                            : vandro::every_sum(fixed.values, blocks, bars, glue::keep_going));
    }
    found = bars.counts;
  }
  return Rcpp::NumericVector(found.begin(), found.end());
}
