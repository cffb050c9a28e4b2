// Ranks, their null distributions, and the effect sizes that come from them.
#include <vandro/pairwise.hpp>
#include <vandro/rank_bootstrap.hpp>
#include <vandro/ranks.hpp>
#include <vandro/relative.hpp>
#include <vandro/signed_rank_null.hpp>

#include "glue.h"

using Rcpp::_;

// --- ranks.hpp ---------------------------------------------------------------------------

// Both sorted.
// [[Rcpp::export]]
Rcpp::List native_rank_counts(Rcpp::NumericVector first, Rcpp::NumericVector second) {
  const vandro::RankCounts counts =
      vandro::count_ranks(first.begin(), static_cast<std::size_t>(first.size()), second.begin(),
                          static_cast<std::size_t>(second.size()));
  return Rcpp::List::create(_["n_first"] = static_cast<double>(counts.n_first),
                            _["n_second"] = static_cast<double>(counts.n_second),
                            _["u"] = 0.5 * static_cast<double>(counts.doubled_u),
                            _["equal_pairs"] = static_cast<double>(counts.equal_pairs),
                            _["distinct"] = static_cast<double>(counts.distinct),
                            _["tied"] = static_cast<double>(counts.tied),
                            _["tie_sum"] = counts.tie_sum,
                            _["placement_variance"] = Rcpp::NumericVector::create(
                                counts.placement_variance_first, counts.placement_variance_second));
}

// [[Rcpp::export]]
Rcpp::IntegerVector native_tie_runs(Rcpp::NumericVector first, Rcpp::NumericVector second) {
  return Rcpp::wrap(vandro::tie_runs(first.begin(), static_cast<std::size_t>(first.size()),
                                     second.begin(), static_cast<std::size_t>(second.size())));
}

// [[Rcpp::export]]
Rcpp::NumericVector native_placements(Rcpp::NumericVector of, Rcpp::NumericVector among) {
  return Rcpp::wrap(vandro::placements(of.begin(), static_cast<std::size_t>(of.size()),
                                       among.begin(), static_cast<std::size_t>(among.size())));
}

// Changes, sorted.
// [[Rcpp::export]]
Rcpp::List native_signed_counts(Rcpp::NumericVector changes, bool rank_zeros) {
  const vandro::SignedRankCounts counts = vandro::count_signed_ranks(
      changes.begin(), static_cast<std::size_t>(changes.size()), rank_zeros);
  return Rcpp::List::create(_["n"] = static_cast<double>(counts.n),
                            _["zeros"] = static_cast<double>(counts.zeros),
                            _["plus"] = 0.5 * static_cast<double>(counts.doubled_plus),
                            _["minus"] = 0.5 * static_cast<double>(counts.doubled_minus),
                            _["rank_squares"] = counts.rank_squares,
                            _["tied"] = static_cast<double>(counts.tied), _["runs"] = counts.runs);
}

// --- rank_null.hpp -----------------------------------------------------------------------

namespace {

using Points = Rcpp::NumericVector;

// Tails at the doubled statistics `at` and at both ends, and the limits that keep within each of
// `alphas`.
Rcpp::List described(const vandro::RankNull* null, const Points& at, const Points& alphas) {
  glue::stop_unless(null != nullptr);
  const R_xlen_t n = at.size(), limits = alphas.size();
  Points p_low(n), log_low(n), p_high(n), log_high(n), low(limits), high(limits), tail_low(limits),
      tail_high(limits);
  for (R_xlen_t i = 0; i < n; ++i) {
    const auto w = static_cast<std::int64_t>(at[i]);
    const vandro::Tail below = null->at_most(w), above = null->at_least(w);
    p_low[i] = below.p;
    log_low[i] = below.log_p;
    p_high[i] = above.p;
    log_high[i] = above.log_p;
  }
  for (R_xlen_t i = 0; i < limits; ++i) {
    // Interval and test mostly ask for the same tail.
    if (i > 0 && std::fabs(alphas[i] - alphas[0]) <= 1e-12 * alphas[0]) {
      low[i] = low[0];
      high[i] = high[0];
      tail_low[i] = tail_low[0];
      tail_high[i] = tail_high[0];
      continue;
    }
    const std::int64_t from_below = vandro::low_limit(*null, alphas[i]);
    const std::int64_t from_above = vandro::high_limit(*null, alphas[i]);
    low[i] = static_cast<double>(from_below);
    high[i] = static_cast<double>(from_above);
    tail_low[i] = null->at_most(from_below).p;
    tail_high[i] = null->at_least(from_above).p;
  }
  return Rcpp::List::create(
      _["p_low"] = p_low, _["log_low"] = log_low, _["p_high"] = p_high, _["log_high"] = log_high,
      _["limit_low"] = low, _["limit_high"] = high, _["tail_low"] = tail_low,
      _["tail_high"] = tail_high, _["log_least"] = null->at_most(null->least()).log_p,
      _["log_most"] = null->at_least(null->most()).log_p,
      _["least"] = static_cast<double>(null->least()),
      _["most"] = static_cast<double>(null->most()), _["step"] = static_cast<double>(null->step()));
}

Rcpp::NumericVector described(const vandro::Cost& cost) {
  return Rcpp::NumericVector::create(_["seconds"] = 1e-9 * cost.nanoseconds,
                                     _["bytes"] = cost.bytes);
}

}  // namespace

