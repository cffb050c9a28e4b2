# Equivalence beside the test of a difference at n = 20, the curve over 200 bounds, and every method at once.
source("bench/helper.R")
library(vandro)

set.seed(7)
data <- data.frame(height = rnorm(20), substrate = rep(c("compost", "peat"), 10))
small <- versus(data, height, substrate, groups = c("compost", "peat"))
side_by_side(
  "500 times, n = 20",
  "test_difference()" = repeated(500, function() test_difference(small)),
  "test_equivalence()" = repeated(500, function() test_equivalence(small, within = 1)),
  "with bounds in SD units" = repeated(500, function() test_equivalence(small, within = 1, bounds_in = "sd"))
)
declared <- test_equivalence(small, within = 1)
side_by_side(
  "200 bounds",
  "try_bounds()" = function() try_bounds(declared),
  "200 calls of test_equivalence()" = function() {
    for (bound in seq(0.01, 2, length.out = 200)) test_equivalence(small, within = bound)
  }
)

# Continuous values and decimals, groups and pairs of a hundred.
check <- function(n, round) {
  x <- rnorm(n)
  y <- rnorm(n, 0.3)
  if (round) {
    x <- round(x, 1)
    y <- round(y, 1)
  }
  list(
    groups = versus(first = x, second = y, groups = c("compost", "peat")),
    pairs = versus_paired(data.frame(noon = x, dawn = y + x), noon, dawn)
  )
}
quick <- suppressMessages(list(continuous = check(100, FALSE), decimals = check(100, TRUE), fifty = check(50, FALSE)))
side_by_side(
  "cross_check(), permutation among the methods",
  "100 + 100 continuous values" = function() cross_check(quick$continuous$groups, seed = 1),
  "100 + 100 decimals" = function() cross_check(quick$decimals$groups, seed = 1),
  "50 + 50 continuous values" = function() cross_check(quick$fifty$groups, seed = 1),
  "100 pairs of continuous values" = function() cross_check(quick$continuous$pairs, seed = 1),
  "100 pairs of decimals" = function() cross_check(quick$decimals$pairs, seed = 1),
  "50 pairs of continuous values" = function() cross_check(quick$fifty$pairs, seed = 1),
  "100 + 100 values within bounds" = function() cross_check(quick$continuous$groups, within = 0.5, seed = 1),
  rounds = 3
)
