# Effect sizes that come from ranks.

# Options of rank-based effect sizes, refused where none is asked for.
check_effect_options <- function(codes, options, study, call) {
  ranked <- estimand_is(codes, "ranks")
  fits <- c(exact = "shift" %in% codes, zeros = any(ranked) && is_paired(study))
  unused <- intersect(names(options), names(fits)[!fits])
  if (length(unused)) {
    name <- unused[[1]]
    needs <- if (name == "exact") "the effect size \"shift\"" else "ranks of changes"
    abort_vandro(
      c("{.arg {name}} has no meaning here.", "i" = "It belongs to {needs}: leave it out, or ask for that."),
      "contradiction",
      call = call
    )
  }
  if (!any(ranked)) return(NULL)
  c(options["exact"], if (is_paired(study)) list(zeros = options$zeros %||% "pratt"))
}

# Samples, counts and estimates that all rank-based effect sizes of an outcome share; the centre where a shift is
# asked for.
rank_effects <- function(outcome, study, codes, ask) {
  if (is_database(study)) return(database_rank_effects(outcome, study, ask))
  data <- rank_data(outcome, study, 0, ask$zeros %||% "pratt")
  if (!is.null(data$reason)) return(data)
  counts <- data$counts
  paired <- is_paired(study)
  dropped <- if (identical(ask$zeros, "drop")) counts$zeros else 0
  n <- if (paired) counts$n - dropped else counts$n_first + counts$n_second
  share <- if (paired) counts$plus / counts$total else counts$u / counts$pairs
  what <- if (!paired) "measurements" else if (n < counts$n) "pairs that changed" else "pairs"
  c(data, list(
    n = n, divisor = sprintf("the square root of N = %s %s", format_plain(n, scientific = FALSE), what),
    found = list(share = share, z = counts$z, centre = if ("shift" %in% codes) rank_centre(data, paired))
  ))
}

rank_centre <- function(data, paired) {
  nowhere <- list(lower = NA, upper = NA)
  found <- if (paired) {
    n <- as.double(length(data$samples$changes))
    core_centre_and_limits(data$samples$changes, NULL, nowhere, n * (n + 1) / 2, 0, 2 * data$samples$power)
  } else {
    samples <- data$samples
    core_centre_and_limits(samples$first, samples$second, nowhere, data$counts$pairs, 0, samples$power)
  }
  found$centre %||% NA_real_
}

rank_effect_reason <- function(estimand, ranks, study, ask) {
  if (!is.null(ranks$reason)) return(ranks$reason)
  # Of values in a database there are counts, and what a t makes of them.
  if (is_database(study) && estimand == "shift") return("needs_measurements")
  if (estimand == "shift" && is.na(ranks$found$centre)) return("out_of_range")
  by_t <- effect_method(estimand, study, ask) == "relative"
  if (by_t && min(ranks$counts$n_first, ranks$counts$n_second) < 2) "one_value"
}

rank_effect_interval <- function(estimand, method, outcome, study, ranks, ask, call) {
  question <- list(
    expect = "either", beyond = 0, level = ask$level, alpha = 0.05, exact = ask$exact, zeros = ask$zeros
  )
  if (method == "none") return(list(lower = NA_real_, upper = NA_real_))
  if (method != "relative") {
    found <- exact_or_normal(ranks, method, question, call)
    return(found[c("lower", "upper")])
  }
  # The interval of the test of this size: assignments in small groups, else Student's t.
  question[c("draws", "seed", "threads")] <- list(ask$assigned$draws, ask$assigned$seed, ask$threads)
  found <- if (is.null(ranks$samples)) {
    core_relative_inference(ranks$counts, "either", ask$level, 0.05)
  } else {
    relative_inference(ranks, question, call)
  }
  if (!is.null(found$reason)) abort_reason(found$reason, outcome, study, call, estimand)
  one_way <- if (found$separated) "one_way" else if (!is.na(found$assignments %||% NA)) "assignments"
  if (estimand == "superiority") return(c(found[c("lower", "upper", "se", "df")], method = one_way))
  list(
    lower = 2 * found$lower - 1, upper = 2 * found$upper - 1, se = 2 * found$se, df = found$df, method = one_way
  )
}

# Limits of every rank-based effect size from the same draws; `reason` where there are none.
bootstrap_ranks <- function(ranks, codes, ask) {
  samples <- ranks$samples
  zeros <- ask$zeros %||% "pratt"
  one_way <- !is.null(samples$changes) && ranks$found$share %in% c(0, 1) && ranks$n > 1
  if (ranks$n < 3 && !one_way) {
    return(stats::setNames(rep(list(list(reason = "no_bootstrap")), length(codes)), codes))
  }
  boot <- ask$bootstrap
  draw <- function(from, to) {
    drawn <- core_rank_draws(samples, zeros, boot$seed, from, to, ask$threads, "shift" %in% codes)
    lapply(stats::setNames(nm = codes), core_rank_effect, drawn, ranks$n)
  }
  size <- length(samples$first) + length(samples$second) + length(samples$changes)
  # A draw of the shift costs some thirty times its measurements.
  drawn <- draw_in_steps(draw, size * if ("shift" %in% codes) 30 else 3, boot$draws)
  stats::setNames(lapply(codes, function(estimand) {
    if (one_way && estimand == "rank_biserial") {
      limits <- core_balance_limits(2 * ranks$found$share - 1, ranks$n, ask$level)
      return(list(lower = limits[[1]], upper = limits[[2]], undefined = 0, method = "one_way"))
    }
    influence <- core_rank_jackknife(samples, if (estimand == "shift") ranks$found$centre else 0)
    core_bca_limits(
      core_rank_effect(estimand, ranks$found, ranks$n), drawn[[estimand]], influence$values, influence$group,
      ask$level
    )
  }), codes)
}
