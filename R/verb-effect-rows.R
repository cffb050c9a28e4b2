# The rows of gauge_effect(): estimates, reasons why there is none, intervals by formula or bootstrap.

# Every effect size over all outcomes at once, and then outcome by outcome; with what the study does not allow.
effect_table <- function(study, wanted, ask, words, call) {
  outcomes <- study$outcomes
  codes <- wanted$codes
  if ("mean_ratio" %in% codes) outcomes <- full_study(study)$outcomes
  sheet <- outcome_sheet(outcomes)
  m <- sheet$moments
  r <- if (is_paired(study)) vapply(outcomes, function(outcome) outcome$pairs$r %||% NA_real_, 0)
  parts <- core_effect_parts(m, r)
  ranks <- if (any(estimand_is(codes, "ranks"))) each_outcome(study, rank_effects, study, codes, ask)
  reasons <- lapply(stats::setNames(nm = codes), effect_reasons, parts, sheet, ranks, study, ask)
  stopped <- stopping_reasons(reasons, wanted, study, ask, call)
  drawn <- bootstrap_records(study, parts, ranks, reasons, stopped, wanted, ask, call)
  columns <- lapply(codes, function(code) {
    limits <- lapply(drawn$limits, `[[`, code)
    effect_columns(code, study, parts, sheet, ranks, ask, limits, is.na(reasons[[code]]), call)
  })
  stopped <- ifelse(is.na(stopped), drawn$stopped, stopped)
  kept <- vapply(codes, function(code) is.na(reasons[[code]]) & !drawn$failed[[code]], logical(length(outcomes)))
  kept <- matrix(kept, length(outcomes))
  # A record without an answer has the rows of the first one with an answer.
  kept[!is.na(stopped), ] <- rep(kept[which(is.na(stopped))[[1]], ], each = sum(!is.na(stopped)))
  # Outcome by outcome, in the order of the effect sizes.
  at <- order(rep(seq_along(outcomes), length(codes)))
  at <- at[t(kept)]
  names <- names(columns[[1]])
  table <- lapply(stats::setNames(nm = names), function(name) {
    unlist(lapply(columns, `[[`, name), use.names = FALSE)[at]
  })
  if (!is.null(words)) table <- c(table, size_columns(table, words, study))
  if (any(!is.na(stopped))) table$reason <- rep(stopped, length(codes))[at]
  list(table = table, left_out = effects_refused(reasons, drawn$failed, stopped), undefined = drawn$undefined)
}

# Per outcome the effect sizes that it does not allow, and why.
effects_refused <- function(reasons, failed, stopped) {
  refused <- Map(function(reason, failed) ifelse(failed, "no_bootstrap", reason), reasons, failed)
  out <- vector("list", length(stopped))
  some <- Reduce(`|`, lapply(refused, function(reason) !is.na(reason))) & is.na(stopped)
  for (k in which(some)) {
    own <- vapply(refused, `[[`, "", k)
    out[[k]] <- own[!is.na(own)]
  }
  out
}

# Why there is no effect size, per outcome; NA where there is.
effect_reasons <- function(estimand, parts, sheet, ranks, study, ask) {
  m <- sheet$moments
  if (estimand == "mean_difference") {
    reason <- mean_errors(mean_method(study, ask$method), m)$reason
  } else if (estimand_is(estimand, "ranks")) {
    reason <- vapply(ranks, function(one) {
      if (is_unanswered(one)) return("unanswered")
      rank_effect_reason(estimand, one, study, ask) %||% NA_character_
    }, "")
  } else {
    reason <- core_effect_reasons(estimand, parts)
    lowest <- pmin(m[[1]]$min, m[[2]]$min)
    if (estimand == "mean_ratio") {
      reason[which(lowest < 0 & !reason %in% "one_value")] <- "not_positive"
      reason <- ratio_limit_reasons(reason, parts, study, ask)
    }
  }
  reason[sheet$incomparable] <- "unanswered"
  reason
}

# With hardly any values the logarithm of a limit is known, the limit itself beyond every number.
ratio_limit_reasons <- function(reason, parts, study, ask) {
  if (effect_method("mean_ratio", study, ask) == "bootstrap") return(reason)
  limits <- core_interval_log(core_parts_where(parts, is.na(reason)), ask$level)
  core_first_reason(reason, is.na(reason) & !is.finite(limits$lower + limits$upper), "out_of_range")
}

