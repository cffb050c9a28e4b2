// Reassignments that are listed or drawn: sums, trimmed means, the largest t.
#include <vandro/crossing.hpp>
#include <vandro/enumerate.hpp>
#include <vandro/fixed_point.hpp>
#include <vandro/location.hpp>
#include <vandro/max_t.hpp>
#include <vandro/permutation.hpp>
#include <vandro/shifted_t.hpp>

#include "glue-blocks.h"
#include "glue.h"

using Rcpp::_;

// --- permutation.hpp ---------------------------------------------------------------------

namespace {

using Values = std::vector<double>;

Values times(Values values, double factor) {
  for (double& value : values) value *= factor;
  return values;
}

Rcpp::List described(vandro::ShiftTails& tails, double unit) {
  return Rcpp::List::create(_["at_least"] = static_cast<double>(tails.at_least),
                            _["at_most"] = static_cast<double>(tails.at_most),
                            _["same"] = static_cast<double>(tails.same),
                            _["low"] = times(tails.low.sorted(), unit),
                            _["high"] = times(tails.high.sorted(), -unit));
}

}  // namespace

// Reassignments of `values`, which stand block by block with the first group's own in front, less
// `beyond`: `draws` random ones, or with 0 all. Keeps the `kept` outermost critical shifts.
// [[Rcpp::export]]
Rcpp::List native_reassign_sums(std::vector<double> values, std::vector<double> times,
                                std::vector<double> sizes, std::vector<double> chosen,
                                double beyond, double draws, double seed, int threads, double kept,
                                double from, double grain) {
  const vandro::FixedPoint fixed =
      vandro::fixed_point(values, values.at(0), times, beyond, 61, grain);
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
                            double draws, double seed, int threads, double kept, double from,
                            double grain) {
  const vandro::FixedPoint fixed = vandro::fixed_point(values, 0.0, weights, beyond, 61, grain);
  vandro::ShiftTails tails(static_cast<std::size_t>(kept), fixed.slack());
  glue::stop_unless(draws > 0
                        ? vandro::flip_sums(fixed.values, weights, static_cast<std::uint64_t>(seed),
                                            static_cast<std::size_t>(draws), threads, tails,
                                            glue::keep_going, static_cast<std::size_t>(from))
                        : vandro::every_flip(fixed.values, weights, tails, glue::keep_going));
  return described(tails, fixed.unit);
}

