test_that("options of methods are checked where they are made, and only those that were given are kept", {
  expect_identical(unclass(method_options(zeros = "drop", draws = 999)), list(zeros = "drop", draws = 999))
  refused(
    bad_value = method_options(exact = NA), bad_value = method_options(zeros = "split"),
    bad_value = method_options(statistic = "mean"), bad_value = method_options(run_length = "long"),
    bad_value = method_options(draws = 3), bad_value = method_options(threads = 0),
    bad_value = method_options(max_memory = 0), bad_value = test_difference(
      height_study(), options = list(exact = TRUE)
    ),
    unknown_argument = test_difference(height_study(), "ranks", exakt = TRUE, exact = FALSE),
    unknown_argument = test_difference(
      height_study(), "ranks", how(exact = FALSE), "a", 3, 0.95, 0.05, "holm", FALSE, 1
    )
  )
})

test_that("until the next version they may stand among a verb's arguments, with a hint", {
  expect_message(
    old <- test_difference(height_study(), "permutation", draws = 999, seed = 2), class = "vandro_message_old_spelling"
  )
  new <- test_difference(height_study(), "permutation", options = how(draws = 999), seed = 2)
  expect_identical(old$table, new$table)
  expect_message(narrate(height_study(), method = "ranks", exact = FALSE), "method_options", fixed = TRUE)
})
