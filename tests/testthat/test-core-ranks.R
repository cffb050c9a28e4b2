# Everything by brute force: ranks by rank(), assignments one by one, all differences formed.

samples_of <- function(first, second, beyond = 0) core_rank_samples(first, second, beyond)

infer_ranks <- function(first, second, beyond = 0, expect = "either", level = 0.95, alpha = 0.05, exact = TRUE) {
  samples <- samples_of(first, second, beyond)
  core_rank_inference(samples, core_rank_counts(samples), expect, level, alpha, exact)
}

# U of every assignment of the pooled values to groups of these sizes.
all_u <- function(first, second) {
  ranks <- rank(c(first, second))
  n <- length(first)
  colSums(matrix(ranks[utils::combn(length(ranks), n)], n)) - n * (n + 1) / 2
}

# Places of the limits by counting assignments: the largest k with P(U <= k - 1) <= alpha, from both ends.
all_u_tails <- function(first, second, alpha) {
  u <- all_u(first, second)
  pairs <- length(first) * length(second)
  within <- function(tail) sum(vapply(0:pairs, tail, 0) <= alpha * (1 + 1e-12))
  upper <- within(function(k) mean(u <= k))
  lower <- within(function(k) mean(u >= pairs - k))
  kept <- function(tails) max(0, tails[tails <= alpha * (1 + 1e-12)])
  at <- unique(u)
  list(
    lower = lower, upper = upper,
    tails = kept(vapply(at, function(a) mean(u <= a), 0)) + kept(vapply(at, function(a) mean(u >= a), 0))
  )
}

tied_pairs <- list(
  list(c(1, 2, 2, 5), c(2, 3, 3, 4, 4)),
  list(c(3, 3, 3, 1, 7, 7), c(3, 7, 9, 9, 9)),
  list(c(0.3, 0.5, 0.7), c(0.1, 0.2, 0.3, 0.4, 0.45)),
  list(c(1, 5), c(2, 3, 4, 6, 7, 8, 9)),
  list(c(2, 2, 2, 2, 3), c(2, 3))
)

test_that("U counts pairs, and both orders add up to all of them", {
  for (pair in tied_pairs) {
    gaps <- outer(pair[[1]], pair[[2]], "-")
    counts <- core_rank_counts(samples_of(pair[[1]], pair[[2]]))
    opposite <- core_rank_counts(samples_of(pair[[2]], pair[[1]]))
    expect_identical(counts$u, sum(gaps > 0) + sum(gaps == 0) / 2)
    expect_identical(counts$u + opposite$u, counts$pairs)
    expect_identical(counts$z, -opposite$z)
    u <- all_u(pair[[1]], pair[[2]])
    expect_equal(counts$sd, sqrt(mean((u - mean(u))^2)))
  }
})

test_that("without ties sizes tell the whole distribution", {
  u <- all_u(c(1.5, 4, 9), c(2, 3, 7, 8))
  counts <- list(n_first = 3, n_second = 4)
  expect_relative(core_untied_curve(counts, FALSE, 0:12), vapply(0:12, function(at) mean(u <= at), 0), 1e-15)
  w <- as.matrix(expand.grid(rep(list(0:1), 4))) %*% 1:4
  counts <- list(n = 6, zeros = 2)
  expect_relative(core_untied_curve(counts, TRUE, 0:10), vapply(0:10, function(at) mean(w <= at), 0), 1e-15)
  # Doubled statistics: W <= 3 is 6 in twice W.
  expect_relative(core_untied_counts(counts, TRUE, 6, double())$p_low, mean(w <= 3), 1e-15)
})

test_that("exact p with ties is a count of assignments over their number", {
  for (pair in tied_pairs) {
    u <- all_u(pair[[1]], pair[[2]])
    observed <- core_rank_counts(samples_of(pair[[1]], pair[[2]]))$u
    high <- mean(u >= observed)
    low <- mean(u <= observed)
    p <- function(expect) infer_ranks(pair[[1]], pair[[2]], expect = expect)$p
    expect_relative(c(p("higher"), p("lower")), c(high, low), 1e-15)
    expect_relative(p("either"), min(1, 2 * min(high, low)), 1e-15)
  }
})

