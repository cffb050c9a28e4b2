effects <- function(...) as.data.frame(flatly(gauge_effect, ...))

test_that("superiority and Cliff's delta are counts of pairs, with the interval of the relative effect", {
  rows <- effects(height_study(), c("superiority", "rank_biserial"))
  test <- as.data.frame(test_difference(height_study(), "relative"))
  expect_identical(rows$estimate[[1]], test$estimate)
  expect_identical(c(rows$lower[[1]], rows$upper[[1]]), c(test$lower, test$upper))
  expect_equal(rows$estimate[[2]], 2 * rows$estimate[[1]] - 1)
  expect_equal(rows$lower[[2]], 2 * rows$lower[[1]] - 1)
})

test_that("the shift is that of the test", {
  for (case in list(list(height_study(), "ranks"), list(conductance_study(), "signed_ranks"))) {
    row <- effects(case[[1]], "shift")
    test <- as.data.frame(test_difference(case[[1]], case[[2]]))
    expect_identical(row[c("estimate", "lower", "upper")], test[c("estimate", "lower", "upper")])
  }
})

test_that("r names its N and comes from the statistic", {
  row <- effects(height_study(), "r_rank", seed = 3)
  test <- as.data.frame(test_difference(height_study(), "ranks"))
  expect_identical(row$estimate, test$z / sqrt(47))
  expect_match(row$standardizer, "N = 47 measurements")
  pairs <- effects(versus_paired(moisture, probe_a, probe_b), "r_rank", seed = 3)
  expect_match(pairs$standardizer, "N = 48 pairs")
  kept <- effects(versus_paired(moisture, probe_a, probe_b), "r_rank", seed = 3, zeros = "pratt")
  expect_match(kept$standardizer, "N = 48 pairs")
})

test_that("the matched-pairs rank-biserial is the balance of the ranks", {
  row <- effects(conductance_study(), "rank_biserial", seed = 3)
  test <- as.data.frame(test_difference(conductance_study(), "signed_ranks"))
  total <- test$statistic + test$statistic_opposite
  expect_equal(row$estimate, (test$statistic - test$statistic_opposite) / total)
  expect_true(row$lower < row$estimate && row$upper <= 1)
})

test_that("bootstrap limits of every one are reproducible and near the others", {
  codes <- c("superiority", "rank_biserial", "shift", "r_rank")
  one <- effects(height_study(), codes, interval = "bootstrap", seed = 5)
  two <- effects(height_study(), codes, interval = "bootstrap", seed = 5, threads = 2)
  expect_identical(one, two)
  expect_identical(unique(one$method), "bootstrap")
  own <- effects(height_study(), codes[1:3])
  expect_equal(one$lower[1:2], own$lower[1:2], tolerance = 0.1)
  expect_true(all(one$lower < one$estimate & one$estimate < one$upper))
})

test_that("ranks need measurements: asked for by name an error, in a set left out and named", {
  for (code in c("superiority", "rank_biserial", "r_rank", "shift")) {
    expect_error(gauge_effect(published_study(), code), class = "vandro_error_needs_values")
  }
  all <- gauge_effect(published_study(), "all")
  expect_identical(unname(all$detail$left_out[[1]]), rep("needs_measurements", 4))
  expect_error(gauge_effect(two_groups(1, c(2, 3, 4)), "superiority"), class = "vandro_error_one_value")
  expect_error(
    gauge_effect(height_study(), "superiority", options = how(exact = TRUE)), class = "vandro_error_contradiction"
  )
  expect_error(
    gauge_effect(height_study(), "shift", options = how(zeros = "pratt")), class = "vandro_error_contradiction"
  )
  expect_error(gauge_effect(height_study(), "shift", seed = 1), class = "vandro_error_contradiction")
  expect_error(gauge_effect(conductance_study(), "superiority"), class = "vandro_error_bad_value")
})

test_that("where all go one way, what can be had is finite and what cannot is explained", {
  up <- versus_paired(first = c(3, 5, 6, 8, 9.5), second = c(1, 2, 4, 5, 6))
  row <- effects(up, "rank_biserial", seed = 1)
  expect_identical(list(row$estimate, row$upper, row$method), list(1, 1, "one_way"))
  expect_relative(row$lower, 2 * 0.025^(1 / 2) - 1, 1e-12)
  apart <- two_groups(1:4, 11:15 / 2 + 5)
  row <- effects(apart, "superiority")
  expect_identical(list(row$estimate, row$lower, row$method), list(0, 0, "one_way"))
  expect_match(row$source, "Clopper & Pearson 1934")
  expect_error(gauge_effect(apart, "r_rank", seed = 1), class = "vandro_error_no_bootstrap")
  set <- gauge_effect(apart, "all", seed = 1)
  expect_identical(set$detail$left_out[[1]][["r_rank"]], "no_bootstrap")
  few <- gauge_effect(two_groups(1:3, 4:6), "shift")
  expect_identical(c(few$table$lower, few$table$upper), c(NA_real_, NA_real_))
  expect_match(format(few), "no finite 95% interval", all = FALSE)
  expect_match(narrate(few), "no finite 95% CI")
  expect_s3_class(autoplot(few), "ggplot")
})

test_that("the printed effect sizes are as they were approved", {
  expect_snapshot({
    gauge_effect(height_study(), method = "ranks")
    gauge_effect(conductance_study(), c("shift", "rank_biserial", "r_rank"), seed = 1)
    narrate(gauge_effect(height_study(), c("shift", "superiority", "r_rank"), seed = 1))
    narrate(gauge_effect(height_study(), "superiority"), voice = "plain")
  })
})

test_that("test and effect size have one interval of superiority, whatever the size", {
  limits <- function(x) unlist(x$table[1, c("lower", "upper")])
  small <- plots_study()
  expect_identical(limits(gauge_effect(small, "superiority")), limits(test_difference(small, "relative")))
  expect_identical(gauge_effect(small, "superiority")$table$method, "assignments")
  expect_null(gauge_effect(small, "superiority")$settings$seed)
  large <- height_study()
  expect_identical(limits(gauge_effect(large, "superiority")), limits(test_difference(large, "relative")))
  set.seed(1)
  drawn <- two_groups(stats::rnorm(9), stats::rnorm(60))
  effect <- gauge_effect(drawn, "superiority", seed = 4)
  expect_identical(limits(effect), limits(test_difference(drawn, "relative", seed = 4)))
  expect_identical(effect$settings[c("draws", "seed")], list(draws = 9999, seed = 4))
})
