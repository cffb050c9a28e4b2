test_that("shares cover all draws, in order", {
  seen <- in_shares(10, 4, function(from, to) c(from, to), "Looking")
  expect_identical(seen, list(c(0, 4), c(4, 8), c(8, 10)))
  expect_identical(in_shares(3, 4, function(from, to) to - from, "Looking"), list(3))
})

test_that("merged shares of random assignments are the whole", {
  set.seed(1)
  sample <- core_group_sample(rnorm(30), rnorm(40))
  estimate <- core_permuted_estimate(sample)
  split_up <- function(count, step, work) {
    expect_identical(step, core_stream_size(70))
    cuts <- unique(c(seq(0, count, by = 3 * step), count))
    lapply(seq_len(length(cuts) - 1), function(k) work(cuts[[k]], cuts[[k + 1]]))
  }
  alphas <- c(0.025, 0.025)
  expect_identical(
    core_sums_inference(sample, alphas, 10000, 3, 1L, split_up), core_sums_inference(sample, alphas, 10000, 3)
  )
  expect_identical(
    core_studentized_inference(sample, estimate, alphas, 10000, 3, 2L, split_up),
    core_studentized_inference(sample, estimate, alphas, 10000, 3)
  )
  flips <- core_flip_sample(rnorm(70, 0.2))
  expect_identical(
    core_sums_inference(flips, alphas, 10000, 3, 1L, split_up), core_sums_inference(flips, alphas, 10000, 3)
  )
  listed <- core_drawn_shares(flips, 0, function(from, to) list(n = to), split_up)
  expect_identical(core_merged_shares(listed, 5), list(n = 0))
  expect_identical(core_stream_size(1e6), 33)
  expect_identical(core_one_share(5, 2, function(from, to) to), list(5))
})

test_that("workers of a plan of future find what one process finds", {
  skip_if_not_installed("future")
  skip_on_cran()
  study <- versus(seedlings, c(height, leaf_area, dry_mass), substrate, groups = c("compost", "peat"))
  one <- versus(seedlings, height, substrate, groups = c("compost", "peat"))
  world <- suppose_world(difference = 2, sd = 3)
  ask <- list(
    function() gauge_effect(one, "d_average", interval = "bootstrap", options = how(draws = 4e5), seed = 1)$table,
    function() test_difference(one, "permutation", options = how(draws = 20000), seed = 1)$table,
    function() test_difference(study, adjust = "max_t", options = how(draws = 9000), seed = 1)$table,
    function() rehearse_study(world, 10, method = "ranks", draws = 2000, seed = 1)$table
  )
  alone <- lapply(ask, function(f) f())
  old <- future::plan(future::multisession, workers = 2)
  withr::defer(future::plan(old))
  expect_equal(workers_planned(), 2)
  expect_identical(lapply(ask, function(f) f()), alone)
  future::plan(future::sequential)
  expect_identical(lapply(ask[3], function(f) f()), alone[3])
})
