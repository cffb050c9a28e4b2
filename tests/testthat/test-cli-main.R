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

test_that("every command does in R what it does in the shell", {
  folder <- withr::local_tempdir()
  path <- function(name) file.path(folder, name)
  expect_identical(run_here("describe", demo_file(), question, "--digits", "1")$status, 0L)
  json <- run_here(
    "difference", demo_file(), question, "--format", "json", "--expect", "higher", "--beyond",
    "-1.5"
  )
  got <- jsonlite::fromJSON(paste(json$out, collapse = "\n"))
  expect_identical(got$settings$beyond, -1.5)
  expect_identical(got$settings$expect, "higher")
  plain <- run_here("narrate", demo_file(), question, "--voice", "plain")
  expect_match(plain$out[[1]], "On average")
  for (name in c("f.png", "f.svg", "f.pdf")) {
    expect_identical(
      run_here("plot", demo_file(), question, "--output", path(name), "--width", "85")$status, 0L
    )
    expect_true(file.exists(path(name)))
  }
  report <- run_here(
    "report", demo_file(), question, "--output", path("r.html"), "--author", "Ada", "--date",
    "2026-03-01"
  )
  expect_identical(report$status, 0L)
  expect_match(paste(readLines(path("r.html")), collapse = ""), "Ada, 2026-03-01")
  again <- run_here("report", demo_file(), question, "--output", path("r.html"))
  expect_identical(again$status, 1L)
  expect_identical(
    run_here("report", demo_file(), question, "--output", path("r.html"), "--force")$status, 0L
  )
})

test_that("codes get labels, and published numbers need no file", {
  coded <- run_here(
    "difference", demo_file(), "--outcome", "height", "--by", "substrate_code", "--groups",
    "compost=1,peat=2", "--unit", "cm"
  )
  named <- run_here("difference", demo_file(), question)
  expect_identical(coded$out, named$out)
  published <- run_here(
    "difference", "--n", "18,20", "--mean", "22.1,19.8", "--sd", "3.9,3.2", "--groups",
    "compost,peat", "--unit", "cm", "--label", "Stem height"
  )
  expect_identical(published$out, format(test_difference(published_study()), width = 80))
  one_value <- function(...) {
    run_here("difference", "--n", "1,5", "--mean", "18.2,21.6", ..., "--method", "student", "--groups", "compost,peat")
  }
  study <- versus_summary(c(1, 5), c(18.2, 21.6), c(NA, 1.7), groups = c("compost", "peat"))
  expect_identical(one_value("--sd", "NA,1.7")$out, format(test_difference(study, "student"), width = 80))
  expect_identical(one_value("--sd", "none,1.7")$status, 2L)
  expect_identical(one_value("--sd", "1,1.7")$status, 1L)
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
  expect_match(out(changes, "--change", "ch", "--groups", "noon,dawn")[[5]], "paired t(21) = 8.24", fixed = TRUE)
  counts <- out(
    file("root_damage.csv"), "--outcome", "score", "--by", "substrate", "--counts", "plants", "--groups",
    "compost,peat"
  )
  expect_match(grep("^  compost", counts, value = TRUE), "40")
  two <- out(
    demo_file(), "--outcome", "height,dry_mass", "--by", "substrate", "--groups", "compost,peat",
    "--adjust", "none"
  )
  expect_identical(sum(grepl("^Difference:", two)), 2L)
  coded <- file.path(folder, "coded.csv")
  writeLines(c("a;b", "1,5;2,5", "-99;3", "2,5;n/a", "4;5"), coded)
  expect_match(
    out(
      coded, "--first", "a", "--second", "b", "--missing", "-99,n/a", "--decimal", ",",
      "--scale-by", "0.01"
    )[[3]],
    "-0.0083"
  )
  summary <- out("--n", "22", "--mean", "214,148", "--sd", "41,36", "--r", "0.62")
  expect_match(summary[[5]], "paired t(21)", fixed = TRUE)
  expect_identical(out("--n", "22", "--mean-change", "66", "--sd-change", "33.6")[[3]], "  Difference  66.0")
  expect_match(out("--n", "18,20", "--mean", "22.1,19.8", "--se", "0.92,0.72")[[3]], "2.30")
})

test_that("figures of every view come from the command line", {
  file <- system.file("extdata", "moisture.csv", package = "vandro")
  folder <- withr::local_tempdir()
  for (view in figure_views) {
    picture <- file.path(folder, paste0(view, ".png"))
    got <- run_here(
      "plot", file, "--paired", "--first", "probe_a", "--second", "probe_b", "--order", "hour", "--view", view,
      "--output", picture, "--title", "Probes"
    )
    expect_identical(got$status, 0L)
    expect_true(file.exists(picture))
  }
  expect_identical(
    run_here(
      "plot", file, "--first", "probe_a", "--second", "probe_b", "--view", "pairs", "--output",
      picture, "--force"
    )$status,
    1L
  )
  expect_identical(
    run_here(
      "plot", file, "--first", "probe_a", "--second", "probe_b", "--view", "pie", "--output",
      picture
    )$status,
    2L
  )
})

test_that("the direction is announced on standard error, not among the results", {
  got <- run_here("effect", demo_file(), "--outcome", "height", "--by", "substrate", "--format", "csv")
  expect_match(paste(got$err, collapse = " "), "Direction taken: peat minus compost")
  expect_match(got$out[[1]], "^outcome,comparison")
})

