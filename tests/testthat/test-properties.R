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

# Which rules one data set breaks.
broken_rules <- function(seed) {
  set.seed(seed)
  paired <- seed %% 2 == 0
  data <- property_study(paired)
  methods <- if (paired) c("paired", "signed_ranks", "permutation") else
    c("welch", "student", "ranks", "relative", "permutation")
  method <- methods[[1 + seed %/% 2 %% length(methods)]]
  statistic <- if (method == "permutation") list(statistic = sample(c("studentized", "difference", "median"), 1))
  # Listing or drawing for so many sets takes too long; draws are the same for every question.
  drawn <- method %in% c("permutation", "relative") && !paired
  options <- c(statistic, if (drawn) list(draws = 199, seed = 3, exact = FALSE))
  ask <- function(study, ...) do.call(property_row, c(list(study, method, ...), options))
  study <- declare_property(data, paired)
  row <- ask(study)
  if (is.null(row)) return(NULL)
  wrong <- character()
  rule <- function(name, holds) if (!isTRUE(holds)) wrong <<- c(wrong, paste(name, method, unlist(statistic), seed))
  near <- 1e-9 * max(1, abs(unlist(data)))
  known <- !anyNA(c(row$lower, row$upper))
  if (known) rule("estimate in interval", row$lower - near <= row$estimate && row$estimate <= row$upper + near)
  # At 0, and at two more shifts inside and outside.
  width <- if (known) row$upper - row$lower else 1
  nulls <- if (method == "relative") 0 else c(0, row$estimate + c(0.3, -1.4) * width)
  for (null in nulls) {
    there <- ask(study, beyond = null)
    if (is.null(there) || anyNA(c(there$lower, there$upper))) next
    about <- if (method == "relative") 0.5 else null
    inside <- there$lower <= about && about <= there$upper
    # On the border, to rounding; and relative effects, whose interval is made on another scale than p.
    border <- min(abs(about - c(there$lower, there$upper))) <= near
    if (border || method == "relative") next
    rule("interval and test agree", inside == (there$p > there$alpha))
  }
  same <- function(name, other, by = 1, mirror = FALSE) {
    if (is.null(other)) return(rule(name, FALSE))
    numbers <- if (mirror) c(-other$estimate, -other$upper, -other$lower, other$p) else
      c(other$estimate, other$lower, other$upper, other$p)
    if (method == "relative" && mirror) numbers[1:3] <- 1 + numbers[1:3]
    if (method != "relative") numbers[1:3] <- numbers[1:3] / by
    own <- c(row$estimate, row$lower, row$upper, row$p)
    rule(name, identical(is.na(own), is.na(numbers)) && all(abs(own - numbers) <= near, na.rm = TRUE))
  }
  # Drawn assignments belong to places in the data.
  if (!row$p_kind %in% "simulated") {
    same("order and swap", ask(declare_property(data, paired, mix = TRUE, turn = TRUE)), mirror = TRUE)
  }
  same("unit", ask(declare_property(data, paired, by = 1 / 2.54)), by = 1 / 2.54)
  wrong
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
