# Tails of the difference of means at a shift, by every choice of the first group (or every set of signs).
listed_tails <- function(sample, shift, statistic = function(first, second) mean(first) - mean(second)) {
  z <- sample$values - sample$times * (sample$beyond + shift)
  n <- length(z)
  if (core_is_flips(sample)) {
    signs <- as.matrix(expand.grid(rep(list(c(1, -1)), n)))
    all <- as.vector(signs %*% z)
    observed <- sum(z)
  } else {
    block <- rep(seq_along(sample$sizes), sample$sizes)
    masks <- as.matrix(expand.grid(rep(list(c(FALSE, TRUE)), n)))
    fits <- apply(masks, 1, function(mask) identical(as.vector(tapply(mask, block, sum)), as.integer(sample$chosen)))
    all <- apply(masks[fits, , drop = FALSE], 1, function(mask) statistic(z[mask], z[!mask]))
    observed <- statistic(z[sample$times > 0], z[sample$times == 0])
  }
  slack <- 1e-9 * max(1, abs(all))
  c(high = mean(all >= observed - slack), low = mean(all <= observed + slack))
}

# Whether `found` has the tails of a list, and limits that are the outermost shifts with tails above alpha.
expect_listed <- function(found, sample, alpha, statistic = NULL, limits = TRUE) {
  tails <- function(shift) do.call(listed_tails, c(list(sample, shift), statistic))
  now <- tails(0)
  expect_equal(c(high = found$high$p, low = found$low$p), now, tolerance = 1e-12)
  if (!limits) return(invisible())
  step <- 1e-6 * diff(range(sample$values))
  lower <- found$lower[[1]] * sample$power - sample$beyond
  upper <- found$upper[[1]] * sample$power - sample$beyond
  if (is.na(lower)) return(expect_gt(min(tails(-1e6)), alpha))
  expect_gt(tails(lower + 1e-3 * step)[["high"]], alpha)
  expect_lte(tails(lower - step)[["high"]], alpha)
  expect_gt(tails(upper - 1e-3 * step)[["low"]], alpha)
  expect_lte(tails(upper + step)[["low"]], alpha)
}

ten <- list(c(12.1, 14.3, 11.8, 15.2, 13.3), c(10.4, 11.8, 12, 9.9, 13.1))
uneven <- list(c(0.31, 2.2, 1.7 + 1 / 3), sqrt(c(2, 3, 5, 7, 11)) - 2)

test_that("samples: steps of the last decimal, blocks one after the other, runs of changes", {
  sample <- core_group_sample(ten[[1]], ten[[2]], 0.5)
  expect_identical(sample$values[1:2], c(121, 143))
  expect_identical(sample$beyond, 5)
  expect_true(sample$whole)
  expect_false(core_group_sample(uneven[[1]], uneven[[2]])$whole)
  blocked <- core_group_sample(c(1, 2, 3), c(4, 5, 6), 0, c("b", "a", "b"), c("a", "a", "b"))
  expect_identical(blocked$values, c(1, 3, 6, 2, 4, 5))
  expect_identical(blocked$times, c(1, 1, 0, 1, 0, 0))
  expect_identical(blocked[c("sizes", "chosen")], list(sizes = c(3, 3), chosen = c(2, 1)))
  expect_false(core_is_flips(blocked))
  changes <- core_flip_sample(c(0.3, 0.2), c(0.2, 0.1))
  expect_identical(changes$values, c(1, 1))
  expect_true(core_is_flips(changes))
  runs <- core_flip_sample(c(1, 2, 3), run = c(1, 1, 2))
  expect_identical(runs[c("values", "times")], list(values = c(3, 3), times = c(2, 1)))
})

