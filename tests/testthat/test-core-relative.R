relative_counts <- function(first, second) core_rank_counts(core_rank_samples(first, second))

test_that("t, se and df are those of the published formula from ranks", {
  set.seed(51)
  for (round in 1:20) {
    first <- sample(8, 6, replace = TRUE)
    second <- sample(9, 9, replace = TRUE)
    n <- c(6, 9)
    pooled <- split(rank(c(first, second)), rep(1:2, n))
    within <- list(rank(first), rank(second))
    # Brunner & Munzel (2000): variances of the differences between overall and inner ranks.
    spread <- vapply(1:2, function(g) {
      sum((pooled[[g]] - within[[g]] - mean(pooled[[g]]) + (n[[g]] + 1) / 2)^2) / (n[[g]] - 1)
    }, 0)
    gap <- mean(pooled[[1]]) - mean(pooled[[2]])
    found <- core_relative_effect(relative_counts(first, second))
    expect_relative(found$estimate, gap / 15 + 0.5, 1e-14)
    if (found$separated || gap == 0) next
    expect_relative(found$t, prod(n) * gap / (15 * sqrt(sum(n * spread))), 1e-12)
    expect_relative(found$df, sum(n * spread)^2 / sum((n * spread)^2 / (n - 1)), 1e-12)
    ends <- stats::qt(c(0.025, 0.975), found$df)
    logit <- stats::qlogis(found$estimate) + ends * found$se / (found$estimate * (1 - found$estimate))
    inferred <- core_relative_inference(relative_counts(first, second), "either", 0.95, 0.05)
    expect_relative(c(inferred$lower, inferred$upper), stats::plogis(logit), 1e-12)
    expect_relative(inferred$p, 2 * stats::pt(-abs(found$t), found$df), 1e-12)
  }
})

test_that("limits stay within 0 and 1", {
  expect_true(all(core_logit_limits(0.99, 0.02, -2, 2) > 0 & core_logit_limits(0.99, 0.02, -2, 2) < 1))
  expect_identical(core_logit_limits(0.9, 0.1, -2, Inf)[[1]], 0)
})

test_that("complete separation has an exact p and a limit that holds", {
  found <- core_relative_inference(relative_counts(5:8, 1:3), "either", 0.95, 0.05)
  expect_identical(found$estimate, 1)
  expect_relative(found$p, 2 / choose(7, 3), 1e-13)
  expect_identical(found$upper, 1)
  # At the limit, three pairs all go one way in 2.5 % of studies.
  expect_relative(found$lower^3, 0.025, 1e-13)
  expect_true(is.na(found$statistic))
  expect_identical(core_separated_limits(0, 4, 9, 0.9), c(0, 1 - 0.05^(1 / 4)))
  lower <- core_relative_inference(relative_counts(1:3, 5:8), "higher", 0.95, 0.05)
  expect_identical(lower$p, 1)
})

test_that("one value on a group has a reason", {
  expect_identical(core_relative_inference(relative_counts(2, 1:3), "either", 0.95, 0.05)$reason, "one_value")
})

test_that("under assignment, p counts assignments whose t is as far out, ties decided exactly", {
  first <- c(1, 2, 2, 6)
  second <- c(2, 3, 5, 6, 7)
  samples <- core_rank_samples(first, second)
  drawn <- core_relative_assignments(samples)
  pooled <- c(first, second)
  t <- apply(utils::combn(9, 4), 2, function(at) {
    found <- core_relative_effect(relative_counts(pooled[at], pooled[-at]))
    if (found$estimate == 0.5) 0 else found$t
  })
  observed <- core_relative_effect(relative_counts(first, second))$t
  expect_identical(drawn$total, as.double(choose(9, 4)))
  expect_identical(drawn$at_least, as.double(sum(t >= observed - 1e-9)))
  expect_identical(drawn$at_most, as.double(sum(t <= observed + 1e-9)))
  inferred <- core_relative_inference(core_rank_counts(samples), "either", 0.95, 0.05, drawn)
  expect_identical(inferred$p, 2 * min(drawn$at_least, drawn$at_most) / drawn$total)
  expect_identical(inferred$kind, "exact")
  expect_identical(core_count_assignments(samples), as.double(length(drawn$statistics)))
  # A large group beside a small one is counted by the small one.
  wide <- core_rank_samples(seq(1, 3e5), c(0.5, 7.5))
  expect_equal(core_count_assignments(wide), choose(300002, 2))
  expect_identical(core_pooled_runs(samples)$runs, c(1L, 3L, 1L, 1L, 2L, 1L))
  moved <- core_pooled_runs(core_rank_samples(c(3, 4, 6), c(1, 4), 2))
  expect_identical(moved, list(runs = c(2L, 1L, 2L), in_first = c(1L, 1L, 1L)))
})

test_that("random assignments count the observed one, keep their seed, and their interval holds the exact p", {
  samples <- core_rank_samples(c(1, 2, 2, 6), c(2, 3, 5, 6, 7))
  counts <- core_rank_counts(samples)
  drawn <- core_relative_assignments(samples, 2000, 5)
  again <- core_relative_assignments(samples, 2000, 5, 2L)
  expect_identical(drawn, again)
  found <- core_relative_inference(counts, "lower", 0.95, 0.05, drawn)
  expect_identical(found$p, (drawn$at_most + 1) / 2001)
  exact <- core_relative_assignments(samples)
  range <- core_simulated_range(drawn$at_most, 2000, 0.999)
  expect_true(range[[1]] <= exact$at_most / exact$total && exact$at_most / exact$total <= range[[2]])
})

test_that("the simulated range is the binomial one", {
  expect_identical(core_simulated_range(0, 50)[[1]], 0)
  expect_relative(core_simulated_range(0, 50)[[2]], 1 - 0.025^(1 / 50), 1e-12)
  expect_identical(core_simulated_range(50, 50)[[2]], 1)
  ends <- core_simulated_range(7, 50)
  expect_relative(stats::pbinom(7, 50, ends[[2]]), 0.025, 1e-10)
  expect_relative(1 - stats::pbinom(6, 50, ends[[1]]), 0.025, 1e-10)
})

test_that("quantiles under assignment leave at most the tail", {
  drawn <- list(logits = c(-3, -1, 0, 1, 1, 4), weights = rep(1, 6), total = 6, kind = "exact")
  expect_identical(core_relative_quantiles(NA, 1 / 6, drawn), c(-3, 4))
  # The two at 1 go together: half would have to be cut.
  expect_identical(core_relative_quantiles(NA, 0.4, drawn), c(-1, 4))
  expect_identical(core_relative_quantiles(NA, 0.1, drawn), c(-Inf, Inf))
  # Of 99 draws with the observed one as hundredth, four may be beyond each limit, itself included.
  drawn <- list(logits = as.double(1:99), weights = rep(1, 99), total = 99, kind = "simulated")
  expect_identical(core_relative_quantiles(NA, 0.05, drawn), c(4, 96))
  effect <- list(separated = FALSE, t = 2, df = 10, estimate = 0.8)
  expect_missing(core_relative_p(effect, list(n_first = 5, n_second = 5), "higher", NULL)$p_smallest)
})
