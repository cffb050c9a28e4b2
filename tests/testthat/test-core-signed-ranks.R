infer_signed <- function(changes, beyond = 0, expect = "either", level = 0.95, alpha = 0.05, exact = TRUE,
                         zeros = "pratt") {
  sample <- core_change_sample(changes, NULL, beyond)
  core_signed_rank_inference(sample, core_signed_counts(sample, zeros), expect, level, alpha, exact)
}

# W of every choice of signs, for the ranks of these sizes.
all_w <- function(ranks) {
  signs <- as.matrix(expand.grid(rep(list(0:1), length(ranks))))
  drop(signs %*% ranks)
}

change_sets <- list(
  c(1.2, -0.5, 3.1, 2.2, 0.7), c(1, 1, -1, 2, 2, -3, 4), c(0, 0, 1, -2, 3, 3, 5, -1), c(-4, -2, -1), 2
)

test_that("W adds up the ranks of positive changes; zeros drop out before or after ranking", {
  for (changes in change_sets) {
    kept <- changes[changes != 0]
    counts <- core_signed_counts(core_change_sample(changes), "drop")
    expect_identical(counts$plus, sum(rank(abs(kept))[kept > 0]))
    expect_identical(counts$plus + counts$minus, sum(rank(abs(kept))))
    pratt <- core_signed_counts(core_change_sample(changes), "pratt")
    expect_identical(pratt$plus, sum(rank(abs(changes))[changes > 0]))
    expect_identical(pratt$zeros, as.double(sum(changes == 0)))
    w <- all_w(rank(abs(changes))[changes != 0])
    expect_equal(pratt$sd, sqrt(mean((w - mean(w))^2)))
    expect_equal(pratt$z, (pratt$plus - mean(w)) / pratt$sd)
  }
})

test_that("exact p with ties and zeros is a count of signs over their number", {
  for (changes in change_sets) {
    for (zeros in c("drop", "pratt")) {
      ranks <- if (zeros == "drop") rank(abs(changes[changes != 0])) else rank(abs(changes))[changes != 0]
      w <- all_w(ranks)
      observed <- core_signed_counts(core_change_sample(changes), zeros)$plus
      p <- function(expect) infer_signed(changes, expect = expect, zeros = zeros)$p
      expect_identical(c(p("higher"), p("lower")), c(mean(w >= observed), mean(w <= observed)))
      expect_identical(p("either"), min(1, 2 * min(mean(w >= observed), mean(w <= observed))))
      expect_relative(infer_signed(changes, zeros = zeros)$p_smallest, min(1, 2 / length(w)), 1e-14)
    }
  }
})

test_that("the centre is the middle of all means of two changes, its limits are among them", {
  set.seed(41)
  for (round in 1:20) {
    changes <- round(stats::rnorm(5 + round, 0.3), 1)
    changes <- changes[changes != 0]
    n <- length(changes)
    tenths <- round(10 * changes)
    means <- outer(tenths, tenths, "+")
    means <- sort(means[upper.tri(means, diag = TRUE)]) / 20
    found <- infer_signed(changes)
    expect_equal(found$estimate, stats::median(means), tolerance = 1e-15)
    if (n > 11) next
    # By enumeration: between two neighbouring means no shift leaves a zero, and each is tested against its own ties.
    distinct <- unique(means)
    shifts <- c(distinct[[1]] - 1, utils::head(distinct, -1) + diff(distinct) / 2, utils::tail(distinct, 1) + 1)
    p <- vapply(shifts, function(shift) {
      ranks <- rank(round(abs(changes - shift), 9))
      w <- all_w(ranks)
      observed <- sum(ranks[changes > shift])
      c(mean(w >= observed), mean(w <= observed))
    }, c(0, 0))
    expect_identical(found$lower, c(distinct[p[1, -1] > 0.025 & p[1, 1] <= 0.025], NA)[[1]])
    expect_identical(found$upper, c(rev(distinct)[rev(p[2, -ncol(p)] > 0.025 & p[2, ncol(p)] <= 0.025)], NA)[[1]])
  }
})

test_that("centre and interval come from all changes, whatever the null value and the zeros", {
  changes <- c(0, 0, 0, 0, 0, 0, 0, 0, 1, 1, 2, 2, 3, -1)
  for (zeros in c("drop", "pratt")) {
    for (beyond in c(0, 1, 0.25)) {
      found <- infer_signed(changes, beyond, zeros = zeros)
      expect_identical(c(found$estimate, found$lower, found$upper), c(0.5, 0, 1))
    }
  }
  thirds <- infer_signed(changes / 3)
  expect_relative(c(thirds$estimate, thirds$upper), c(1 / 6, 1 / 3), 1e-14)
  # Pratt's test and the interval agree wherever the null value is no limit.
  set.seed(5)
  for (round in 1:300) {
    changes <- sample(-3:5, sample(5:14, 1), TRUE)
    beyond <- sample(seq(-3, 5, 0.5), 1)
    found <- infer_signed(changes, beyond)
    if (!is.null(found$reason) || is.na(found$lower) || beyond %in% c(found$lower, found$upper)) next
    expect_identical(found$lower > beyond || found$upper < beyond, found$p <= 0.05)
    expect_true(found$lower <= found$estimate && found$estimate <= found$upper)
  }
  # Too many for a search: one distribution at each limit.
  many <- core_change_sample(rep(changes, 3000))
  whole <- core_signed_rank_inference(many, core_signed_counts(many), "either", 0.95, 0.05, FALSE)
  expect_true(whole$lower <= whole$estimate && whole$estimate <= whole$upper)
})

