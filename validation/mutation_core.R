# Do the tests notice when a formula is wrong? Disturbs the functions of R/core-*.R one at a time (an operator, a
# number, a tail, the smaller for the larger), runs their tests, and counts what is noticed. Writes
# inst/validation/mutation_core.csv and prints what was not. From the project's root, after `make install`:
#   Rscript validation/mutation_core.R [changes per function] [cores] [pattern of files]    (two hours for 1 on two cores)
suppressMessages({
  library(testthat)
  library(vandro)
})
source("validation/resumed.R")
Sys.setenv(NOT_CRAN = "true")
arguments <- commandArgs(trailingOnly = TRUE)
per_function <- as.integer(c(arguments, 1)[[1]])
cores <- as.integer(c(arguments[-1], 2)[[1]])
pattern <- c(arguments[-(1:2)], ".")[[1]]
set.seed(20261128)

swaps <- c(
  "+" = "-", "-" = "+", "*" = "/", "/" = "*", "^" = "*", "<" = "<=", "<=" = "<", ">" = ">=", ">=" = ">", "==" = "!=",
  "!=" = "==", "&&" = "||", "||" = "&&", "&" = "|", "|" = "&", min = "max", max = "min", pmin = "pmax", pmax = "pmin",
  floor = "ceiling", ceiling = "floor", cummax = "cummin", cummin = "cummax"
)

# Places that can be disturbed, as paths of indices into the body. Flags such as na.rm are no formulas.
sites <- function(code, path = integer()) {
  if (is.call(code)) {
    head <- if (is.name(code[[1]])) as.character(code[[1]]) else ""
    here <- if (head %in% names(swaps) && !(head %in% c("+", "-") && length(code) == 2)) list(c(path, 1L))
    flags <- names(code) %in% c("na.rm", "recursive", "use.names", "USE.NAMES", "drop")
    given <- Filter(function(i) !identical(code[[i]], quote(expr = )), setdiff(seq_along(code)[-1], which(flags)))
    inner <- lapply(given, function(i) sites(code[[i]], c(path, i)))
    return(c(here, unlist(inner, recursive = FALSE)))
  }
  number <- is.numeric(code) && length(code) == 1 && is.finite(code)
  if (number || isTRUE(code) || isFALSE(code)) return(list(path))
  list()
}
# Whole numbers by one, as they may be places in a list.
changed <- function(code) {
  if (is.name(code)) return(as.name(swaps[[as.character(code)]]))
  if (is.logical(code)) return(!code)
  if (code == round(code)) code + 1L else code * 1.25
}
disturb <- function(f, path) {
  code <- body(f)
  code[[path]] <- changed(code[[path]])
  body(f) <- code
  f
}
told <- function(f, path) {
  around <- if (length(path) == 1) body(f) else body(f)[[utils::head(path, -1)]]
  after <- around
  after[[path[[length(path)]]]] <- changed(around[[path[[length(path)]]]])
  shorten <- function(x) substr(paste(trimws(deparse(x, width.cutoff = 200)), collapse = " "), 1, 90)
  paste(shorten(around), "->", shorten(after))
}

# The tests of a file first, then those of the verbs that lean on it.
stems <- sub("^test-(.*)[.]R$", "\\1", list.files("tests/testthat", "^test-.*[.]R$"))
leaning <- list(
  adjust = c("verb-adjust", "verb-cases"), aggregates = c("study-database", "study-database-paired"),
  bootstrap = c("core-effect", "verb-effect"), difference = c("by-hand", "accuracy", "verb-difference"),
  effect = c("by-hand", "accuracy", "verb-effect"), equivalence = "accuracy", evidence = c("verb-priors", "accuracy"),
  moments = c("accuracy", "verb-describe", "study-summary", "verb-cases"),
  oddities = c("verb-assumptions", "study-paired"), permutation = c("verb-permutation", "plot-permutation"),
  "permuted-null" = c("core-permutation", "verb-permutation", "plot-permutation"), quantiles = "verb-describe",
  ranks = "accuracy", rehearsal = c("verb-rehearse", "verb-make-up"), relative = c("verb-ranks", "accuracy"),
  runs = "verb-permutation", shape = c("verb-assumptions", "accuracy"), "signed-ranks" = c("verb-ranks", "accuracy"),
  spread = c("verb-assumptions", "by-hand", "accuracy", "verb-difference"), subgroups = "accuracy"
)
tests_of <- function(file) {
  own <- sub("^core-", "", sub("[.]R$", "", file))
  found <- intersect(unique(c(paste0(c("core-", "verb-"), own), leaning[[own]])), stems)
  if (length(found) == 0) stop("No tests are known for ", file)
  found
}
# The first expectation that fails ends a file of tests, whose servers and folders are cleared away on the way out.
first_failure <- R6::R6Class("first_failure", inherit = Reporter, public = list(
  add_result = function(context, test, result) {
    if (inherits(result, c("expectation_failure", "expectation_error"))) {
      stop(structure(class = c("noticed", "condition"), list(message = "A test fails.", call = NULL)))
    }
  }
))
fails <- function(stem) {
  tryCatch(
    {
      test_file(
        file.path("tests/testthat", paste0("test-", stem, ".R")),
        package = "vandro", load_package = "installed", reporter = first_failure$new(), stop_on_failure = FALSE
      )
      FALSE
    },
    noticed = function(condition) TRUE
  )
}