test_that("assignments are counted, and those that are ties without arithmetic", {
  blocked <- core_group_sample(c(1, 2, 3), c(4, 5, 6), 0, c("b", "a", "b"), c("a", "a", "b"))
  expect_equal(core_assignments(blocked), 9)
  expect_equal(core_log_assignments(blocked), log(9))
  changes <- core_flip_sample(c(0, 1, -2, 0))
  expect_equal(core_assignments(changes), 16)
  expect_equal(core_log_assignments(changes), log(16))
  expect_equal(exp(core_log_equal(changes)), 4)
  tied <- core_group_sample(c(1, 5, 5), c(5, 2, 1))
  # One of the two 1s, two of the three 5s.
  expect_equal(exp(core_log_equal(tied)), 6)
  expect_equal(exp(core_log_equal(tied, "largest")), 1)
  expect_equal(exp(core_log_equal(tied, "smallest")), 1)
  expect_equal(exp(core_log_equal(core_group_sample(c(9, 1), c(1, 1)), "largest")), 3)
})

test_that("estimates: within blocks by least squares, Welch's t, spread", {
  first <- c(3.1, 4.5, 5.2, 6.6)
  second <- c(2.2, 3.9, 3.1, 2.8, 4.7)
  plain <- core_permuted_estimate(core_group_sample(first, second, 1))
  expect_equal(plain$estimate, mean(first) - mean(second))
  se <- sqrt(var(first) / 4 + var(second) / 5)
  expect_equal(plain$se, se)
  expect_equal(plain$t, (mean(first) - mean(second) - 1) / se)
  blocks <- list(c("a", "a", "b", "b"), c("a", "b", "b", "b", "a"))
  blocked <- core_permuted_estimate(core_group_sample(first, second, 0, blocks[[1]], blocks[[2]]))
  frame <- data.frame(y = c(first, second), x = rep(1:0, 4:5), b = unlist(blocks))
  expect_equal(blocked$estimate, unname(coef(lm(y ~ x + b, frame))[["x"]]))
  changes <- core_permuted_estimate(core_flip_sample(c(1, 2, 4), beyond = 1))
  expect_equal(changes$estimate, 7 / 3)
  expect_true(core_permuted_estimate(core_flip_sample(c(2, 2)))$flat)
  run <- core_flip_sample(c(1, 2, 4, 6), run = c(1, 1, 2, 2))
  expect_equal(core_flip_estimate(run, run$values / 10, 10)$estimate, 13 / 4)
  expect_true(core_permuted_estimate(core_group_sample(c(1, 1), c(2, 2)))$flat)
  expect_missing(core_permuted_estimate(core_group_sample(1, c(2, 3)))$se)
})

# Takes seconds: oracles list every assignment at some 200 shifts.
test_that("every way of counting sums finds the tails and limits of a list", {
  samples <- list(
    core_group_sample(ten[[1]], ten[[2]]), core_group_sample(ten[[1]], ten[[2]], 1.5),
    core_group_sample(uneven[[1]], uneven[[2]]), core_group_sample(c(1, 5, 5, 7), c(5, 2, 1)),
    core_group_sample(c(4, 8, 9), c(1, 2, 3, 3)),
    core_flip_sample(c(1.2, -0.4, 2.2, 0.8, 1.9, -0.3, 0.7, 0.6)), core_flip_sample(c(3, 0, -1, 2, 5, 4), beyond = 1),
    core_flip_sample(sqrt(c(2, 3, 5, 7, 11, 13)) - 1.7)
  )
  for (sample in samples) {
    estimate <- core_permuted_estimate(sample)
    alphas <- c(0.06, 0.06)
    expect_listed(core_sums_inference(sample, alphas), sample, 0.06)
    expect_listed(core_quarters_inference(sample, estimate, alphas), sample, 0.06)
    # Changes are interpolated between shifts that are tried.
    exact <- !core_is_flips(sample)
    if (sample$whole) expect_listed(core_null_inference(sample, estimate, alphas), sample, 0.06, limits = exact)
  }
})

test_that("blocks: listed and counted alike", {
  blocked <- core_group_sample(c(3, 6, 8, 2), c(1, 4, 4, 2, 7), 0, c("a", "a", "b", "b"), c("a", "b", "b", "b", "a"))
  expect_listed(core_sums_inference(blocked, 0.06), blocked, 0.06)
  estimate <- core_permuted_estimate(blocked)
  listed <- core_sums_inference(blocked, c(0.06, 0.06))
  counted <- core_null_inference(blocked, estimate, c(0.06, 0.06))
  expect_equal(counted$high$p, listed$high$p)
  expect_equal(counted$low$p, listed$low$p)
  expect_equal(core_sum_scale(blocked), 4 / 4 + 2 * 3 / 5)
})

