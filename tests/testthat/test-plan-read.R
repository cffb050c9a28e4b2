test_that("a plan is read, printed and fingerprinted without its data", {
  file <- plan_file(c("seedlings: " = "seedlings: nowhere"))
  plan <- read_plan(file)
  expect_s3_class(plan, "vandro_plan")
  lines <- format(plan, width = 80)
  expect_match(lines[[1]], "Plan: Spring trial", fixed = TRUE)
  expect_match(paste(lines, collapse = "\n"), "height +compost minus peat: difference")
  expect_match(plan$fingerprint, "^[0-9a-f]{12}$")
  expect_output(print(plan), plan$fingerprint)
})

test_that("data that are not there, or not named, are errors at their line", {
  gone <- plan_file(c("extdata/seedlings.csv" = "extdata/sedlings.csv"))
  e <- expect_error(run_quiet(gone), class = "vandro_error_plan")
  expect_identical(e$line, 6L)
  expect_s3_class(e$parent, "vandro_error_file")
  unnamed <- plan_file(c("    outcome: height" = "    data: moisture\n    outcome: height"))
  expect_error(read_plan(unnamed), "there is no \"moisture\" under `data`", class = "vandro_error_plan")
  none <- plan_text()[-(5:6)]
  expect_error(read_plan(plan_file(lines = none)), "neither data nor published numbers", class = "vandro_error_plan")
  shapeless <- plan_file(c("    outcome: height" = "    order: plant"))
  expect_error(read_plan(shapeless), "which columns are compared", class = "vandro_error_plan")
  both <- plan_file(c("    outcome: height" = "    n: [20, 22]"))
  e <- expect_error(read_plan(both), "\"by\" is of measurements", class = "vandro_error_plan")
  expect_identical(e$line, 10L)
  expect_error(read_plan(plan_file(lines = "plan: 1")), "needs \"comparisons\"", class = "vandro_error_plan")
})

test_that("columns that vanished since are errors that say where the plan names them", {
  folder <- withr::local_tempdir()
  utils::write.csv(seedlings[, c("plant", "substrate", "leaf_area")], file.path(folder, "seedlings.csv"),
    row.names = FALSE
  )
  lines <- sub("seedlings: .*", "seedlings: seedlings.csv", plan_text())
  e <- expect_error(run_quiet(plan_file(lines = lines, folder = folder)), class = "vandro_error_plan")
  expect_identical(e$line, 8L)
  expect_match(conditionMessage(e$parent), "Column \"height\"", fixed = TRUE)
  writeBin(c(charToRaw("height,substrate\n1,p"), as.raw(0xE9), charToRaw("at\n")), file.path(folder, "seedlings.csv"))
  e <- expect_error(run_quiet(plan_file(lines = lines, folder = folder)), class = "vandro_error_plan")
  expect_s3_class(e$parent, "vandro_error_encoding")
})

test_that("conventions stand in the plan or in a file beside it", {
  inside <- read_plan(plan_file(c("outputs:" = "conventions:\n  numbers: {leading_zero: yes}\n  level: 0.9\noutputs:")))
  expect_identical(inside$house$level, 0.9)
  expect_true(inside$house$style$leading_zero)
  folder <- withr::local_tempdir()
  writeLines(c("conventions: 1", "name: House A", "alpha: 0.01"), file.path(folder, "house.yaml"))
  beside <- read_plan(plan_file(c("outputs:" = "conventions: house.yaml\noutputs:"), folder = folder))
  expect_identical(beside$house$name, "House A")
  expect_error(
    read_plan(plan_file(c("outputs:" = "conventions: none.yaml\noutputs:"))), "is not there",
    class = "vandro_error_plan"
  )
  expect_error(
    read_plan(plan_file(c("outputs:" = "conventions: {level: 2}\noutputs:"))), "conventions cannot be used",
    class = "vandro_error_plan"
  )
  e <- expect_error(
    read_conventions(yaml_file("conventions: 1", "numbers:", "  decimals: 2", "  dezimal_mark: \",\"")),
    class = "vandro_error_plan"
  )
  expect_identical(e$line, 4L)
  expect_match(conditionMessage(e), "decimal_mark", fixed = TRUE)
  expect_error(read_conventions(yaml_file("name: x")), "needs \"conventions\"", class = "vandro_error_plan")
})

test_that("files are named as seen from the plan", {
  expect_identical(beside_plan("a.csv", "folder/plan.yaml"), "folder/a.csv")
  expect_identical(beside_plan("/data/a.csv", "folder/plan.yaml"), "/data/a.csv")
  folder <- withr::local_tempdir()
  dir.create(file.path(folder, "data"))
  dir.create(file.path(folder, "plans"))
  file <- file.path(folder, "data", "a.csv")
  writeLines("x", file)
  expect_identical(path_from(file, file.path(folder, "plans")), "../data/a.csv")
  expect_identical(path_from(file, file.path(folder, "data")), "a.csv")
  expect_identical(path_from(file, folder), "data/a.csv")
})
