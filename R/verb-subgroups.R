#' Test whether the difference differs between subgroups
#'
#' That a difference is significant in one subgroup and not in another is no evidence that it differs between them: this
#' tests the difference between the differences, for all subgroups together and for every two of them.
#'
#' @inheritParams test_difference
#' @param ... Must be empty.
#' @param study A study with subgroups, declared with `each =` in [versus()] or [versus_paired()].
#' @param method `"welch"` (the default) or `"student"`, which takes the spread to be the same in all groups of all
#'   subgroups; of pairs `"paired"`. One method.
#' @param adjust Adjustment of p: over the outcomes for the test of all subgroups together, within an outcome over its
#'   pairs of subgroups. One of those of [test_difference()] but for `"max_t"` and `"max_t_single"`.
#' @details With more than 100 subgroups only the row for all of them is given, not those of every two.
#' @return An answer (classes `vandro_subgroups`, `vandro_answer`); its table has for every outcome one row for all
#'   subgroups (`contrast` "all") and one for every two of them ("north minus south"), with the columns of
#'   [as.data.frame.vandro_answer()] and
#'   \describe{
#'     \item{`contrast`}{which subgroups.}
#'     \item{`estimate`, `lower`, `upper`}{of two: the first one's difference less the second one's, in the unit of the
#'       outcome; of all: the mean difference over the subgroups, weighted by 1 / se^2, without an interval, since it
#'       describes none of them where they differ.}
#'     \item{`statistic`, `statistic_name`, `df`, `df_second`, `p`}{F of all, t of two.}
#'     \item{`p_adjusted`}{see `adjust`.}
#'     \item{`among`}{number of subgroups that have a difference.}
#'   }
#'   `detail$differences` is the table of [test_difference()] that was compared. A subgroup without a difference (one
#'   group only, no spread) is left out and named in `detail$left_out`; of fewer than two there is a row with the
#'   `reason`.
#' @section Formula: With the difference \eqn{d_k} of subgroup k, its standard error \eqn{s_k} and degrees of freedom
#'   \eqn{f_k}, \eqn{w_k = 1/s_k^2}, \eqn{W = \sum w_k} and \eqn{\bar d = \sum w_k d_k / W},
#'   \deqn{F = \frac{\sum w_k (d_k - \bar d)^2 / (K - 1)}{1 + \frac{2 (K - 2)}{K^2 - 1} \Lambda}, \quad
#'     \Lambda = \sum \frac{(1 - w_k/W)^2}{f_k}}{F = sum(w (d - dbar)^2) / (K - 1) / (1 + 2 (K - 2) L / (K^2 - 1)),
#'     L = sum((1 - w/W)^2 / f)}
#'   on K - 1 and \eqn{(K^2 - 1) / (3 \Lambda)}{(K^2 - 1) / (3 L)} degrees of freedom (Welch 1951, for means; here for
#'   differences of means). Of two subgroups F is the square of t, whose degrees of freedom are Satterthwaite's over all
#'   four groups. Student: F of the interaction with the variance pooled over all groups.
#' @section Errors: `vandro_error_no_subgroups` for a study without subgroups, those of [test_difference()].
#' @section Where it holds: How often the test rejects where all subgroups have one difference is mapped in
#'   `vignette("validation", package = "vandro")`.
#' @references Welch, B. L. (1951). On the comparison of several mean values: an alternative approach. *Biometrika* 38,
#'   330-336.
#' @seealso [test_difference()] for the differences themselves.
#' @examples
#' benches <- versus(seedlings, height, substrate,
#'   groups = c("compost", "peat"), unit = "cm", each = bench
#' )
#' test_difference(benches)
#' compare_subgroups(benches)
#' autoplot(compare_subgroups(benches))
#' @export
compare_subgroups <- function(study, method = NULL, ..., level = 0.95, alpha = 0.05, adjust = "holm") {
  refuse_more(...)
  call <- rlang::current_env()
  check_study(study)
  if (is.null(study$each)) abort_no_subgroups(call)
  method <- check_subgroup_method(method, study, call)
  asked <- list(expect = "either", beyond = 0, level = check_level(level), alpha = check_alpha(alpha))
  adjust <- check_choice(adjust, setdiff(adjust_ways, joint_ways))
  inferred <- infer_cases(study, method, asked, call)
  differences <- lean_table(inferred$columns)
  names <- vapply(study$outcomes, `[[`, "", "name")
  found <- lapply(unique(names), function(name) {
    subgroup_rows(differences[names == name, ], study$outcomes[names == name], study, method, asked)
  })
  table <- bind_rows(unlist(found, recursive = FALSE))
  table$p_adjusted <- subgroup_adjusted(table, adjust)
  lost <- !is.na(differences$reason %||% rep(NA, nrow(differences)))
  new_answer(
    "subgroups", table, study,
    settings = c(list(verb = "compare_subgroups", method = method), asked[c("level", "alpha")], list(adjust = adjust)),
    detail = list(
      differences = differences, paired_up_to = most_paired,
      left_out = if (any(lost)) differences[lost, c("outcome", "subgroup", "reason")]
    )
  )
}

