test_that("bare names, strings and the data pronoun are the same declaration", {
  trait <- "height"
  a <- height_study()
  b <- versus(seedlings, "height", "substrate", c("compost", "peat"), "cm", "Stem height")
  c <- versus(seedlings, .data[[trait]], .data$substrate, c("compost", "peat"), "cm", "Stem height")
  d <- versus(seedlings, !!trait, substrate, c("compost", "peat"), "cm", "Stem height")
  # The code of a declaration is as it was written.
  same <- function(x) expect_identical(replace(unclass(x), "declared", ""), replace(unclass(a), "declared", ""))
  same(b)
  same(c)
  same(d)
})

test_that("factor, text and codes give identical numbers", {
  data <- seedlings
  data$as_factor <- factor(data$substrate, c("peat", "unused", "compost"))
  data$as_double <- data$substrate_code + 0
  want <- as.data.frame(describe_study(height_study()))
  for (by in c("as_factor", "substrate")) {
    got <- versus(data, height, !!by, groups = c("compost", "peat"))
    expect_identical(as.data.frame(describe_study(got)), want)
  }
  for (by in c("substrate_code", "as_double")) {
    got <- versus(data, height, !!by, groups = c(compost = 1, peat = 2))
    expect_identical(as.data.frame(describe_study(got)), want)
  }
})

test_that("the direction is announced when it was not given: a factor's order, else first seen", {
  data <- long_data(c(1, 2), c(3, 5))
  expect_message(study <- versus(data, height, substrate), class = "vandro_message_direction")
  expect_identical(study$groups, c("compost", "peat"))
  data$substrate <- factor(data$substrate, c("peat", "compost"))
  expect_message(study <- versus(data, height, substrate), "peat minus compost")
  expect_no_message <- function(object) expect_message(object, NA)
  expect_no_message(versus(data, height, substrate, groups = c("compost", "peat")))
})

test_that("everything left out is counted by group and reason", {
  data <- data.frame(
    height = c(1, NA, 3, 4, NaN, 6, 7, 8), substrate = c("a", "a", "a", "b", "b", "b", NA, "c")
  )
  study <- versus(data, height, substrate, groups = c("b", "a"))
  expect_identical(study$left_out$n, c(1, 1, 1, 1))
  expect_identical(study$left_out$group, c("b", "a", NA, "c"))
  expect_identical(
    study$left_out$reason, c("outcome missing", "outcome missing", "group missing", "other group")
  )
  text <- paste(format(study, width = 200), collapse = " ")
  for (part in c("1 row of b without a value", "1 row without a group", "1 row of c, not compared")) {
    expect_match(text, part, fixed = TRUE)
  }
  expect_no_match(format(width = 200, two_groups(1:3, 2:5)), "Excluded")
})

test_that("the data frame is not changed and its columns are not copied", {
  data <- data.frame(height = c(2.5, 3, 4, 5.5), by = factor(c("a", "b", "a", "b")))
  before <- rlang::hash(data)
  study <- versus(data, height, by)
  describe_study(study)
  expect_identical(rlang::hash(data), before)
  expect_identical(rlang::obj_address(study$outcomes[[1]]$data$values), rlang::obj_address(data$height))
})

test_that("integers, classed numbers and durations are outcomes", {
  data <- long_data(c(3L, 5L, 9L), c(1L, 2L, 2L))
  expect_identical(test_difference(two_groups(3:5, 1:3))$table$estimate, 2)
  data$wait <- as.difftime(data$height, units = "mins")
  study <- versus(data, wait, substrate, groups = c("compost", "peat"))
  expect_identical(study$outcomes[[1]]$unit, "mins")
})

test_that("each wrong declaration has an error of its own", {
  declare <- function(...) versus(seedlings, ..., groups = c("compost", "peat"))
  error <- function(code, class) expect_error(code, class = paste0("vandro_error_", class))
  error(declare(hieght, substrate), "missing_column")
  error(declare(height), "missing_argument")
  error(declare(log(height), substrate), "not_a_column")
  error(declare(plant, substrate), "not_numeric")
  error(declare(height, height), "same_column")
  error(versus(as.list(seedlings), height, substrate), "data_type")
  error(versus("seedlings.csv", height, substrate), "data_type")
  error(versus(seedlings[0, ], height, substrate), "empty_data")
  error(versus(seedlings, height, bench), "many_groups")
  error(versus(seedlings, height, substrate, c("compost", "peet")), "unknown_group")
  error(versus(seedlings, height, substrate, "compost"), "bad_groups")
  error(versus(seedlings, height, substrate, c("peat", "peat")), "bad_groups")
  error(versus(seedlings[seedlings$substrate == "peat", ], height, substrate), "one_group")
  twice <- stats::setNames(seedlings[c("height", "substrate", "height")], c("height", "substrate", "height"))
  error(versus(twice, height, substrate), "duplicate_columns")
  data <- long_data(c(1, 2, Inf), c(3, 4))
  error(versus(data, height, substrate), "infinite")
  error(versus(long_data(c(NA, NA), c(3, 4)), height, substrate), "all_missing")
  error(versus(long_data(c("1", "2,5"), c("3", "x")), height, substrate), "not_numeric")
  error(versus(transform(long_data(1:2, 3:4), height = factor(height)), height, substrate), "not_numeric")
  error(versus(transform(seedlings, g = I(as.list(height))), height, g), "group_type")
})

test_that("an infinite value in a group that is not compared does no harm", {
  data <- rbind(long_data(c(1, 2, 4), c(3, 4, 8)), data.frame(height = Inf, substrate = "sand"))
  expect_s3_class(versus(data, height, substrate, groups = c("compost", "peat")), "vandro_study")
})

test_that("errors are worded for the person who made them", {
  local_reproducible_output(width = 80)
  trait <- "height"
  text <- long_data(c("21.5", "n/a", "19"), c("18", "17,2"))
  expect_snapshot(error = TRUE, {
    versus(seedlings, hieght, substrate)
    versus(seedlings, trait, substrate)
    versus(seedlings, height, bench)
    versus(seedlings, height, substrate, groups = c("Compost", "peat"))
    versus(text, height, substrate)
    versus(text[c(1, 3:5), ], height, substrate)
    versus(long_data(c(1, Inf), c(2, 3)), height, substrate)
    versus(seedlings[seedlings$substrate == "peat", ], height, substrate)
    test_difference(seedlings)
  })
})
