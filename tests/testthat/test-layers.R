test_that("every R file keeps to its layer", {
  expect_identical(layer_violations(package_source()), NULL)
})

test_that("what is known of methods and effect sizes stands in the catalogue alone", {
  codes <- c(names(method_entries), names(estimand_entries))
  expect_null(literal_sets(package_source(), codes))
  dir <- withr::local_tempdir()
  writeLines(c(
    "a <- function(m) switch(m, welch = 1, student = 2)", "b <- c(welch = 1, student = 2)",
    "d <- c('g', 'd_pooled')", "e <- function(m) switch(m, welch = 1, 2)"
  ), file.path(dir, "print-a.R"))
  expect_length(literal_sets(dir, codes), 3)
  expect_error(method_entry(code = "toy", design = "paired"), "entry toy lacks family, estimands")
  expect_error(catalogue(interval_entry("a", "A", 1), interval_entry("a", "A", 1)), "called a")
  expect_error(method_fact("toy", "label"), "no entry toy")
})

test_that("every reason that the core gives has words", {
  core <- list.files(package_source(), "^core-.*[.]R$", full.names = TRUE)
  text <- unlist(lapply(core, readLines))
  codes <- gsub('"', "", unlist(regmatches(text, gregexpr('(?<=reason = )"[a-z_]+"', text, perl = TRUE))))
  expect_gt(length(codes), 10)
  # Checks of assumptions, subgroups and audits word these themselves.
  expect_identical(setdiff(codes, c(names(reason_entries), "too_few", "one_subgroup", "size")), character())
  expect_error(reason_fact("new", "words"), "no entry new")
})

test_that("no more than three files of a layer call each other in a circle", {
  expect_lte(max(lengths(file_cycles(package_source()))), 3)
  dir <- withr::local_tempdir()
  for (k in 1:4) writeLines(sprintf("f%d <- function() f%d()", k, k %% 4 + 1), file.path(dir, sprintf("verb-%d.R", k)))
  expect_identical(file_cycles(dir), list(sprintf("verb-%d.R", 1:4)))
})

test_that("no name is defined twice", {
  expect_identical(anyDuplicated(names(read_definitions(package_source()))), 0L)
})

test_that("core files use no imported function without its package's name", {
  symbols <- read_symbols(package_source())
  imported <- ls(parent.env(asNamespace("vandro")), all.names = TRUE)
  in_core <- symbols[symbols$layer == "core" & symbols$token == "SYMBOL_FUNCTION_CALL", ]
  expect_identical(intersect(in_core$text, imported), character())
})

test_that("the layering check sees each kind of violation", {
  dir <- withr::local_tempdir()
  writeLines(
    "core_a <- function(x) {\n  cli::cli_abort('no')\n  print_b(x)\n  stop('no')\n}",
    file.path(dir, "core-a.R")
  )
  writeLines("print_b <- function(x) core_a(x)", file.path(dir, "print-b.R"))
  writeLines("odd <- 1", file.path(dir, "misc.R"))
  expect_identical(
    layer_violations(dir),
    c(
      "no rule for layer 'misc'",
      "core-a.R:2 (core) uses cli", "core-a.R:3 (core) uses print_b",
      "core-a.R:4 (core) uses stop", "print-b.R:1 (print) uses core_a"
    )
  )
})

test_that("the C++ core includes nothing of R", {
  include <- file.path(dirname(package_source()), "inst/include")
  headers <- list.files(include, "[.]hpp$", recursive = TRUE, full.names = TRUE)
  expect_gt(length(headers), 0)
  mentions_r <- function(file) any(grepl("#\\s*include\\s*[<\"]R|\\bSEXP\\b|Rcpp::", readLines(file)))
  expect_identical(Filter(mentions_r, headers), character())
})

test_that("every core function is tested by name in its mirror file", {
  defined <- read_definitions(package_source())
  core <- Filter(function(name) is.function(get(name, asNamespace("vandro"))), names(defined)[defined == "core"])
  mirrors <- list.files(test_path(), "^test-core-.*[.]R$", full.names = TRUE)
  tested <- unlist(lapply(mirrors, function(file) {
    data <- utils::getParseData(parse(file, keep.source = TRUE))
    data$text[data$token == "SYMBOL_FUNCTION_CALL"]
  }))
  expect_identical(setdiff(core, tested), character())
})

test_that("mirror files call the core and nothing above it", {
  defined <- read_definitions(package_source())
  interface <- names(defined)[!defined %in% c("core", "native")]
  mirrors <- list.files(test_path(), "^test-core-.*[.]R$", full.names = TRUE)
  called <- unlist(lapply(mirrors, function(file) {
    data <- utils::getParseData(parse(file, keep.source = TRUE))
    data$text[data$token == "SYMBOL_FUNCTION_CALL"]
  }))
  expect_identical(intersect(called, interface), character())
})