namespace <- asNamespace("vandro")
files <- list.files("R", "^core-.*[.]R$")
mutants <- unlist(lapply(files, function(file) {
  defines <- function(e) is.call(e) && identical(e[[1]], quote(`<-`)) && is.call(e[[3]]) && e[[3]][[1]] == "function"
  defined <- vapply(Filter(defines, as.list(parse(file.path("R", file)))), function(e) as.character(e[[2]]), "")
  unlist(lapply(defined, function(name) {
    f <- get(name, namespace)
    at <- sites(body(f))
    if (length(at) == 0) return(NULL)
    # A body that is one number or operator has its place at the top.
    at <- at[lengths(at) > 0]
    lapply(at[sample.int(length(at), min(per_function, length(at)))], function(path) {
      list(file = file, name = name, path = path, told = told(f, path))
    })
  }), recursive = FALSE)
}), recursive = FALSE)

# Of some files the same changes as of all.
mutants <- Filter(function(mutant) grepl(pattern, mutant$file), mutants)

# A change that is never noticed runs all tests; one that loops is noticed by the clock, in seconds of the processor.
try_mutant <- function(mutant) {
  f <- disturb(get(mutant$name, namespace), mutant$path)
  under_way <- tempfile("mutant")
  job <- parallel::mcparallel({
    setTimeLimit(cpu = 300)
    unlockBinding(mutant$name, namespace)
    assign(mutant$name, f, namespace)
    quiet <- file(nullfile(), "w")
    sink(quiet)
    sink(quiet, type = "message")
    noticed <- FALSE
    for (stem in tests_of(mutant$file)) {
      writeLines(stem, under_way)
      noticed <- fails(stem)
      if (noticed) break
    }
    if (!noticed) unlink(under_way)
  }, silent = TRUE)
  began <- Sys.time()
  ended <- NULL
  while (is.null(ended) && difftime(Sys.time(), began, units = "secs") < 1800) {
    ended <- parallel::mccollect(job, wait = FALSE, timeout = 5)
  }
  if (is.null(ended)) {
    tools::pskill(job$pid, tools::SIGKILL)
    parallel::mccollect(job, wait = FALSE)
    return("the clock")
  }
  if (file.exists(under_way)) readLines(under_way) else NA_character_
}
try_once <- function(mutant) {
  place <- paste0(mutant$name, "-", paste(mutant$path, collapse = "."))
  resumed("mutation", place, function() try_mutant(mutant))
}
by <- parallel::mclapply(mutants, try_once, mc.cores = cores, mc.preschedule = FALSE)
by <- vapply(by, function(x) if (is.character(x)) x[[1]] else "a crash", "")
table <- data.frame(
  file = vapply(mutants, `[[`, "", "file"), name = vapply(mutants, `[[`, "", "name"),
  change = vapply(mutants, `[[`, "", "told"), noticed_by = by
)
utils::write.csv(
  table, if (pattern == ".") "inst/validation/mutation_core.csv" else stdout(), row.names = FALSE, na = ""
)
cat(sprintf("%d of %d changes of %d functions noticed\n", sum(!is.na(by)), nrow(table), length(unique(table$name))))
missed <- table[is.na(by), ]
for (i in seq_len(nrow(missed))) cat(sprintf("%s %s: %s\n", missed$file[[i]], missed$name[[i]], missed$change[[i]]))
