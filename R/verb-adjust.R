# Several outcomes together: adjusted p, simultaneous intervals, and the joint resampling that respects how the outcomes
# go together.

adjust_ways <- c("holm", "hochberg", "benjamini_hochberg", "bonferroni", "max_t", "max_t_single", "none")
joint_ways <- c("max_t", "max_t_single")
joint_draws <- 9999
# Listing all assignments without being asked; on insistence.
joint_listed <- 20000
joint_listed_most <- 5e6

# `joint`: whether outcomes are resampled together.
check_adjusting <- function(adjust, simultaneous, methods, study, call) {
  adjust <- check_choice(adjust, adjust_ways, arg = "adjust", call = call)
  check_flag(simultaneous, arg = "simultaneous", call = call)
  joint <- adjust %in% joint_ways
  if (joint && !method_fact(methods[[1]], "joint")) {
    abort_vandro(
      c(
        "{.code adjust = \"{adjust}\"} goes with a test of means.",
        "x" = "The primary method is {.val {methods[[1]]}}.",
        "i" = "Declare {.val {mean_method(study)}}, or take {.val holm}."
      ),
      "contradiction",
      call = call
    )
  }
  single <- c("long", "pairs", "changes", "columns")
  if (joint && !all(vapply(study$outcomes, function(outcome) outcome$data$kind %in% single, NA))) {
    abort_vandro(
      c(
        "{.code adjust = \"{adjust}\"} reassigns single measurements.",
        "x" = "The study has counts of rows, aggregates of a database, or published numbers.",
        "i" = "Take {.val holm}, or declare a data frame with one row per measurement."
      ),
      "needs_values",
      call = call
    )
  }
  if (simultaneous && adjust %in% c("benjamini_hochberg", "none")) {
    abort_vandro(
      c(
        "No simultaneous intervals go with {.code adjust = \"{adjust}\"}.",
        "i" = "{.val holm}, {.val hochberg} and {.val bonferroni} have those of Bonferroni, {.val max_t} its own."
      ),
      "contradiction",
      call = call
    )
  }
  list(adjust = adjust, simultaneous = simultaneous, joint = joint)
}

unadjusted <- list(adjust = "none", simultaneous = FALSE, joint = FALSE)

# Adjusted over the outcomes, by the primary method only.
adjusted_p <- function(table, adjust) {
  primary <- table$role == "primary"
  out <- rep(NA_real_, length(primary))
  if (adjust != "none" && sum(primary) > 1) out[primary] <- core_adjust_p(table$p[primary], adjust)
  out
}

# The columns that several outcomes have on top, with what the joint resampling found.
adjusted_columns <- function(table, study, settings, adjusting, counting, call) {
  primary <- which(table$role == "primary")
  none <- rep(NA_real_, length(table$p))
  several <- sum(!is.na(table$p[primary])) > 1
  joint <- if (adjusting$joint && several) joint_resampling(table, study, settings, counting, adjusting, call)
  p <- if (adjusting$joint) none else adjusted_p(table, adjusting$adjust)
  if (!is.null(joint)) p[primary[joint$at]] <- joint[[adjusting$adjust]]
  columns <- list(p_adjusted = p)
  if (adjusting$simultaneous) {
    columns$joint_lower <- columns$joint_upper <- none
    if (several) {
      limits <- joint_limits(table, primary, study, settings, joint, counting, call)
      columns$joint_lower[primary] <- limits$lower
      columns$joint_upper[primary] <- limits$upper
    }
  }
  list(
    columns = columns, detail = joint[c("total", "exact", "limit", "count")],
    settings = c(
      if (adjusting$simultaneous) list(simultaneous = TRUE),
      if (!is.null(joint) && !joint$exact) joint[c("draws", "seed")]
    )
  )
}

# Intervals that hold all outcomes together: by Bonferroni, or of the largest t.
joint_limits <- function(table, primary, study, settings, joint, counting, call) {
  estimate <- table$estimate[primary]
  if (!is.null(joint)) {
    reach <- joint$limit * table$se[primary]
    return(list(lower = estimate - reach, upper = estimate + reach))
  }
  level <- core_joint_level(settings$level, sum(!is.na(table$p[primary])))
  method <- settings$method[[1]]
  if (!counts_values(method)) {
    reach <- core_t_reach(table$se[primary], table$df[primary], level)
    return(list(lower = estimate - reach, upper = estimate + reach))
  }
  question <- utils::modifyList(c(settings[c("expect", "beyond", "level", "alpha")], counting), list(level = level))
  found <- each_outcome(study, infer_difference, study, method, question, call)
  limit <- function(name) vapply(found, function(one) if (is_unanswered(one)) NA_real_ else as.double(one[[name]]), 0)
  list(lower = limit("lower"), upper = limit("upper"))
}

