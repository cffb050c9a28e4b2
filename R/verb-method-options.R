# Options of single methods, and what methods that count leave open.

permutation_statistics <- c("studentized", "difference", "trimmed", "median")

relative_draws <- 9999

#' Options of single methods
#'
#' Rank methods and permutations have options that the others do not have. `method_options()` collects them for the
#' argument `options` of [test_difference()], [test_equivalence()], [cross_check()] and [gauge_effect()]. An option that
#' none of the methods in the call knows is an error.
#'
#' @param exact Of rank methods and `"permutation"`: whether p comes from the exact distribution. `NULL` uses it where
#'   it costs about a second (for permutations a few seconds, with the interval); otherwise ranks take an approximation,
#'   and permutations what the section Permutation of [test_difference()] says. The column `p_kind` tells which. `TRUE`
#'   insists: it tells the cost first where it is higher, and refuses what would take hours, or more memory than 4 GB or
#'   `max_memory`. `FALSE` takes the approximation, or random draws.
#' @param zeros How `"signed_ranks"` treats changes equal to `beyond`. With `"pratt"` (the default) they take the
#'   lowest ranks and are then excluded from W (Pratt 1959); with `"drop"` they are excluded before ranking. Centre and
#'   interval always come from all changes: the interval contains the shifts that the test does not reject. With
#'   `"drop"` the test of a value that many changes equal may differ from its neighbours, and so from the interval.
#' @param statistic Of `"permutation"`: `"studentized"` (the default), Welch's t; `"difference"`, of the means;
#'   `"trimmed"`, of the means without the fifth of the values at either end; `"median"`.
#' @param run_length Of `"permutation"` with an `order` in the study: how many neighbours are reassigned together, or
#'   `"estimate"`. The default of `statistic` is then `"difference"`.
#' @param draws Number of random draws. Of `"permutation"`: random assignments, from 199; giving a number asks for
#'   random draws, and `NULL` takes 99,999 (9999 for trimmed means and medians, fewer for very long data) where listing
#'   is too costly. Of `"relative"` in small groups and of `adjust = "max_t"`: 9999 by default. Of the bootstrap in
#'   [gauge_effect()]: samples, 9999 by default.
#' @param threads Number of threads (1 by default). Results do not depend on it.
#' @param max_memory Of `"permutation"`: gigabytes that counting may take (1 by default). A way that needs more is not
#'   taken.
#' @return A list of the options that were given, of class `vandro_method_options`.
#' @section Errors: `vandro_error_bad_value` for an option out of its range.
#' @references Pratt, J. W. (1959). Remarks on zeros and ties in the Wilcoxon signed rank procedures. *Journal of the
#'   American Statistical Association* 54, 655-667.
#' @examples
#' plots <- versus(leaching, nitrate, cover, groups = c("bare", "sown"), unit = "mg/l")
#' test_difference(plots, "permutation", options = method_options(statistic = "trimmed"))
#'
#' pairs <- versus_paired(conductance, noon, dawn, unit = "mmol")
#' test_difference(pairs, "signed_ranks", beyond = 30, options = method_options(zeros = "drop"))
#' @export
method_options <- function(exact = NULL, zeros = NULL, statistic = NULL, run_length = NULL, draws = NULL,
                           threads = NULL, max_memory = NULL) {
  call <- rlang::current_env()
  pick <- function(value, check, ..., arg = rlang::caller_arg(value)) {
    if (!is.null(value)) check(value, ..., arg = arg, call = call)
  }
  given <- keep_given(list(
    exact = pick(exact, check_flag), zeros = pick(zeros, check_choice, c("drop", "pratt")),
    statistic = pick(statistic, check_choice, permutation_statistics), run_length = pick(run_length, check_run_length),
    draws = pick(draws, check_whole, 199, 1e8), threads = pick(threads, check_whole, 1, 256),
    max_memory = pick(max_memory, check_number, 1e-3, 1e4)
  ))
  structure(given, class = "vandro_method_options")
}

verb_of <- function(verb) get(verb, asNamespace("vandro"), mode = "function")

# The options that the methods of a verb may know, with their defaults.
options_of <- function(verb) {
  if (!"options" %in% names(formals(verb_of(verb)))) return(NULL)
  defaults <- utils::modifyList(as.list(formals(method_options)), list(zeros = "pratt", threads = 1, max_memory = 1))
  switch(verb,
    cross_check = defaults[c("statistic", "draws", "threads")],
    gauge_effect = utils::modifyList(defaults[c("exact", "zeros", "threads")], list(draws = 9999)), defaults
  )
}

# Arguments of a verb, with those that are options of methods put where they belong.
with_method_options <- function(args) {
  flat <- args[intersect(names(args), names(formals(method_options)))]
  if (length(flat) == 0) return(args)
  c(args[!names(args) %in% names(flat)], list(options = do.call(method_options, flat)))
}

# The options of a call of `verb`. Until the next version they may also stand among its arguments.
given_options <- function(options, ..., verb, call) {
  beside <- rlang::list2(...)
  known <- names(options_of(verb))
  if (!all(rlang::names2(beside) %in% known)) {
    refuse_more(..., known = c(names(formals(verb_of(verb))), known), call = call)
  }
  if (!is.null(options) && !inherits(options, "vandro_method_options")) {
    example <- "options = method_options(exact = TRUE)"
    abort_value(options, "options", "must come from {.fn method_options}", example, call)
  }
  if (length(beside)) {
    inform_vandro(
      c("i" = "{.arg {names(beside)}} belong{?s/} into {.code options = method_options()} from the next version on."),
      "old_spelling"
    )
    options <- rlang::inject(method_options(!!!utils::modifyList(as.list(options), beside)))
  }
  unknown <- setdiff(names(options), known)
  if (length(unknown)) {
    abort_vandro(
      c("{.fn {verb}} has no use for {.arg {unknown}}.", "i" = "It knows {.arg {known}}. Leave the other out."),
      "contradiction",
      call = call
    )
  }
  options
}

