#include <vandro/crossing.hpp>
#include <vandro/fixed_point.hpp>
#include <vandro/subset_count.hpp>

#include "glue.h"

using Rcpp::_;

namespace {

// Reassignment of values, or with no `n_first` signs of changes.
struct CountCase {
  vandro::FixedPoint fixed;
  std::vector<double> times;  // how often a shift is taken off each value
  int chosen;                 // -1: signs
  int threads;
  std::function<bool(double)> keep_going;

  // Assignments in which the growing tail lies, at a shift, with `slack` to either side.
  bool count(int sign, std::int64_t shift, std::int64_t slack, std::uint64_t& out) const {
    std::vector<std::int64_t> values = fixed.values;
    std::int64_t observed = 0;
    for (std::size_t i = 0; i < values.size(); ++i) {
      values[i] = sign * values[i] - shift * static_cast<std::int64_t>(times[i]);
      if (chosen < 0) {
        // Flipped changes with a sum of at most 0.
        values[i] = -values[i];
      } else if (times[i] > 0.0) {
        observed += values[i];
      }
    }
    return vandro::SubsetCount(values, chosen).at_least(observed - slack, threads, out, keep_going);
  }
};

// Shifts that count several times in a value need room for that.
vandro::FixedPoint fixed_values(const std::vector<double>& values, const std::vector<double>& times,
                                int n_first, double beyond) {
  const double most = *std::max_element(times.begin(), times.end());
  const int room = 61 - static_cast<int>(std::ceil(std::log2(std::max(1.0, most))));
  return vandro::fixed_point(values, n_first < 0 ? 0.0 : values.at(0), times, beyond, room);
}

}  // namespace

// Tails of a sum under every reassignment (`n_first` of the values, those in front), or every set
// of signs (`n_first` negative), counted. `sign` 1: the tail that grows with the shift, -1: the
// other. `certain`: counted again beyond what rounding could move.
// [[Rcpp::export]]
Rcpp::List native_count_tail(std::vector<double> values, std::vector<double> times, int n_first,
                             double beyond, int sign, bool certain, int threads, SEXP progress) {
  const vandro::FixedPoint fixed = fixed_values(values, times, n_first, beyond);
  const CountCase here{fixed, times, n_first, threads, glue::telling(progress)};
  std::uint64_t outer = 0, inner = 0;
  const std::int64_t slack = fixed.slack();
  glue::stop_unless(here.count(sign, 0, slack, outer));
  if (certain) glue::stop_unless(here.count(sign, 0, -slack - 1, inner));
  return Rcpp::List::create(_["count"] = static_cast<double>(outer),
                            _["beyond"] = certain ? static_cast<double>(inner) : NA_REAL,
                            _["inexact"] = static_cast<double>(fixed.inexact));
}

// The shift, less `beyond`, at which the growing tail passes `alpha`, from a `guess` that is within
// about `reach`; `known`: the tail at 0. With the shifts between which it lies.
// [[Rcpp::export]]
Rcpp::NumericVector native_count_limit(std::vector<double> values, std::vector<double> times,
                                       int n_first, double beyond, int sign, double total,
                                       double alpha, double known, double guess, double reach,
                                       double width, int threads, SEXP progress) {
  const vandro::FixedPoint fixed = fixed_values(values, times, n_first, beyond);
  const CountCase here{fixed, times, n_first, threads, glue::telling(progress)};
  double range = 0.0;
  for (const std::int64_t value : fixed.values) {
    range = std::max(range, 2.0 * std::fabs(static_cast<double>(value)));
  }
  const auto tail = [&](double shift) {
    // Beyond all differences: only the observed assignment is left, or all are.
    if (std::fabs(shift) > 2.0 * range) return shift < 0 ? 0.0 : 1.0;
    std::uint64_t found = 0;
    if (!here.count(sign, static_cast<std::int64_t>(shift), fixed.slack(), found)) return -1.0;
    return static_cast<double>(found) / total;
  };
  const double unit = fixed.unit;
  const vandro::Crossing at =
      vandro::find_crossing(tail, alpha, 0.0, known, guess / unit, reach / unit, 1.0, width / unit);
  glue::stop_unless(at.finished);
  return Rcpp::NumericVector::create(at.interpolated(alpha) * unit, at.below * unit,
                                     at.above * unit);
}

// Half-sums a count passes, for its cost.
// [[Rcpp::export]]
double native_half_sums(int n, int n_first) { return vandro::SubsetCount::half_sums(n, n_first); }
