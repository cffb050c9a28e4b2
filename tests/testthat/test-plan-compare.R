test_that("two runs of one plan differ in nothing", {
  run <- run_quiet(plan_file())
  compared <- compare_runs(run, run_plan(plan_file(), quiet = TRUE, date = "2027-01-01"))
  expect_identical(nrow(as.data.frame(compared)), 0L)
  expect_match(format(compared)[[2]], "Nothing differs", fixed = TRUE)
})

test_that("one changed field is one line of the set-up, and the numbers that follow from it", {
  first <- run_quiet(plan_file())
  second <- run_quiet(plan_file(c("alpha: 0.05" = "alpha: 0.05\n        level: 0.9")))
  table <- as.data.frame(compare_runs(first, second))
  setup <- table[table$part == "set-up", ]
  expect_identical(setup$item, "height.difference.level")
  expect_identical(setup$second, "0.9")
  lower <- table[table$question == "difference" & grepl(": lower$", table$item), ]
  expect_identical(as.numeric(lower$first), as.data.frame(first)$lower)
  expect_identical(as.numeric(lower$second), as.data.frame(second)$lower)
  expect_false(any(grepl(": (estimate|p|statistic)$", table$item[table$question == "difference"])))
})

test_that("folders are compared as runs are, and new data are told", {
  folder <- withr::local_tempdir()
  utils::write.csv(seedlings, file.path(folder, "s.csv"), row.names = FALSE)
  lines <- sub("seedlings: .*", "seedlings: s.csv", plan_text())
  file <- plan_file(lines = lines, folder = folder)
  first <- run_quiet(file, file.path(folder, "one"))
  more <- rbind(seedlings, transform(seedlings[1:4, ], height = height + 1))
  utils::write.csv(more, file.path(folder, "s.csv"), row.names = FALSE)
  second <- run_quiet(file, file.path(folder, "two"))
  by_folder <- compare_runs(file.path(folder, "one"), file.path(folder, "two"))
  expect_identical(as.data.frame(by_folder), as.data.frame(compare_runs(first, second)))
  expect_identical(unique(by_folder$table$part), c("data", "numbers"))
  lines <- format(by_folder, width = 90)
  expect_true(any(grepl("^  seedlings: [0-9a-f]{12} -> [0-9a-f]{12}$", lines)))
  expect_output(print(by_folder), "Numbers")
  expect_identical(
    as.data.frame(compare_runs(file.path(folder, "one", "results.json"), second)),
    as.data.frame(by_folder)
  )
})

test_that("a question that only one run has stands beside nothing", {
  first <- run_quiet(plan_file())
  second <- run_quiet(plan_file(c("alpha: 0.05" = "alpha: 0.05\n      evidence: yes")))
  table <- as.data.frame(compare_runs(first, second))
  evidence <- table[table$question == "evidence" & table$part == "numbers", ]
  expect_gt(nrow(evidence), 5)
  expect_true(all(is.na(evidence$first)))
})

test_that("what is no run is an error", {
  folder <- withr::local_tempdir()
  run <- run_quiet(plan_file())
  expect_error(compare_runs(run, folder), "holds no results", class = "vandro_error_file")
  writeLines("{\"layout\": \"vandro-answer\"}", file.path(folder, "results.json"))
  expect_error(compare_runs(run, folder), "does not hold the results", class = "vandro_error_file")
  writeLines("{", file.path(folder, "results.json"))
  refused(file = compare_runs(folder, run), bad_value = compare_runs(run, 5))
})
