# 10,000 outcomes of 200 rows: Welch's test with p and interval, g with its exact interval, and the largest t of all
# outcomes over 10,000 joint reassignments. Expected: test and g at least 30 times the loop of the formulas; the largest
# t at least 50 times a loop over reassignments and 10 times two matrix products; an answer of 10,000 rows within 50 ms
# of its numbers.
source("bench/helper.R")
library(vandro)

set.seed(1)
rows <- 200
outcomes <- 10000
values <- matrix(rnorm(rows * outcomes, 20, 3), rows)
side <- sample(rep(c("compost", "peat"), c(90, 110)))
data <- as.data.frame(values)
names(data) <- sprintf("y%05d", seq_len(outcomes))
columns <- names(data)
data$side <- side
first <- side == "compost"

# What an analyst writes: the formulas, and the noncentrality by root-finding. On every hundredth outcome.
by_loop <- function(which = seq(1, outcomes, by = 100)) {
  size <- sqrt(90 * 110 / 200)
  correction <- exp(lgamma(198 / 2) - lgamma(197 / 2)) / sqrt(198 / 2)
  for (j in which) {
    a <- values[first, j]
    b <- values[!first, j]
    va <- stats::var(a) / length(a)
    vb <- stats::var(b) / length(b)
    gap <- mean(a) - mean(b)
    df <- (va + vb)^2 / (va^2 / (length(a) - 1) + vb^2 / (length(b) - 1))
    reach <- stats::qt(0.975, df) * sqrt(va + vb)
    found <- c(gap / sqrt(va + vb), 2 * stats::pt(-abs(gap / sqrt(va + vb)), df), gap - reach, gap + reach)
    pooled <- sqrt((89 * stats::var(a) + 109 * stats::var(b)) / 198)
    t <- gap / pooled * size
    limit <- function(tail) {
      stats::uniroot(function(ncp) stats::pt(t, 198, ncp) - tail, t + c(-5, 5), tol = 1e-9, extendInt = "yes")$root
    }
    found <- c(found, gap / pooled * correction, limit(0.975) / size * correction, limit(0.025) / size * correction)
  }
}
study <- versus(data, tidyselect::all_of(columns), side, groups = c("compost", "peat"))
ours <- function(threads = 1) {
  test_difference(study)
  gauge_effect(study, "g", options = method_options(threads = threads))
}
side_by_side("Welch, p, interval, g and its exact interval: 10,000 outcomes x 200 rows",
  "vandro: both answers" = ours,
  "vandro: both answers, two threads" = function() ours(2),
  "loop of the formulas, 100 outcomes (x 100)" = by_loop,
  "vandro: declaration" = function() versus(data, tidyselect::all_of(columns), side, groups = c("compost", "peat")),
  rounds = 5
)
m <- vandro:::core_join_moments(lapply(study$outcomes, `[[`, "moments"))
numbers <- function() {
  error <- vandro:::core_welch_errors(m[[1]], m[[2]])
  vandro:::core_t_inference(vandro:::core_mean_gap(m[[1]], m[[2]]), error$se, error$df, 0, "either", 0.95, 0.05)
}
side_by_side("An answer of 10,000 rows",
  "its numbers alone" = numbers, "test_difference()" = function() test_difference(study), rounds = 15
)

joint <- list(
  values = values[order(!first), ], sizes = 200, chosen = 90, kind = "welch", expect = "either", all = FALSE, seed = 1
)
draws <- 10000
sorted <- joint$values
t_of <- function(mask) {
  a <- sorted[mask, ]
  b <- sorted[!mask, ]
  va <- (colMeans(a^2) - colMeans(a)^2) / 89
  vb <- (colMeans(b^2) - colMeans(b)^2) / 109
  max(abs(colMeans(a) - colMeans(b)) / sqrt(va + vb))
}
loop <- function(times = 20) for (k in seq_len(times)) t_of(seq_len(200) %in% sample.int(200, 90))
products <- function(times = 100) {
  masks <- t(replicate(times, as.double(seq_len(200) %in% sample.int(200, 90))))
  total <- colSums(sorted)
  squares <- colSums(sorted^2)
  s <- masks %*% sorted
  q <- masks %*% sorted^2
  rest <- rep(total, each = times) - s
  va <- (q - s^2 / 90) / (90 * 89)
  vb <- (rep(squares, each = times) - q - rest^2 / 110) / (110 * 109)
  apply(abs(s / 90 - rest / 110) / sqrt(va + vb), 1, max)
}
ratio <- side_by_side(sprintf("The largest t of 10,000 outcomes, %d reassignments", draws),
  "vandro, 1 thread" = function() vandro:::core_max_t_share(joint, 0, draws),
  "vandro, 2 threads" = function() vandro:::core_max_t_share(joint, 0, draws, threads = 2),
  "loop of columns, 20 reassignments" = loop,
  "two matrix products, 100 reassignments" = products,
  rounds = 3
)
cat(sprintf("  loop / vandro: %.0f; products / vandro: %.0f\n", ratio[[3]] * draws / 20, ratio[[4]] * draws / 100))
