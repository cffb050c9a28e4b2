# Seven moments of 2 x 5e6 values, and Student, Welch, d and g with intervals on top of them. Expected: at
# most 1.2 times sum() over the same data, 5 times faster than mean() and var(), at most 2 ms on top.
source("bench/helper.R")
library(vandro)

set.seed(1)
x <- rnorm(5e6, 20, 3)
y <- rnorm(5e6, 19, 3)
side_by_side(
  "Seven moments, 2 x 5e6 values",
  "vandro, seven moments" = function() {
    vandro:::native_moments(x)
    vandro:::native_moments(y)
  },
  "sum(x), sum(y)" = function() c(sum(x), sum(y)),
  "mean() and var()" = function() c(mean(x), stats::var(x), mean(y), stats::var(y))
)
study <- versus(first = x, second = y)
side_by_side(
  "On top of a declared study: both tests, d and g with intervals (100 times)",
  "test_difference() and gauge_effect()" = repeated(100, function() {
    test_difference(study, c("welch", "student"))
    gauge_effect(study, c("d_pooled", "g"))
  })
)
side_by_side(
  "vet_assumptions(), 2 x 5e6 values, beside two sorts of the data",
  "vet_assumptions()" = function() vet_assumptions(study),
  "sort(x), sort(y)" = function() {
    sort(x)
    sort(y)
  },
  rounds = 3
)