test_that("limits of changes lie between shifts that are tried", {
  changes <- core_flip_sample(c(1.2, -0.4, 2.2, 0.8, 1.9, -0.3, 0.7, 0.6, 1.1, 0.4))
  listed <- core_sums_inference(changes, c(0.025, 0.025))
  counted <- core_null_inference(changes, core_permuted_estimate(changes), c(0.025, 0.025))
  expect_equal(counted$lower, listed$lower, tolerance = 0.02)
  expect_equal(counted$upper, listed$upper, tolerance = 0.02)
})

test_that("a bracket holds the exact p, and its limits are near the exact ones", {
  set.seed(8)
  for (flips in c(FALSE, TRUE)) {
    sample <- if (flips) core_flip_sample(rnorm(24) + 0.4) else core_group_sample(rnorm(12) + 0.6, rnorm(13))
    estimate <- core_permuted_estimate(sample)
    exact <- core_quarters_inference(sample, estimate, c(0.025, 0.025))
    grid <- core_null_inference(sample, estimate, c(0.025, 0.025), estimate$rough / 300)
    expect_identical(grid$kind, "bracketed")
    for (side in c("low", "high")) {
      expect_lte(grid[[side]]$low, exact[[side]]$p)
      expect_gte(grid[[side]]$high, exact[[side]]$p)
      expect_equal(grid[[side]]$p, exact[[side]]$p, tolerance = 1e-3)
    }
    expect_equal(grid$lower, exact$lower, tolerance = 1e-3)
    expect_equal(grid$upper, exact$upper, tolerance = 1e-3)
    cost <- core_null_cost(sample, estimate, estimate$rough / 300)
    expect_true(cost$seconds > 0 && cost$seconds < 1 && cost$bytes > 0)
  }
  expect_true(core_has_group_null(core_group_sample(1:3, 4:6)))
  expect_false(core_has_group_null(core_flip_sample(1:3)))
})

test_that("more than a double can list: counted sums of one tail, and how many are undecided", {
  set.seed(4)
  sample <- core_group_sample(rnorm(18) + 0.5, rnorm(18))
  tail <- core_quarters_tail(sample, 1L)
  other <- core_quarters_tail(sample, -1L)
  expect_equal(tail$count + other$count - tail$tied, core_assignments(sample))
  expect_identical(tail$undecided, 0)
  drawn <- core_sums_inference(sample, 0.025, 2e5, 3)
  expect_lt(abs(drawn$high$p - tail$count / core_assignments(sample)), 5 * sqrt(0.25 / 2e5))
  # 2 (2^9 + 2^9) half-sums for 20 signs; for two groups those of nine of 18.
  expect_identical(core_half_sums(core_flip_sample(rnorm(20))), 2048)
  # Values off by a few roundings are one decimal; a tie that is none is not undecided.
  expect_identical(core_quarters_tail(core_group_sample(c(0.1 + 0.2, 0.5), c(0.3, 0.4)), 1L)$undecided, 0)
})

