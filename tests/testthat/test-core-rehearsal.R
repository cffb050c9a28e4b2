normal_world <- function(difference = 0.5, sd = c(1, 2), ...) {
  world <- list(
    paired = FALSE, difference = difference, difference_sd = 0, mean = 3, sd = sd, r = NA_real_, sd_change = NA_real_,
    shape = c("normal", "normal")
  )
  utils::modifyList(world, list(...))
}

plan_for <- function(world, n, m, sides = core_sides("either", 0, NULL, 0.05), draws = 1000, level = 0.95) {
  options <- list(draws = draws, threads = 1L, statistic = "studentized", seed = 11)
  core_rehearsal_plan(sides, level, world, n, m, options)
}

# Power of a t test by brute force: over both variances, each chi-squared, the normal probability given them.
brute_rate <- function(n, m, sd, difference, decide, welch) {
  spread <- sqrt(sd[[1]]^2 / n + sd[[2]]^2 / m)
  given <- function(a, b) {
    v <- c(sd[[1]]^2 * a / (n - 1), sd[[2]]^2 * b / (m - 1))
    if (welch) {
      parts <- v / c(n, m)
      se <- sqrt(sum(parts))
      df <- sum(parts)^2 / sum(parts^2 / (c(n, m) - 1))
    } else {
      df <- n + m - 2
      se <- sqrt(sum(v * (c(n, m) - 1)) / df * (1 / n + 1 / m))
    }
    decide(se, df, spread, difference)
  }
  outer <- function(b) {
    vapply(b, function(b) {
      inner <- function(a) vapply(a, given, 0, b = b) * stats::dchisq(a, n - 1)
      stats::integrate(inner, 0, Inf, rel.tol = 1e-8)$value
    }, 0) * stats::dchisq(b, m - 1)
  }
  stats::integrate(outer, 0, Inf, rel.tol = 1e-7)$value
}
two_sided <- function(se, df, spread, difference) {
  reach <- stats::qt(0.975, df) * se
  stats::pnorm((difference - reach) / spread) + stats::pnorm((-reach - difference) / spread)
}
within_two <- function(se, df, spread, difference) {
  reach <- stats::qt(0.95, df) * se
  max(0, stats::pnorm((2 - reach - difference) / spread) - stats::pnorm((-2 + reach - difference) / spread))
}

# Takes seconds: double integrals to seven digits.
test_that("rates of t tests are those of integrating over both variances", {
  sides <- core_sides("either", 0, NULL, 0.05)
  for (welch in c(TRUE, FALSE)) {
    parts <- core_error_parts(if (welch) "welch" else "student", 5, 9, c(1, 2))
    expect_relative(core_t_rate(parts, 1.3, sides), brute_rate(5, 9, c(1, 2), 1.3, two_sided, welch), 1e-6)
  }
  both <- core_sides("either", 0, c(-2, 2), 0.05)
  parts <- core_error_parts("welch", 8, 6, c(1, 1.5))
  expect_relative(core_t_rate(parts, 0.3, both), brute_rate(8, 6, c(1, 1.5), 0.3, within_two, TRUE), 1e-5)
  spread <- parts$spread
  limit <- stats::qt(0.05, parts$df, lower.tail = FALSE)
  expect_identical(core_both_rate(parts, 0.3, both, spread, limit), core_t_rate(parts, 0.3, both))
})

test_that("pairs and pooled variances are the noncentral t itself, and directions its tails", {
  parts <- core_error_parts("paired", 12, 12, 2)
  shift <- 0.9 * sqrt(12) / 2
  tails <- native_noncentral_t(c(1, -1) * stats::qt(0.975, 11), c(11, 11), c(shift, shift))
  expect_relative(core_t_rate(parts, 0.9, core_sides("either", 0, NULL, 0.05)), tails[1, 2] + tails[2, 1], 1e-12)
  one <- native_noncentral_t(stats::qt(0.95, 11), 11, (0.9 - 0.2) * sqrt(12) / 2)[1, 2]
  expect_relative(core_t_rate(parts, 0.9, core_sides("higher", 0.2, NULL, 0.05)), one, 1e-12)
  mirrored <- core_t_rate(parts, -0.9, core_sides("lower", -0.2, NULL, 0.05))
  expect_relative(mirrored, one, 1e-12)
  for (upper in c(TRUE, FALSE)) {
    # The central t continues the noncentral one.
    near <- core_shifted_tail(c(-1, 2), 9, 1e-9, upper)
    expect_relative(core_shifted_tail(c(-1, 2), 9, 0, upper), near, 1e-8)
  }
  # Under the null hypothesis the rate is alpha.
  for (method in c("student", "paired")) {
    parts <- core_error_parts(method, 7, 7, c(3, 3))
    expect_relative(core_t_rate(parts, 0, core_sides("either", 0, NULL, 0.03)), 0.03, 1e-9)
  }
})

