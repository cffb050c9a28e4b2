test_that("p lies in the range that rounding allows, for every way to give the spread", {
  set.seed(6)
  for (i in 1:60) {
    n <- sample(4:30, 2)
    mean <- rnorm(2, 20, 2)
    sd <- runif(2, 1, 4)
    exact <- test_difference(versus_summary(n, mean, sd))$table$p
    rounded <- switch(1 + i %% 2,
      versus_summary(n, round(mean, 1), round(sd, 1)),
      versus_summary(n, round(mean, 1), se = round(sd / sqrt(n), 2))
    )
    table <- test_difference(rounded)$table
    expect_lte(table$p_least, exact)
    expect_gte(table$p_most, exact)
    expect_true(table$p_least <= table$p && table$p <= table$p_most)
    gap <- mean[[1]] - 20
    p <- test_difference(versus_paired_summary(n[[1]], mean_change = gap, sd_change = sd[[1]]))$table$p
    printed <- versus_paired_summary(n[[1]], mean_change = round(gap, 1), sd_change = round(sd[[1]], 1))
    range <- test_difference(printed)$table
    expect_true(range$p_least <= p && p <= range$p_most)
  }
  text <- paste(format(test_difference(published_study()), width = 500), collapse = "")
  expect_match(text, "any p-value from .0[0-9]+ to .[0-9]+")
  expect_missing(test_difference(height_study())$table$p_least)
})

test_that("a group of one value has no SD, and gives what its value gives", {
  values <- c(21.4, 19.8, 24.1, 22.6, 20.3)
  raw <- versus(first = c(18.2), second = values, groups = c("compost", "peat"))
  printed <- function(...) versus_summary(c(1, 5), c(18.2, mean(values)), ..., groups = c("compost", "peat"))
  studies <- list(printed(sd = c(NA, stats::sd(values))), printed(se = c(NA, stats::sd(values) / sqrt(5))))
  for (study in studies) {
    same <- c("estimate", "lower", "upper", "statistic", "df", "p")
    from_values <- test_difference(raw, "student")$table
    expect_equal(test_difference(study, "student")$table[same], from_values[same], tolerance = 1e-12)
    expect_error(test_difference(study), class = "vandro_error_one_value")
    described <- describe_study(study)$table
    expect_identical(is.na(described$sd[1:2]), c(TRUE, FALSE))
  }
  rounded <- test_difference(printed(sd = c(NA, round(stats::sd(values), 1))), "student")$table
  expect_true(rounded$p_least < from_values$p && from_values$p < rounded$p_most)
  expect_error(printed(sd = c(1, 2)), "\"compost\" (n = 1)", fixed = TRUE, class = "vandro_error_bad_value")
  expect_error(printed(se = c(1, 2)), class = "vandro_error_bad_value")
  expect_error(printed(sd = c(NA, NA)), "\"peat\" (value 2)", fixed = TRUE, class = "vandro_error_bad_value")
  expect_error(versus_paired_summary(1, mean_change = 2, sd_change = 1), class = "vandro_error_bad_value")
})

test_that("each wrong summary has an error that names the group", {
  bad <- function(..., groups = c("compost", "peat")) {
    input <- utils::modifyList(list(n = c(5, 6), mean = c(1, 2), sd = c(1, 1)), list(...))
    do.call(versus_summary, c(input, list(groups = groups)))
  }
  for (input in list(
    list(sd = c(1, 0)), list(sd = c(-1, 1)), list(n = c(5.5, 6)), list(n = c(0, 6)),
    list(mean = c(1, NA)), list(mean = c(1, Inf)), list(n = 5), list(sd = c("1", "2"))
  )) {
    expect_error(do.call(bad, input), class = "vandro_error_bad_value")
  }
  expect_error(bad(sd = c(1, 0)), "\"peat\" (value 2)", fixed = TRUE)
  expect_error(bad(groups = c("a", "a")), class = "vandro_error_bad_groups")
  expect_error(versus_summary(c(5, 6), c(1, 2), c(1, 1), foo = 1), class = "vandro_error_unknown_argument")
})
