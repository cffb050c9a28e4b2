question <- c("--outcome", "height", "--by", "substrate", "--groups", "compost,peat", "--unit", "cm")

local_work <- function(env = parent.frame()) {
  withr::local_dir(withr::local_tempdir(.local_envir = env), .local_envir = env)
  file.copy(demo_file(), "seedlings.csv")
}

# Takes seconds: a plan's whole life in seven processes of the shell.
test_that("a plan is written without showing a result, checked, run and compared", {
  local_work()
  got <- run_here(
    "plan", "seedlings.csv", question, "--method", "welch,ranks", "--expect", "higher", "--reason", "more nitrogen",
    "--title",
    "T", "--by-whom", "M", "--date", "2026-03-02", "--ask", "difference,effect,cross_check", "--seed", "4", "--name",
    "stems",
    "--output", "plan.yaml"
  )
  expect_identical(got$status, 0L)
  expect_identical(got$out, character())
  plan <- read_plan("plan.yaml")
  expect_identical(names(plan$fields$comparisons$stems$ask), c("effect", "difference", "cross_check"))
  expect_identical(plan$fields$declared[c("date", "by")], list(date = "2026-03-02", by = "M"))
  checked <- run_here("run", "plan.yaml", "--only-check")
  expect_identical(checked$out, format(plan, width = 80))
  expect_false(dir.exists("out"))
  run <- run_here("run", "plan.yaml", "--output", "out", "--date", "2026-06-30")
  expect_identical(run$status, 0L)
  expect_match(run$err[[1]], "[1/5] stems: difference", fixed = TRUE)
  expect_true(file.exists("out/report.html"))
  study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
  answer <- test_difference(study, c("welch", "ranks"), expect = "higher", reason = "more nitrogen")
  expect_identical(utils::read.csv("out/tables/difference.csv")$p, as.data.frame(answer)$p)
  expect_identical(run_here("run", "plan.yaml", "--output", "out")$status, 1L)
  before <- file_sums("out")
  again <- run_here("run", "plan.yaml", "--output", "out", "--date", "2026-06-30", "--force", "--quiet")
  expect_identical(again$err, character())
  expect_identical(file_sums("out"), before)
  same <- run_here("compare", "out", "out")
  expect_match(same$out[[2]], "Nothing differs", fixed = TRUE)
  writeLines(sub("secondary: ranks", "secondary: student", readLines("plan.yaml")), "other.yaml")
  run_here("run", "other.yaml", "--output", "out2", "--quiet")
  rows <- utils::read.csv(text = run_here("compare", "out", "out2", "--format", "csv")$out)
  expect_true("stems.difference.secondary" %in% rows$item)
  writeLines(run_here("compare", "out", "out2", "--format", "json")$out, "d.json")
  expect_identical(schema_faults("d.json"), character())
})

test_that("a run prints text, JSON or CSV where no folder is named", {
  local_work()
  run_here("plan", "seedlings.csv", question, "--output", "plan.yaml")
  text <- run_here("run", "plan.yaml", "--quiet")
  expect_match(paste(text$out, collapse = " "), "Difference (planned)", fixed = TRUE)
  writeLines(run_here("run", "plan.yaml", "--quiet", "--format", "json")$out, "r.json")
  expect_identical(schema_faults("r.json"), character())
  csv <- utils::read.csv(text = run_here("run", "plan.yaml", "--quiet", "--format", "csv")$out)
  expect_identical(csv$study, "height")
  expect_identical(list.files(), c("plan.yaml", "r.json", "seedlings.csv"))
})

# Takes seconds: four plans are run.
test_that("bounds and priors are planned with their questions; several plans have folders of their own", {
  local_work()
  got <- run_here(
    "plan", "seedlings.csv", question, "--within", "3", "--reason", "pots", "--prior-half", "0.5", "--output",
    "a.yaml",
    "--conventions", "house.yaml"
  )
  expect_identical(got$status, 1L)
  expect_match(paste(got$err, collapse = " "), "house.yaml", fixed = TRUE)
  expect_false(file.exists("a.yaml"))
  writeLines(c("conventions: 1", "name: A", "numbers: {leading_zero: yes}"), "house.yaml")
  got <- run_here(
    "plan", "seedlings.csv", question, "--within", "3", "--reason", "pots", "--prior-half", "0.5", "--output",
    "a.yaml",
    "--conventions", "house.yaml"
  )
  expect_identical(got$status, 0L)
  plan <- read_plan("a.yaml")
  expect_identical(names(plan$fields$comparisons$height$ask), c("difference", "equivalence", "evidence"))
  expect_identical(plan$house$name, "A")
  file.copy("a.yaml", "b.yaml")
  expect_identical(run_here("run", "a.yaml", "b.yaml", "--output", "out")$status, 2L)
  expect_identical(run_here("run", "a.yaml", "b.yaml", "--output", "{name}-out", "--quiet")$status, 0L)
  expect_true(all(dir.exists(c("a-out", "b-out"))))
  expect_identical(run_here("run", "a.yaml", "b.yaml", "--format", "json")$status, 2L)
  both <- utils::read.csv(text = run_here("run", "a.yaml", "b.yaml", "--format", "csv", "--quiet")$out)
  expect_identical(both$file, c("a.yaml", "b.yaml"))
  writeLines("plan: 1", "bad.yaml")
  got <- run_here("run", "bad.yaml", "a.yaml", "--quiet")
  expect_identical(got$status, 1L)
  expect_match(got$err[[1]], "vandro: bad.yaml: ", fixed = TRUE)
  expect_identical(got$out[[1]], "== a.yaml")
})

