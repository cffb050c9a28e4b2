reference <- function() utils::read.csv(test_path("reference", "evidence.csv"))

evidence_of <- function(row, ...) {
  prior <- list(location = row$location, scale = row$scale, df = row$prior_df)
  core_evidence(row$t, row$df, row$size, prior, ...)
}

test_that("log factors equal 40-digit integration for t to 1000 and n to a million", {
  table <- reference()
  got <- vapply(seq_len(nrow(table)), function(i) evidence_of(table[i, ])$log_bf, 0)
  expect_relative(got, table$log_all, 1e-10)
  expect_gte(nrow(table), 100)
})

test_that("posterior limits and the share on one side equal 40-digit integration", {
  table <- reference()
  table <- table[!is.na(table$median), ]
  for (i in seq_len(nrow(table))) {
    got <- evidence_of(table[i, ])
    expect_relative(got$median, table$median[[i]], 1e-9)
    expect_relative(c(got$lower, got$upper), c(table$lower[[i]], table$upper[[i]]), 1e-9)
    expect_relative(got$expected, exp(table$log_positive[[i]] - table$log_all[[i]]), 1e-10)
    one_sided <- evidence_of(table[i, ], expect = "higher")
    prior <- list(location = table$location[[i]], scale = table$scale[[i]], df = table$prior_df[[i]])
    expect_relative(
      one_sided$log_bf, table$log_positive[[i]] - log(core_prior_mass(prior, 0, Inf)), 1e-10
    )
  }
})

test_that("a prior on one side is weighed right where the data speak for the other", {
  table <- utils::read.csv(test_path("reference", "evidence_sides.csv"))
  for (i in seq_len(nrow(table))) {
    row <- table[i, ]
    found <- evidence_of(row, expect = if (row$side > 0) "higher" else "lower")
    expect_relative(found$log_all, row$log_side, 1e-10)
    expect_lt(found$error, 1e-10)
    expect_true(found$lower < found$median && found$median < found$upper)
    expect_true(all(sign(c(found$lower, found$upper)) == row$side))
  }
  # Against known spread and a normal prior: the closed form.
  prior <- list(location = 0, scale = 0.5, df = 1e10)
  found <- core_evidence(-12, 1e10, 40, prior, expect = "higher")
  share <- 40 * 0.25 / (1 + 40 * 0.25)
  both <- -0.5 * log1p(10) + 0.5 * 144 * share
  expect_relative(
    found$log_bf, both + stats::pnorm(-12 * sqrt(share), log.p = TRUE) - log(0.5), 1e-5
  )
})

test_that("a directional factor counts one side, and both together are the factor of either", {
  prior <- list(location = 0, scale = 0.7, df = 1)
  both <- core_evidence(1.7, 24, 6.5, prior)
  higher <- core_evidence(1.7, 24, 6.5, prior, expect = "higher")
  lower <- core_evidence(1.7, 24, 6.5, prior, expect = "lower")
  expect_relative(exp(both$log_bf), (exp(higher$log_bf) + exp(lower$log_bf)) / 2, 1e-13)
  expect_gt(higher$lower, 0)
  expect_lt(lower$upper, 0)
  expect_relative(higher$expected + lower$expected, 1, 1e-13)
  # Mirrored data mirror everything.
  mirrored <- core_evidence(-1.7, 24, 6.5, prior)
  expect_relative(c(mirrored$log_bf, -mirrored$median, -mirrored$upper), c(both$log_bf, both$median, both$lower), 1e-12)
})

test_that("an interval null is weighed by the odds of outside against inside", {
  prior <- list(location = 0, scale = 0.5, df = 1)
  near <- core_evidence(0.4, 58, 15, prior, within = c(-0.2, 0.2))
  # By hand: the posterior at 600 midpoints, some of whose cells end just at the bounds.
  delta <- seq(-6, 6, length.out = 601)[-1] - 0.01
  density <- vapply(delta, function(d) {
    exp(native_evidence(0.4, 58, 15, d, 1e-7, 1e6, -Inf, Inf, 0.5, FALSE)$log[[1]])
  }, 0) * dt(delta / 0.5, 1) / 0.5
  inside <- abs(delta) <= 0.2
  odds <- sum(density[!inside]) / sum(density[inside])
  prior_inside <- 2 * pt(0.4, 1) - 1
  expect_relative(near$log_bf, log(odds * prior_inside / (1 - prior_inside)), 2e-3)
  # A narrow interval is the point.
  point <- core_evidence(0.4, 58, 15, prior)
  narrow <- core_evidence(0.4, 58, 15, prior, within = c(-1e-6, 1e-6))
  expect_relative(narrow$log_bf, point$log_bf, 1e-4)
  expect_relative(core_interval_factor(0, log(0.25), 1, 0.5), log(3), 1e-14)
  # A prior on one side alone: its half is all there is.
  expect_relative(core_interval_factor(0, log(0.25), 0.5, 0.25), log(3), 1e-14)
})