# The options with their defaults, refused where none of the methods knows them; NULL where no method counts.
check_counting_options <- function(methods, options, seed, call, joint = FALSE) {
  given <- c(names(options), if (!is.null(seed)) "seed")
  if (!joint && !any(counts_values(methods)) && length(given) == 0) return(NULL)
  knows <- knowing_methods(if (joint) methods[[1]])
  for (name in given) {
    if (!any(methods %in% knows[[name]])) abort_option_unused(name, methods, knows[[name]], call)
  }
  refuse_exact_draws(options, methods, call)
  if (!is.null(seed)) seed <- check_whole(seed, 0, 2^53, arg = "seed", call = call)
  list(
    exact = options$exact, zeros = options$zeros %||% "pratt", draws = options$draws, draws_given = "draws" %in% given,
    seed = one_seed(seed), threads = as.integer(options$threads %||% 1), statistic = options$statistic,
    run_length = options$run_length, max_memory = options$max_memory %||% 1
  )
}

refuse_exact_draws <- function(options, methods, call) {
  if (!isTRUE(options$exact) || is.null(options$draws) || !"permutation" %in% methods) return(invisible())
  abort_vandro(
    c("{.code exact = TRUE} and {.arg draws} ask for two things.", "i" = "Leave out one: draws are random."),
    "contradiction",
    call = call
  )
}

# Which methods know each option; `together`: the method whose outcomes are resampled jointly.
knowing_methods <- function(together) {
  counting <- c(methods_where(draws = TRUE), together)
  reassigning <- methods_where(family = "reassignment")
  list(
    exact = c(methods_where(family = c("ranks", "reassignment")), together),
    zeros = methods_where(family = "ranks", design = "paired"), draws = counting, seed = counting, threads = counting,
    statistic = reassigning, run_length = reassigning, max_memory = reassigning
  )
}

abort_option_unused <- function(name, methods, knowing, call) {
  abort_vandro(
    c(
      "{.arg {name}} has no meaning for method {.val {methods}}.",
      "i" = "It belongs to {.val {knowing}}. Leave it out, or name that method."
    ),
    "contradiction",
    call = call
  )
}

check_run_length <- function(run_length, arg, call) {
  if (identical(run_length, "estimate")) return(run_length)
  if (is.numeric(run_length)) return(check_whole(run_length, 1, 1e6, arg = arg, call = call))
  abort_value(run_length, arg, "must be a number of neighbours or {.val estimate}", "run_length = 4", call)
}

# Options that had a part in the result.
counting_settings <- function(counting, methods, found) {
  if (is.null(counting)) return(NULL)
  seeds <- unlist(lapply(found, `[[`, "seed"))
  drawn <- unlist(lapply(found, `[[`, "draws"))
  draws <- if (any(!is.na(drawn))) max(drawn, na.rm = TRUE) else counting$draws %||% relative_draws
  c(
    counting["exact"], if ("signed_ranks" %in% methods) counting["zeros"],
    if ("permutation" %in% methods) counting[c("statistic", "run_length", "max_memory")],
    if (any(!is.na(seeds))) list(draws = draws, seed = seeds[!is.na(seeds)][[1]])
  )
}

# What methods that count leave open, said before the answer is given.
warn_counted <- function(answer) {
  if (!is.null(answer$table$p_smallest)) warn_unattainable(answer$table)
  if (!is.null(answer$table$counted_by)) warn_undecided(answer$table)
  answer
}

# A p-value that cannot get below alpha, whatever the data.
warn_unattainable <- function(table) {
  at <- which(table$role == "primary" & !is.na(table$p_smallest) & table$p_smallest > table$alpha)
  if (length(at) == 0) return(invisible())
  smallest <- signif(max(table$p_smallest[at]), 3)
  warn_vandro(
    c(
      "!" = "With these sample sizes the p-value cannot get below {smallest}: at alpha {table$alpha[[1]]} this test
        cannot reach significance.",
      "i" = "Report estimate and interval, or plan a larger study."
    ),
    "unattainable",
    smallest = smallest
  )
}

# A decision that random draws, or the bracket, leave open.
warn_undecided <- function(table) {
  for (ends in list(c("p_simulated_low", "p_simulated_high"), c("p_bracket_low", "p_bracket_high"))) {
    if (!all(ends %in% names(table))) next
    low <- table[[ends[[1]]]]
    high <- table[[ends[[2]]]]
    at <- which(table$role == "primary" & !is.na(low) & low <= table$alpha & high > table$alpha)
    if (length(at) == 0) next
    at <- at[[1]]
    range <- signif(c(low[[at]], high[[at]]), 3)
    simulated <- ends[[1]] == "p_simulated_low"
    advice <- if (simulated) {
      "Take more {.arg draws}, or {.code exact = TRUE}."
    } else {
      "{.code exact = TRUE} or {.arg draws} may decide."
    }
    warn_vandro(
      c(
        "!" = "Whether the p-value is below alpha {table$alpha[[1]]} is open: it lies between {range[[1]]} and
          {range[[2]]}.",
        "i" = advice
      ),
      "undecided",
      low = low[[at]], high = high[[at]]
    )
  }
}
