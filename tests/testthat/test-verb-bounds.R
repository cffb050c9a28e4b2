declared_answer <- function(...) flatly(test_equivalence, height_study(), 5, ...)

test_that("every row is the test of its own bounds, and one is the declared", {
  for (method in c("welch", "ranks", "permutation")) {
    answer <- declared_answer(method)
    table <- try_bounds(answer, c(1, 4, 4.9))$table
    expect_identical(table$standing, c("exploratory", "exploratory", "exploratory", "declared"))
    for (i in seq_len(nrow(table))) {
      seed <- if (method == "permutation") answer$settings["seed"]
      bounds <- c(table$bound_low[[i]], table$bound_high[[i]])
      one <- do.call(test_equivalence, c(list(height_study(), bounds, method), seed))$table
      expect_equal(c(table$p_low[[i]], table$p_high[[i]]), c(one$p_low, one$p_high), tolerance = 1e-12)
      expect_identical(table$verdict[[i]], one$verdict)
    }
  }
})

test_that("left out, bounds are multiples of the declared ones from narrow to beyond the turn", {
  curve <- try_bounds(test_equivalence(height_study(), c(-1, 2)))
  table <- curve$table
  expect_equal(table$bound_high, -2 * table$bound_low)
  expect_false(is.unsorted(table$bound_high))
  expect_identical(sum(table$standing == "declared"), 1L)
  expect_gte(nrow(table), 200)
  # The verdict turns once, where the tightest bounds of this proportion lie.
  turns <- which(table$verdict[-1] != table$verdict[-nrow(table)])
  expect_length(turns, 1)
  turn <- 2 * curve$detail$turn
  expect_true(table$bound_high[[turns]] < turn && table$bound_high[[turns + 1]] >= turn)
  expect_false(is.unsorted(-table$p))
})

test_that("bounds are in the unit of the declared ones, and bad ones are refused", {
  answer <- test_equivalence(published_study(), 0.5, bounds_in = "sd")
  table <- try_bounds(answer, 0.25)$table
  expect_equal(table$bound_high, c(0.25, 0.5) * answer$table$sd_value)
  expect_error(try_bounds(answer, -1), class = "vandro_error_bad_bounds")
  expect_error(try_bounds(answer, list(c(1, 2))), class = "vandro_error_bad_bounds")
  expect_error(try_bounds(answer, numeric()), class = "vandro_error_bad_bounds")
  expect_error(try_bounds(answer, points = 1), class = "vandro_error_bad_value")
  expect_error(try_bounds(test_difference(height_study())), class = "vandro_error_not_an_answer")
  expect_identical(nrow(try_bounds(answer, list(c(-0.1, 0.4), 1))$table), 3L)
})

test_that("random draws take the seed on record", {
  # So few draws leave the decision open, which a warning says.
  answer <- suppressWarnings(declared_answer("permutation", draws = 499, seed = 4), classes = "vandro_warning")
  one <- try_bounds(answer, 4)
  expect_identical(one$table, try_bounds(answer, 4)$table)
  expect_identical(one$table$p[one$table$standing == "declared"], answer$table$p)
})

test_that("printed bounds and their sentence say what is exploratory and where the verdict turns", {
  withr::local_options(width = 90)
  expect_snapshot({
    print(try_bounds(declared_answer()))
    narrate(try_bounds(declared_answer()))
  })
  study <- versus(seedlings, c(height, chlorophyll), substrate, groups = c("compost", "peat"))
  two <- test_equivalence(study, list(height = 5, chlorophyll = 2))
  expect_identical(unique(try_bounds(two, outcome = "chlorophyll")$table$outcome), "chlorophyll")
  tiny <- suppressWarnings(test_equivalence(two_groups(c(1, 2), c(1.5, 3)), 4, "ranks"))
  expect_match(format(try_bounds(tiny, 3)), "equivalence cannot be shown with any bounds", fixed = TRUE, all = FALSE)
})