abort_no_subgroups <- function(call) {
  abort_vandro(
    c(
      "The study has no subgroups.", "i" = "Declare them: {.code versus(data, outcome, by, each = site)}."
    ),
    "no_subgroups",
    call = call
  )
}

check_subgroup_method <- function(method, study, call) {
  method <- check_methods(method, study, call)
  fitting <- methods_where(design = study$design, subgroups = TRUE)
  if (length(method) == 1 && method %in% fitting) return(method)
  abort_vandro(
    c(
      "Subgroups are compared by their differences of means.", "x" = "{.arg method} is {.val {method}}.",
      "i" = "Choose one of {.val {fitting}}."
    ),
    "bad_value",
    arg = "method", call = call
  )
}

most_paired <- 100

# The rows of one outcome.
subgroup_rows <- function(rows, records, study, method, asked) {
  known <- which(!is.na(rows$estimate) & !is.na(rows$se))
  row <- function(contrast, found, name, estimand) {
    number <- function(what) as.double(found[[what]] %||% NA_real_)
    list(
      outcome = rows$outcome[[1]], contrast = contrast, comparison = study_direction(study), method = method,
      estimand = estimand, estimate = number("estimate"), se = number("se"), lower = number("lower"),
      upper = number("upper"), level = asked$level, statistic = number("statistic"), statistic_name = name,
      df = number("df"), df_second = number("df_second"), p = number("p"), log_p = number("log_p"),
      alpha = asked$alpha, among = as.double(length(known)), n_first = sum(rows$n_first[known]),
      n_second = sum(rows$n_second[known]), reason = found$reason %||% NA_character_
    )
  }
  if (length(known) < 2) {
    count <- length(known)
    why <- sprintf("%d subgroup%s with a difference: two are needed.", count, if (count == 1) "" else "s")
    return(list(row("all", list(reason = why), "F", "heterogeneity")))
  }
  pooled <- if (!is_paired(study) && method == pooled_method(study)) pooled_subgroups(records[known])
  found <- if (is.null(pooled)) {
    core_heterogeneity(rows$estimate[known], rows$se[known], rows$df[known])
  } else {
    core_pooled_heterogeneity(rows$estimate[known], pooled$unit, pooled$sd, pooled$df)
  }
  found$estimate <- found$centre
  # Of very many subgroups nobody reads every two.
  pairs <- if (length(known) <= most_paired) utils::combn(seq_along(known), 2, simplify = FALSE)
  c(list(row("all", found, "F", "heterogeneity")), lapply(pairs, function(pair) {
    at <- known[pair]
    gap <- core_estimate_gap(rows$estimate[at], rows$se[at], rows$df[at])
    if (!is.null(pooled)) {
      gap$se <- pooled$sd * sqrt(sum(pooled$unit[pair]^2))
      gap$df <- pooled$df
    }
    t <- core_t_inference(gap$estimate, gap$se, gap$df, 0, "either", asked$level, asked$alpha)
    t$reason <- NULL
    row(paste(rows$subgroup[at], collapse = " minus "), t, "t", "difference_of_differences")
  }))
}

# The SD that all groups of all subgroups share.
pooled_subgroups <- function(records) {
  m <- core_join_moments(lapply(records, `[[`, "moments"))
  common <- core_common_sd(c(m[[1]]$sd, m[[2]]$sd), c(m[[1]]$n, m[[2]]$n) - 1)
  c(common, list(unit = sqrt(1 / m[[1]]$n + 1 / m[[2]]$n)))
}

# Over outcomes for all subgroups together; within an outcome over its pairs.
subgroup_adjusted <- function(table, adjust) {
  p <- rep(NA_real_, length(table$p))
  if (adjust == "none") return(p)
  families <- ifelse(table$contrast == "all", "", table$outcome)
  for (family in split(seq_along(p), families)) {
    if (length(family) > 1) p[family] <- core_adjust_p(table$p[family], adjust)
  }
  p
}