test_that("assurance is power averaged over the true difference", {
  parts <- core_error_parts("welch", 9, 14, c(1, 2))
  sides <- core_sides("higher", 0, NULL, 0.05)
  averaged <- stats::integrate(function(at) {
    vapply(at, function(d) core_t_rate(parts, d, sides), 0) * stats::dnorm(at, 1, 0.7)
  }, -8, 10, rel.tol = 1e-8)$value
  expect_relative(core_t_rate(parts, 1, sides, doubt = 0.7), averaged, 1e-7)
})

test_that("expected half-widths are those of the spread of the SD", {
  parts <- core_error_parts("student", 6, 6, c(2, 2))
  expected <- stats::integrate(function(v) sqrt(v) * stats::dchisq(v, 10), 0, Inf, rel.tol = 1e-10)$value
  expect_relative(core_t_half_width(parts, 0.9), stats::qt(0.95, 10) * 2 * sqrt(1 / 3) * expected / sqrt(10), 1e-9)
})

test_that("nodes integrate what they are for", {
  for (shape in list(c(0.5, 0.5), c(0.5, 40), c(300, 2))) {
    split <- core_beta_nodes(shape[[1]], shape[[2]])
    expect_relative(sum(split$weight), 1, 1e-10)
    expect_relative(sum(split$weight * split$b), shape[[1]] / sum(shape), 1e-9)
    expect_equal(split$b + split$rest, rep(1, length(split$b)), tolerance = 1e-14)
  }
  rule <- core_legendre(20)
  expect_relative(sum(rule$weight * exp(rule$x)), exp(1) - exp(-1), 1e-13)
})

test_that("the smallest n that is enough is found from any guess", {
  for (target in c(2, 3, 17, 1000, 99999)) {
    for (guess in c(2, 15, 5e4)) {
      asked <- 0
      found <- core_smallest_enough(function(n) {
        asked <<- asked + 1
        n >= target
      }, 2, 1e5, guess)
      expect_identical(found, target)
      expect_lt(asked, 60)
    }
  }
  expect_missing(core_smallest_enough(function(n) FALSE, 2, 50))
  expect_identical(core_other_size(c(3, 10), 0.25), c(2, 2))
  expect_relative(core_guess_n(1, c(1, 1), 1, FALSE, 0.025, 0.5), 2 * stats::qnorm(0.975)^2 + 2, 1e-12)
})

test_that("made-up values have the means, spreads and correlation supposed, whatever their shape", {
  for (shape in made_up_shapes) {
    world <- normal_world(shape = c(shape, shape))
    found <- core_made_up(world, 1e5, 1e5, 5)
    far <- if (shape == "strongly_skewed") 0.1 else 0.03
    expect_lt(abs(mean(found$first) - 3.5), 0.02)
    expect_lt(abs(stats::sd(found$second) / 2 - 1), far)
    skewness <- mean((found$first - 3.5)^3) / stats::sd(found$first)^3
    if (shape == "skewed") expect_lt(abs(skewness - 2), 0.2)
    if (shape %in% c("normal", "uniform")) expect_lt(abs(skewness), 0.05)
  }
  pairs <- normal_world(paired = TRUE, r = 0.7, sd_change = sqrt(5 - 2.8), shape = c("skewed", "skewed"))
  found <- core_made_up(pairs, 1e5, 1e5, 5)
  expect_lt(abs(stats::cor(found$first, found$second) - 0.7), 0.01)
  expect_lt(abs(stats::sd(found$first) - 1), 0.02)
  expect_lt(abs(stats::sd(found$second) - 2), 0.03)
  unknown <- normal_world(paired = TRUE, r = NA_real_, sd = c(NA_real_, NA_real_), sd_change = 2)
  changes <- core_made_up(unknown, 50, 50, 1)
  expect_named(changes, "change")
  rounded <- core_made_up(normal_world(rounded_to = 0.1), 500, 500, 5)
  expect_equal(rounded$first * 10, round(rounded$first * 10), tolerance = 1e-12)
  expect_identical(core_made_up_world(normal_world(rounded_to = 0.5))$second$sd, 4)
})

