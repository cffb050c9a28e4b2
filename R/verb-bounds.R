#' What other bounds would have said
#'
#' p and verdict of an equivalence test over a range of bounds. The declared bounds stand out; all others are
#' exploratory: bounds chosen after looking show nothing.
#'
#' @param x An answer of [test_equivalence()].
#' @param bounds Other bounds in the same unit (`bounds_in`) as the declared ones: numbers, each taken to both sides, or
#'   a list of pairs `c(low, high)`. `NULL`: `points` multiples of the declared bounds, from near 0 to beyond where the
#'   verdict turns.
#' @param ... Must be empty.
#' @param points Number of bounds where `bounds` is left out; `NULL`: 200, of ranks and permutations, each of which is
#'   counted anew, 40.
#' @param outcome Which outcome, by name, of several.
#' @return An answer (classes `vandro_bounds`, `vandro_answer`) about the primary method; its table has one row for each
#'   pair of bounds, the declared ones among them, from narrow to wide, with `outcome`, `comparison`, `method`,
#'   `estimate`, `bound_low`, `bound_high` (in the outcome's unit), `p`, `p_low`, `p_high`, `alpha`, `verdict` and
#'   `standing`, "declared" or "exploratory". `detail$turn` is the multiple of the declared bounds from which on
#'   equivalence would be shown.
#' @section Errors: `vandro_error_bad_bounds`, `vandro_error_out_of_range`, `vandro_error_not_an_answer`. Pairs of
#'   bounds whose limits cross are left out with a warning (see [test_equivalence()]).
#' @seealso [test_equivalence()] for the formulas.
#' @examples
#' probes <- versus_paired(moisture, probe_a, probe_b, unit = "%", label = "Soil moisture")
#' declared <- test_equivalence(probes, within = 0.5)
#' try_bounds(declared, c(0.25, 0.75, 1))
#' autoplot(try_bounds(declared))
#' @export
try_bounds <- function(x, bounds = NULL, ..., points = NULL, outcome = NULL) {
  check_supplied(x)
  refuse_more(...)
  call <- rlang::current_env()
  check_equivalence(x, call)
  asked <- keep_given(list(bounds = bounds, points = points, outcome = if (!is.list(outcome)) outcome))
  outcome <- pick_answered(x, outcome)
  at <- which(is_row_of(x$table, outcome) & x$table$role == "primary")
  row <- lapply(x$table, `[[`, at)
  counted <- counts_values(row)
  points <- if (is.null(points)) if (counted) 40 else 200 else check_whole(points, 2, 1e5)
  declared <- c(row$bound_low, row$bound_high)
  ends <- if (is.na(row$p_sd_known)) c(row$lower, row$upper) else c(row$d_lower, row$d_upper) * row$sd_value
  turn <- core_tightest(ends[[1]], ends[[2]], declared[[1]], declared[[2]])
  tried <- if (is.null(bounds)) {
    tried_multiples(declared, turn, points)
  } else {
    given_bounds(bounds, row$sd_value, call)
  }
  tried <- check_bounds_held(unique(rbind(declared, tried, deparse.level = 0)), call)
  tried <- tried[order(tried[, 2] - tried[, 1]), , drop = FALSE]
  sides <- if (counted) {
    counted_curve(x, outcome, row, tried, call)
  } else {
    c(mean_sides(row, outcome, tried), list(crossed = logical(nrow(tried))))
  }
  if (any(sides$crossed)) warn_crossed(sum(sides$crossed), call)
  table <- bounds_table(row, tried[!sides$crossed, , drop = FALSE], declared, sides)
  settings <- c(list(verb = "try_bounds"), asked, x$settings[setdiff(names(x$settings), c("verb", "version"))])
  new_answer("bounds", table, one_outcome(x$study, outcome), settings, list(turn = turn))
}

