# Samples and studies the tests share. All from the greenhouse world.

# Awkward samples, named by their shape: every core function meets them.
zoo <- list(
  two = c(3, 5),
  ties = c(1, 1, 2, 2, 2, 7),
  outlier = c(4.1, 4.3, 3.9, 4.0, 60),
  tiny = c(1.5, -2, 0.25) * 1e-160,
  huge = c(1.5, -2, 0.25) * 1e160,
  offset = 1e9 + c(0.1, 0.7, 0.4, 0.2),
  constant = rep(2.5, 4)
)

long_data <- function(first, second, labels = c("compost", "peat")) {
  data.frame(
    height = c(first, second), substrate = rep(labels, c(length(first), length(second)))
  )
}

two_groups <- function(first, second) {
  versus(long_data(first, second), height, substrate, groups = c("compost", "peat"))
}

height_study <- function(groups = c("compost", "peat"), ...) {
  versus(seedlings, height, substrate, groups = groups, unit = "cm", label = "Stem height", ...)
}

published_study <- function() {
  versus_summary(
    n = c(18, 20), mean = c(22.1, 19.8), sd = c(3.9, 3.2), groups = c("compost", "peat"),
    unit = "cm", label = "Stem height"
  )
}

conductance_study <- function(...) {
  versus_paired(conductance, noon, dawn, unit = "mmol", label = "Leaf conductance", ...)
}

quiet <- function(code) suppressMessages(code, classes = "vandro_message")

group_moments <- function(first, second) {
  core_group_moments(c(first, second), rep(1:2, c(length(first), length(second))), 1L, 2L)
}

demo_file <- function() shipped("seedlings.csv")

# The command line as the shell sees it: exit status, standard output, standard error.
run_cli <- function(...) {
  out <- tempfile()
  err <- tempfile()
  on.exit(unlink(c(out, err)))
  script <- system.file("exec", "vandro", package = "vandro")
  libraries <- paste(.libPaths(), collapse = .Platform$path.sep)
  status <- suppressWarnings(system2(
    file.path(R.home("bin"), "Rscript"), c(shQuote(script), shQuote(c(...))),
    stdout = out, stderr = err, env = paste0("R_LIBS=", shQuote(libraries))
  ))
  list(status = status, out = readLines(out), err = readLines(err))
}

# The same without a new process, for the many cases; figures stay empty.
run_here <- function(...) {
  err <- character()
  status <- NULL
  out <- utils::capture.output({
    err <- utils::capture.output(status <- with_blank_figures(vandro_command(c(...))), type = "message")
  })
  list(status = status, out = out, err = err)
}

# Figures are made and written, but nothing is measured or drawn, which takes most of the time of a report.
with_blank_figures <- function(code) {
  with_functions(list(
    fit_figure = function(figure, width, kind) list(figure = figure, height = 2),
    draw_fitted = function(fitted) grid::grid.newpage()
  ), code)
}

# The package with other functions in place of its own.
with_functions <- function(functions, code) {
  namespace <- asNamespace("vandro")
  replace <- function(functions) {
    for (name in names(functions)) {
      unlockBinding(name, namespace)
      assign(name, functions[[name]], namespace)
      lockBinding(name, namespace)
    }
  }
  own <- mget(names(functions), namespace)
  on.exit(replace(own))
  replace(functions)
  code
}

plots_study <- function(...) {
  versus(leaching, nitrate, cover, groups = c("bare", "sown"), unit = "mg/l", label = "Nitrate", ...)
}

quick_report <- function(...) with_blank_figures(write_report(...))

shipped <- function(name) system.file("extdata", name, package = "vandro")

# Words that many rows share.
shared_words <- list(
  S = c(demo_file(), "--outcome", "height", "--by", "substrate", "--groups", "compost,peat", "--unit", "cm"),
  FILE = demo_file(),
  DAMAGE = c(
    shipped("root_damage.csv"), "--outcome", "score", "--by", "substrate", "--counts", "plants", "--groups",
    "compost,peat"
  ),
  PLOTS = c(shipped("leaching.csv"), "--outcome", "nitrate", "--by", "cover", "--groups", "bare,sown"),
  PROBES = c(shipped("moisture.csv"), "--paired", "--first", "probe_a", "--second", "probe_b"),
  BOUNDED = c("--within", "-2,5", "--reason", "a shelf holds 5 cm more"),
  PRIOR = c("--prior-half", "0.5", "--expect", "higher"),
  WORLD = c("--difference", "2.5", "--sd", "3,4", "--groups", "compost,peat", "--unit", "cm"),
  PRINTED = c("--n", "18,20", "--mean", "22.1,19.8", "--sd", "3.90,3.2", "--t", "2.00", "--df", "36", "--p", ".13")
)
at_shell <- function(line) {
  words <- scan(text = line, what = "", quiet = TRUE, quote = "\"'")
  run_here(unlist(lapply(words, function(word) shared_words[[word]] %||% word)))
}

# Each call must stop with the error that it is named after: refused(bad_value = f(1), no_spread = g(2)).
refused <- function(...) {
  calls <- rlang::enquos(...)
  for (i in seq_along(calls)) {
    class <- paste0("vandro_error_", names(calls)[[i]])
    expect_error(rlang::eval_tidy(calls[[i]]), class = class, label = rlang::as_label(calls[[i]]))
  }
}

# Short enough for a line.
how <- method_options

# The same, from arguments among which options of methods stand flat.
flatly <- function(verb, ...) rlang::inject(verb(!!!with_method_options(keep_given(rlang::list2(...)))))