// Welch's t, told apart up to `most`, of values less their block's mean; critical shifts of the
// first group. `thorough`: with those at which an assignment falls behind the observed one again.
// [[Rcpp::export]]
Rcpp::List native_reassign_studentized(std::vector<double> values, std::vector<double> sizes,
                                       std::vector<double> chosen, double observed, double slack,
                                       double most, double draws, double seed, int threads,
                                       double kept, double from, bool thorough) {
  const std::vector<vandro::Block> blocks = glue::as_blocks(sizes, chosen);
  const vandro::ShiftedValues shifted(values, blocks);
  vandro::ShiftedTails tails(shifted, observed, slack, most, static_cast<std::size_t>(kept),
                             thorough);
  glue::stop_unless(
      draws > 0 ? vandro::reassign_shifted(shifted, blocks, static_cast<std::uint64_t>(seed),
                                           static_cast<std::size_t>(draws), threads, tails,
                                           glue::keep_going, static_cast<std::size_t>(from))
                : vandro::every_shifted(shifted, blocks, tails, glue::keep_going));
  // Shifts from the null value, with which the values came.
  const auto from_null = [&](Values shifts) {
    for (double& shift : shifts) {
      shift = shift == -shifted.estimate() ? 0.0 : shift + shifted.estimate();
    }
    return shifts;
  };
  return Rcpp::List::create(
      _["at_least"] = static_cast<double>(tails.at_least),
      _["at_most"] = static_cast<double>(tails.at_most),
      _["same"] = static_cast<double>(tails.same), _["low"] = from_null(tails.low.sorted()),
      _["high"] = from_null(times(tails.high.sorted(), -1.0)), _["left"] = from_null(tails.left));
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

// --- location.hpp ------------------------------------------------------------------------

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
  // Assignments whose statistic is at least the observed one however far the shift: where these are
  // too many no shift is rejected. Values are coarse here, so that a shift beyond all of them fits.
  template <class Result>
  bool run_far(std::vector<std::int64_t> values, Result& result) const {
    const double n = static_cast<double>(values.size());
    double range = 1.0;
    for (const std::int64_t value : values)
      range = std::max(range, 2.0 * std::fabs(static_cast<double>(value)));
    const double most = 0x1p60 / (8.0 * n * n * n);
    int bits = 0;
    while (std::ldexp(range, -bits) > most) ++bits;
    if (bits > 0) {
      for (std::int64_t& value : values) value >>= bits;
    }
    return run(values,
               -static_cast<std::int64_t>(std::ldexp(range, -bits) + 1.0) * 4 *
                   static_cast<std::int64_t>(values.size()),
               result);
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
                           double seed, int threads, double grain) {
  // Sums are multiplied by numbers of values.
  const int room = 60 - static_cast<int>(std::ceil(std::log2(static_cast<double>(values.size()))));
  const double origin = sizes.empty() ? 0.0 : values.at(0);
  return {vandro::fixed_point(values, origin, times, beyond, room, grain),
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
                           double reach, double grain) {
  const LocationCase here =
      location_case(values, times, sizes, chosen, trims, beyond, draws, seed, threads, grain);
  const double extra = draws > 0 ? 1.0 : 0.0;
  // The outermost statistics tell how small p can be.
  const std::int64_t slack = here.fixed.slack_of_mean(here.scale());
  vandro::ShiftTails tails(static_cast<std::size_t>(std::min(total, 5000.0)), slack);
  glue::stop_unless(here.run(here.fixed.values, 0, tails));
  const auto tied = [](const std::vector<double>& sorted) {
    return static_cast<double>(std::count(sorted.begin(), sorted.end(), sorted.at(0)));
  };
  const double tied_high = tied(tails.low.sorted()), tied_low = tied(tails.high.sorted());
  const double unit = here.fixed.unit;
  // One limit: the tail that grows with the shift, of the values or of their mirror image.
  const auto limit = [&](const std::vector<std::int64_t>& of, double known, double guess,
                         double alpha) {
    const auto tail = [&](double shift) {
      if (std::fabs(shift) > 0x1p61) return shift < 0 ? 0.0 : 1.0;
      vandro::ShiftTails found(0, slack);
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
  const auto far_tail = [&](const std::vector<std::int64_t>& of) {
    vandro::ShiftTails found;
    glue::stop_unless(here.run_far(of, found));
    return (static_cast<double>(found.at_least) + extra) / total;
  };
  const double far_low = far_tail(here.fixed.values), far_high = far_tail(turned);
  Rcpp::NumericVector lower(alphas.size()), upper(alphas.size()), ends(2, NA_REAL);
  bool none = false;
  for (std::size_t i = 0; i < alphas.size(); ++i) {
    if (i > 0 && std::fabs(alphas[i] - alphas[0]) <= 1e-12 * alphas[0]) {
      lower[static_cast<R_xlen_t>(i)] = lower[0];
      upper[static_cast<R_xlen_t>(i)] = upper[0];
      continue;
    }
    const bool no_low = vandro::above_level(far_low, alphas[i]);
    const bool no_high = vandro::above_level(far_high, alphas[i]);
    none = none || no_low || no_high;
    lower[static_cast<R_xlen_t>(i)] =
        no_low ? NA_REAL : limit(here.fixed.values, p_low, observed - 2.0 * reach, alphas[i]);
    upper[static_cast<R_xlen_t>(i)] =
        no_high ? NA_REAL : -limit(turned, p_high, -observed - 2.0 * reach, alphas[i]);
  }
  // The widest interval that can be had, at the level that leaves out what no shift rejects.
  if (none && far_low + far_high < 1.0) {
    ends[0] = limit(here.fixed.values, p_low, observed - 2.0 * reach, far_low);
    ends[1] = -limit(turned, p_high, -observed - 2.0 * reach, far_high);
  }
  return Rcpp::List::create(_["at_least"] = static_cast<double>(tails.at_least),
                            _["at_most"] = static_cast<double>(tails.at_most), _["lower"] = lower,
                            _["upper"] = upper, _["ends"] = ends,
                            _["widest"] = 1.0 - far_low - far_high, _["tied_low"] = tied_low,
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
      location_case(values, times, sizes, chosen, trims, beyond, draws, seed, threads, 0.0);
  for (double& at : breaks) at *= here.scale() / here.fixed.unit;
  vandro::Histogram bars(breaks);
  glue::stop_unless(here.run(here.fixed.values, 0, bars));
  return Rcpp::NumericVector(bars.counts.begin(), bars.counts.end());
}

// --- max_t.hpp ---------------------------------------------------------------------------

// Draws `from` to `to` of the joint reassignments of all columns of `values`, or of the list of all
// of them.
// [[Rcpp::export]]
Rcpp::List native_max_t(Rcpp::NumericMatrix values, std::vector<double> sizes,
                        std::vector<double> chosen, std::string kind, int sides, bool all,
                        double seed, double from, double to, int threads) {
  vandro::JointOutcomes outcomes;
  outcomes.values = values.begin();
  outcomes.rows = static_cast<std::size_t>(values.nrow());
  outcomes.columns = static_cast<std::size_t>(values.ncol());
  outcomes.blocks = glue::as_blocks(sizes, chosen);
  outcomes.kind = kind == "student"   ? vandro::JointKind::student
                  : kind == "changes" ? vandro::JointKind::changes
                                      : vandro::JointKind::welch;
  outcomes.sides = sides;
  vandro::MaxT found;
  glue::stop_unless(vandro::max_t(outcomes, all, static_cast<std::uint64_t>(seed),
                                  static_cast<std::size_t>(from), static_cast<std::size_t>(to),
                                  threads, found, glue::keep_going));
  return Rcpp::List::create(_["observed"] = found.observed, _["single"] = found.single,
                            _["stepped"] = found.stepped, _["largest"] = found.largest);
}