# The reason, in words, why an outcome has no row at all: something asked for by name, the estimand of the method, or
# every effect size is not allowed. An error where that is so for every outcome.
stopping_reasons <- function(reasons, wanted, study, ask, call) {
  refused <- !is.na(matrix(unlist(reasons), ncol = length(reasons)))
  stops <- rowSums(!refused) == 0 | (wanted$by_name & rowSums(refused) > 0)
  # Without what the method itself estimates the others are not shown.
  if (wanted$codes[[1]] %in% method_fact(ask$method, "estimands")) stops <- stops | refused[, 1]
  stopped <- rep(NA_character_, nrow(refused))
  for (k in which(stops)) {
    outcome <- study$outcomes[[k]]
    at <- which(refused[k, ])[[1]]
    code <- reasons[[at]][[k]]
    if (all(stops)) {
      refuse_incomparable(outcome, call)
      abort_reason(code, outcome, study, call, wanted$codes[[at]])
    }
    stopped[[k]] <- if (code == "unanswered") {
      incomparable_sentence(outcome)
    } else {
      tryCatch(abort_reason(code, outcome, study, call, wanted$codes[[at]]), vandro_error = first_sentence)
    }
  }
  stopped
}

# One effect size of all outcomes. `known`: where there is one.
effect_columns <- function(estimand, study, parts, sheet, ranks, ask, drawn, known, call) {
  m <- sheet$moments
  count <- length(known)
  method <- effect_method(estimand, study, ask)
  found <- if (method == "bootstrap") {
    list_limits(drawn, method)
  } else if (estimand_is(estimand, "ranks")) {
    list_limits(lapply(seq_len(count), function(k) {
      if (known[[k]]) rank_effect_interval(estimand, method, study$outcomes[[k]], study, ranks[[k]], ask, call)
    }), method)
  } else {
    effect_interval(estimand, method, study, parts, m, known, ask, call)
  }
  numbers <- lapply(list(
    estimate = effect_points(estimand, parts, ranks, known), se = found$se, lower = found$lower, upper = found$upper,
    standardizer_value = core_standardizer(estimand, parts) %||% NA_real_, df = found$df %||% NA_real_
  ), function(x) {
    x <- rep_len(as.double(x), count)
    x[!known | is.infinite(x)] <- NA
    x
  })
  methods <- rep_len(found$method %||% method, count)
  shared <- shared_columns(study, methods, NA, list(), sheet)
  named <- shared[c("outcome", "subgroup", "comparison", "method")]
  columns <- c(named, list(estimand = estimand), numbers[c("estimate", "se", "lower", "upper")], list(
    level = ask$level, standardizer = effect_divisors(estimand, ranks, study),
    standardizer_value = numbers$standardizer_value, df = numbers$df,
    n_first = m[[1]]$n, n_second = m[[2]]$n, use = estimand_fact(estimand, "use", study),
    source = row_sources(estimand, methods, study)
  ))
  lapply(columns[lengths(columns) > 0], rep_len, count)
}

effect_points <- function(estimand, parts, ranks, known) {
  if (!estimand_is(estimand, "ranks")) return(core_effect_point(estimand, parts))
  vapply(seq_along(known), function(k) {
    if (known[[k]]) as.double(core_rank_effect(estimand, ranks[[k]]$found, ranks[[k]]$n)) else NA_real_
  }, 0)
}

# What it is divided by, in words; r_rank by what its outcome's ties leave.
effect_divisors <- function(estimand, ranks, study) {
  if (estimand != "r_rank") return(estimand_fact(estimand, "standardizer", study))
  vapply(ranks, function(one) if (is_unanswered(one)) NA_character_ else one$divisor %||% NA_character_, "")
}

# Who defined an effect size, and the interval of each row.
row_sources <- function(estimand, methods, study) {
  kinds <- unique(methods)
  told <- vapply(kinds, function(method) {
    sources <- c(estimand_fact(estimand, "source", study), interval_source(method, estimand, study))
    paste(unique(sources[nzchar(sources)]), collapse = "; interval: ")
  }, "")
  unname(told[match(methods, kinds)])
}

# Limits found one by one (NULL: none) as columns.
list_limits <- function(found, method) {
  number <- function(name) vapply(found, function(one) as.double(one[[name]] %||% NA_real_), 0)
  list(
    lower = number("lower"), upper = number("upper"), se = number("se"), df = number("df"),
    method = vapply(found, function(one) one$method %||% method, "")
  )
}

