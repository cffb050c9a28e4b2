# 9999 bootstrap samples of two groups of 100, with d and its corrected interval.
source("bench/helper.R")
library(vandro)

set.seed(1)
x <- rnorm(100, 1)
y <- rnorm(100)
study <- versus(first = x, second = y)
by_hand <- function(draws) {
  replicate(draws, {
    a <- sample(x, replace = TRUE)
    b <- sample(y, replace = TRUE)
    (mean(a) - mean(b)) / sqrt((stats::var(a) + stats::var(b)) / 2)
  })
}
boot <- function(threads) function() {
  gauge_effect(study, "d_average", interval = "bootstrap", seed = 1, options = method_options(threads = threads))
}
side_by_side(
  "9999 bootstrap samples, 100 + 100 values",
  "vandro, interval included" = boot(1),
  "vandro, two threads" = boot(2),
  "replicate(sample()), draws only" = function() by_hand(9999),
  rounds = 5
)
