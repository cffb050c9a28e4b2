# House rules, each checked on the sources, and each check tried on a breach of its own.

ready_made <- c(
  "t.test", "wilcox.test", "var.test", "shapiro.test", "ks.test", "power.t.test", "mantelhaen.test",
  "oneway.test", "kruskal.test", "ansari.test", "mood.test", "fligner.test", "bartlett.test",
  "pairwise.t.test", "TukeyHSD", "power"
)

called_functions <- function(files) {
  symbols <- lapply(files, function(file) {
    data <- utils::getParseData(parse(file, keep.source = TRUE))
    data <- data[data$token == "SYMBOL_FUNCTION_CALL", ]
    if (nrow(data)) data.frame(file = basename(file), line = data$line1, name = data$text)
  })
  do.call(rbind, symbols)
}

source_files <- function(...) list.files(package_source(), "[.]R$", full.names = TRUE)

test_that("no ready-made test function is called anywhere", {
  tests <- list.files(test_path(), "[.]R$", full.names = TRUE)
  called <- called_functions(c(source_files(), tests))
  expect_identical(called[called$name %in% ready_made, "name"], character())
  breach <- withr::local_tempfile(lines = paste0("f <- function(x) stats::", "t.test", "(x)"), fileext = ".R")
  expect_true("t.test" %in% called_functions(breach)$name)
})

test_that("conditions are raised in one place only", {
  called <- called_functions(setdiff(source_files(), file.path(package_source(), "check-conditions.R")))
  raising <- c("stop", "warning", "cli_abort", "abort", "cli_warn", "cli_inform", "message", "stopifnot")
  found <- called[called$name %in% raising, ]
  # write_whole() and write_whole_folder() stop inside a handler that turns every error into one of the package's own.
  # An entry of the catalogue that is not whole stops the package from loading.
  found <- found[!(found$file %in% c("check-files.R", "fact-catalogue.R") & found$name == "stop"), ]
  expect_identical(found$name, character())
})

test_that("every function is short and takes few arguments", {
  namespace <- asNamespace("vandro")
  names <- Filter(function(name) is.function(get(name, namespace)), ls(namespace, all.names = TRUE))
  names <- names[!grepl("^([.]|native_)|system.file", names)]
  lines <- vapply(names, function(name) {
    source <- deparse(body(get(name, namespace)))
    length(source)
  }, 0L)
  # deparse() breaks lines at 60 characters: 75 of its lines are about 45 of ours.
  expect_identical(names(lines)[lines > 75], character())
  arguments <- vapply(names, function(name) length(formals(get(name, namespace))), 0L)
  # An entry of the catalogue must have every field.
  arguments <- arguments[!grepl("_entry$", names(arguments))]
  # A declaration names every column that may come along, these verbs the options of all their methods.
  expect_identical(names(arguments)[arguments > 12], c(
    "audit_numbers", "cross_check", "rehearse_study", "suppose_world",
    "versus", "versus_paired", "versus_paired_summary", "versus_summary", "write_plan",
    "write_report"
  ))
})

test_that("defaults agree between the verbs, the figure, the report and the command line", {
  same <- function(argument, ...) {
    values <- lapply(list(...), function(f) eval(formals(f)[[argument]]))
    expect_length(unique(values), 1)
  }
  same("level", test_difference, gauge_effect, describe_study, vet_assumptions, autoplot.vandro_study)
  same("alpha", test_difference, test_equivalence, cross_check, vet_assumptions)
  same("bounds_in", test_equivalence, cross_check, write_report)
  same("beyond", test_difference, autoplot.vandro_study)
  same("alpha", test_difference, rehearse_study)
  same("level", test_difference, weigh_evidence)
})

test_that("the exported functions and their arguments are a deliberate set", {
  exported <- sort(grep("^native_", getNamespaceExports("vandro"), value = TRUE, invert = TRUE))
  words <- vapply(exported, function(name) {
    paste0(name, "(", toString(names(formals(get(name, asNamespace("vandro"))))), ")")
  }, "")
  expect_snapshot(writeLines(words))
})

test_that("options of the command line are the verbs' own arguments", {
  known <- unique(unlist(lapply(
    list(
      versus, versus_paired, versus_summary, versus_paired_summary, read_measurements, describe_study,
      vet_assumptions, test_difference, test_equivalence, try_bounds, cross_check, weigh_evidence,
      try_priors, suppose_world, rehearse_study, make_up_study, audit_numbers, results_table, gauge_effect,
      write_report, narrate, number_style, save_figure, autoplot.vandro_study, autoplot.vandro_difference, write_plan,
      run_plan, house_conventions, method_options
    ),
    function(f) names(formals(f))
  )))
  names <- gsub("-", "_", vapply(cli_spec(), `[[`, "", "name"), fixed = TRUE)
  # Where the shell needs a word that R does not.
  shell_only <- c(
    "format", "output", "force", "width", "height", "details", "paired", "change", "vary", "published_level", "ask",
    "by_whom", "only_check", "unitless_decimals", "written_decimal_mark", "published",
    "published_columns", "shell"
  )
  expect_identical(setdiff(names, c(known, shell_only)), character())
})
