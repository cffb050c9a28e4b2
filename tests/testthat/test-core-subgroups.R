test_that("of two subgroups F is the square of t with Satterthwaite's degrees of freedom over four groups", {
  set.seed(1)
  x <- lapply(c(8, 12, 6, 20), function(n) rnorm(n, 0, n))
  v <- vapply(x, function(one) var(one) / length(one), 0)
  n <- lengths(x)
  gaps <- c(mean(x[[1]]) - mean(x[[2]]), mean(x[[3]]) - mean(x[[4]]))
  se <- sqrt(c(v[[1]] + v[[2]], v[[3]] + v[[4]]))
  df <- c(
    (v[[1]] + v[[2]])^2 / sum(v[1:2]^2 / (n[1:2] - 1)), (v[[3]] + v[[4]])^2 / sum(v[3:4]^2 / (n[3:4] - 1))
  )
  all_df <- sum(v)^2 / sum(v^2 / (n - 1))
  found <- core_heterogeneity(gaps, se, df)
  t <- (gaps[[1]] - gaps[[2]]) / sqrt(sum(v))
  expect_equal(found$statistic, t^2)
  expect_equal(c(found$df, found$df_second), c(1, all_df))
  expect_equal(found$p, 2 * stats::pt(-abs(t), all_df))
  gap <- core_estimate_gap(gaps, se, df)
  expect_equal(unlist(gap), c(estimate = gaps[[1]] - gaps[[2]], se = sqrt(sum(v)), df = all_df))
})

test_that("three subgroups: Welch's (1951) formula written out", {
  d <- c(2.1, 0.4, 5)
  se <- c(0.5, 1.2, 0.9)
  df <- c(11.5, 20, 7)
  w <- 1 / se^2
  centre <- sum(w * d) / sum(w)
  lambda <- sum((1 - w / sum(w))^2 / df)
  f <- (sum(w * (d - centre)^2) / 2) / (1 + 2 * 1 / 8 * lambda)
  for (scale in c(1, 1e-150, 1e150)) {
    found <- core_heterogeneity(d * scale, se * scale, df)
    expect_equal(found$statistic, f)
    expect_equal(found$df_second, 8 / (3 * lambda))
    expect_equal(found$log_p, stats::pf(f, 2, 8 / (3 * lambda), lower.tail = FALSE, log.p = TRUE))
    expect_equal(found$centre / scale, centre)
    expect_equal(found$se / scale, 1 / sqrt(sum(w)))
  }
  expect_identical(core_heterogeneity(1, 1, 5)$reason, "one_subgroup")
  expect_equal(core_f_tail(3, 2, 10, 0, 1)$p, stats::pf(3, 2, 10, lower.tail = FALSE))
})

test_that("with one common variance it is the interaction of a linear model", {
  set.seed(4)
  data <- expand.grid(unit = 1:7, site = c("a", "b", "c"), side = c("x", "y"))[-(1:3), ]
  data$y <- rnorm(nrow(data)) + (data$site == "c") * (data$side == "x")
  whole <- sum(stats::residuals(stats::lm(y ~ site * side, data))^2)
  plain <- sum(stats::residuals(stats::lm(y ~ site + side, data))^2)
  df <- nrow(data) - 6
  cells <- split(data$y, list(data$site, data$side))
  n <- lengths(cells)
  means <- vapply(cells, mean, 0)
  common <- core_common_sd(vapply(cells, stats::sd, 0), n - 1)
  expect_equal(c(common$sd^2 * common$df, common$df), c(whole, df))
  unit <- sqrt(1 / n[1:3] + 1 / n[4:6])
  found <- core_pooled_heterogeneity(means[1:3] - means[4:6], unit, common$sd, df)
  expect_equal(found$statistic, ((plain - whole) / 2) / (whole / df))
  expect_equal(c(found$df, found$df_second), c(2, df))
  # Of two subgroups: the square of their t.
  expect_equal(core_pooled_heterogeneity(c(3, 1), c(0.6, 0.8), 2, 9)$statistic, 1)
  expect_identical(core_pooled_heterogeneity(1, 1, 1, 5)$reason, "one_subgroup")
  # A group of one value tells nothing about spread.
  expect_equal(core_common_sd(c(2, NA), c(4, 0)), list(sd = 2, df = 4))
  expect_equal(core_common_sd(c(0, 0), c(4, 5))$sd, 0)
})

test_that("the level is kept where spreads and sizes differ", {
  set.seed(9)
  p <- replicate(2000, {
    m <- Map(function(n, sd) group_moments(rnorm(n, 0, sd), rnorm(2 * n, 0, 1)), c(8, 15, 25), c(4, 1, 2))
    errors <- lapply(m, function(one) core_welch_error(one[[1]], one[[2]]))
    core_heterogeneity(
      vapply(m, function(one) core_mean_gap(one[[1]], one[[2]]), 0), vapply(errors, `[[`, 0, "se"),
      vapply(errors, `[[`, 0, "df")
    )$p
  })
  expect_lt(abs(mean(p <= 0.05) - 0.05), 3 * sqrt(0.05 * 0.95 / 2000) + 0.004)
})