# Bounds in SD units are those of the standardized difference.
mean_sides <- function(row, outcome, tried) {
  if (is.na(row$p_sd_known)) {
    return(core_t_sides(row$estimate, row$se, row$df, tried[, 1], tried[, 2], row$alpha))
  }
  parts <- core_effect_parts(outcome$moments, outcome$pairs$r)
  bounds <- tried / row$sd_value
  core_standardized_sides(row$d_estimand, parts, bounds[, 1], bounds[, 2], row$alpha)
}

bounds_table <- function(row, tried, declared, sides) {
  size <- nrow(tried)
  p <- pmax(sides$low$p, sides$high$p)
  is_declared <- tried[, 1] == declared[[1]] & tried[, 2] == declared[[2]]
  c(
    lapply(row[intersect(c("outcome", "subgroup", "comparison", "method", "estimate"), names(row))], rep, size), list(
      bound_low = tried[, 1], bound_high = tried[, 2], p = p, p_low = sides$low$p, p_high = sides$high$p,
      alpha = rep(row$alpha, size),
      verdict = ifelse(is_declared, row$verdict, core_verdict(row$p_difference <= row$alpha, p <= row$alpha)),
      standing = ifelse(is_declared, "declared", "exploratory")
    )
  )
}

# Multiples of the declared bounds, evenly spaced, as far as twice the declared ones or well beyond the turn.
tried_multiples <- function(declared, turn, points) {
  reach <- max(2, 1.5 * turn, na.rm = TRUE)
  multiples <- reach * seq_len(points) / points
  cbind(multiples * declared[[1]], multiples * declared[[2]])
}

given_bounds <- function(bounds, sd_value, call) {
  pairs <- if (is.list(bounds)) bounds else as.list(bounds)
  if (length(pairs) == 0) check_bound_pair(bounds, call)
  pairs <- lapply(pairs, check_bound_pair, call)
  do.call(rbind, pairs) * if (is.na(sd_value)) 1 else sd_value
}

# Ranks and permutations are asked anew at every pair of bounds but the declared, with the seed of the answer.
counted_curve <- function(x, outcome, row, tried, call) {
  s <- x$settings
  options <- keep_given(s[names(formals(method_options))])
  # What was insisted on once would be insisted on at every pair.
  if (isTRUE(options$exact)) options$exact <- NULL
  if (is.na(row$draws %||% NA_real_)) options$draws <- NULL
  counting <- check_counting_options(row$method, options, s$seed, call)
  counting$seconds <- beside_seconds
  p <- matrix(NA_real_, 2, nrow(tried))
  crossed <- logical(nrow(tried))
  bar <- cli::cli_progress_bar("Trying bounds", total = nrow(tried))
  for (i in seq_len(nrow(tried))) {
    if (all(tried[i, ] == c(row$bound_low, row$bound_high))) {
      p[, i] <- c(row$p_low, row$p_high)
      next
    }
    sides <- counted_sides(outcome, row$method, x$study, tried[i, ], row$alpha, counting, call)
    p[, i] <- c(sides$low$p, sides$high$p)
    crossed[[i]] <- isTRUE(sides$lower > sides$upper)
    cli::cli_progress_update(id = bar)
  }
  list(low = list(p = p[1, !crossed]), high = list(p = p[2, !crossed]), crossed = crossed)
}

warn_crossed <- function(n, call) {
  warn_vandro(
    c(
      "{n} pair{?s} of bounds {?is/are} left out: the tests against both contradict each other there.",
      "i" = "Ties between the groups differ from bound to bound; another method has one distribution for all."
    ),
    "limits_crossed",
    n = n, call = call
  )
}

check_equivalence <- function(x, call) {
  if (inherits(x, "vandro_equivalence")) return(invisible(x))
  found <- class(x)[[1]]
  abort_vandro(
    c(
      "{.arg x} must be an answer of {.fn test_equivalence}.", "x" = "It is of type {.cls {found}}.",
      "i" = "For example {.code try_bounds(test_equivalence(study, within = 3))}."
    ),
    "not_an_answer",
    call = call
  )
}