# --- joint resampling -------------------------------------------------------------------------------

joint_resampling <- function(table, study, settings, counting, adjusting, call) {
  at <- which(!is.na(table$p[table$role == "primary"]))
  joint <- joint_values(study, at, settings$method[[1]], settings$beyond, call)
  joint$expect <- settings$expect
  total <- core_joint_assignments(joint$sizes, joint$chosen, nrow(joint$values))
  draws <- counting$draws %||% joint_draws
  joint$all <- joint_exact(total, counting, draws, call)
  joint$seed <- if (joint$all) 0 else counting$seed()
  count <- if (joint$all) total else draws
  found <- joint_counts(joint, count, counting$threads)
  p <- core_max_t(found, if (joint$all) 0 else 1)
  largest <- found$largest
  if (adjusting$simultaneous && joint$expect != "either") {
    joint$expect <- "either"
    largest <- joint_counts(joint, count, counting$threads)$largest
  }
  c(p, list(
    at = at, exact = joint$all, draws = draws, seed = joint$seed, count = length(at),
    limit = core_max_t_limit(largest, 1 - settings$level, if (joint$all) 0 else 1)
  ))
}

# Whether all assignments are listed.
joint_exact <- function(total, counting, draws, call) {
  if (isFALSE(counting$exact)) return(FALSE)
  if (isTRUE(counting$exact)) {
    if (total > joint_listed_most) {
      abort_exact_cost("The list of all assignments", sprintf("%s of them", format_plain(total, digits = 2)), call)
    }
    return(TRUE)
  }
  !counting$draws_given && total <= max(joint_listed, draws)
}

# Shares of the work, each a multiple of what the kernel takes at once.
joint_counts <- function(joint, count, threads) {
  step <- 4096 * max(1, round(2e8 / (4096 * length(joint$values) / 8)))
  shares <- in_shares(count, step, function(from, to) core_max_t_share(joint, from, to, threads), "Reassigning")
  core_join_max_t(shares)
}

# A matrix with a column for each outcome of `at` and a row for each measured unit, with the blocks within which rows
# change groups: those declared, and subgroups.
joint_values <- function(study, at, method, beyond, call) {
  outcomes <- study$outcomes[at]
  paired <- is_paired(study)
  rows <- lapply(outcomes, function(outcome) lapply(if (paired) 3 else 1:2, known_rows, outcome = outcome))
  units <- sort(unique(unlist(rows)))
  values <- vapply(seq_along(outcomes), function(j) {
    out <- rep(NaN, length(units))
    own <- if (paired) {
      list(outcome_group_values(outcomes[[j]], 3) - beyond)
    } else {
      list(outcome_group_values(outcomes[[j]], 1) - beyond, outcome_group_values(outcomes[[j]], 2))
    }
    out[match(unlist(rows[[j]]), units)] <- unlist(own)
    out
  }, double(length(units)))
  values <- matrix(values, length(units))
  if (paired) return(list(values = values, sizes = double(), chosen = double(), kind = "changes"))
  first <- logical(length(units))
  block <- character(length(units))
  for (j in seq_along(outcomes)) {
    first[match(rows[[j]][[1]], units)] <- TRUE
    block[match(unlist(rows[[j]]), units)] <- outcomes[[j]]$subgroup %||% ""
  }
  if (!is.null(study$rows$blocks)) {
    own <- group_text(study$rows$blocks$values[units])
    if (anyNA(own)) {
      row <- units[is.na(own)][[1]]
      abort_missing_block(study$rows$blocks$name, row, call)
    }
    block <- paste(match(block, unique(block)), own)
  }
  sorted <- order(match(block, unique(block)), !first)
  names <- unique(block)
  list(
    values = values[sorted, , drop = FALSE], sizes = as.double(tabulate(match(block, names))),
    chosen = as.double(tabulate(match(block[first], names), length(names))), kind = method
  )
}
