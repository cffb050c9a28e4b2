test_that("values give the hand-worked Welch test", {
  # 1..5 against 2, 4, 6, 8: see test-core-difference.R.
  table <- test_difference(two_groups(1:5, c(2, 4, 6, 8)))$table
  expect_equal(table$estimate, -2)
  expect_relative(table$se, sqrt(13 / 6), 1e-15)
  expect_relative(table$df, 2028 / 427, 1e-15)
  expect_relative(table$p, 2 * stats::pt(-2 / sqrt(13 / 6), 2028 / 427), 1e-14)
  expect_identical(c(table$n_first, table$n_second), c(5, 4))
  expect_identical(table$comparison, "compost minus peat")
})

test_that("the two directional p add up to one, and a limit is always finite", {
  higher <- test_difference(height_study(), expect = "higher")$table
  lower <- test_difference(height_study(), expect = "lower")$table
  expect_equal(higher$p + lower$p, 1)
  expect_true(all(is.finite(c(higher$lower, higher$upper, higher$at_least, lower$at_most))))
})

test_that("extreme magnitudes and an extreme t still have a p that is not zero", {
  for (size in c(1e-160, 1e160)) {
    table <- test_difference(two_groups(c(1, 2, 4) * size, c(2, 4, 7) * size))$table
    expect_relative(table$p, test_difference(two_groups(c(1, 2, 4), c(2, 4, 7)))$table$p, 1e-12)
  }
  set.seed(1)
  far <- test_difference(two_groups(rnorm(500), rnorm(500, 1e6)))$table
  expect_gt(far$p, 0)
  expect_lt(far$log_p, log(1e-300))
})

test_that("what cannot be tested is an error that says why", {
  expect_error(test_difference(two_groups(c(2, 2), c(3, 3))), class = "vandro_error_no_spread")
  expect_error(
    test_difference(two_groups(2, c(3, 4))), "\"compost\" has only one value",
    class = "vandro_error_one_value"
  )
  expect_s3_class(test_difference(two_groups(c(2, 2), c(3, 4))), "vandro_answer")
})

test_that("options are checked", {
  study <- height_study()
  bad <- list(
    list(method = "welsh"), list(expect = "greater"), list(beyond = NA), list(level = 95),
    list(level = 0), list(alpha = 0), list(alpha = 0.7), list(beyond = "1")
  )
  for (arguments in bad) {
    expect_error(do.call(test_difference, c(list(study), arguments)), class = "vandro_error_bad_value")
  }
  expect_error(
    test_difference(study, "t"), 'one of "welch", "student", "ranks", "relative" or "permutation".', fixed = TRUE
  )
  expect_error(test_difference(study, "welch", "higher"), class = "vandro_error_unknown_argument")
  expect_error(test_difference(seedlings), class = "vandro_error_not_a_study")
})

test_that("other methods are told where the declared one has no result", {
  data <- data.frame(
    height = c(3.1, 4.2, 5.5, 2.2, 3.7, 4.4, 5.1, 6.2, 3.9, 4), bench = rep(c("east", "west"), c(6, 4)),
    substrate = c("compost", "compost", "compost", "peat", "peat", "peat", "compost", "compost", "compost", "peat")
  )
  study <- versus(data, height, substrate, groups = c("compost", "peat"), each = bench)
  answer <- suppressWarnings(test_difference(study, c("welch", "student", "ranks")))
  text <- paste(format(answer, width = 500), collapse = "\n")
  expect_match(text, "No result +1 of 2: \"height \\(bench west\\)\" has too few values")
  expect_match(text, "west +3 \\+ 1 +Student +1[.]07")
  told <- narrate(answer)
  expect_match(
    told[[2]],
    "too few values.* Student's t\\(2\\) = 0.80, p = .506, was run.* Mann-Whitney U = 2, exact p = 1, was run"
  )
  student <- test_difference(study, c("student", "welch"))
  expect_match(
    paste(format(student, width = 500, details = TRUE), collapse = "\n"), "Welch: no result, .*too few values"
  )
  expect_match(
    narrate(student)[[2]], "Alongside Student's test, Welch's test has no result.",
    fixed = TRUE
  )
  expect_no_match(narrate(describe_study(study)), "CI [,", fixed = TRUE)
  # The reason is whole, however narrow the console; the others keep their answers.
  withr::local_options(cli.width = 40)
  permuted <- suppressWarnings(test_difference(study, c("permutation", "ranks")))
  expect_identical(
    permuted$table$reason[[3]], "A studentized difference of \"height (bench west)\" needs two values in each group."
  )
  expect_identical(is.na(permuted$table$p), c(FALSE, FALSE, TRUE, FALSE))
  # A group of one value has a mean and no SD, in every figure and part of a report.
  file <- withr::local_tempfile(fileext = ".md")
  expect_silent(suppressMessages(quick_report(list(answer, describe_study(study)), file)))
  lines <- readLines(file)
  expect_match(lines, "^Beside: Student t\\(2\\)", all = FALSE)
  expect_match(lines, "none (one value) in peat", fixed = TRUE, all = FALSE)
  expect_no_match(lines, "CI [,", fixed = TRUE)
})

