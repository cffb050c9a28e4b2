test_that("the same seed makes the same data, which carry seed and world along", {
  world <- suppose_world(2.5, sd = c(3, 4), groups = c("compost", "peat"), unit = "cm", label = "Stem height")
  one <- make_up_study(world, c(24, 22), seed = 7)
  expect_identical(as.data.frame(one), as.data.frame(make_up_study(world, c(24, 22), seed = 7)))
  # Frozen, so that a change of the generator is seen.
  expect_identical(as.data.frame(one)$value[1:4], c(-1.176, 3.726, 2.699, 12.006))
  said <- format(test_difference(one), width = 300)
  expect_match(said, "made up (seed 7): true difference 2.5 cm", fixed = TRUE, all = FALSE)
  set.seed(2)
  drawn <- make_up_study(world, 5)
  seed <- as.numeric(sub(".*seed ([0-9]+).*", "\\1", drawn$notes))
  expect_identical(as.data.frame(make_up_study(world, 5, seed = seed)), as.data.frame(drawn))
})

test_that("no sentence about made-up data leaves out that they are, and none says it twice", {
  study <- make_up_study(suppose_world(2.5, sd = c(3, 4)), 12, seed = 7)
  answers <- list(
    study, describe_study(study), test_difference(study), gauge_effect(study), vet_assumptions(study),
    test_equivalence(study, 6), try_bounds(test_equivalence(study, 6)), cross_check(study), weigh_evidence(study),
    try_priors(weigh_evidence(study)), compare_answers(test_difference(study), test_difference(study, level = 0.9))
  )
  for (answer in answers) {
    told <- narrate(answer)
    expect_identical(lengths(regmatches(told, gregexpr("The data are made up (seed 7).", told, fixed = TRUE))), 1L)
  }
  file <- withr::local_tempfile(fileext = ".html")
  quick_report(study, file)
  expect_match(readLines(file), "made up (seed 7)", fixed = TRUE, all = FALSE)
  expect_no_match(narrate(height_study()), "made up")
})

test_that("pairs come as pairs, changes as changes", {
  pairs <- make_up_study(suppose_world(1, sd = 2, r = 0.5, groups = c("noon", "dawn")), 30, seed = 1)
  expect_identical(pairs$design, "paired")
  expect_identical(test_difference(pairs)$table$n_first, 30)
  changes <- make_up_study(suppose_world(1, sd_change = 2), 30, seed = 1)
  expect_identical(changes$outcomes[[1]]$data$kind, "changes")
})

test_that("designs that are none are refused", {
  world <- suppose_world(1, sd = 2)
  expect_error(make_up_study(world, 1), class = "vandro_error_bad_value")
  expect_error(make_up_study(world, list(5, 6)), class = "vandro_error_bad_value")
  expect_error(make_up_study(height_study(), 5), class = "vandro_error_observed_power")
})