test_that("posterior and factor are calibrated: over effects drawn from the prior, and over both hypotheses", {
  withr::local_seed(4)
  size <- 6
  df <- 22
  prior <- list(location = 0.2, scale = 0.5, df = 3)
  drawn <- function(effect) (stats::rnorm(1, effect * sqrt(size)) / sqrt(stats::rchisq(1, df) / df))
  found <- vapply(seq_len(800), function(i) {
    is_effect <- i <= 400
    effect <- if (is_effect) prior$location + prior$scale * stats::rt(1, prior$df) else 0
    got <- core_evidence(drawn(effect), df, size, prior, level = 0.8)
    c(inside = got$lower < effect && effect < got$upper, share = stats::plogis(got$log_bf), effect = is_effect)
  }, c(0, 0, 0))
  # Of effects drawn from the prior 80 % lie in the interval.
  expect_lt(abs(mean(found["inside", found["effect", ] == 1]) - 0.8), 4 * sqrt(0.8 * 0.2 / 400))
  # Where both hypotheses are as frequent, the factor is the odds: the mean probability given is the mean truth.
  for (part in list(found["share", ] < 0.4, found["share", ] >= 0.4)) {
    given <- found["share", part]
    expect_lt(abs(mean(found["effect", part]) - mean(given)), 4 * sqrt(mean(given * (1 - given)) / sum(part)))
  }
})

test_that("widths are asked together, and prior mass is taken from the right tail", {
  wide <- core_evidence(2.2, 18, 5, list(location = 0, scale = c(0.7, 0.1, 3), df = 1))
  each <- vapply(c(0.7, 0.1, 3), function(scale) {
    core_evidence(2.2, 18, 5, list(location = 0, scale = scale, df = 1))$log_bf
  }, 0)
  expect_relative(wide$log_bf, each, 1e-12)
  expect_true(all(wide$error < 1e-10))
  prior <- list(location = 0, scale = 1, df = 1)
  expect_relative(core_prior_mass(prior, 1e12, Inf), 1e-12 / pi, 1e-9)
  expect_identical(core_prior_mass(prior, -Inf, Inf), 1)
  expect_relative(core_prior_mass(prior, -1, 1), 0.5, 1e-15)
  expect_identical(core_evidence_size(20), 20)
  expect_identical(core_evidence_size(10, 10), 5)
})

test_that("half of a prior lies in its middle", {
  prior <- list(location = 0.4, scale = 0.8, df = 3)
  for (expect in c("either", "higher", "lower")) {
    middle <- core_prior_middle(prior, expect)
    side <- switch(expect, either = c(-Inf, Inf), higher = c(0, Inf), lower = c(-Inf, 0))
    expect_relative(
      core_prior_mass(prior, middle[[1]], middle[[2]]) / core_prior_mass(prior, side[[1]], side[[2]]), 0.5, 1e-10
    )
  }
  expect_relative(core_prior_middle(list(location = 0, scale = 0.7, df = 1), "either"), c(-0.7, 0.7), 1e-12)
})

test_that("extremes of a parabola between its points are exact, at the ends they are the ends", {
  x <- seq(-1, 1, 0.25)
  expect_relative(core_extremes(3 - (x - 0.1)^2), c(3 - 1.1^2, 3), 1e-12)
  expect_identical(core_extremes(c(1, 2, 3)), c(1, 3))
  expect_identical(core_summit(c(2, 2, 2)), 2)
})

test_that("the density of the posterior is prior times likelihood over their integral", {
  prior <- list(location = 0.2, scale = 0.5, df = 2)
  found <- core_evidence(2.1, 18, 5, prior, "higher")
  density <- function(x) core_effect_density(2.1, 18, 5, prior, "higher", x, found$log_all)
  whole <- function(what) stats::integrate(function(x) density(x)[[what]], 0, Inf, rel.tol = 1e-9)$value
  expect_relative(whole("prior"), 1, 1e-7)
  expect_relative(whole("posterior"), 1, 1e-7)
  expect_identical(unlist(density(-0.5)), c(prior = 0, posterior = 0))
  below <- stats::integrate(function(x) density(x)$posterior, 0, found$median, rel.tol = 1e-9)$value
  expect_relative(below, 0.5, 1e-7)
})
