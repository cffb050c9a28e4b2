#include <vandro/counted.hpp>

#include "glue.h"

// [[Rcpp::export]]
Rcpp::List native_counted_moments(Rcpp::NumericVector values, Rcpp::NumericVector counts,
                                  Rcpp::IntegerVector codes, int first, int second) {
  std::array<vandro::Moments, 2> out;
  const auto n = glue::common_length({values.size(), counts.size(), codes.size()});
  glue::stop_unless(vandro::counted_moments(values.begin(), counts.begin(), codes.begin(), n, first,
                                            second, out, glue::keep_going));
  return Rcpp::List::create(glue::as_list(out[0]), glue::as_list(out[1]));
}

// [[Rcpp::export]]
Rcpp::NumericVector native_counted_quantiles(Rcpp::NumericVector values, Rcpp::NumericVector counts,
                                             Rcpp::IntegerVector codes, int wanted,
                                             Rcpp::NumericVector probabilities) {
  const auto n = glue::common_length({values.size(), counts.size(), codes.size()});
  return Rcpp::wrap(vandro::counted_quantiles(values.begin(), counts.begin(), codes.begin(), n,
                                              wanted,
                                              Rcpp::as<std::vector<double>>(probabilities)));
}