test_that("single fields are changed for one run", {
  local_work()
  run_here("plan", "seedlings.csv", question, "--output", "plan.yaml")
  got <- run_here("run", "plan.yaml", "--quiet", "--instead", "height.difference.primary=student; height.unit=mm")
  expect_identical(got$status, 0L)
  expect_match(paste(got$out, collapse = " "), "primary: declared welch, now student", fixed = TRUE)
  expect_identical(run_here("run", "plan.yaml", "--instead", "height")$status, 2L)
  expect_identical(run_here("run", "plan.yaml", "--instead", "height.diference.alpha=1")$status, 1L)
})

test_that("wrong usage of plans is told", {
  local_work()
  expect_identical(run_here("plan", "seedlings.csv", question)$status, 2L)
  expect_identical(run_here("plan", "-", question, "--output", "p.yaml")$status, 2L)
  got <- run_here("plan", "seedlings.csv", question, "--ask", "diference", "--output", "p.yaml")
  expect_identical(got$status, 2L)
  expect_match(paste(got$err, collapse = " "), "Did you mean \"difference\"", fixed = TRUE)
  expect_identical(run_here("run")$status, 2L)
  expect_identical(run_here("compare", "one")$status, 2L)
  expect_identical(run_here("compare", "one", "two")$status, 1L)
  writeLines(c("plan: 1", "comparisons: {a: {n: [1], asks: difference}}"), "p.yaml")
  got <- run_here("run", "p.yaml")
  expect_identical(got$status, 1L)
  expect_match(got$err[[1]], "line 2: there is no key \"asks\"", fixed = TRUE)
  # What lies below is told once.
  run_here("plan", "seedlings.csv", question, "--output", "q.yaml")
  writeLines(sub("outcome: height", "outcome: hight", readLines("q.yaml")), "q.yaml")
  got <- run_here("run", "q.yaml", "--quiet")
  expect_identical(got$err, c(
    "vandro: 'q.yaml', line 13: \"height\" could not be declared.",
    "Because: Column \"hight\" (`outcome`) was not found.", "i Did you mean \"height\"?"
  ))
})

test_that("a run that is interrupted or killed leaves the old folder whole", {
  skip_on_os("windows")
  local_work()
  run_here("plan", "seedlings.csv", question, "--output", "plan.yaml")
  run_here("run", "plan.yaml", "--output", "out", "--quiet")
  before <- file_sums("out")
  # Drawing takes long: there is time to interrupt.
  slow <- sub("outputs:.*", "", readLines("plan.yaml"))
  writeLines(c(slow, "outputs: {figures: [png, pdf, svg], report: [html, md]}"), "plan.yaml")
  script <- system.file("exec", "vandro", package = "vandro")
  for (signal in c(2L, 9L)) {
    process <- processx::process$new(
      file.path(R.home("bin"), "Rscript"), c(script, "run", "plan.yaml", "--output", "out", "--force"),
      env = c("current", R_LIBS = paste(.libPaths(), collapse = ":")), stderr = "|"
    )
    drawing <- FALSE
    for (i in 1:600) {
      if (any(grepl("report, tables, figures", process$read_error_lines()))) drawing <- TRUE
      if (drawing) break
      Sys.sleep(0.05)
    }
    expect_true(drawing)
    Sys.sleep(0.5)
    process$signal(signal)
    process$wait(20000)
    expect_identical(file_sums("out"), before)
    if (signal == 2L) {
      expect_identical(process$get_exit_status(), 130L)
      expect_match(paste(process$read_all_error_lines(), collapse = " "), "interrupted", fixed = TRUE)
      expect_setequal(list.files(all.files = TRUE, no.. = TRUE), c("out", "plan.yaml", "seedlings.csv"))
    }
  }
})
