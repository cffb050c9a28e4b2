evidence <- function(...) as.list(weigh_evidence(...)$table[1, ])

test_that("the factor both ways, its logarithm and the t it is from belong together", {
  for (study in list(height_study(), conductance_study(), published_study())) {
    row <- evidence(study)
    expect_relative(row$bf_difference * row$bf_null, 1, 1e-12)
    expect_relative(log(row$bf_difference), row$log_bf, 1e-12)
    method <- if (is_paired(study)) "paired" else "student"
    expect_identical(row$statistic, test_difference(study, method)$table$statistic)
    estimand <- if (is_paired(study)) "d_change" else "d_pooled"
    expect_relative(row$d, gauge_effect(study, estimand)$table$estimate, 1e-12)
    # The prior draws the effect towards 0, never past it.
    expect_true(row$estimate / row$d > 0 && row$estimate / row$d < 1)
  }
})

test_that("widths, directions and interval nulls change what they should", {
  wide <- evidence(height_study(), prior_half = 2)
  narrow <- evidence(height_study(), prior_half = 0.2)
  expect_gt(abs(wide$log_bf - narrow$log_bf), 0.1)
  expect_true(wide$log_bf_least <= wide$log_bf && wide$log_bf <= wide$log_bf_most)
  expect_gt(evidence(height_study(), expect = "higher")$log_bf, evidence(height_study(), expect = "lower")$log_bf)
  inside <- evidence(versus(seedlings, chlorophyll, substrate, groups = c("compost", "peat")), within = 0.2)
  expect_lt(inside$log_bf, 0)
  expect_identical(c(inside$within_low, inside$within_high), c(-0.2, 0.2))
  shifted <- evidence(height_study(), beyond = 3.4554348)
  expect_lt(abs(shifted$statistic), 1e-6)
})

test_that("what cannot be a prior is refused", {
  expect_error(weigh_evidence(height_study(), prior_half = 0), class = "vandro_error_bad_value")
  expect_error(weigh_evidence(height_study(), prior_half = -1), class = "vandro_error_bad_value")
  expect_error(weigh_evidence(height_study(), prior_df = 0), class = "vandro_error_bad_value")
  expect_error(weigh_evidence(height_study(), within = c(1, 2)), class = "vandro_error_bad_bounds")
  expect_error(weigh_evidence(two_groups(c(1, 1), c(2, 2))), class = "vandro_error_no_spread")
})

test_that("the factor of few values is that of integrating both densities by hand", {
  study <- versus_summary(n = c(5, 7), mean = c(3, 1), sd = c(1, 1.5))
  row <- evidence(study, prior_half = 0.5 * stats::qt(0.75, 4), prior_location = 0.3, prior_df = 4)
  size <- 5 * 7 / 12
  # Density of t given the effect: normal over chi, integrated over the spread.
  given <- function(delta) {
    vapply(delta, function(one) {
      stats::integrate(function(s) {
        stats::dnorm(row$statistic * s, one * sqrt(size), 1) * s * stats::dchisq(s^2 * row$df, row$df) * 2 * s * row$df
      }, 0, Inf, rel.tol = 1e-10)$value
    }, 0)
  }
  prior <- function(delta) stats::dt((delta - 0.3) / 0.5, 4) / 0.5
  over <- function(from, to) {
    stats::integrate(function(delta) given(delta) * prior(delta), from, to, rel.tol = 1e-9)$value
  }
  expect_relative(row$bf_difference, over(-Inf, Inf) / given(0), 1e-7)
  expect_relative(over(-Inf, row$lower) / over(-Inf, Inf), 0.025, 1e-6)
  expect_relative(over(-Inf, row$estimate) / over(-Inf, Inf), 0.5, 1e-6)
  expect_relative(row$p_expected, over(0, Inf) / over(-Inf, Inf), 1e-7)
  inside <- evidence(
    study, prior_half = 0.5 * stats::qt(0.75, 4), prior_location = 0.3, prior_df = 4, within = c(-0.1, 0.3)
  )
  prior_inside <- stats::pt(0, 4) - stats::pt(-0.8, 4)
  share <- over(-0.1, 0.3) / over(-Inf, Inf)
  expect_relative(inside$bf_null, (share / (1 - share)) / (prior_inside / (1 - prior_inside)), 1e-6)
  expect_relative(c(row$prior_low, row$prior_high), 0.3 + 0.5 * stats::qt(c(0.25, 0.75), 4), 1e-12)
})

test_that("the range over widths holds every factor between", {
  for (study in list(height_study(), conductance_study(), published_study())) {
    answer <- weigh_evidence(study)
    row <- answer$table
    among <- try_priors(answer, row$prior_half * 2^seq(-1, 1, length.out = 101))$table$log_bf
    expect_true(all(among >= row$log_bf_least - 1e-3 & among <= row$log_bf_most + 1e-3))
    expect_lt(max(abs(range(among) - c(row$log_bf_least, row$log_bf_most))), 1e-3)
  }
})

