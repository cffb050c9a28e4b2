#' Rehearse a study
#'
#' What a design would find in a supposed world, before there are data: how often a test would reject (its power, or
#' where the null hypothesis is true its error rate), how wide its interval would be; or the smallest n for a wanted
#' power or width. For every method of [test_difference()], side by side.
#'
#' @param world A world from [suppose_world()], or a list of them, for example from [vary_world()].
#' @param n Sizes of both groups, first and second, or one number for each; of pairs their number. Several designs: a
#'   list of these. Left out where `power` or `half_width` is wanted.
#' @param method One or several methods of [test_difference()]; by default `"welch"`, of pairs `"paired"`.
#' @param ... Must be empty.
#' @param expect,beyond The question, as in [test_difference()].
#' @param within,bounds_in Equivalence bounds as in [test_equivalence()]: the rate is then that of the verdict to lie
#'   within them. In SDs they are held against the standardized difference, as in [test_equivalence()]: tests of means
#'   count the uncertainty of the SD (pooled for Student, average for Welch, that of the changes for pairs); ranks and
#'   permutations take the SD of the world as known.
#' @param alpha Significance level.
#' @param level Confidence of the intervals whose width is told; `NULL`: 1 - `alpha`, with `within` 1 - 2 `alpha`.
#' @param power Wanted power, in place of `n`: the smallest n that reaches it is found.
#' @param half_width Wanted expected distance from estimate to limit, in the unit of the outcome (of `"relative"` as a
#'   chance), in place of `n`.
#' @param ratio Size of the second group over that of the first, where n is found.
#' @param simulate `TRUE`: everything by simulation; `FALSE`: by exact formula or not at all; `NULL`: by formula where
#'   there is one.
#' @param statistic What a permutation test compares: `"studentized"` or `"difference"`.
#' @param draws Made-up studies for each design.
#' @param seed Seed of these. All methods and designs see the same random numbers.
#' @param threads Threads; the result does not depend on them.
#' @return An answer (classes `vandro_rehearsal`, `vandro_answer`); its table has one row for each world, design and
#'   method: \describe{
#'     \item{`outcome`, `world`}{label of the outcome; name of the world, where there are several.}
#'     \item{`comparison`, `method`, `n_first`, `n_second`}{of pairs both sizes are the number of pairs.}
#'     \item{`power`, `power_low`, `power_high`}{rate of rejection, or with `within` of the verdict; simulated ones with
#'       their Clopper-Pearson interval at 95 %.}
#'     \item{`null_true`}{whether the supposed difference belongs to the null hypothesis: the rate is then one of
#'       errors.}
#'     \item{`half_width`, `half_width_se`}{mean distance from estimate to limit, and where simulated its standard
#'       error, from up to 1000 of the studies for ranks, relative effects and permutations; studies without a finite
#'       interval do not count.}
#'     \item{`assurance`}{power averaged over the true difference, for worlds with `difference_sd`.}
#'     \item{`computed_by`, `undefined`}{"formula" or "simulation"; share of the made-up studies that had no answer,
#'       because nothing varied (they count as not rejected).}
#'     \item{`difference`, `sd_first`, `sd_second`, `sd_change`, `r`, `shape_first`, `shape_second`}{the world.}
#'     \item{`expect`, `beyond`, `bound_low`, `bound_high`, `alpha`, `level`}{the question.}
#'   }
#' @section By formula: For normal populations t tests have exact rates. With V chi-squared on the degrees of freedom
#'   of both variances together and B their split, beta distributed and independent of V, the squared standard error is
#'   V h(B), and given B the statistic is noncentral t:
#'   \deqn{\mathrm{rate} = E_B\, P(T_{\nu}(\delta / \sigma_D) > c(B) \sqrt{\nu h(B)} / \sigma_D),}{rate = E over B of
#'     P(T(nu, delta / sigma_D) > c(B) sqrt(nu h(B)) / sigma_D),}
#'   \eqn{\sigma_D} the standard error of the difference, c(B) the critical t. With equal spreads and pooled variances,
#'   or pairs, h is constant: the noncentral t itself (Johnson & Welch 1940). Assurance takes
#'   \eqn{\sigma_D^2 + \code{difference\_sd}^2}{sigma_D^2 + difference_sd^2} in the place of
#'   \eqn{\sigma_D^2}{sigma_D^2} but in h (O'Hagan et al. 2005). Equivalence is integrated over the root of V as well
#'   (Phillips 1990). The expected half-width is \eqn{E(\sqrt V) E_B(c(B) \sqrt{h(B)})}{E(sqrt V) E(c(B) sqrt(h(B)))}.
#' @section By simulation: Every study has a random stream of its own. Ranks are tested by their exact distribution,
#'   given ties where that is affordable, else by the normal one; relative effects as in [test_difference()];
#'   permutations over all assignments up to 5000, else over 999 random ones. The smallest n is found by halving, all
#'   designs with the same random numbers, and has the error of its rate.
#' @section No observed power: A study or an answer in the place of `world` is refused: the power to find what was
#'   found is p on another scale (Hoenig & Heisey 2001).
#' @section Errors: `vandro_error_observed_power`, `vandro_error_not_a_world`, `vandro_error_bad_value`,
#'   `vandro_error_bad_bounds`, `vandro_error_out_of_range` (bounds that no double holds),
#'   `vandro_error_contradiction`, `vandro_error_method_design`, `vandro_error_out_of_reach`
#'   (a power that no n reaches: the supposed difference belongs to the null hypothesis, or n would be too large).
#' @section Where it holds: Rates by formula are compared with high-precision integrals, simulated ones with the
#'   verbs on the same values: `vignette("validation", package = "vandro")`.
#' @references Hoenig, J. M. & Heisey, D. M. (2001). The abuse of power: the pervasive fallacy of power calculations
#'   for data analysis. *The American Statistician* 55, 19-24.
#'
#'   Johnson, N. L. & Welch, B. L. (1940). Applications of the non-central t-distribution. *Biometrika* 31, 362-389.
#'
#'   O'Hagan, A., Stevens, J. W. & Campbell, M. J. (2005). Assurance in clinical trial design. *Pharmaceutical
#'   Statistics* 4, 187-201.
#'
#'   Phillips, K. F. (1990). Power of the two one-sided tests procedure in bioequivalence. *Journal of Pharmacokinetics
#'   and Biopharmaceutics* 18, 137-144.
#' @examples
#' world <- suppose_world(2.5,
#'   sd = c(3, 4), groups = c("compost", "peat"), unit = "cm", label = "Stem height"
#' )
#' rehearse_study(world, n = c(24, 24))
#' rehearse_study(world, power = 0.8)
#' rehearse_study(world, n = list(20, 30, 40), method = c("welch", "student"))
#' @export
rehearse_study <- function(world, n = NULL, method = NULL, ..., expect = "either", beyond = 0, within = NULL,
                           bounds_in = c("outcome", "sd"), alpha = 0.05, level = NULL, power = NULL, half_width = NULL,
                           ratio = 1, simulate = NULL, statistic = "studentized", draws = 10000, seed = NULL,
                           threads = 1) {
  check_supplied(world)
  refuse_more(...)
  call <- rlang::current_env()
  worlds <- check_worlds(world, call)
  study <- supposed_study(worlds[[1]])
  methods <- check_methods(method, study, call)
  bounds_in <- check_choice(bounds_in, c("outcome", "sd"))
  asked <- rehearsed_question(worlds, expect, beyond, within, bounds_in, alpha, level, call)
  wanted <- check_wanted(power, half_width, n, asked, call)
  options <- list(
    simulate = if (!is.null(simulate)) check_flag(simulate),
    statistic = check_choice(statistic, c("studentized", "difference")), draws = check_whole(draws, 100, 1e8),
    seed = if (is.null(seed)) NULL else check_whole(seed, 0, 2^53), threads = as.integer(check_whole(threads, 1, 256)),
    ratio = check_ratio(ratio, study, n, call)
  )
  check_rehearsed_methods(methods, worlds, asked, options, call)
  simulated <- !all(vapply(worlds, has_formula, NA, methods)) || isTRUE(options$simulate)
  if (simulated && is.null(options$seed)) options$seed <- draw_seed()
  sizes <- if (!is.null(n)) check_sizes(n, study, call)
  flat <- function(x) unlist(x, recursive = FALSE, use.names = FALSE)
  found <- flat(Map(function(world, name, question) {
    if (!is.null(wanted)) return(lapply(methods, found_row, world, name, question, wanted, options, call))
    lapply(flat(lapply(sizes, rehearsed_rows, world, name, methods, question, options)), function(row) list(row = row))
  }, worlds, names(worlds) %||% NA_character_, asked$questions))
  tried <- flat(lapply(found, `[[`, "tried"))
  settings <- c(
    list(verb = "rehearse_study", n = sizes, method = methods),
    asked[c("expect", "beyond", "within", "bounds_in", "alpha", "level")], wanted,
    options[c("ratio", "simulate", "statistic")], if (simulated) options[c("draws", "seed")],
    list(worlds = lapply(worlds, unclass))
  )
  new_answer(
    "rehearsal", bind_rows(lapply(found, `[[`, "row")), study, settings,
    detail = list(
      worlds = worlds, tried = if (length(tried)) lean_table(bind_rows(unique(tried))), threads = options$threads
    )
  )
}

