# What the interface costs at n = 20, against the formula written by hand.
source("bench/helper.R")
library(vandro)

set.seed(2)
data <- data.frame(height = rnorm(20), substrate = rep(c("compost", "peat"), 10))
by_hand <- function() {
  x <- data$height[data$substrate == "compost"]
  y <- data$height[data$substrate == "peat"]
  v <- stats::var(x) / length(x)
  w <- stats::var(y) / length(y)
  se <- sqrt(v + w)
  df <- (v + w)^2 / (v^2 / (length(x) - 1) + w^2 / (length(y) - 1))
  gap <- mean(x) - mean(y)
  data.frame(
    estimate = gap, se = se, lower = gap - stats::qt(0.975, df) * se,
    upper = gap + stats::qt(0.975, df) * se, t = gap / se, df = df,
    p = 2 * stats::pt(-abs(gap / se), df)
  )
}
declared <- versus(data, height, substrate, groups = c("compost", "peat"))
side_by_side(
  "1000 times, n = 20",
  "versus() + test_difference()" = repeated(1000, function() {
    test_difference(versus(data, height, substrate, groups = c("compost", "peat")))
  }),
  "test_difference()" = repeated(1000, function() test_difference(declared)),
  "by hand, returning a data.frame()" = repeated(1000, by_hand)
)
