#include <vandro/noncentral_t.hpp>

#include "glue.h"

// Limits of the noncentrality; columns lower and upper, NA where the solver did not converge.
// [[Rcpp::export]]
Rcpp::NumericMatrix native_ncp_limits(Rcpp::NumericVector t, Rcpp::NumericVector df, double level) {
  const R_xlen_t n = t.size();
  if (df.size() != n) Rcpp::stop("t and df differ in length");
  Rcpp::NumericMatrix out(static_cast<int>(n), 2);
  for (R_xlen_t i = 0; i < n; ++i) {
    const vandro::NcpLimits limits = vandro::ncp_limits(t[i], df[i], level);
    out(i, 0) = limits.converged ? limits.lower : NA_REAL;
    out(i, 1) = limits.converged ? limits.upper : NA_REAL;
    if (i % 1024 == 1023) glue::stop_unless(glue::keep_going());
  }
  return out;
}
