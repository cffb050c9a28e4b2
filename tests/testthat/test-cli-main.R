question <- c("--outcome", "height", "--by", "substrate", "--groups", "compost,peat", "--unit", "cm")

test_that("the shell command prints what the verbs print", {
  got <- run_cli("difference", demo_file(), question)
  expect_identical(got$status, 0L)
  study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
  expect_identical(got$out, format(test_difference(study), width = 80))
  expect_identical(got$err, character())
})

test_that("standard input is read, and the exit status tells data from usage", {
  script <- system.file("exec", "vandro", package = "vandro")
  command <- paste(
    shQuote(file.path(R.home("bin"), "Rscript")), shQuote(script),
    "effect - --outcome height --by substrate --groups compost,peat --format csv <", shQuote(demo_file())
  )
  withr::local_envvar(R_LIBS = paste(.libPaths(), collapse = .Platform$path.sep))
  out <- system(command, intern = TRUE)
  study <- versus(seedlings, height, substrate, groups = c("compost", "peat"))
  expect_identical(out, export_answer(gauge_effect(study), format = "csv"))
  data_fault <- run_cli("difference", demo_file(), "--outcome", "hieght", "--by", "substrate")
  expect_identical(data_fault$status, 1L)
  expect_match(data_fault$err[[1]], "vandro: Column \"hieght\"", fixed = TRUE)
  expect_identical(data_fault$out, character())
  usage <- run_cli("differnce")
  expect_identical(usage$status, 2L)
  expect_match(paste(usage$err, collapse = " "), "Did you mean \"difference\"", fixed = TRUE)
})

test_that("figures and reports are written in their kinds, never over a file unasked", {
  withr::local_dir(withr::local_tempdir())
  for (name in c("f.png", "f.svg", "f.pdf")) {
    expect_identical(at_shell(paste("plot S --width 85 --output", name))$status, 0L)
    expect_true(file.exists(name))
  }
  report <- "report S --output r.html --author Ada --date 2026-03-01"
  expect_identical(at_shell(report)$status, 0L)
  expect_match(paste(readLines("r.html"), collapse = ""), "Ada, 2026-03-01")
  expect_identical(at_shell(report)$status, 1L)
  expect_identical(at_shell(paste(report, "--force"))$status, 0L)
})

test_that("codes get labels, and published numbers need no file", {
  coded <- "difference FILE --outcome height --by substrate_code --groups compost=1,peat=2 --unit cm"
  expect_identical(at_shell(coded)$out, at_shell("difference S")$out)
  published <- paste(
    "difference --n 18,20 --mean 22.1,19.8 --sd 3.9,3.2 --groups compost,peat --unit cm", "--label 'Stem height'"
  )
  expect_identical(at_shell(published)$out, format(test_difference(published_study()), width = 80))
  one_value <- "difference --n 1,5 --mean 18.2,21.6 --method student --groups compost,peat --sd"
  study <- versus_summary(c(1, 5), c(18.2, 21.6), c(NA, 1.7), groups = c("compost", "peat"))
  expect_identical(at_shell(paste(one_value, "NA,1.7"))$out, format(test_difference(study, "student"), width = 80))
  expect_identical(at_shell(paste(one_value, "none,1.7"))$status, 2L)
  expect_identical(at_shell(paste(one_value, "1,1.7"))$status, 1L)
})

test_that("every shape is read with the verbs' own words", {
  file <- function(name) system.file("extdata", name, package = "vandro")
  out <- function(...) {
    got <- run_here("difference", ...)
    expect_identical(got$status, 0L)
    got$out
  }
  unit <- c("--unit", "mmol", "--label", "Leaf conductance")
  wide <- out(file("conductance.csv"), "--paired", "--first", "noon", "--second", "dawn", unit)
  expect_identical(wide, format(test_difference(conductance_study()), width = 80))
  long <- out(
    file("conductance_long.csv"), "--paired", "--outcome", "conductance", "--by", "time", "--id", "plant",
    "--groups", "noon,dawn", unit
  )
  expect_identical(long[seq_along(wide)], wide)
  folder <- withr::local_tempdir()
  changes <- file.path(folder, "changes.csv")
  utils::write.csv(data.frame(ch = with(conductance, noon - dawn)), changes, row.names = FALSE)
  expect_match(out(changes, "--change", "ch", "--groups", "noon,dawn")[[3]], "paired t(21) = 8.24", fixed = TRUE)
  counts <- out(
    file("root_damage.csv"), "--outcome", "score", "--by", "substrate", "--counts", "plants", "--groups",
    "compost,peat"
  )
  expect_match(grep("^  compost", counts, value = TRUE), "40")
  two <- out(
    demo_file(), "--outcome", "height,dry_mass", "--by", "substrate", "--groups", "compost,peat",
    "--adjust", "none"
  )
  expect_match(two[[1]], "^Differences: 2 outcomes")
  coded <- file.path(folder, "coded.csv")
  writeLines(c("a;b", "1,5;2,5", "-99;3", "2,5;n/a", "4;5"), coded)
  expect_match(
    out(
      coded, "--first", "a", "--second", "b", "--missing", "-99,n/a", "--decimal-mark", ",",
      "--scale-by", "0.01"
    )[[2]],
    "-0.0083"
  )
  summary <- out("--n", "22", "--mean", "214,148", "--sd", "41,36", "--r", "0.62")
  expect_match(summary[[3]], "paired t(21)", fixed = TRUE)
  expect_match(
    out("--n", "22", "--mean-change", "66", "--sd-change", "33.6")[[2]], "  Difference  66.0, 95% CI", fixed = TRUE
  )
  expect_match(out("--n", "18,20", "--mean", "22.1,19.8", "--se", "0.92,0.72")[[2]], "2.30")
})

