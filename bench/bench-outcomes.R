# Welch's test with p and interval, and exact intervals of g, for 10,000 outcomes of 200 rows. Expected: at
# least 40 times the loop of the formulas; the intervals of g within 100 ms.
source("bench/helper.R")
library(vandro)

set.seed(1)
rows <- 200
outcomes <- 10000
values <- matrix(rnorm(rows * outcomes, 20, 3), rows)
codes <- sample(rep(1:2, c(90, 110)))
first <- codes == 1

by_loop <- function() {
  out <- matrix(0, outcomes, 4)
  for (j in seq_len(outcomes)) {
    a <- values[first, j]
    b <- values[!first, j]
    va <- stats::var(a) / length(a)
    vb <- stats::var(b) / length(b)
    gap <- mean(a) - mean(b)
    se <- sqrt(va + vb)
    df <- (va + vb)^2 / (va^2 / (length(a) - 1) + vb^2 / (length(b) - 1))
    reach <- stats::qt(0.975, df) * se
    out[j, ] <- c(gap / se, 2 * stats::pt(-abs(gap / se), df), gap - reach, gap + reach)
  }
  out
}
by_columns <- function() {
  a <- values[first, ]
  b <- values[!first, ]
  gap <- colMeans(a) - colMeans(b)
  va <- colSums((a - rep(colMeans(a), each = nrow(a)))^2) / (nrow(a) - 1) / nrow(a)
  vb <- colSums((b - rep(colMeans(b), each = nrow(b)))^2) / (nrow(b) - 1) / nrow(b)
  df <- (va + vb)^2 / (va^2 / (nrow(a) - 1) + vb^2 / (nrow(b) - 1))
  se <- sqrt(va + vb)
  reach <- stats::qt(0.975, df) * se
  cbind(gap / se, 2 * stats::pt(-abs(gap / se), df), gap - reach, gap + reach)
}
welch <- function() vandro:::core_welch_many(values, codes, 1L, 2L, "either", 0, 0.95)
found <- welch()
side_by_side(
  "Welch, p and interval of 10,000 outcomes x 200 rows",
  "vandro" = welch,
  "loop of the formulas" = by_loop,
  "formulas over columns" = by_columns,
  "sum(values), a bare read" = function() sum(values),
  rounds = 5
)
side_by_side(
  "Exact intervals of g for all of them",
  "vandro, together" = function() vandro:::core_g_many(found, 0.95),
  "vandro, one by one" = function() {
    size <- sqrt(90 * 110 / 200)
    d <- found$estimate / sqrt((89 * found$sd_first^2 + 109 * found$sd_second^2) / 198)
    for (t in d * size) vandro:::native_ncp_limits(t, 198, 0.95)
  },
  rounds = 5
)
