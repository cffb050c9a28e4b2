question <- c("--outcome", "height", "--by", "substrate", "--groups", "compost,peat", "--unit", "cm")

# Three files in a folder: two of seedlings, one without the columns asked for.
local_files <- function(env = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = env)
  withr::local_dir(folder, .local_envir = env)
  file.copy(demo_file(), "north.csv")
  file.copy(demo_file(), "south.csv")
  file.copy(system.file("extdata", "leaching.csv", package = "vandro"), "other.csv")
  folder
}

test_that("many files are asked the same question, each under its name", {
  local_files()
  alone <- run_here("difference", "north.csv", question)
  both <- run_here("difference", "north.csv", "south.csv", question)
  expect_identical(both$status, 0L)
  expect_identical(both$out, c("== north.csv", alone$out, "", "== south.csv", alone$out))
  csv <- utils::read.csv(text = run_here("difference", "north.csv", "south.csv", question, "--format", "csv")$out)
  expect_identical(csv$file, c("north.csv", "south.csv"))
  one <- utils::read.csv(text = run_here("difference", "north.csv", question, "--format", "csv")$out)
  expect_identical(csv[1, -1], one, ignore_attr = TRUE)
  json <- withr::local_tempfile(fileext = ".json")
  expect_identical(run_here("difference", "north.csv", "south.csv", question, "--output", json)$status, 0L)
  found <- jsonlite::fromJSON(json, simplifyVector = FALSE)
  expect_identical(found$layout, "vandro-answers")
  expect_identical(found$answers[[2]]$file, "south.csv")
  expect_identical(schema_faults(json), character())
})

test_that("one file at fault is told, does not stop the others, and shows in the status", {
  local_files()
  got <- run_here("describe", "other.csv", "north.csv", question)
  expect_identical(got$status, 1L)
  expect_identical(got$out[[1]], "== north.csv")
  expect_match(got$err[[1]], "vandro: other.csv: Column \"height\"", fixed = TRUE)
  expect_match(paste(got$err, collapse = " "), "1 of 2 files could not be used", fixed = TRUE)
  # A file is written whole or not at all.
  got <- run_here("describe", "other.csv", "north.csv", question, "--output", "all.csv")
  expect_identical(got$status, 1L)
  expect_false(file.exists("all.csv"))
  none <- run_here("describe", "other.csv", "gone.csv", question)
  expect_identical(none$out, character())
  # Wrong usage is wrong for all files.
  expect_identical(run_here("describe", "other.csv", "north.csv", "--outcome", "height")$status, 2L)
  expect_identical(run_here("describe", "-", "-", question)$status, 2L)
})

# Takes seconds: four reports and figures from files.
test_that("figures, reports and texts of many files have the names of these", {
  local_files()
  expect_identical(run_here("plot", "north.csv", "south.csv", question, "--output", "{name}-f.svg")$status, 0L)
  expect_true(all(file.exists("north-f.svg", "south-f.svg")))
  expect_identical(run_here("report", "north.csv", "south.csv", question, "--output", "{name}.md")$status, 0L)
  expect_identical(run_here("table", "north.csv", "south.csv", question, "--output", "{name}-t.md")$status, 0L)
  expect_identical(run_here("narrate", "north.csv", "south.csv", question, "--output", "{name}.txt")$status, 0L)
  expect_identical(readLines("north.txt"), run_here("narrate", "north.csv", question)$out)
  for (command in c("plot", "report", "table", "narrate")) {
    ending <- if (command == "plot") "one.png" else "one.md"
    got <- run_here(command, "north.csv", "south.csv", question, "--output", ending)
    expect_identical(got$status, 2L)
    expect_match(paste(got$err, collapse = " "), "{name}-", fixed = TRUE)
  }
  dir.create("sub")
  file.copy("north.csv", "sub/north.csv")
  got <- run_here("report", "north.csv", "sub/north.csv", question, "--output", "{name}.md")
  expect_match(paste(got$err, collapse = " "), "Two files would be written", fixed = TRUE)
})

test_that("the format follows the ending of --output, and a contradiction is an error", {
  local_files()
  run_here("difference", "north.csv", question, "--output", "a.json")
  run_here("difference", "north.csv", question, "--output", "a.csv")
  run_here("difference", "north.csv", question, "--output", "a.txt")
  expect_identical(jsonlite::fromJSON("a.json")$kind, "difference")
  expect_identical(utils::read.csv("a.csv")$method, "welch")
  expect_match(readLines("a.txt")[[1]], "^Difference: ")
  got <- run_here("difference", "north.csv", question, "--format", "csv", "--output", "b.json")
  expect_identical(got$status, 2L)
  expect_match(got$err[[1]], "contradict", fixed = TRUE)
})

test_that("JSON of every kind of answer follows its schema", {
  local_files()
  pairs <- c(
    system.file("extdata", "moisture.csv", package = "vandro"), "--paired", "--first", "probe_a", "--second",
    "probe_b"
  )
  world <- c("--difference", "2.5", "--sd", "3,4", "--groups", "compost,peat")
  asked <- list(
    c("describe", "north.csv", question), c("assumptions", "north.csv", question), c("effect", "north.csv", question),
    c("difference", "north.csv", question, "--method", "permutation,ranks", "--seed", "1"),
    c("equivalence", pairs, "--within", "0.5"), c("bounds", pairs, "--within", "0.5", "--bounds", "0.2,0.4"),
    c("cross-check", "north.csv", question, "--seed", "1"), c("evidence", pairs),
    c("priors", pairs, "--widths", "0.5,1"),
    c("rehearse", world, "--n", "20,22"),
    c("audit", "--n", "18,20", "--mean", "22.1,19.8", "--sd", "3.9,3.2", "--t", "2.00"),
    c("difference", "--n", "18,20", "--mean", "22.1,19.8", "--sd", "3.9,3.2"),
    c(
      "difference", "north.csv", "--outcome", "height,leaf_area", "--by", "substrate", "--claim", "same", "--assigned",
      "yes"
    )
  )
  files <- sprintf("%02d.json", seq_along(asked))
  for (i in seq_along(asked)) {
    expect_identical(run_here(asked[[i]], "--quiet", "--output", files[[i]])$status, 0L)
  }
  expect_identical(schema_faults(files), character())
  # The schemas see what is wrong.
  spoilt <- sub("\"p_kind\": \"[a-z]+\"", "\"p_kind\": \"guessed\"", readLines(files[[4]]))
  writeLines(spoilt, "spoilt.json")
  expect_match(schema_faults("spoilt.json"), "guessed", fixed = TRUE, all = FALSE)
})

