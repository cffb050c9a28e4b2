test_that("many outcomes at once are the single results", {
  set.seed(21)
  codes <- rep(c(2L, 1L, 3L), c(12, 15, 4))
  x <- matrix(rnorm(31 * 120), 31) * 10^rep(seq(-150, 150, length.out = 120), each = 31)
  x[sample(length(x), 60)] <- NA
  for (expect in c("either", "higher", "lower")) {
    found <- core_welch_many(x, codes, 1L, 2L, expect, 0, 0.9)
    g <- core_g_many(found, 0.9)
    for (j in seq(1, 120, by = 7)) {
      m <- core_group_moments(x[, j], codes, 1L, 2L)
      error <- core_welch_error(m[[1]], m[[2]])
      one <- core_t_inference(core_mean_gap(m[[1]], m[[2]]), error$se, error$df, 0, expect, 0.9, 0.05)
      for (what in c("estimate", "statistic", "df", "p", "lower", "upper")) {
        expect_relative(found[[what]][[j]], one[[what]], 1e-9)
      }
      expect_relative(found$log_p[[j]], one$log_p, 1e-10)
      parts <- core_effect_parts(m)
      single <- core_effect_interval("g", parts, 0.9, "noncentral_t")
      expect_relative(g$estimate[[j]], core_effect_point("g", parts), 1e-9)
      expect_relative(c(g$lower[[j]], g$upper[[j]]), c(single$lower, single$upper), 1e-9)
    }
  }
})

test_that("offsets cost no digits and outcomes without an answer have none", {
  x <- cbind(c(1, 2, 4, 3, 7) + 1e9, 1, c(1, NA, NA, 2, 3), c(NA, NA, NA, 4, 5))
  found <- core_welch_many(x, c(1L, 1L, 1L, 2L, 2L), 1L, 2L, "either", 0, 0.95)
  plain <- core_welch_many(cbind(c(1, 2, 4, 3, 7)), c(1L, 1L, 1L, 2L, 2L), 1L, 2L, "either", 0, 0.95)
  expect_identical(found$statistic[[1]], plain$statistic)
  expect_identical(is.nan(found$statistic), c(FALSE, TRUE, TRUE, TRUE))
  expect_identical(found$n_first, c(3, 3, 1, 0))
})

test_that("p is right far out, for few and many degrees of freedom", {
  # Two groups of n with SD 1 and any gap: t and df are known.
  for (n in c(2, 3, 30, 5000)) {
    base <- rep_len(c(-1, 1), n)
    gap <- c(1e-8, 0.1, 1, 10, 1e4)
    x <- rbind(outer(base, gap, function(b, g) b + g), matrix(base, n, length(gap)))
    found <- core_welch_many(x, rep(1:2, each = n), 1L, 2L, "either", 0, 0.99)
    expected <- log(2) + stats::pt(-abs(found$statistic), found$df, log.p = TRUE)
    expect_relative(found$log_p, pmin(0, expected), 1e-11)
    expect_relative(found$upper - found$estimate, stats::qt(0.995, found$df) * found$se, 1e-10)
  }
})
