#include <vandro/bootstrap.hpp>

#include "glue.h"

namespace {

using Doubles = std::vector<double>;

Rcpp::NumericVector column(const std::vector<vandro::DrawnMoments>& drawn,
                           double vandro::DrawnMoments::*part) {
  Rcpp::NumericVector out(static_cast<R_xlen_t>(drawn.size()));
  for (std::size_t i = 0; i < drawn.size(); ++i) out[static_cast<R_xlen_t>(i)] = drawn[i].*part;
  return out;
}

}  // namespace

// Draws `from` .. `to` - 1; seeds and numbers of draws are whole numbers below 2^53.
// [[Rcpp::export]]
Rcpp::List native_bootstrap_groups(Rcpp::NumericVector first, Rcpp::NumericVector second,
                                   double seed, double from, double to, int threads) {
  using Rcpp::_;
  using vandro::DrawnMoments;
  std::vector<DrawnMoments> a, b;
  glue::stop_unless(
      vandro::bootstrap_groups(Rcpp::as<Doubles>(first), Rcpp::as<Doubles>(second),
                               static_cast<std::uint64_t>(seed), static_cast<std::size_t>(from),
                               static_cast<std::size_t>(to), threads, a, b, glue::keep_going));
  return Rcpp::List::create(_["mean_first"] = column(a, &DrawnMoments::mean),
                            _["var_first"] = column(a, &DrawnMoments::variance),
                            _["mean_second"] = column(b, &DrawnMoments::mean),
                            _["var_second"] = column(b, &DrawnMoments::variance));
}

// [[Rcpp::export]]
Rcpp::List native_bootstrap_pairs(Rcpp::NumericVector first, Rcpp::NumericVector second,
                                  double seed, double from, double to, int threads) {
  using Rcpp::_;
  using vandro::DrawnMoments;
  glue::common_length({first.size(), second.size()});
  std::vector<vandro::DrawnPairs> drawn;
  glue::stop_unless(
      vandro::bootstrap_pairs(Rcpp::as<Doubles>(first), Rcpp::as<Doubles>(second),
                              static_cast<std::uint64_t>(seed), static_cast<std::size_t>(from),
                              static_cast<std::size_t>(to), threads, drawn, glue::keep_going));
  std::vector<DrawnMoments> a, b;
  Rcpp::NumericVector covariance(static_cast<R_xlen_t>(drawn.size()));
  for (std::size_t i = 0; i < drawn.size(); ++i) {
    a.push_back(drawn[i].first);
    b.push_back(drawn[i].second);
    covariance[static_cast<R_xlen_t>(i)] = drawn[i].covariance;
  }
  return Rcpp::List::create(_["mean_first"] = column(a, &DrawnMoments::mean),
                            _["var_first"] = column(a, &DrawnMoments::variance),
                            _["mean_second"] = column(b, &DrawnMoments::mean),
                            _["var_second"] = column(b, &DrawnMoments::variance),
                            _["covariance"] = covariance);
}
