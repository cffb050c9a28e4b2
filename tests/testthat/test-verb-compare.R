probe_study <- function() versus_paired(moisture, probe_a, probe_b, unit = "%", label = "Soil moisture")

test_that("rows are aligned and what differs is marked, asked and found alike", {
  narrow <- test_equivalence(probe_study(), 0.3)
  wide <- test_equivalence(probe_study(), 0.6)
  table <- compare_answers(narrow = narrow, wide = wide)$table
  line <- function(quantity) table[table$quantity == quantity, ]
  expect_identical(line("within")$text, c("-0.3 to 0.3", "-0.6 to 0.6"))
  expect_true(all(line("within")$differs))
  expect_identical(line("verdict")$text, c(narrow$table$verdict, wide$table$verdict))
  expect_identical(line("estimate")$value, c(narrow$table$estimate, wide$table$estimate))
  expect_false(any(line("estimate")$differs))
  expect_true(all(line("p")$differs))
  expect_false(any(line("data")$differs))
  # Every column of the answers is there once for each.
  expect_identical(as.vector(table(table$line)), rep(2L, length(unique(table$line))))
})

test_that("answers of any kind and any number are laid side by side", {
  study <- height_study()
  kinds <- list(
    list(test_difference(study), test_difference(study, "ranks")),
    list(describe_study(study), describe_study(published_study())),
    list(vet_assumptions(study), vet_assumptions(study, centre = "mean")),
    list(gauge_effect(study), gauge_effect(study, level = 0.9)),
    list(cross_check(study, c("welch", "student")), cross_check(study, c("student", "welch"))),
    list(test_difference(study), test_difference(published_study()), test_difference(study, level = 0.9))
  )
  for (answers in kinds) {
    got <- do.call(compare_answers, answers)
    expect_length(unique(got$table$answer), length(answers))
    expect_true(any(got$table$differs))
    expect_true(all(nzchar(format(got, width = 200))))
    expect_match(narrate(got), "differ in:", fixed = TRUE)
  }
  same <- compare_answers(test_difference(study), test_difference(study))
  expect_false(any(same$table$differs))
  expect_match(narrate(same), "do not differ", fixed = TRUE)
})

test_that("two methods stand side by side; rows of several carry their own items", {
  two <- compare_answers(test_difference(height_study()), test_difference(height_study(), "ranks"))$table
  estimate <- two[two$quantity == "estimate", ]
  expect_length(unique(estimate$line), 1)
  expect_true(all(estimate$differs))
  wild <- two_groups(c(5.1, 5.4, 5.8, 6.2, 5.6, 5.9, 40), c(4.1, 4.4, 4.2, 4.9, 4.7, 4.6, 4.5))
  checks <- lapply(c(0.05, 0.01), function(alpha) {
    cross_check(wild, c("welch", "ranks"), flagged = "both", alpha = alpha)
  })
  items <- unique(do.call(compare_answers, checks)$table$item)
  expect_setequal(items, c(NA, "welch", "ranks", "welch, without flagged", "ranks, without flagged"))
  vetted <- compare_answers(vet_assumptions(wild), vet_assumptions(wild, centre = "mean"))$table
  expect_true(all(c("fences, compost", "fences, peat", "deviations") %in% vetted$item))
})

test_that("other data, directions and units are noted", {
  one <- test_difference(height_study())
  other <- test_difference(height_study(c("peat", "compost"), scale_by = 10))
  other$study$outcomes[[1]]$unit <- "mm"
  notes <- compare_answers(one, other)$detail$notes
  expect_match(notes, "directions differ", all = FALSE)
  expect_match(notes, "units differ", all = FALSE)
  expect_match(notes, "different data", all = FALSE)
})

test_that("what cannot be laid side by side is refused", {
  one <- test_difference(height_study())
  expect_error(compare_answers(one), class = "vandro_error_too_few")
  expect_error(compare_answers(one, describe_study(height_study())), class = "vandro_error_kinds_differ")
  expect_error(compare_answers(one, 3), class = "vandro_error_not_an_answer")
  expect_error(compare_answers(a = one, a = one), class = "vandro_error_bad_value")
})

test_that("printed comparisons mark what differs", {
  withr::local_options(width = 100)
  expect_snapshot(compare_answers(
    measured = test_difference(height_study()), published = test_difference(published_study())
  ))
})
