#include <vandro/rank_bootstrap.hpp>

#include "glue.h"

using Rcpp::_;

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