test_that("tails agree with whole numbers of any size to 1e-12", {
  reference <- utils::read.csv(test_path("reference/rank_null.csv"), colClasses = c(runs = "character"))
  expect_gt(nrow(reference), 150)
  runs_of <- function(text) {
    parts <- lapply(strsplit(strsplit(text, " ")[[1]], "x"), as.integer)
    rep(vapply(parts, `[[`, 0L, 1), vapply(parts, `[[`, 0L, 2))
  }
  for (text in unique(paste(reference$kind, reference$n_first, reference$below, reference$runs))) {
    rows <- reference[paste(reference$kind, reference$n_first, reference$below, reference$runs) == text, ]
    runs <- runs_of(rows$runs[[1]])
    found <- if (rows$kind[[1]] == "sum") {
      native_rank_sum_null(runs, rows$n_first[[1]], any(runs > 1), rows$w, double())
    } else {
      native_signed_rank_null(runs, rows$below[[1]], rows$w, double())
    }
    seen <- rows$p_low > 1e-300
    expect_relative(found$p_low[seen], rows$p_low[seen], 1e-12)
    known <- !is.na(rows$p_high) & rows$p_high > 1e-300
    if (any(known)) expect_relative(found$p_high[known], rows$p_high[known], 1e-12)
  }
})

test_that("the shift is the middle of all differences, and its limits are theirs, found without forming them", {
  set.seed(31)
  for (round in 1:30) {
    first <- sample(round, 4 + round %% 4, replace = TRUE) / 10
    second <- sample(round + 2, 6, replace = TRUE) / 10
    found <- infer_ranks(first, second)
    if (!is.null(found$reason)) next
    # In whole tenths: exact.
    gaps <- sort(outer(round(10 * first), round(10 * second), "-")) / 10
    expect_equal(found$estimate, stats::median(gaps), tolerance = 1e-15)
    u <- all_u_tails(first, second, 0.025)
    expect_identical(found$lower, if (u$lower < 1) NA_real_ else gaps[[u$lower]])
    expect_identical(found$upper, if (u$upper < 1) NA_real_ else rev(gaps)[[u$upper]])
    if (!is.na(found$true_level)) expect_relative(found$true_level, 1 - u$tails, 1e-12)
  }
})

test_that("the interval excludes a shift exactly when the test of that shift rejects it, without ties at it", {
  set.seed(32)
  for (round in 1:40) {
    first <- round(stats::rnorm(7, 1), 2)
    second <- round(stats::rnorm(8), 2)
    beyond <- round(stats::runif(1, -2, 3), 2) + 0.005
    found <- infer_ranks(first, second, beyond)
    excluded <- found$lower > beyond || found$upper < beyond
    expect_identical(excluded, found$p <= 0.05)
    one_sided <- infer_ranks(first, second, beyond, "higher")
    expect_identical(one_sided$at_least > beyond, one_sided$p <= 0.05)
    # Just outside the limit the test rejects (ties within a group would change its distribution).
    if (anyDuplicated(c(first, second))) next
    expect_lte(infer_ranks(first, second, found$lower - 0.001)$p, 0.05)
    expect_gt(infer_ranks(first, second, found$lower + 0.001)$p, 0.05)
  }
})

test_that("a tail of just alpha is significant", {
  # 3 + 3 separated: one of 20 assignments on each side.
  expect_identical(infer_ranks(1:3, 4:6)$p, 0.1)
  found <- infer_ranks(1:3, 4:6, level = 0.9, alpha = 0.1)
  expect_identical(c(found$lower, found$upper), c(-5, -1))
  expect_identical(found$critical_low, 0)
  expect_identical(found$tail_low, 0.05)
  expect_true(is.na(infer_ranks(1:3, 4:6, level = 0.901)$lower))
})