# --- checks ------------------------------------------------------------------------------------------

# A named list of worlds of one design.
check_worlds <- function(world, call) {
  if (!is.list(world) || is.data.frame(world) || inherits(world, c("vandro_world", "vandro_study", "vandro_answer"))) {
    check_world(world, call)
    return(list(world))
  }
  if (length(world) == 0) check_world(NULL, call)
  for (one in world) check_world(one, call)
  if (is.null(names(world))) names(world) <- paste("world", seq_along(world))
  differing <- function(what) length(unique(lapply(world, `[[`, what))) > 1
  if (!any(vapply(c("paired", "groups", "unit", "label"), differing, NA))) return(world)
  abort_vandro(
    c(
      "All worlds must be about one comparison.", "x" = "Design, groups, label or unit differ among them.",
      "i" = "Vary one of them: {.code vary_world(world, sd_ratio = c(1, 2))}."
    ),
    "contradiction",
    call = call
  )
}

rehearsed_question <- function(worlds, expect, beyond, within, bounds_in, alpha, level, call) {
  expect <- check_choice(expect, directions, call = call)
  beyond <- check_number(beyond, call = call)
  alpha <- check_alpha(alpha, call = call)
  if (!is.null(within)) {
    refuse_direction(list(expect = expect, beyond = beyond), call)
    within <- check_bound_pair(within, call)
  }
  level <- if (is.null(level)) 1 - if (is.null(within)) alpha else 2 * alpha else check_level(level, call = call)
  questions <- lapply(worlds, function(world) {
    bounds <- if (!is.null(within)) check_bounds_held(within * if (bounds_in == "sd") world_sd(world) else 1, call)
    list(
      expect = expect, beyond = beyond, bounds = bounds, alpha = alpha, level = level,
      sides = core_sides(expect, beyond, bounds, alpha, if (bounds_in == "sd") within)
    )
  })
  list(
    expect = expect, beyond = beyond, within = within, bounds_in = bounds_in, alpha = alpha, level = level,
    questions = questions
  )
}