test_that("Student's test stands alone or beside the declared method", {
  study <- height_study()
  both <- test_difference(study, c("welch", "student"))
  expect_identical(both$table$method, c("welch", "student"))
  expect_identical(both$table$role, c("primary", "beside"))
  student <- test_difference(study, "student")$table
  shared <- setdiff(names(student), "role")
  expect_identical(unlist(both$table[2, shared]), unlist(student[shared]))
  expect_identical(student$df, 45)
  expect_identical(student$p_kind, "exact")
  text <- format(both)
  expect_match(text, "Also run +Student t\\(45\\)", all = FALSE)
  expect_match(text, "same decision as Welch", all = FALSE)
  expect_match(narrate(both), "Alongside Welch's test, Student's t(45)", fixed = TRUE)
  # The figure and the sentence take the declared one.
  expect_identical(
    estimation_data(describe_study(study), study$outcomes[[1]], both)$gap,
    estimation_data(describe_study(study), study$outcomes[[1]], test_difference(study))$gap
  )
})

test_that("Student's test needs two values in one group only", {
  expect_relative(
    test_difference(two_groups(9, c(1, 2, 3)), "student")$table$statistic, 7 / sqrt(1 + 1 / 3), 1e-14
  )
  expect_error(test_difference(two_groups(9, 3), "student"), class = "vandro_error_one_value")
})

test_that("where both disagree the declared one is named", {
  # Unequal sizes and spreads between which the decision turns.
  study <- versus_summary(n = c(8, 40), mean = c(12, 10), sd = c(4, 1.5))
  both <- test_difference(study, c("welch", "student"))
  expect_identical(both$table$p <= 0.05, c(FALSE, TRUE))
  expect_match(paste(format(both), collapse = " "), "other decision than Welch")
  expect_match(narrate(both), "leads to another decision")
})

test_that("a reason belongs to a direction, is kept and printed; without one the two-sided p is shown", {
  study <- height_study()
  answer <- test_difference(study, expect = "higher", reason = "compost holds water")
  expect_identical(answer$settings$reason, "compost holds water")
  expect_match(format(answer), "Reason +compost holds water", all = FALSE)
  expect_match(narrate(answer), "Reason for asking in one direction: compost holds water.", fixed = TRUE)
  bare <- paste(format(test_difference(study, expect = "higher"), width = 200), collapse = " ")
  expect_match(bare, "No reason is on record")
  expect_match(bare, "two-sided test, p < .001", fixed = TRUE)
  expect_error(test_difference(study, reason = "x"), "either", class = "vandro_error_contradiction")
  expect_match(export_answer(answer), "compost holds water", all = FALSE)
})

test_that("hypotheses are about populations, with the groups' names", {
  study <- height_study()
  lines <- function(...) {
    answer <- test_difference(study, ...)
    hypothesis_words(answer$table, answer$study$outcomes[[1]], study)
  }
  expect_identical(lines(), c(
    "the population means of compost and peat are equal", "the population means of compost and peat are not equal"
  ))
  expect_identical(lines(expect = "lower")[[2]], "the population mean of compost is lower than that of peat")
  expect_identical(
    lines(expect = "higher", beyond = -2),
    paste("the difference of the population means, compost minus peat, is", c("-2 cm or less", "more than -2 cm"))
  )
})

test_that("a result on the other side than expected says so and explains half of p", {
  answer <- test_difference(height_study(), expect = "lower", reason = "r")
  expect_gt(answer$table$p, 0.5)
  text <- paste(format(answer, width = 200), collapse = " ")
  expect_match(text, "in the opposite direction to that expected")
  expect_match(text, "half of the two-sided p")
})

test_that("degrees of freedom carry their formula", {
  expect_match(
    format(test_difference(height_study(), "student"), details = TRUE), "45 = 24 + 23 - 2", all = FALSE, fixed = TRUE
  )
  expect_match(format(test_difference(conductance_study()), details = TRUE), "21 = 22 - 1", all = FALSE, fixed = TRUE)
  expect_match(format(test_difference(height_study()), details = TRUE), "Satterthwaite", all = FALSE)
})

test_that("Student's test says where sizes and spreads spoil its level", {
  study <- versus_summary(n = c(10, 40), mean = c(22, 19), sd = c(6, 3))
  text <- paste(format(test_difference(study, "student"), width = 300), collapse = " ")
  expect_match(text, "reject a true null hypothesis in 18.3% of studies instead of 5%", fixed = TRUE)
  quiet_one <- paste(format(test_difference(height_study(), "student"), width = 300), collapse = " ")
  expect_false(grepl("true null hypothesis", quiet_one))
  expect_false(grepl("true null hypothesis", paste(format(test_difference(study), width = 300), collapse = " ")))
  expect_missing(test_difference(two_groups(9, c(1, 2, 3)), "student")$detail$true_size)
})
