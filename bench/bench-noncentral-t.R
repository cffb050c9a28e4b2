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
  "vandro, one by one" = repeated(5, function() for (one in t) vandro:::native_ncp_limits(one, 38, 0.95, 1L)),
  "uniroot over pt(ncp = )" = repeated(5, function() for (one in t) by_hand(one, 38)),
  "vandro, together" = repeated(5, function() vandro:::native_ncp_limits(t, rep(38, 200), 0.95, 1L)),
  rounds = 5
)
one_by_one <- function(t, df) repeated(5, function() for (one in t) vandro:::native_ncp_limits(one, df, 0.95, 1L))
side_by_side(
  "200 intervals of vandro at other places, against the first",
  "t <= 6, df = 38" = one_by_one(t, 38),
  "t <= 6, df = 5.5" = one_by_one(t, 5.5),
  "t = 1000, df = 38" = one_by_one(rep(1000, 200), 38),
  "t = 1000, df = 1e7" = one_by_one(rep(1000, 200), 1e7),
  rounds = 5
)