test_that("the parts of the search agree with each other", {
  changes <- sort(c(-1, 0, 0, 1, 1, 2, 3, 3, 4))
  sample <- core_change_sample(changes)
  expect_identical(core_shift_above(changes, TRUE, 45), 4.25)
  expect_gt(core_shift_above(changes / 3, FALSE, 1), -1 / 3)
  expect_lt(core_shift_above(changes / 3, FALSE, 1), -1 / 6)
  searched <- core_signed_limits(sample, TRUE, 0.025)
  first <- core_first_kept(changes, TRUE, TRUE, 0.025, NA)
  expect_identical(searched$places$lower, first$place)
  expect_lte(first$tail, 0.025)
  expect_gt(core_signed_p_above(changes, core_shift_above(changes, TRUE, first$place), TRUE), 0.025)
  expect_identical(core_first_kept(c(1, 1, 2), TRUE, TRUE, 0.025, 1)$place, NA_real_)
  once <- core_signed_limits_once(sample, TRUE, 0.025, searched$null, searched$places)
  expect_lte(abs(once$places$lower - searched$places$lower), 3)
})

test_that("critical limits are the outermost W with at most half of alpha beyond", {
  w <- all_w(1:8)
  for (alpha in c(0.02, 0.05, 0.1)) {
    found <- infer_signed(c(1, -2, 3, 4, 5, -6, 7, 8), alpha = alpha)
    low <- max(Filter(function(k) mean(w <= k) <= alpha / 2, 0:36))
    expect_identical(c(found$critical_low, found$critical_high), c(low, 36 - low))
    expect_relative(c(found$tail_low, found$tail_high), rep(mean(w <= low), 2), 1e-14)
  }
  expect_identical(
    infer_signed(c(1, -2, 3, 4, 5, -6, 7, 8), expect = "lower")$critical_low,
    as.double(max(Filter(function(k) mean(w <= k) <= 0.05, 0:36)))
  )
})

test_that("the interval excludes a centre exactly when its test rejects it", {
  set.seed(42)
  for (round in 1:40) {
    changes <- round(stats::rnorm(9, 0.5), 2)
    beyond <- round(stats::runif(1, -1, 2), 2) + 0.0025
    found <- infer_signed(changes, beyond)
    expect_identical(found$lower > beyond || found$upper < beyond, found$p <= 0.05)
    lower <- infer_signed(changes, beyond, "lower")
    expect_identical(lower$at_most < beyond, lower$p <= 0.05)
  }
})

test_that("changes of pairs are those of their decimals", {
  counts <- core_signed_counts(core_change_sample(c(0.3, 0.2, 0.9), c(0.2, 0.1, 0.4)))
  expect_identical(counts$tied, 2)
  expect_identical(core_signed_counts(core_change_sample(c(0.3, 0.2), c(0.2, 0.1), 0.1))$zeros, 2)
  ready <- core_signed_counts(core_change_sample(c(0.3 - 0.2, 0.2 - 0.1, 0.5)))
  expect_identical(ready$tied, 2)
})

test_that("all changes zero is a reason, five changes cannot reach 5 %", {
  expect_identical(infer_signed(c(0, 0, 0))$reason, "all_zero")
  expect_identical(infer_signed(c(2, 2), beyond = 2)$reason, "all_zero")
  five <- infer_signed(1:5)
  expect_identical(five$p, 1 / 16)
  expect_true(is.na(five$lower))
  expect_relative(five$widest$level, 1 - 1 / 16, 1e-14)
  expect_identical(c(five$widest$lower, five$widest$upper), c(1, 5))
})

test_that("normal and exact distributions come together, and the cost is known", {
  set.seed(43)
  changes <- sample(-20:30, 300, replace = TRUE)
  near <- infer_signed(changes, exact = FALSE)
  expect_equal(near$p, infer_signed(changes)$p, tolerance = 5e-3)
  expect_lt(core_signed_rank_cost(1000)$seconds, 0.5)
  expect_gt(core_signed_rank_cost(1e6)$seconds, 1e6)
  counts <- core_signed_counts(core_change_sample(changes))
  expect_equal(core_signed_rank_curve(counts, c(-1, counts$total)), c(0, 1))
  # W of the ranks 1, 2, 3: 0, 1, 2, 3, 3, 4, 5, 6.
  three <- core_signed_counts(core_change_sample(c(-1, 2, 5)))
  expect_equal(core_signed_rank_curve(three, c(0.9, 1, 2.6, 3, 4.1)), c(1, 2, 3, 5, 6) / 8)
  expect_identical(core_signed_rank_null(counts, FALSE, 0.025)$kind, "asymptotic")
})