test_that("Welch's t: tails and the quantiles that make the interval", {
  sample <- core_group_sample(ten[[1]], ten[[2]], 1)
  welch <- function(first, second) {
    (mean(first) - mean(second)) / sqrt(var(first) / length(first) + var(second) / length(second))
  }
  estimate <- core_permuted_estimate(sample)
  found <- core_studentized_inference(sample, estimate, c(0.04, 0.04))
  expect_listed(found, sample, 0.04, welch)
  # Far beyond what the sums can tell, the observed assignment is one of 252 all the same.
  expect_identical(core_cap_t(3), 3)
  expect_identical(core_cap_t(-Inf), -1e5)
  far <- core_group_sample(ten[[1]] + 1e8, ten[[2]])
  expect_equal(core_studentized_inference(far, core_permuted_estimate(far), c(0.04, 0.04))$high$p, 1 / 252)
  drawn <- core_studentized_inference(sample, estimate, c(0.04, 0.04), 1e5, 2)
  expect_lt(abs(drawn$high$p - found$high$p), 0.01)
  expect_equal(drawn$lower, found$lower, tolerance = 0.1)
  # The interval is that of the test of every shift, and so the same whatever null value was asked about.
  for (beyond in c(-3, 0, 2)) {
    there <- core_group_sample(ten[[1]], ten[[2]], beyond)
    again <- core_studentized_inference(there, core_permuted_estimate(there), c(0.04, 0.04))
    expect_equal(again[c("lower", "upper")], found[c("lower", "upper")], tolerance = 1e-12)
    drawn_there <- core_studentized_inference(there, core_permuted_estimate(there), c(0.04, 0.04), 1e5, 2)
    expect_equal(drawn_there[c("lower", "upper")], drawn[c("lower", "upper")], tolerance = 1e-12)
  }
  places <- list(c("a", "a", "b", "b"), c("a", "b", "b", "b", "a"))
  blocked <- core_group_sample(c(3, 6.5, 8, 2), c(1, 4, 4.2, 2, 7), 0, places[[1]], places[[2]])
  in_blocks <- function(beyond) {
    blocked$beyond <- beyond * 10
    core_studentized_inference(blocked, core_permuted_estimate(blocked), c(0.06, 0.06))
  }
  expect_gt(in_blocks(in_blocks(0)$lower[[1]] + 1e-6)$high$p, 0.06)
  expect_lte(in_blocks(in_blocks(0)$lower[[1]] - 1e-6)$high$p, 0.06)
})

test_that("beside a far larger group p may fall and rise with the shift: the interval holds all that is not rejected", {
  chosen <- utils::combn(10, 2, function(i) 1:10 %in% i)
  # Welch's t of all 45 choices: the observed one stands first.
  all_t <- function(z) {
    first <- colSums(z * chosen) / 2
    second <- (sum(z) - 2 * first) / 8
    squares <- colSums((chosen * z^2)) - 2 * first^2
    (first - second) / sqrt(squares / 2 + (sum(z^2) - colSums(chosen * z^2) - 8 * second^2) / 56)
  }
  for (seed in 1:6) {
    set.seed(seed)
    sample <- core_group_sample(round(rnorm(2, 0, 5), 1), round(rnorm(8), 1))
    expect_true(core_is_uneven(sample))
    estimate <- core_permuted_estimate(sample)
    found <- core_studentized_inference(sample, estimate, c(0.1, 0.1))
    shifts <- estimate$estimate + estimate$se * outer(c(-1, 1), exp(seq(-6, 6, length.out = 300)))
    p <- apply(shifts, c(1, 2), function(shift) {
      t <- all_t(sample$values - sample$times * shift * sample$power)
      min(mean(t >= t[[1]] - 1e-9), mean(t <= t[[1]] + 1e-9))
    })
    kept <- range(shifts[p > 0.1])
    expect_gte(kept[[1]], found$lower[[1]])
    expect_lte(kept[[2]], found$upper[[1]])
  }
  # Of assignments that enter, leave and enter again, the first count that is high enough decides.
  expect_identical(core_kept_from(c(1, 2, 3, 4), double(), 3), 3)
  expect_identical(core_kept_from(c(1, 2, 3, 4), 2.5, 3), 4)
  expect_identical(core_kept_from(c(1, 2), double(), NA), NA_real_)
  expect_identical(core_grain(list(near = 0)), 0)
  expect_identical(core_grain(list(near = 2^-40)), 2^-42)
})