test_that("critical limits have the tails that are printed with them", {
  first <- c(1, 2, 2, 5, 6, 9)
  second <- c(2, 3, 3, 4, 4, 8, 8)
  u <- all_u(first, second)
  for (expect in c("either", "higher", "lower")) {
    found <- infer_ranks(first, second, expect = expect, alpha = 0.1)
    bound <- if (expect == "either") 0.05 else 0.1
    if (expect != "higher") {
      expect_relative(found$tail_low, mean(u <= found$critical_low), 1e-14)
      expect_lte(found$tail_low, bound)
      expect_gt(mean(u <= found$critical_low + 0.5), bound)
    }
    if (expect != "lower") {
      expect_relative(found$tail_high, mean(u >= found$critical_high), 1e-14)
      expect_gt(mean(u >= found$critical_high - 0.5), bound)
    }
  }
  expect_identical(is.na(infer_ranks(first, second, expect = "higher")$critical_low), TRUE)
})

test_that("equality is that of the decimals", {
  counts <- core_rank_counts(samples_of(c(0.3, 1.1), c(0.1 + 0.2, 0.8)))
  expect_identical(counts$equal_pairs, 1)
  # Shifted by a decimal: 0.3 - 0.2 is 0.1.
  counts <- core_rank_counts(samples_of(c(0.3, 0.7), c(0.1, 0.4), 0.2))
  expect_identical(counts$equal_pairs, 1)
  expect_identical(core_whole_steps(list(c(0.3, 1.25), 2))$power, 100)
  expect_identical(core_whole_steps(list(pi, 2))$power, 1)
})

test_that("the normal approximation is the one printed in METHODS, with its correction towards the mean", {
  first <- c(1, 2, 2, 5, 6, 9)
  second <- c(2, 3, 3, 4, 4, 8, 8)
  counts <- core_rank_counts(samples_of(first, second))
  ties <- table(c(first, second))
  sd <- sqrt(42 / 12 * (14 - sum(ties^3 - ties) / (13 * 12)))
  z <- (abs(counts$u - 21) - 0.5) / sd
  found <- infer_ranks(first, second, exact = FALSE)
  expect_relative(found$p, 2 * stats::pnorm(-z), 1e-13)
  expect_identical(found$kind, "asymptotic")
  # At the mean nothing is left to correct.
  expect_identical(infer_ranks(c(1, 4), c(2, 3), exact = FALSE)$p, 1)
  # Far out, the logarithm stays.
  far <- infer_ranks(1:4000 + 0.5, 5001:9000, exact = FALSE)
  expect_lt(far$log_p, -2900)
  expect_gt(far$p, 0)
  # Counted: one assignment of C(1760, 260) on either side, below the smallest double.
  apart <- infer_ranks(1:260, 261:1760)
  expect_relative(apart$log_p, log(2) - lchoose(1760, 260), 1e-13)
})

test_that("normal and exact distributions come together", {
  set.seed(33)
  first <- sample(40, 150, replace = TRUE)
  second <- sample(40, 150, replace = TRUE)
  near <- infer_ranks(first, second, exact = FALSE)
  exact <- infer_ranks(first, second)
  expect_equal(near$p, exact$p, tolerance = 1e-3)
  expect_identical(near$lower, exact$lower)
})

test_that("degenerate samples have a reason, extreme ones an answer", {
  expect_identical(infer_ranks(c(2, 2), c(2, 2, 2))$reason, "no_spread")
  one <- infer_ranks(5, c(1, 2, 3))
  expect_identical(c(one$estimate, one$p, one$p_smallest), c(3, 0.5, 0.5))
  expect_identical(one$widest, list(lower = 2, upper = 4, level = 0.5))
  expect_identical(infer_ranks(c(-1.7e308, 0), c(1.7e308, 1))$reason, "out_of_range")
  tiny <- infer_ranks(zoo$tiny, zoo$tiny * 3 + 1e-160)
  expect_true(is.finite(tiny$estimate))
  expect_equal(infer_ranks(zoo$offset, zoo$offset + 0.3)$estimate, -0.3, tolerance = 1e-6)
})