check_wanted <- function(power, half_width, n, asked, call) {
  given <- c(n = !is.null(n), power = !is.null(power), half_width = !is.null(half_width))
  if (sum(given) != 1) {
    abort_vandro(
      c(
        "Give one of {.arg n}, {.arg power} and {.arg half_width}.",
        "x" = if (any(given)) "Given: {.arg {names(given)[given]}}." else "None of them was given.",
        "i" = "{.code n = 20} computes power and width of a design; {.code power = 0.8} finds the smallest n."
      ),
      "contradiction",
      call = call
    )
  }
  if (!is.null(half_width)) return(list(half_width = check_spread(half_width, "half_width", call)))
  if (is.null(power)) return(NULL)
  power <- check_number(power, 0, 1, open = TRUE, arg = "power", call = call)
  if (power <= asked$alpha) {
    abort_vandro(
      c(
        "{.arg power} must be above {.arg alpha}.", "x" = "Wanted: {power}; alpha is {asked$alpha}.",
        "i" = "A test rejects with probability alpha when there is nothing to find."
      ),
      "bad_value",
      arg = "power", call = call
    )
  }
  list(power = power)
}

check_ratio <- function(ratio, study, n, call) {
  ratio <- check_number(ratio, 0.001, 1000, arg = "ratio", call = call)
  if (ratio == 1 || !(is_paired(study) || !is.null(n))) return(ratio)
  abort_vandro(
    c(
      "{.arg ratio} belongs to finding the sizes of two groups.",
      "i" = if (is_paired(study)) "Pairs have one size." else "Give both sizes: {.code n = c(20, 40)}."
    ),
    "contradiction",
    call = call
  )
}

# Designs as pairs of sizes.
check_sizes <- function(n, study, call) {
  designs <- if (is.list(n) && length(n)) n else list(n)
  lapply(designs, function(one) {
    if (is.numeric(one) && length(one) == 1) one <- rep(one, 2)
    wrong <- !is.numeric(one) || length(one) != 2 || anyNA(one) || any(one < 2 | one > 1e7 | one != round(one))
    if (!wrong && is_paired(study)) wrong <- one[[1]] != one[[2]]
    if (!wrong) return(as.double(one))
    found <- paste(format_plain(one, trim = TRUE), collapse = ", ")
    abort_vandro(
      c(
        if (is_paired(study)) {
          "{.arg n} must be a number of pairs, at least 2."
        } else {
          "{.arg n} must be one whole number for both groups or two, first group first, at least 2 each."
        },
        "x" = "It is {found}.", "i" = "Several designs are a list: {.code n = list(20, 30, c(20, 40))}."
      ),
      "bad_value",
      arg = "n", value = n, call = call
    )
  })
}

has_formula <- function(world, methods) {
  all(method_facts(methods, "formula")) && all(world$shape == "normal") && is.null(world$rounded_to)
}

