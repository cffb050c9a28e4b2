#include <vandro/noncentral_t.hpp>

#include "glue.h"

// Limits of the noncentrality; columns lower and upper, NA where the solver did not converge.
// [[Rcpp::export]]
Rcpp::NumericMatrix native_ncp_limits(Rcpp::NumericVector t, Rcpp::NumericVector df, double level,
                                      int threads) {
  const std::size_t n = glue::common_length({t.size(), df.size()});
  std::vector<vandro::NcpLimits> found;
  glue::stop_unless(vandro::ncp_limits(Rcpp::as<std::vector<double>>(t),
                                       Rcpp::as<std::vector<double>>(df), level, found, threads,
                                       glue::keep_going));
  Rcpp::NumericMatrix out(static_cast<int>(n), 2);
  for (std::size_t i = 0; i < n; ++i) {
    out(i, 0) = found[i].converged ? found[i].lower : NA_REAL;
    out(i, 1) = found[i].converged ? found[i].upper : NA_REAL;
  }
  return out;
}

// Both tails of the noncentral t; columns lower and upper.
// [[Rcpp::export]]
Rcpp::NumericMatrix native_noncentral_t(Rcpp::NumericVector t, Rcpp::NumericVector df,
                                        Rcpp::NumericVector ncp) {
  const std::size_t n = glue::common_length({t.size(), df.size(), ncp.size()});
  Rcpp::NumericMatrix out(static_cast<int>(n), 2);
  for (int i = 0; i < static_cast<int>(n); ++i) {
    const vandro::NoncentralT found = vandro::noncentral_t(t[i], df[i], ncp[i]);
    out(i, 0) = found.lower;
    out(i, 1) = found.upper;
  }
  return out;
}
