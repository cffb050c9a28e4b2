# What must hold of every answer about any data: the estimate in its interval, interval and test of one mind, and
# nothing that depends on unit, order or who comes first. Broken rules are collected and compared once.

# Groups or changes, with and without ties, of any spread, from 2 to 14 values.
property_values <- function(n) {
  x <- switch(sample(5, 1),
    stats::rnorm(n, 2, stats::runif(1, 0.2, 4)), round(stats::rnorm(n, 2, 2)), round(stats::rexp(n) * 3, 1),
    stats::rt(n, 2), sample(-2:4, n, TRUE) / 3
  )
  x + sample(c(0, 0, 1000), 1)
}

property_study <- function(paired) {
  n <- sample(3:12, 2, replace = TRUE)
  if (paired) {
    first <- property_values(n[[1]])
    second <- first - property_values(n[[1]])
    return(list(first = first, second = second))
  }
  list(first = property_values(n[[1]]), second = property_values(n[[2]]) + sample(c(0, 1000), 1))
}

declare_property <- function(data, paired, by = 1, turn = FALSE, mix = FALSE) {
  at <- list(first = seq_along(data$first), second = seq_along(data$second))
  if (mix) at <- if (paired) rep(list(sample(at$first)), 2) else lapply(at, sample)
  first <- data$first[at[[1]]] * by
  second <- data$second[at[[2]]] * by
  if (turn) {
    kept <- first
    first <- second
    second <- kept
  }
  suppressMessages(suppressWarnings(if (paired) {
    versus_paired(data.frame(a = first, b = second), a, b, groups = c("a", "b"))
  } else {
    versus(first = first, second = second, groups = c("compost", "peat"))
  }))
}

# As test_difference() does, without its warnings, which take longer than all the rest.
property_row <- function(study, method, beyond = 0, ...) {
  asked <- list(expect = "either", beyond = beyond, level = 0.95, alpha = 0.05, method_from = "call")
  options <- list(...)
  tryCatch({
    counting <- check_counting_options(method, options[setdiff(names(options), "seed")], options$seed, NULL)
    as.list(difference_answer(study, method, asked, counting, unadjusted, NULL, NULL)$table)
  }, vandro_error = function(e) NULL)
}

# A data set with the way it is asked about.
property_case <- function(seed) {
  set.seed(seed)
  paired <- seed %% 2 == 0
  methods <- if (paired) c("paired", "signed_ranks", "permutation") else
    c("welch", "student", "ranks", "relative", "permutation")
  data <- property_study(paired)
  method <- methods[[1 + seed %/% 2 %% length(methods)]]
  statistic <- if (method == "permutation") list(statistic = sample(c("studentized", "difference", "median"), 1))
  # Listing or drawing for so many sets takes too long; draws are the same for every question.
  drawn <- method %in% c("permutation", "relative") && !paired
  options <- c(statistic, if (drawn) list(draws = 199, seed = 3, exact = FALSE))
  list(
    seed = seed, paired = paired, data = data, method = method, statistic = statistic,
    near = 1e-9 * max(1, abs(unlist(data))), ask = function(study, ...) {
      do.call(property_row, c(list(study, method, ...), options))
    }
  )
}

# Which rules one data set breaks.
broken_rules <- function(seed) {
  case <- property_case(seed)
  study <- declare_property(case$data, case$paired)
  row <- case$ask(study)
  if (is.null(row)) return(NULL)
  wrong <- c(test_rules(case, study, row), invariance_rules(case, row))
  if (length(wrong)) paste(wrong, case$method, unlist(case$statistic), seed)
}

test_rules <- function(case, study, row) {
  has_limits <- function(x) !anyNA(c(x$lower, x$upper))
  holds <- function(x, value, slack = 0) isTRUE(x$lower - slack <= value && value <= x$upper + slack)
  wrong <- if (has_limits(row) && !holds(row, row$estimate, case$near)) "estimate in interval"
  # Relative effects have their interval on another scale than p.
  if (case$method == "relative") return(wrong)
  # At 0, and at two more shifts inside and outside.
  width <- if (has_limits(row)) row$upper - row$lower else 1
  agrees <- vapply(c(0, row$estimate + c(0.3, -1.4) * width), function(null) {
    there <- case$ask(study, beyond = null)
    if (is.null(there) || !has_limits(there)) return(TRUE)
    # On the border, to rounding.
    border <- min(abs(null - c(there$lower, there$upper))) <= case$near
    border || isTRUE(holds(there, null) == (there$p > there$alpha))
  }, NA)
  c(wrong, if (!all(agrees)) "interval and test agree")
}

invariance_rules <- function(case, row) {
  numbers <- function(x, by = 1, mirror = FALSE) {
    found <- if (mirror) c(-x$estimate, -x$upper, -x$lower) else c(x$estimate, x$lower, x$upper)
    c(if (case$method != "relative") found / by else found + mirror, x$p)
  }
  same <- function(other, ...) {
    if (is.null(other)) return(FALSE)
    found <- numbers(other, ...)
    own <- numbers(row)
    identical(is.na(own), is.na(found)) && isTRUE(all(abs(own - found) <= case$near, na.rm = TRUE))
  }
  again <- function(...) case$ask(declare_property(case$data, case$paired, ...))
  c(
    # Drawn assignments belong to places in the data.
    if (!row$p_kind %in% "simulated" && !same(again(mix = TRUE, turn = TRUE), mirror = TRUE)) "order and swap",
    if (!same(again(by = 1 / 2.54), by = 1 / 2.54)) "unit"
  )
}

# Takes half a minute: 1000 data sets, each asked some six times.
test_that("estimates lie in their intervals, intervals follow their tests, units and order change nothing", {
  # Compiling the small functions of every data set anew takes longer than they do.
  before <- compiler::enableJIT(0)
  withr::defer(compiler::enableJIT(before))
  expect_identical(c(character(), unlist(lapply(1:1000, broken_rules))), character())
})

test_that("a report gives one interval for one estimand", {
  pairs <- versus_paired(conductance, noon, dawn, unit = "mmol")
  for (study in list(height_study(), pairs)) {
    for (method in methods_where(design = study$design)) {
      difference <- property_row(study, method)
      set <- as.data.frame(suppressMessages(gauge_effect(study, method = method)))
      shared <- match(difference$estimand, set$estimand)
      if (is.na(shared)) next
      expect_equal(c(set$lower[[shared]], set$upper[[shared]]), c(difference$lower, difference$upper), info = method)
    }
  }
})