check_rehearsed_methods <- function(methods, worlds, asked, options, call) {
  unknown <- intersect(methods, methods_where(rehearsal = NA))
  if (length(unknown)) {
    known <- setdiff(methods_where(design = if (worlds[[1]]$paired) "paired" else "independent"), unknown)
    abort_vandro(
      c("Method {.val {unknown}} cannot be rehearsed.", "i" = "Choose one of {.val {known}}."),
      "method_design",
      call = call
    )
  }
  unbounded <- setdiff(methods, methods_where(bounds = TRUE))
  if (!is.null(asked$within) && length(unbounded)) {
    abort_vandro(
      c(
        "Method {.val {unbounded}} has no bounds in the unit of the outcome.",
        "i" = "Leave it out, or rehearse a question about the difference."
      ),
      "method_design",
      call = call
    )
  }
  if (isFALSE(options$simulate) && !all(vapply(worlds, has_formula, NA, methods))) {
    abort_vandro(
      c(
        "There is no exact formula for this.",
        "x" = "Exact are {.val {methods_where(formula = TRUE)}} in normal worlds without rounding.",
        "i" = "Leave out {.arg simulate}: the rest is simulated."
      ),
      "contradiction",
      call = call
    )
  }
}

# --- rates -------------------------------------------------------------------------------------------

by_formula <- function(world, method, options) has_formula(world, method) && !isTRUE(options$simulate)

# One row for each method in one world and design.
rehearsed_rows <- function(size, world, name, methods, question, options) {
  simulated <- methods[!vapply(methods, by_formula, NA, world = world, options = options)]
  sums <- if (length(simulated)) simulated_sums(size, world, simulated, question, options, doubt = FALSE)
  doubtful <- world$difference_sd > 0
  doubted <- if (length(simulated) && doubtful) simulated_sums(size, world, simulated, question, options, doubt = TRUE)
  lapply(methods, function(method) {
    if (!method %in% simulated) return(formula_row(size, world, name, method, question))
    step <- if (!in_unit_by(method) || is.null(world$rounded_to)) 1 else world$rounded_to
    rehearsed <- method_fact(method, "rehearsal")
    found <- core_rates_of(sums[rehearsed, ], step)
    assured <- if (doubtful) core_rates_of(doubted[rehearsed, ])$power else NA_real_
    rehearsal_row(size, world, name, method, question, found, assured, "simulation")
  })
}

formula_row <- function(size, world, name, method, question) {
  parts <- core_error_parts(method, size[[1]], size[[2]], if (world$paired) world$sd_change else world$sd)
  rate <- function(doubt) core_t_rate(parts, world$difference, question$sides, doubt)
  found <- list(
    power = rate(0), low = NA_real_, high = NA_real_, half_width = core_t_half_width(parts, question$level),
    half_width_se = NA_real_, undefined = 0
  )
  assured <- if (world$difference_sd > 0) rate(world$difference_sd) else NA_real_
  rehearsal_row(size, world, name, method, question, found, assured, "formula")
}

# The sums over all made-up studies, with progress where it takes a while.
simulated_sums <- function(size, world, methods, question, options, doubt) {
  if (!doubt) world$difference_sd <- 0
  plan <- core_rehearsal_plan(question$sides, question$level, world, size[[1]], size[[2]], options)
  rehearsed <- method_facts(methods, "rehearsal")
  # Pieces of fixed size: their sums do not depend on the threads.
  Reduce(`+`, in_shares(options$draws, max(500, ceiling(options$draws / 50)), function(from, to) {
    core_rehearsed(world, size[[1]], size[[2]], rehearsed, plan, from, to, options$threads)
  }, "Rehearsing"))
}

rehearsal_row <- function(size, world, name, method, question, found, assurance, by) {
  bounds <- question$bounds %||% c(NA_real_, NA_real_)
  list(
    outcome = world$label, world = name, comparison = study_direction(world), method = method,
    n_first = size[[1]], n_second = size[[2]], power = found$power, power_low = found$low, power_high = found$high,
    null_true = null_is_true(world, question), half_width = found$half_width, half_width_se = found$half_width_se,
    assurance = assurance, computed_by = by, undefined = found$undefined, difference = world$difference,
    sd_first = world$sd[[1]], sd_second = world$sd[[2]], sd_change = world$sd_change, r = world$r,
    shape_first = world$shape[[1]], shape_second = if (world$paired) NA_character_ else world$shape[[2]],
    expect = question$expect, beyond = question$beyond, bound_low = bounds[[1]], bound_high = bounds[[2]],
    alpha = question$alpha, level = question$level
  )
}

null_is_true <- function(world, question) {
  if (!is.null(question$bounds)) {
    return(world$difference <= question$bounds[[1]] || world$difference >= question$bounds[[2]])
  }
  distance <- world$difference - question$beyond
  switch(question$expect, either = distance == 0, higher = distance <= 0, lower = distance >= 0)
}