test_that("pairwise values are picked by place, missing places stay missing", {
  expect_identical(core_pairwise_at(c(1, 4), c(0, 2), c(1, NA, 4, 1)), c(-1, NA, 4, -1))
  expect_identical(core_pairwise_at(c(1, 4), NULL, 1:3), c(2, 5, 8))
  expect_missing(core_pairwise_at(c(1, 4), NULL, NA))
})

test_that("the cost model knows what is out of reach", {
  expect_true(core_rank_sum_cost(100, 100, TRUE)$seconds < 0.1)
  expect_false(core_rank_sum_cost(3000, 3000, TRUE)$possible)
  # Numbers of subsets of half the ranks still fit, those of all would not.
  expect_true(core_rank_sum_cost(900, 900, TRUE)$possible)
  expect_true(core_rank_sum_cost(10, 3000, TRUE)$possible)
  expect_gt(core_rank_sum_cost(1e6, 1e6, TRUE)$seconds, 1e9)
  expect_false(core_rank_sum_cost(1e6, 1e6, FALSE)$possible)
})

test_that("decimals are counted in whole steps, other numbers stay", {
  whole <- list(parts = list(c(3, 1), 2), power = 1, whole = TRUE, near = 0)
  expect_identical(core_whole_steps(list(c(3, 1), 2L)), whole)
  expect_identical(core_whole_steps(list(c(0.3, 0.25)))[c("power", "whole")], list(power = 100, whole = TRUE))
  expect_identical(core_whole_steps(list(pi)), list(parts = list(pi), power = 1, whole = FALSE, near = 2^-46 * pi))
})

test_that("a null value other than 0 moves the first sample, and its ties with it", {
  moved <- core_rank_samples(c(4, 6, 7, 7), c(2, 5, 5, 8), 2)
  plain <- core_rank_samples(c(4, 6, 7, 7) - 2, c(2, 5, 5, 8))
  expect_identical(
    core_rank_sum_null(core_rank_counts(moved), moved, TRUE, c(0.1, 0.1)),
    core_rank_sum_null(core_rank_counts(plain), plain, TRUE, c(0.1, 0.1))
  )
})

test_that("the curve of U ends in 1", {
  samples <- samples_of(c(1, 2, 2), c(2, 3, 4))
  counts <- core_rank_counts(samples)
  expect_equal(core_rank_sum_curve(samples, counts, c(-1, 9)), c(0, 1))
  # Three ranks of 1, 3, 3, 3, 5, 6: U is their sum less 6, and 7, of 1 + 3 + 3, the least of all; then 9 and 10.
  expect_equal(core_rank_sum_curve(samples, counts, c(0.5, 1, 2.9, 3, 4)), c(0, 3, 3, 7, 10) / 20)
  lattice <- list(least = 3, step = 2, low = c(NA, 8), high = c(NA, 8))
  expect_identical(c(core_on_lattice(lattice, "low"), core_on_lattice(lattice, "high")), c(7, 9))
  null <- core_rank_sum_null(counts, samples, TRUE, 0.3)
  expect_identical(core_limit_places(null, 9, 9)$upper, 10 - (floor(null$low) + 1))
  expect_identical(core_rank_p(null, "either")$p, min(1, 2 * min(null$p_low, null$p_high)))
  null <- core_rank_sum_null(counts, samples, TRUE, c(0.3, 0.3))
  expect_true(core_on_lattice(null, "low") %in% seq(null$least, null$most, by = null$step))
  expect_true(core_on_lattice(null, "high") %in% seq(null$least, null$most, by = null$step))
})

test_that("doubled statistics of the count become single ones, and its ends give the smallest tails", {
  found <- native_rank_sum_null(rep(1L, 6), 3, FALSE, 4, 0.2)
  null <- core_exact_null(found)
  expect_identical(c(null$least, null$most, null$step), c(0, 9, 1))
  expect_equal(exp(null$log_smallest), c(low = 1, high = 1) / 20)
  expect_identical(null$p_low, 4 / 20)
})