test_that("trimmed means and medians: tails and limits of a list", {
  trimmed <- function(first, second) mean(first, trim = 0.2) - mean(second, trim = 0.2)
  middle <- function(first, second) median(first) - median(second)
  for (sample in list(core_group_sample(ten[[1]], ten[[2]]), core_group_sample(uneven[[1]], uneven[[2]]))) {
    rough <- core_permuted_estimate(sample)$rough
    found <- core_location_inference(sample, "trimmed", c(0.06, 0.06), rough)
    expect_listed(found, sample, 0.06, trimmed)
    values <- split(sample$values / sample$power, sample$times == 0)
    expect_equal(found$estimate, trimmed(values[[1]], values[[2]]))
    found <- core_location_inference(sample, "median", c(0.06, 0.06), rough)
    expect_listed(found, sample, 0.06, middle)
  }
  expect_identical(core_sample_sizes(core_group_sample(1:3, 4:5)), c(3L, 2L))
  expect_identical(core_sample_sizes(core_flip_sample(1:3)), 3L)
  expect_identical(core_trim(c(5, 10, 4), "trimmed"), c(1, 2, 0))
  expect_identical(core_trim(c(5, 10, 4), "median"), c(2, 4, 1))
  expect_identical(core_trimmed_mean(c(9, 1, 5, 3), 1), 4)
  changes <- core_flip_sample(c(1.2, -0.4, 2.2, 0.8, 1.9, -0.3))
  found <- core_location_inference(changes, "median", c(0.1, 0.1), 3)
  signs <- as.matrix(expand.grid(rep(list(c(1, -1)), 6)))
  medians <- apply(signs, 1, function(s) median(s * changes$values))
  expect_equal(found$high$p, mean(medians >= median(changes$values)))
})

test_that("random draws: the observed one counts, seeds and threads", {
  sample <- core_group_sample(ten[[1]], ten[[2]])
  one <- core_sums_inference(sample, c(0.025, 0.025), 999, 5)
  expect_equal(one$high$p, (one$counts[["at_least"]] + 1) / 1000)
  expect_identical(one, core_sums_inference(sample, c(0.025, 0.025), 999, 5, 2L))
  expect_false(identical(one$counts, core_sums_inference(sample, c(0.025, 0.025), 999, 6)$counts))
  # Shares of the work, as workers have them.
  halves <- function(count, step, work) list(work(0, step), work(step, count))
  for (drawn in list(sample, core_flip_sample(ten[[1]] - ten[[2]]))) {
    at_once <- core_sums_inference(drawn, c(0.025, 0.025), 1999, 5)
    expect_identical(core_sums_inference(drawn, c(0.025, 0.025), 1999, 5, shares = halves), at_once)
  }
  # Number 25 of 1000, less the observed one and draws that are the observed assignment again.
  expect_identical(core_limit_number(1000, 0.025, 1), 25)
  expect_identical(core_within(462, 0.025), 11)
  # A tail of just alpha is within it.
  expect_identical(core_within(1000, (1 - 0.95) / 2), 25)
  counted <- core_counted_tails(list(at_least = 3, at_most = 8), 10, TRUE)
  expect_equal(c(counted$high$p, counted$low$p), c(0.4, 0.9))
  expect_missing(core_limit_number(20, 0.025, 1))
  expect_identical(core_limit_number(40, 0.025, 1), 1)
  expect_missing(core_limit_number(40, 0.025, 3))
})

test_that("p of the question from both tails", {
  p <- core_permuted_p(core_plain_tail(0.9), core_plain_tail(0.2), "either", c(low = log(0.1), high = log(0.05)))
  expect_equal(p$p, 0.4)
  expect_equal(p$p_smallest, 0.1)
  one_sided <- core_permuted_p(core_plain_tail(0.9), core_plain_tail(0.2), "lower", c(low = log(0.1), high = log(0.05)))
  expect_equal(one_sided$p, 0.9)
  sample <- core_group_sample(ten[[1]], ten[[2]], 1)
  expect_equal(core_from_shift(sample, 3), 1.3)
  # A shift that is lost beside the null value keeps its side.
  far <- list(beyond = 1e17, power = 1)
  expect_identical(core_from_shift(far, c(-1, 0, 1)) - 1e17, c(-16, 0, 16))
  expect_equal(core_limit_guesses(2, 1, 0.025), 2 + c(-1, 1) * qnorm(0.975))
  expect_identical(core_fine_step(1000), 1)
  expect_identical(core_fine_step(10), 1 / 16)
})

