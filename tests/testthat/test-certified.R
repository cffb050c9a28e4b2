# Certified public reference data: NIST Statistical Reference Datasets.

# Analysis of variance, "AtmWtAg": two instruments, 24 readings each, seven leading digits in common
# (Powell, Murphy & Gramlich 1982).
atomic_weight <- list(
  c(
    107.8681568, 107.8681465, 107.8681572, 107.8681785, 107.8681446, 107.8681903, 107.8681526, 107.8681494,
    107.8681616, 107.8681587, 107.8681519, 107.8681486, 107.8681419, 107.8681569, 107.8681508, 107.8681672,
    107.8681385, 107.8681518, 107.8681662, 107.8681424, 107.8681360, 107.8681333, 107.8681610, 107.8681477
  ),
  c(
    107.8681079, 107.8681344, 107.8681513, 107.8681197, 107.8681604, 107.8681385, 107.8681642, 107.8681365,
    107.8681151, 107.8681082, 107.8681517, 107.8681448, 107.8681198, 107.8681482, 107.8681334, 107.8681609,
    107.8681101, 107.8681512, 107.8681469, 107.8681360, 107.8681254, 107.8681261, 107.8681450, 107.8681368
  )
)

test_that("t squared is the certified F, d follows from it, and the residual SD is the pooled one", {
  study <- versus(first = atomic_weight[[1]], second = atomic_weight[[2]])
  row <- test_difference(study, "student")$table
  # The decimals of the readings are rounded to doubles: ten digits are what they can hold.
  expect_relative(row$statistic^2, 15.9467335677930, 1e-9)
  expect_identical(row$df, 46)
  d <- gauge_effect(study, "d_pooled", method = "student")$table
  expect_relative(d$standardizer_value, 1.51048314446410e-05, 1e-9)
  expect_relative(d$estimate * sqrt(12), row$statistic, 1e-12)
})

test_that("exact readings give the certified F to twelve digits", {
  # The same readings less 107.868, in units of 1e-7: whole numbers.
  whole <- lapply(atomic_weight, function(x) round((x - 107.868) * 1e7))
  study <- versus(first = whole[[1]], second = whole[[2]])
  expect_relative(test_difference(study, "student")$table$statistic^2, 15.9467335677930, 1e-13)
  for (offset in c(1e9, 1e12)) {
    moved <- versus(first = whole[[1]] + offset, second = whole[[2]] + offset)
    expect_relative(test_difference(moved, "student")$table$statistic^2, 15.9467335677930, 1e-13)
  }
})

test_that("the construction of the nasty sets keeps its digits at every offset", {
  # Simon & Lesage (1989), as in "SmLs01" to "SmLs09": a first value at the mean, then ten above and ten
  # below by 0.1 in turn. Two such groups 0.1 apart, of 21, 201 or 2001 values.
  for (half in c(10, 100, 1000)) {
    group <- function(mean) mean + c(0, rep(c(-1, 1), half))
    n <- 2 * half + 1
    # Variance 2 half / (n - 1) = 1 in these units; gap 1: t^2 = n / 2.
    for (offset in c(0, 1e6, 1e12)) {
      study <- quiet(versus(first = offset + group(5), second = offset + group(4)))
      expect_relative(test_difference(study, "student")$table$statistic^2, n / 2, 1e-12)
      expect_relative(test_difference(study, "welch")$table$statistic^2, n / 2, 1e-12)
    }
  }
})

test_that("means and SDs meet the certified ones of the univariate sets", {
  # "NumAcc1" to "NumAcc4".
  alternating <- c(0.2, rep(c(0.1, 0.3), 500))
  cases <- list(
    list(c(10000001, 10000003, 10000002), 10000002, 1, 1e-15),
    list(1 + alternating, 1.2, 0.1, 1e-13), list(1e6 + alternating, 1000000.2, 0.1, 1e-9),
    list(1e7 + alternating, 10000000.2, 0.1, 1e-8)
  )
  for (case in cases) {
    study <- versus(first = case[[1]], second = c(1, 2, 3))
    row <- describe_study(study)$table[1, ]
    expect_relative(c(row$mean, row$sd), c(case[[2]], case[[3]]), case[[4]])
  }
})

test_that("pooled t squared is the one-way F of a linear model", {
  data <- seedlings[seedlings$substrate %in% c("compost", "peat") & !is.na(seedlings$height), ]
  f <- stats::anova(stats::lm(height ~ substrate, data))
  row <- test_difference(height_study(), "student")$table
  expect_relative(row$statistic^2, f[1, "F value"], 1e-12)
  expect_relative(row$p, f[1, "Pr(>F)"], 1e-10)
})