test_that("the direction is announced on standard error, not among the results", {
  got <- run_here("effect", demo_file(), "--outcome", "height", "--by", "substrate", "--format", "csv")
  expect_match(paste(got$err, collapse = " "), "Direction: peat minus compost")
  expect_match(got$out[[1]], "^outcome,comparison")
})

# Takes seconds: two dozen commands.
test_that("every wrong use has status 2 and says what is wrong", {
  wrong <- c(
    "difference S --lvel 0.9" = "Did you mean `--level", "difference S --level abc" = "must be one number",
    "difference S --level 1e" = "must be one number", "difference S --beyond" = "--beyond` needs a value",
    "difference S --expect greater" = "either", "difference S --format xml" = "text, json or csv|csv",
    "difference S --scale-by x" = "must be one number", "difference FILE --outcome height" = "--by` is needed",
    "difference --outcome height --by substrate" = "One FILE is needed", "difference FILE --unit cm" = "Which columns",
    "difference FILE --outcome height --by substrate --groups compost" = "two groups",
    "difference FILE --outcome height --by substrate --groups a=1,peat" = "two groups",
    "difference --n 1,2 --mean 3,4" = "Missing: `--sd`", "difference --mean 3,4 --sd 1,1" = "Missing: `--n`",
    "difference --n 18 --mean 3,4 --sd 1,1" = "2 numbers",
    "effect --n 9 --mean-change 3 --sd-change 4 --by x" = "--by` needs a FILE", "plot S" = "--output` is needed",
    "plot S --output f.bmp" = "png", "plot S --view pie --output f.png" = "pie", "demo x.csv" = "takes no FILE",
    "narrate S --voice clam" = "Did you mean \"claim\"", "narrate S --p-as stars" = "value",
    "report S --output r.html --parts tests" = "Did you mean",
    "plot S --view cross-check --palette black,white --output c.png" = "no two colours"
  )
  for (line in names(wrong)) {
    got <- at_shell(line)
    expect_identical(got$status, 2L, label = line)
    expect_identical(got$out, character(), label = line)
    expect_match(paste(got$err, collapse = " "), wrong[[line]], label = line)
  }
  bytes <- run_here("difference", demo_file(), question, "--label", "\xff")
  expect_match(paste(bytes$err, collapse = " "), "text in UTF-8. .* \"\\\\xff\" is none")
})

test_that("errors and messages name options, not arguments of R", {
  said <- c(
    "difference" = "Use `--groups` to choose it.", "difference --level 95" = "write `--level 0.95`.",
    "difference --level 95" = "`--level` must be strictly between 0 and 1.\n",
    "equivalence --within 2,-2" = "`--within -2,2`", "evidence --prior-half 0" = "`--prior-half` must be above 0",
    "table --output table.pdf" = "`--output` must end in \".docx\"",
    "difference --method paired" = "declare it with `--paired`",
    "plot --output x.gif" = "or \".pdf\".\nTry: vandro help"
  )
  for (i in seq_along(said)) {
    line <- paste(names(said)[[i]], "FILE --outcome height --by substrate")
    expect_match(paste(at_shell(line)$err, collapse = "\n"), said[[i]], fixed = TRUE, label = line)
  }
  # What stands in a plan is a key.
  plan <- withr::local_tempfile(fileext = ".yaml", lines = c(
    "plan: 1", "comparisons:", "  a: {n: [8, 9], mean: [1, 2], sd: [1, 1], ask: {difference: {level: 95}}}"
  ))
  expect_match(paste(run_here("run", plan)$err, collapse = "\n"), "`level`", fixed = TRUE)
})

test_that("data faults have status 1", {
  faults <- c(
    "difference no.csv --outcome height --by substrate" = "does not exist",
    "difference FILE --outcome height --by bench" = "say which two", "difference S --level 95" = "strictly between",
    "difference --n 18,20 --mean 1,2 --sd 0,1" = "above 0"
  )
  for (line in names(faults)) {
    got <- at_shell(line)
    expect_identical(got$status, 1L, label = line)
    expect_match(paste(got$err, collapse = " "), faults[[line]], label = line)
  }
})

test_that("help names every command and option", {
  expect_match(paste(run_here()$out, collapse = "\n"), "difference")
  for (command in names(cli_commands)) {
    help <- run_here("help", command)
    expect_identical(help$status, 0L)
    text <- paste(help$out, collapse = "\n")
    named <- vapply(cli_spec_of(command), function(option) grepl(paste0("--", option$name), text, fixed = TRUE), NA)
    expect_true(all(named), label = command)
    expect_identical(run_here(command, "--help")$out, help$out)
  }
  expect_identical(run_here("help", "nothing")$status, 2L)
  expect_match(run_here("--version")$out, "^vandro [0-9.]+$")
})

# Takes seconds: twenty commands, among them a report and a plan.
test_that("the demo writes what it names, and does not write over what is there", {
  folder <- file.path(withr::local_tempdir(), "demo")
  dir.create(folder)
  writeLines("of an earlier demo", file.path(folder, "report.html"))
  expect_identical(run_here("demo", "--output", folder)$status, 1L)
  expect_identical(readLines(file.path(folder, "report.html")), "of an earlier demo")
  got <- run_here("demo", "--output", folder, "--force")
  expect_identical(got$status, 0L)
  named <- trimws(got$out[(match("Files written:", got$out) + 1):length(got$out)])
  expect_setequal(basename(named), list.files(folder))
  expect_gte(length(named), 7)
})

test_that("a double quote without its partner is wrong usage, not half a name", {
  got <- run_cli("difference", demo_file(), "--outcome", "height", "--by", "substrate", "--groups", "\"compost,peat")
  expect_identical(got$status, 2L)
  expect_match(paste(got$err, collapse = " "), "without its partner")
})