test_that("every wrong use has status 2 and says what is wrong", {
  wrong <- function(...) {
    got <- run_here(...)
    expect_identical(got$status, 2L)
    expect_identical(got$out, character())
    paste(got$err, collapse = " ")
  }
  expect_match(wrong("difference", demo_file(), question, "--lvel", "0.9"), "Did you mean `--level`")
  expect_match(wrong("difference", demo_file(), question, "--level", "abc"), "must be one number")
  expect_match(wrong("difference", demo_file(), question, "--level", "1e"), "must be one number")
  expect_match(wrong("difference", demo_file(), question, "--beyond"), "--beyond` needs a value")
  expect_match(wrong("difference", demo_file(), question, "--label", "\xff"), "text in UTF-8. .* \"\\\\xff\" is none")
  expect_match(wrong("difference", demo_file(), question, "--expect", "greater"), "either")
  expect_match(wrong("difference", demo_file(), question, "--format", "xml"), "text, json or csv|csv")
  expect_match(wrong("difference", demo_file(), "--outcome", "height"), "--by` is needed")
  expect_match(wrong("difference", question), "One FILE is needed")
  expect_match(wrong("difference", demo_file(), question[1:4], "--groups", "compost"), "two groups")
  expect_match(wrong("difference", demo_file(), question[1:4], "--groups", "a=1,peat"), "two groups")
  expect_match(wrong("difference", "--n", "1,2", "--mean", "3,4"), "Missing: `--sd`")
  expect_match(wrong("difference", "--mean", "3,4", "--sd", "1,1"), "Missing: `--n`")
  expect_match(wrong("difference", demo_file(), "--unit", "cm"), "Which columns are compared")
  expect_match(wrong("difference", demo_file(), question, "--scale-by", "x"), "must be one number")
  expect_match(wrong("difference", "--n", "18", "--mean", "3,4", "--sd", "1,1"), "2 numbers")
  expect_match(wrong("effect", "--n", "9", "--mean-change", "3", "--sd-change", "4", "--by", "x"), "--by` needs a FILE")
  expect_match(wrong("plot", demo_file(), question), "--output` is needed")
  expect_match(wrong("plot", demo_file(), question, "--output", "f.bmp"), "png")
  expect_match(wrong("demo", "x.csv"), "takes no FILE")
  expect_match(wrong("narrate", demo_file(), question, "--voice", "clam"), "Did you mean \"claim\"")
  expect_match(wrong("narrate", demo_file(), question, "--p-as", "stars"), "value")
  expect_match(wrong("report", demo_file(), question, "--output", "r.html", "--explain", "maybe"), "yes")
  crossed <- c("--view", "cross-check", "--palette", "black,white", "--output", file.path(tempdir(), "c.png"))
  expect_match(wrong("plot", demo_file(), question, crossed), "no two colours")
})

test_that("errors and messages name options, not arguments of R", {
  said <- function(...) paste(run_here(...)$err, collapse = "\n")
  asked <- c(demo_file(), "--outcome", "height", "--by", "substrate")
  expect_match(said("difference", asked), "Say `--groups` to choose it.", fixed = TRUE)
  percent <- said("difference", asked, "--level", "95")
  expect_match(percent, "`--level` must be strictly between 0 and 1.\n", fixed = TRUE)
  expect_match(percent, "write `--level 0.95`.", fixed = TRUE)
  expect_match(said("equivalence", asked, "--within", "2,-2"), "`--within -2,2`", fixed = TRUE)
  expect_match(said("evidence", asked, "--prior-width", "0"), "`--prior-width` must be above 0", fixed = TRUE)
  expect_match(said("table", asked, "--output", "table.pdf"), "`--output` must end in \".docx\"", fixed = TRUE)
  expect_match(said("difference", asked, "--method", "paired"), "declare it with `--paired`", fixed = TRUE)
  expect_match(said("plot", asked, "--output", "x.gif"), "or \".pdf\".\nTry: vandro help", fixed = TRUE)
  # What stands in a plan is a key.
  plan <- withr::local_tempfile(fileext = ".yaml", lines = c(
    "plan: 1", "comparisons:", "  a: {n: [8, 9], mean: [1, 2], sd: [1, 1], ask: {difference: {level: 95}}}"
  ))
  expect_match(said("run", plan), "`level`", fixed = TRUE)
})

test_that("data faults have status 1", {
  fault <- function(...) {
    got <- run_here(...)
    expect_identical(got$status, 1L)
    paste(got$err, collapse = " ")
  }
  expect_match(fault("difference", "no.csv", question), "does not exist")
  expect_match(fault("difference", demo_file(), "--outcome", "height", "--by", "bench"), "say which two")
  expect_match(fault("difference", demo_file(), question, "--level", "95"), "strictly between")
  expect_match(fault("difference", "--n", "18,20", "--mean", "1,2", "--sd", "0,1"), "above 0")
})

test_that("help names every command and option", {
  expect_match(paste(run_here()$out, collapse = "\n"), "difference")
  for (command in names(cli_commands)) {
    help <- run_here("help", command)
    expect_identical(help$status, 0L)
    for (option in cli_spec_of(command)) {
      expect_match(paste(help$out, collapse = "\n"), paste0("--", option$name), fixed = TRUE)
    }
    expect_identical(run_here(command, "--help")$out, help$out)
  }
  expect_identical(run_here("help", "nothing")$status, 2L)
  expect_match(run_here("--version")$out, "^vandro [0-9.]+$")
})

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