test_that("simulated rates meet the formula, and do not depend on the threads", {
  world <- normal_world()
  plan <- plan_for(world, 10, 15, draws = 1e5)
  found <- core_rehearsed(world, 10, 15, c("welch", "student"), plan, 0, 1e5, 2L)
  expect_identical(found, core_rehearsed(world, 10, 15, c("welch", "student"), plan, 0, 1e5, 1L))
  for (method in c("welch", "student")) {
    rates <- core_rates_of(found[method, ])
    parts <- core_error_parts(method, 10, 15, world$sd)
    exact <- core_t_rate(parts, world$difference, core_sides("either", 0, NULL, 0.05))
    expect_lt(abs(rates$power - exact), 4 * sqrt(exact * (1 - exact) / 1e5))
    expect_lt(abs(rates$half_width - core_t_half_width(parts, 0.95)), 4 * rates$half_width_se)
    expect_true(rates$low < rates$power && rates$power < rates$high)
  }
  sums <- c(studies = 10, rejected = 4, undefined = 0, widths = 3, width_sum = 6, width_squares = 14)
  # Widths 1, 2 and 3: variance 1, and two steps each.
  expect_equal(unlist(core_rates_of(sums, 2)[c("half_width", "half_width_se")], use.names = FALSE), c(4, 2 / sqrt(3)))
  in_steps <- normal_world(0.3, rounded_to = 0.1)
  sides <- core_sides("higher", 0.3, NULL, 0.05)
  expect_identical(plan_for(in_steps, 5, 5, sides)$up_at, 3)
  none <- core_rates_of(c(studies = 10, rejected = 0, undefined = 10, widths = 0, width_sum = 0, width_squares = 0))
  expect_identical(c(none$half_width, none$undefined), c(NA_real_, 1))
})

test_that("bounds in SD units: the formula is the rate of the simulated tests, and alpha at a bound", {
  sides <- core_sides("either", 0, c(-1, 1), 0.05, c(-1, 1))
  for (case in list(
    list("paired", c(20, 20), 1), list("student", c(9, 14), c(1, 1)), list("student", c(9, 14), c(1, 2)),
    list("welch", c(12, 8), c(1, 2)), list("welch", c(30, 30), c(1, 1))
  )) {
    n <- case[[2]]
    parts <- core_error_parts(case[[1]], n[[1]], n[[2]], case[[3]])
    world <- if (case[[1]] == "paired") {
      normal_world(0.2, c(NA_real_, NA_real_), paired = TRUE, sd_change = 1)
    } else {
      normal_world(0.2, case[[3]])
    }
    plan <- plan_for(world, n[[1]], n[[2]], sides, draws = 20000)
    found <- core_rehearsed(world, n[[1]], n[[2]], case[[1]], plan, 0, 20000, 1L)
    expect_lt(abs(found[[1, "rejected"]] / 20000 - core_t_rate(parts, 0.2, sides)), 0.013)
  }
  # Exact where one SD standardizes.
  expect_relative(core_t_rate(core_error_parts("paired", 40, 40, 1), 1, sides), 0.05, 1e-7)
  expect_relative(core_t_rate(core_error_parts("student", 30, 50, c(1, 1)), -1, sides), 0.05, 1e-7)
  parts <- core_error_parts("welch", 12, 8, c(1, 2))
  expect_identical(core_standardized_rate(parts, 0.2, sides, parts$spread), core_t_rate(parts, 0.2, sides))
  ends <- core_standardized_ends(parts, sides)
  expect_equal(ends$low, -ends$high)
  critical <- core_standardized_critical("paired", 25, 25, c(-1, 1), 0.05)
  expect_equal(stats::pt(critical[[2]], 24, 5), 0.05, tolerance = 1e-7)
  touching <- core_touching(-1, 0.1, 0.02, 0.05)
  expect_equal(touching + 1, stats::qnorm(0.95) * sqrt(0.1 + 0.02 * touching^2))
  expect_identical(core_touching(-1, 0.1, 0.5, 0.05), Inf)
})