// Doubled U of the first group; `runs` of equal values, all 1 without ties.
// [[Rcpp::export]]
Rcpp::List native_rank_sum_null(std::vector<int> runs, double n_first, bool tied,
                                Rcpp::NumericVector at, Rcpp::NumericVector alphas) {
  const auto n = static_cast<std::int64_t>(n_first);
  std::unique_ptr<vandro::RankNull> null;
  if (tied) {
    null = vandro::TiedRankSum::make(runs, n, glue::keep_going);
  } else {
    null = vandro::UntiedRankSum::make(n, static_cast<std::int64_t>(runs.size()) - n,
                                       glue::keep_going);
  }
  return described(null.get(), at, alphas);
}

// [[Rcpp::export]]
Rcpp::NumericVector native_rank_sum_cost(double n_first, double n_second, bool tied) {
  return described(tied ? vandro::TiedRankSum::cost(n_first, n_second)
                        : vandro::UntiedRankSum::cost(n_first, n_second));
}

// Doubled sum of the ranks of positive changes; `below`: zeros that took the lowest ranks.
// [[Rcpp::export]]
Rcpp::List native_signed_rank_null(std::vector<int> runs, double below, Rcpp::NumericVector at,
                                   Rcpp::NumericVector alphas) {
  const auto null =
      vandro::SignedRankSum::make(runs, static_cast<std::int64_t>(below), glue::keep_going);
  return described(null.get(), at, alphas);
}

// [[Rcpp::export]]
Rcpp::NumericVector native_signed_rank_cost(double n) {
  return described(vandro::SignedRankSum::cost(n));
}

// --- relative.hpp ------------------------------------------------------------------------

// Every assignment, or with `draws` above 0 that many random ones.
// [[Rcpp::export]]
Rcpp::List native_relative_null(std::vector<int> runs, std::vector<int> in_first, double draws,
                                double seed, int threads) {
  vandro::RelativeNull null;
  glue::stop_unless(draws > 0
                        ? vandro::sample_relative(runs, in_first, static_cast<std::uint64_t>(seed),
                                                  static_cast<std::size_t>(draws), threads, null,
                                                  glue::keep_going)
                        : vandro::enumerate_relative(runs, in_first, null, glue::keep_going));
  return Rcpp::List::create(_["statistics"] = null.statistics, _["logits"] = null.logits,
                            _["weights"] = null.weights, _["at_least"] = null.at_least,
                            _["at_most"] = null.at_most, _["total"] = null.total);
}

// [[Rcpp::export]]
double native_count_assignments(std::vector<int> runs, double n_first) {
  return vandro::count_assignments(runs, static_cast<std::int64_t>(n_first));
}

// --- pairwise.hpp ------------------------------------------------------------------------

// The sums rows[i] + columns[j] of the given ranks, 1 the smallest; with `triangle` those with i <=
// j only.
// [[Rcpp::export]]
Rcpp::NumericVector native_pairwise(std::vector<double> rows, std::vector<double> columns,
                                    bool triangle, Rcpp::NumericVector ranks) {
  std::vector<std::uint64_t> from_zero;
  for (const double rank : ranks) from_zero.push_back(static_cast<std::uint64_t>(rank) - 1);
  std::vector<double> out;
  glue::stop_unless(
      vandro::PairwiseSums(rows, columns, triangle).select(from_zero, out, glue::keep_going));
  return Rcpp::wrap(out);
}

// --- rank_bootstrap.hpp ------------------------------------------------------------------

namespace {

Rcpp::List columns(const std::vector<vandro::DrawnRanks>& drawn) {
  const auto n = static_cast<R_xlen_t>(drawn.size());
  Rcpp::NumericVector share(n), z(n), centre(n);
  for (R_xlen_t i = 0; i < n; ++i) {
    const vandro::DrawnRanks& one = drawn[static_cast<std::size_t>(i)];
    share[i] = one.share;
    z[i] = one.z;
    centre[i] = one.centre;
  }
  return Rcpp::List::create(_["share"] = share, _["z"] = z, _["centre"] = centre);
}

}  // namespace

// Both sorted. Draws `from` .. `to` - 1.
// [[Rcpp::export]]
Rcpp::List native_bootstrap_ranks(std::vector<double> first, std::vector<double> second,
                                  double seed, double from, double to, int threads,
                                  bool with_centre) {
  std::vector<vandro::DrawnRanks> drawn;
  glue::stop_unless(vandro::bootstrap_ranks(
      first, second, static_cast<std::uint64_t>(seed), static_cast<std::size_t>(from),
      static_cast<std::size_t>(to), threads, with_centre, drawn, glue::keep_going));
  return columns(drawn);
}

// [[Rcpp::export]]
Rcpp::List native_bootstrap_signed_ranks(std::vector<double> changes, bool rank_zeros, double seed,
                                         double from, double to, int threads, bool with_centre) {
  std::vector<vandro::DrawnRanks> drawn;
  glue::stop_unless(vandro::bootstrap_signed_ranks(
      changes, rank_zeros, static_cast<std::uint64_t>(seed), static_cast<std::size_t>(from),
      static_cast<std::size_t>(to), threads, with_centre, drawn, glue::keep_going));
  return columns(drawn);
}
