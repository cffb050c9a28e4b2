# The weight of evidence beside the test whose t it weighs, and prior widths together beside one at a time.
source("bench/helper.R")
library(vandro)

set.seed(8)
data <- data.frame(height = rnorm(60), substrate = rep(c("compost", "peat"), 30))
small <- versus(data, height, substrate, groups = c("compost", "peat"))
huge <- versus_summary(n = c(1e6, 1e6), mean = c(1, 0), sd = c(1, 1), groups = c("compost", "peat"))
side_by_side(
  "200 times",
  "test_difference(), method student" = repeated(200, function() test_difference(small, "student")),
  "weigh_evidence(), n = 30 + 30" = repeated(200, function() weigh_evidence(small)),
  "weigh_evidence(), interval null" = repeated(200, function() weigh_evidence(small, within = 0.1)),
  "weigh_evidence(), a million a group, t = 707" = repeated(200, function() weigh_evidence(huge))
)
declared <- weigh_evidence(small)
side_by_side(
  "81 prior widths",
  "try_priors()" = function() try_priors(declared),
  "81 calls of weigh_evidence()" = function() {
    for (width in sqrt(2) / 2 * 2^seq(-2, 2, length.out = 81)) weigh_evidence(small, prior_half = width)
  }
)
