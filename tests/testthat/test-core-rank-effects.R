test_that("rank-based effect sizes are functions of share and z", {
  found <- list(share = 0.8, z = 2, centre = 1.5)
  expect_identical(core_rank_effect("superiority", found, 25), 0.8)
  expect_equal(core_rank_effect("rank_biserial", found, 25), 0.6)
  expect_identical(core_rank_effect("r_rank", found, 25), 0.4)
  expect_identical(core_rank_effect("shift", found, 25), 1.5)
})

test_that("drawn effect sizes come in the outcome's unit and do not depend on steps", {
  samples <- core_rank_samples(c(0.5, 0.7, 1.1, 1.4), c(0.2, 0.6, 0.9))
  all <- core_rank_draws(samples, "drop", 3, 0, 300, 1L, TRUE)
  part <- core_rank_draws(samples, "drop", 3, 100, 200, 2L, TRUE)
  expect_identical(all$centre[101:200], part$centre)
  expect_true(all(abs(all$centre) <= 1.2))
  expect_true(all(is.nan(core_rank_draws(samples, "drop", 3, 0, 5, 1L, FALSE)$centre)))
  changes <- core_rank_draws(core_change_sample(c(-0.5, 0, 1.5)), "pratt", 1, 0, 50, 1L, TRUE)
  # Middles of means of two changes, each a multiple of 0.5.
  expect_true(all((8 * changes$centre) %% 1 == 0))
})

test_that("stand-ins for the jackknife of superiority are the jackknife up to shift and scale", {
  first <- c(1, 2, 2, 5, 8)
  second <- c(0, 2, 3)
  share <- function(a, b) mean(outer(a, b, ">") + outer(a, b, "==") / 2)
  left_out <- c(
    vapply(1:5, function(i) share(first[-i], second), 0), vapply(1:3, function(j) share(first, second[-j]), 0)
  )
  found <- core_rank_jackknife(core_rank_samples(first, second))
  expect_equal(core_acceleration(found$values, found$group), core_acceleration(left_out, found$group))
  # Changes: how many means of two are above 0.
  changes <- c(-2, -1, 1, 3, 4)
  influence <- -rowMeans(outer(changes, changes, function(a, b) (a + b > 0) + (a + b == 0) / 2))
  found <- core_rank_jackknife(core_change_sample(changes))
  expect_equal(found$values, influence / 4)
  moved <- core_rank_jackknife(core_change_sample(changes), 1)
  expect_equal(sort(unique(moved$values)) <= 0, rep(TRUE, length(unique(moved$values))))
})

test_that("changes that all go one way have a limit that holds", {
  found <- core_balance_limits(1, 9, 0.95)
  # Four means of two changes without a common member.
  expect_relative(((found[[1]] + 1) / 2)^4, 0.025, 1e-13)
  expect_identical(found[[2]], 1)
  expect_identical(core_balance_limits(-1, 9, 0.95), -rev(found))
})
