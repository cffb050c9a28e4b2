#include "glue.h"

// [[Rcpp::export]]
Rcpp::List native_group_moments(SEXP values, Rcpp::IntegerVector codes, int first, int second) {
  std::array<vandro::Moments, 2> out;
  const auto n = glue::common_length({codes.size(), Rf_xlength(values)});
  glue::stop_unless(glue::with_values(values, [&](auto* x) {
    return vandro::group_moments(x, codes.begin(), n, first, second, out, glue::keep_going);
  }));
  return Rcpp::List::create(glue::as_list(out[0]), glue::as_list(out[1]));
}

// [[Rcpp::export]]
Rcpp::List native_moments(SEXP values) {
  vandro::Moments out;
  const auto n = static_cast<std::size_t>(Rf_xlength(values));
  glue::stop_unless(glue::with_values(
      values, [&](auto* x) { return vandro::moments(x, n, out, glue::keep_going); }));
  return glue::as_list(out);
}