test_that("read tells what is in a file, and what keeps a column from being numbers", {
  local_files()
  writeLines(c("a,b,\u00fc", "1,x,1.5", "2,y,2.5", "n/a,z,", "4,x,7"), "odd.csv")
  got <- run_here("read", "odd.csv")
  expect_identical(got$out, c(
    "== odd.csv", "4 rows, 3 columns", "  a  text, 0 missing, 4 different; not numbers: row 3 \"n/a\"",
    "  b  text, 0 missing, 3 different", "  \u00fc  number, 1 missing, 3 different, 1.5 to 7"
  ))
  csv <- utils::read.csv(text = run_here("read", "odd.csv", "north.csv", "--format", "csv")$out)
  expect_identical(nrow(csv), 3L + ncol(seedlings))
  expect_identical(csv$missing[csv$column == "height"], sum(is.na(seedlings$height)))
  expect_identical(run_here("read")$status, 2L)
  expect_identical(run_here("read", "gone.csv")$status, 1L)
})

test_that("messages can be kept quiet; results and errors cannot", {
  local_files()
  loud <- run_here("difference", "north.csv", "--outcome", "height", "--by", "substrate")
  quiet <- run_here("difference", "north.csv", "--outcome", "height", "--by", "substrate", "--quiet")
  expect_match(paste(loud$err, collapse = " "), "Direction: ")
  expect_identical(quiet$err, character())
  expect_identical(quiet$out, loud$out)
  expect_gt(length(run_here("difference", "gone.csv", question, "--quiet")$err), 0)
})

test_that("conventions are followed where no option says otherwise", {
  local_files()
  writeLines(c(
    "conventions: 1", "name: A", "level: 0.9", "method: {independent: student}",
    "numbers: {leading_zero: yes, decimals: 1}"
  ), "house.yaml")
  house <- c("--conventions", "house.yaml")
  study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
  json <- function(...) jsonlite::fromJSON(paste(run_here(...)$out, collapse = "\n"))
  got <- json("difference", "north.csv", question, "--format", "json", house)
  expect_identical(got$settings$method, "student")
  expect_identical(got$table$lower, as.data.frame(test_difference(study, "student", level = 0.9))$lower)
  own <- json("difference", "north.csv", question, "--format", "json", house, "--level", "0.8", "--method", "welch")
  expect_identical(own$table$lower, as.data.frame(test_difference(study, level = 0.8))$lower)
  told <- paste(run_here("narrate", "north.csv", question, house)$out, collapse = " ")
  expect_match(told, "90% CI [2.15, 4.76] for compost minus peat, Student's t(45) = 4.4, p < 0.001", fixed = TRUE)
  more <- paste(run_here("narrate", "north.csv", question, house, "--unitless-decimals", "3")$out, collapse = " ")
  expect_match(more, "t(45) = 4.434, p < 0.001", fixed = TRUE)
  expect_identical(run_here("report", "north.csv", question, house, "--output", "r.md")$status, 0L)
  expect_match(paste(readLines("r.md"), collapse = " "), "This report follows", fixed = TRUE)
  expect_identical(run_here("narrate", "north.csv", question, "--conventions", "none.yaml")$status, 1L)
  # Nothing stays in force.
  expect_match(paste(run_here("narrate", "north.csv", question)$out, collapse = " "), "p < .001", fixed = TRUE)
})

test_that("options given twice, unknown, contradictory or out of range are told", {
  local_files()
  usage <- function(..., text, status = 2L) {
    got <- run_here("difference", "north.csv", question, ...)
    expect_identical(got$status, status)
    expect_identical(got$out, character())
    expect_match(paste(got$err, collapse = " "), text, fixed = TRUE)
  }
  usage("--level", "0.9", "--level", "0.8", text = "`--level` stands twice")
  usage("--unit", "mm", text = "`--unit` stands twice")
  usage("--levle", "0.9", text = "Did you mean `--level`")
  usage("--level", text = "needs a value")
  usage("--level", "0,9", text = "must be one number")
  usage("--expect", "hihger", text = "Did you mean \"higher\"")
  usage("--n", "20,22", text = "Published numbers are given without a FILE")
  usage("--level", "95", text = "`--level 0.95`", status = 1L)
  usage("--alpha", "0.9", text = "`--alpha` must be", status = 1L)
  usage("--seed", "1", text = "seed", status = 1L)
})

test_that("the file that is there stays, and a folder that is not there is told", {
  local_files()
  writeLines("mine", "out.json")
  got <- run_here("difference", "north.csv", question, "--output", "out.json")
  expect_identical(got$status, 1L)
  expect_identical(readLines("out.json"), "mine")
  expect_identical(run_here("difference", "north.csv", question, "--output", "no/where.json")$status, 1L)
  expect_identical(run_here("difference", "north.csv", question, "--output", "out.json", "--force")$status, 0L)
})