test_that("the normal distribution has limits within alpha that lie symmetrically", {
  null <- core_normal_null(30, 50, 12, FALSE, c(0.025, 1e-9), 100)
  expect_lte(null$tail_low[[1]], 0.025)
  expect_identical(null$low + null$high, c(100, 100))
  expect_gt(stats::pnorm((null$low[[1]] + 1 + 0.5 - 50) / 12), 0.025)
  expect_identical(core_normal_null(30, 50, 12, TRUE, 0.025, 100)$low %% 0.5, 0)
  # No value so far out.
  expect_identical(c(null$low[[2]], null$tail_low[[2]], null$tail_high[[2]]), c(-1, 0, 0))
})

test_that("centre and limits come in the unit of the outcome, NA where there is no place", {
  found <- core_centre_and_limits(c(10, 30), c(0, 10), list(lower = c(1, NA), upper = c(4, NA)), 4, c(0, 30), 10)
  expect_identical(found[c("centre", "lower", "upper")], list(centre = 1.5, lower = c(0, NA), upper = c(3, NA)))
  expect_identical(found$ends, c(0, 3))
  samples <- core_rank_samples(1:3, 4:6)
  null <- core_rank_sum_null(core_rank_counts(samples), samples, TRUE, c(0.05, 0.05))
  shift <- list(centre = -3, lower = c(-5, -5), upper = c(-1, -1), ends = c(-5, -1))
  answer <- core_rank_answer(null, shift, 0, 9, -1.96, "lower", 0.05)
  expect_identical(c(answer$at_least, answer$at_most, answer$critical_high), c(NA, -1, NA))
  expect_relative(answer$true_level, 0.9, 1e-14)
})

test_that("without ties sizes are enough for the exact distribution", {
  samples <- core_rank_samples(c(3, 1, 9, 12), c(2, 4, 5, 10, 11))
  counts <- core_rank_counts(samples)
  expect_identical(
    core_untied_null(counts, FALSE, c(0.025, 0.1)), core_rank_sum_null(counts, samples, TRUE, c(0.025, 0.1))
  )
  changes <- core_change_sample(c(3, -1, 9, 12, 0, 0, -2))
  counts <- core_signed_counts(changes, "drop")
  expect_identical(core_untied_null(counts, TRUE, c(0.025, 0.2)), core_signed_rank_null(counts, TRUE, c(0.025, 0.2)))
})

test_that("the smallest p is compared with alpha as a count over a count", {
  expect_identical(core_smallest_p(log(1 / 20), 0.3), 1 / 20)
  expect_identical(core_smallest_p(log(2) + log(1 / 20), 0.3), 2 / 20)
  expect_identical(core_smallest_p(log(3 / 70), 3 / 70), 3 / 70)
  expect_relative(core_smallest_p(-800, 0.3), 2^-1074, 0)
})

test_that("equal values stay equal when a change of unit rounds them", {
  expect_identical(core_snapped(c(3, 1, 1 + 1e-15, 2, -1e-16), 1e-14), c(3, 1, 1, 2, 0))
  expect_identical(core_snapped(c(3, 1), 0), c(3, 1))
  first <- c(1.2, 1.5, 2.1, 3.3, 1.8)
  second <- c(0.9, 1.2, 1.5, 2.4)
  plain <- core_rank_counts(core_rank_samples(first, second, 0.3))
  for (unit in c(1 / 2.54, 1 / 3, 1e-7)) {
    scaled <- core_rank_samples(first * unit, second * unit, 0.3 * unit)
    expect_identical(core_rank_counts(scaled)[c("u", "tied", "sd")], plain[c("u", "tied", "sd")])
    expect_identical(lengths(core_shifted_samples(scaled)), c(5L, 4L))
    changes <- core_change_sample(first[1:4] * unit, second * unit, 0.6 * unit)
    whole <- core_change_sample(first[1:4], second, 0.6)
    expect_identical(core_signed_counts(changes)[c("plus", "zeros")], core_signed_counts(whole)[c("plus", "zeros")])
  }
})