effect_interval <- function(estimand, method, study, parts, m, known, ask, call) {
  if (estimand == "mean_difference") {
    errors <- mean_errors(method, m)
    found <- core_t_inference(parts$gap, errors$se, errors$df, 0, "either", ask$level, 0.05)
    return(found[c("lower", "upper", "se", "df")])
  }
  found <- core_effect_interval(estimand, core_parts_where(parts, known), ask$level, method, ask$threads)
  lost <- which(known & is.na(found$lower + found$upper))
  if (length(lost)) abort_reason("no_convergence", study$outcomes[[lost[[1]]]], study, call, estimand)
  c(found[setdiff(names(found), "se")], list(se = found$se %||% NA_real_))
}

# Bootstrap limits of every outcome that has an effect size whose limits are drawn; which of these failed, and the
# outcomes that have no row for it.
bootstrap_records <- function(study, parts, ranks, reasons, stopped, wanted, ask, call) {
  codes <- wanted$codes
  outcomes <- study$outcomes
  none <- lapply(stats::setNames(nm = codes), function(code) logical(length(outcomes)))
  out <- list(
    limits = vector("list", length(outcomes)), failed = none, undefined = vector("list", length(outcomes)),
    stopped = rep(NA_character_, length(outcomes))
  )
  if (!any(vapply(codes, effect_method, "", study, ask) == "bootstrap")) return(out)
  strict <- wanted$by_name || identical(ask$interval, "bootstrap")
  drawn <- each_record(outcomes, function(outcome, k) {
    if (!is.na(stopped[[k]])) abort_with_sentence(stopped[[k]], outcome, call)
    own <- codes[vapply(reasons, function(reason) is.na(reason[[k]]), NA)]
    limits <- bootstrap_outcome(outcome, study, core_parts_at(parts, k), ranks[[k]], own, ask, call)
    failed <- names(Filter(function(one) !is.null(one$reason), limits))
    if (length(failed) && strict) abort_reason("no_bootstrap", outcome, study, call, failed[[1]])
    limits
  }, study)
  for (k in seq_along(outcomes)) {
    if (is_unanswered(drawn[[k]])) {
      out$stopped[[k]] <- first_sentence(drawn[[k]])
      next
    }
    failed <- vapply(drawn[[k]], function(one) !is.null(one$reason), NA)
    for (code in names(failed)[failed]) out$failed[[code]][[k]] <- TRUE
    if (length(drawn[[k]])) out$limits[[k]] <- drawn[[k]]
    out$undefined[[k]] <- vapply(drawn[[k]][!failed], function(limits) as.double(limits$undefined), 0)
  }
  out
}

# Bootstrap limits of those that have theirs from it.
bootstrap_outcome <- function(outcome, study, parts, ranks, codes, ask, call) {
  methods <- vapply(codes, effect_method, "", study, ask)
  codes <- codes[methods == "bootstrap"]
  ranked <- estimand_is(codes, "ranks")
  c(
    if (any(!ranked)) bootstrap_means(outcome, study, parts, codes[!ranked], ask, call),
    if (any(ranked)) bootstrap_ranks(ranks, codes[ranked], ask)
  )
}

# Limits of every estimand from the same draws.
bootstrap_means <- function(outcome, study, parts, codes, ask, call) {
  paired <- is_paired(study)
  halves <- if (outcome$data$kind == "changes") c(3, NA) else 1:2
  values <- lapply(halves, function(which) {
    # A column of changes is paired with zeros: only what needs the changes is asked of it.
    if (is.na(which)) 0 * outcome_group_values(outcome, 3) else outcome_group_values(outcome, which)
  })
  if (min(lengths(values)) < 3) abort_reason("no_bootstrap", outcome, study, call, codes[[1]])
  samples <- lapply(values, core_bootstrap_sample)
  draw <- function(from, to) {
    drawn <- core_bootstrap_parts(samples, parts, paired, ask$bootstrap$seed, from, to, ask$threads)
    lapply(stats::setNames(nm = codes), core_effect_point, drawn)
  }
  drawn <- draw_in_steps(draw, sum(lengths(values)), ask$bootstrap$draws)
  jackknife <- core_jackknife_parts(samples, parts, paired)
  stats::setNames(lapply(codes, function(estimand) {
    limits <- core_bca_limits(
      core_effect_point(estimand, parts), drawn[[estimand]], core_effect_point(estimand, jackknife$parts),
      jackknife$group, ask$level
    )
    if (!is.null(limits$reason)) abort_reason(limits$reason, outcome, study, call, estimand)
    limits[c("lower", "upper", "undefined")]
  }), codes)
}