test_that("histograms count every assignment where it lies", {
  sample <- core_group_sample(ten[[1]], ten[[2]])
  z <- unlist(ten)
  gaps <- apply(utils::combn(10, 5), 2, function(i) mean(z[i]) - mean(z[-i]))
  observed <- mean(ten[[1]]) - mean(ten[[2]])
  breaks <- c(-5, -1.01, 0.003, 1.51, 5)
  expect_equal(
    core_permuted_histogram(sample, "difference", breaks - observed, 0, 0),
    as.vector(table(cut(gaps, breaks, right = FALSE)))
  )
  medians <- apply(utils::combn(10, 5), 2, function(i) median(z[i]) - median(z[-i]))
  expect_equal(
    core_permuted_histogram(sample, "median", breaks - median(ten[[1]]) + median(ten[[2]]), 0, 0),
    as.vector(table(cut(medians, breaks, right = FALSE)))
  )
  t <- core_permuted_histogram(sample, "studentized", c(-99, 0, 99), 2000, 1, estimate = core_permuted_estimate(sample))
  expect_equal(sum(t), 2000)
  four <- list(c(1.2, 3.4, 2.2, 5.1), c(0.3, 2.5, 1.1, 1.9))
  v <- unlist(four)
  reassigned_t <- apply(utils::combn(8, 4), 2, function(i) {
    (mean(v[i]) - mean(v[-i])) / sqrt(var(v[i]) / 4 + var(v[-i]) / 4)
  })
  small <- core_group_sample(four[[1]], four[[2]])
  breaks <- c(-99, -2, -1, 0, 1, 2, 99)
  expect_equal(
    core_permuted_histogram(small, "studentized", breaks, 0, 0, estimate = core_permuted_estimate(small)),
    as.vector(table(cut(reassigned_t, breaks, right = FALSE)))
  )
  changes <- core_flip_sample(c(1, 2, 4))
  expect_equal(core_permuted_histogram(changes, "difference", c(-9, -3, -1, 1) - 7 / 3, 0, 0), c(0, 2, 6))
  expect_equal(core_sum_lattice(changes), 2 / 3)
  # Differences of means of five lie on a lattice of (1/5 + 1/5) tenths.
  expect_equal(core_sum_lattice(sample), 0.04)
  expect_identical(core_sum_lattice(core_group_sample(uneven[[1]], uneven[[2]])), 0)
})

test_that("sums of decimals: tails to 1e-12 against whole numbers of any size", {
  reference <- utils::read.csv(test_path("reference/permutation.csv"))
  value <- function(case) {
    i <- seq_len(case$n) - 1
    (i * case$step + (i * i) %% case$odd) %% case$spread
  }
  for (k in seq_len(nrow(reference))) {
    case <- reference[k, ]
    z <- value(case)
    first <- seq_len(case$n_first)
    sample <- if (case$design == "groups") {
      core_group_sample((z[first] + case$shift) / 100, z[-first] / 100)
    } else {
      core_flip_sample((z + case$shift - case$spread %/% 2) / 100)
    }
    found <- core_null_inference(sample, core_permuted_estimate(sample), double())
    error <- abs(c(found$high$p, found$low$p) / c(case$high, case$low) - 1)
    expect_lt(max(error), 1e-12)
  }
})

test_that("shares of random draws merge to the outermost values and the sums of counts", {
  shares <- list(
    list(at_least = 2, at_most = 5, same = 1, low = c(-3, -1), high = c(4, 2)),
    list(at_least = 1, at_most = 1, same = 0, low = c(-2, 0), high = c(5, 1))
  )
  expect_identical(
    core_merged_shares(shares, 3), list(at_least = 3, at_most = 6, same = 1, low = c(-3, -2, -1), high = c(5, 4, 2))
  )
  expect_identical(core_one_share(9, 2, function(from, to) c(from, to)), list(c(0, 9)))
  expect_identical(core_stream_size(100), 1024)
  flips <- core_flip_sample(c(1, 2))
  expect_identical(core_drawn_shares(flips, 0, function(from, to) "all", NULL), list("all"))
})
