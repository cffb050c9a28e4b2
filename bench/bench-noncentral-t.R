# Exact limits of the noncentrality against what an analyst writes by hand: root finding over the
# language's own noncentral t, which is right only up to a noncentrality of about 37.
source("bench/helper.R")

by_hand <- function(t, df) {
  lower <- stats::uniroot(function(d) stats::pt(t, df, d, lower.tail = FALSE) - 0.025, c(t - 8, t), tol = 1e-10)
  upper <- stats::uniroot(function(d) stats::pt(t, df, d) - 0.025, c(t, t + 8), tol = 1e-10)
  c(lower$root, upper$root)
}
t <- seq(0.1, 6, length.out = 200)
side_by_side(
  "200 intervals, df = 38, |t| <= 6",
  "vandro" = repeated(5, function() vandro:::native_ncp_limits(t, rep(38, 200), 0.95)),
  "uniroot over pt(ncp = )" = repeated(5, function() for (one in t) by_hand(one, 38)),
  rounds = 5
)
side_by_side(
  "200 intervals of vandro at other places, against the first",
  "t <= 6, df = 38" = repeated(20, function() vandro:::native_ncp_limits(t, rep(38, 200), 0.95)),
  "t <= 6, df = 5.5" = repeated(20, function() vandro:::native_ncp_limits(t, rep(5.5, 200), 0.95)),
  "t = 1000, df = 38" = repeated(20, function() vandro:::native_ncp_limits(rep(1000, 200), rep(38, 200), 0.95)),
  "t = 1000, df = 1e7" = repeated(20, function() vandro:::native_ncp_limits(rep(1000, 200), rep(1e7, 200), 0.95)),
  rounds = 5
)