test_that("every outcome has a row, and compare_answers() lays answers side by side", {
  both <- versus(seedlings, c(height, chlorophyll), substrate, groups = c("compost", "peat"))
  expect_identical(weigh_evidence(both)$table$outcome, c("height", "chlorophyll"))
  laid <- compare_answers(weigh_evidence(both), weigh_evidence(both, prior_half = 1))
  expect_true(any(laid$table$quantity == "bf_difference" & laid$table$differs))
  expect_false("prior_low" %in% laid$table$quantity[!laid$table$differs])
})

chlorophyll_study <- function() {
  versus(seedlings, chlorophyll, substrate, groups = c("compost", "peat"), label = "Chlorophyll")
}

test_that("words say which hypothesis a factor supports, and give powers of ten for what is huge", {
  plain <- chlorophyll_study()
  lines <- function(...) paste(trimws(format(weigh_evidence(...), width = 300)), collapse = "\n")
  expect_match(lines(plain), "3.53 times as probable under no effect as under an effect", fixed = TRUE)
  expect_match(lines(plain, expect = "higher"), "under no effect as under an effect above 0", fixed = TRUE)
  expect_match(lines(plain, beyond = 9), "under a difference other than 9 as under one of 9", fixed = TRUE)
  huge_study <- versus_paired_summary(n = 22, mean_change = 66, sd_change = 3)
  huge <- lines(huge_study)
  expect_match(
    huge, "BF10 = 1.5 \u00d7 10^26, BF01 = 6.6 \u00d7 10^-27: the data are 1.5 \u00d7 10^26 times", fixed = TRUE
  )
  expect_match(huge, "> .999", fixed = TRUE)
  expect_gt(weigh_evidence(huge_study)$table$log_bf, log(1e6))
  expect_match(narrate(weigh_evidence(plain)), "95% credible interval", fixed = TRUE)
  told <- narrate(weigh_evidence(plain), voice = "plain")
  expect_match(told, "3.53 times as probable if there is no difference as if there is one", fixed = TRUE)
  expect_match(told, "not the probability of either", fixed = TRUE)
  turning <- weigh_evidence(versus_summary(n = c(20, 20), mean = c(0.62, 0), sd = c(1, 1)))
  expect_match(narrate(turning), "its direction depends on the width", fixed = TRUE)
})

test_that("what the factor leans on, and what rounding leaves open, is said", {
  uneven <- versus_summary(n = c(8, 40), mean = c(5, 3.8), sd = c(4, 1))
  lines <- paste(trimws(format(weigh_evidence(uneven), width = 400)), collapse = "\n")
  expect_match(lines, "would reject a true null hypothesis in 33.9%", fixed = TRUE)
  expect_no_match(paste(format(weigh_evidence(height_study())), collapse = " "), "Note")
  answer <- weigh_evidence(published_study())
  open <- answer$detail$rounding[[1]]
  expect_true(open[[1]] < answer$table$log_bf && answer$table$log_bf < open[[2]])
  expect_match(format(answer, width = 300), "could have given any BF10 from", all = FALSE)
  # Any study that rounds to the published numbers has its factor in the range.
  withr::local_seed(3)
  written <- published_study()$outcomes[[1]]$moments
  for (i in 1:20) {
    near <- function(x) x + stats::runif(2, -0.05, 0.05)
    other <- versus_summary(
      n = c(written[[1]]$n, written[[2]]$n), mean = near(c(written[[1]]$mean, written[[2]]$mean)),
      sd = near(c(written[[1]]$sd, written[[2]]$sd))
    )
    log_bf <- weigh_evidence(other)$table$log_bf
    expect_true(open[[1]] - 1e-9 <= log_bf && log_bf <= open[[2]] + 1e-9)
  }
  expect_identical(weigh_evidence(height_study())$detail$rounding[[1]], c(NA_real_, NA_real_))
})

test_that("words of strength come with their source, for the side they speak for, over the widths too", {
  row <- evidence(chlorophyll_study(), strength_words = "jeffreys")
  expect_identical(row$strength_word, "substantial for no effect")
  expect_identical(row$strength_range, "substantial for no effect to barely worth mentioning for no effect")
  expect_match(row$strength_source, "Jeffreys 1961", fixed = TRUE)
  row <- evidence(height_study(), strength_words = c(some = 3, much = 340), strength_source = "Station handbook (2026)")
  expect_identical(row$strength_word, "some to much for an effect")
  expect_identical(row$strength_range, "some for an effect to much for an effect")
  expect_false("strength_word" %in% names(evidence(height_study())))
  expect_error(weigh_evidence(height_study(), strength_words = c(some = 3)), class = "vandro_error_no_source")
  expect_error(weigh_evidence(height_study(), strength_words = "mine"), class = "vandro_error_bad_value")
  expect_error(weigh_evidence(height_study(), strength_source = "Me"), class = "vandro_error_contradiction")
})

test_that("densities drawn integrate to one and hold the interval", {
  for (expect in c("either", "higher")) {
    answer <- weigh_evidence(height_study(), expect = expect)
    row <- answer$table
    data <- effect_densities(answer, answer$study$outcomes[[1]])
    area <- function(d) sum(diff(d$effect) * (d$posterior[-1] + d$posterior[-nrow(d)]) / 2)
    expect_relative(area(data[data$effect >= row$lower & data$effect <= row$upper, ]), 0.95, 1e-3)
    expect_relative(area(data), 1, 0.01)
  }
})
