#' Figures of studies and answers
#'
#' `autoplot()` returns the figure that belongs to an object as a ggplot, `plot()` shows it and returns
#' the object. The direction, the unit and what each bar is are written on the figure; every number
#' drawn is one of [describe_study()]'s or the answer's.
#'
#' @param object,x A study, or an answer of [describe_study()], [vet_assumptions()], [test_difference()],
#'   [test_equivalence()], [try_bounds()], [weigh_evidence()], [try_priors()], [rehearse_study()], [audit_numbers()],
#'   [cross_check()], [compare_answers()], [compare_subgroups()] or [gauge_effect()].
#' @param ... For methods. `plot()` hands them to `autoplot()`.
#' @param view Which figure:
#'   * `"difference"`: above, the values of each group with mean and interval; below, on an axis of its own
#'     whose zero lies under the second mean, the difference with its interval. From published numbers thin
#'     lines reach one SD to either side. The default, but for a column of changes;
#'   * `"paper"`: figure 1 of a paper, without title and caption: of groups the difference figure, of pairs their lines
#'     beside the changes, a panel for each outcome. The text that belongs below it is `legend` of the page;
#'   * `"points"`: single values, box from quartile to quartile with the median, whiskers to the last value
#'     within 1.5 box lengths (Tukey 1977), values beyond as rings;
#'   * `"distributions"`: histograms with the same breaks, one above the other;
#'   * `"shares"`: the same histograms with percentages of each group instead of counts, to compare the shapes of groups
#'     that differ in size;
#'   * `"means"`: means with intervals only;
#'   * `"pairs"`: one line per complete pair, from the second to the first measurement;
#'   * `"changes"`: the changes with zero, `beyond` and their mean with interval;
#'   * `"order"`: values in the order declared with `order =`;
#'   * `"null"`, of [test_difference()]: the distribution of the statistic under the null hypothesis with the observed
#'     value; the shaded share is p, or half of it where the distribution is lopsided. Of a permutation test with few
#'     assignments every value that occurs is a line, and the outermost ones are marked with the p they would have;
#'   * `"pairing"`, of [test_difference()] on pairs: the mean change when the signs of changes are drawn, and when
#'     all values are reassigned as if there were no pairs, with the correlation and the ratio of spreads;
#'   * `"superiority"`, of [test_difference()] on independent groups: of a hundred random pairs of values, in how
#'     many the first is higher, equal or lower, with the interval on the same axis. The default of method
#'     `"relative"`.
#'
#'   Of [test_difference()] on several outcomes or subgroups, all of them in one figure: `"intervals"`, their intervals
#'   in order of size, in the outcome's unit where all share one, else standardized, with the simultaneous interval
#'   where there is one (the default of more than six); `"overview"`, the standardized effect against p on a
#'   logarithmic axis. Dark is what is significant after adjustment. Of [compare_subgroups()]: the difference in every
#'   subgroup with its interval, a panel for each outcome, and the test of whether they differ.
#'
#'   With method `"ranks"` or `"signed_ranks"` the difference figure shows medians with quartiles, and below the
#'   shift (of pairs the centre of the changes) with its interval.
#'
#'   Of [test_equivalence()]: `"equivalence"`, the intervals at 1 - 2 `alpha` and 1 - `alpha`, each in a row of its own,
#'   against the region between the bounds, with the verdict (of bounds in SD units also the interval of the
#'   standardized difference, at the same scale); `"bounds"`, p and verdict over other bounds, the figure of
#'   [try_bounds()]. The figure of [cross_check()] shows every method's interval on one axis, the chance of a higher
#'   value on one of its own whose 0.5 lies over the null value, with p and verdict at the right; the declared method is
#'   dark, rings are without flagged values.
#'
#'   Of [weigh_evidence()]: `"evidence"`, both of these on one page; `"posterior"`, prior and posterior of the effect
#'   with the credible interval, and the null hypothesis; `"widths"`, posterior and log factor over one axis of prior
#'   widths with the declared one marked, the figure of [try_priors()].
#'
#'   Of [rehearse_study()]: `"power"`, rates of rejection over n with the wanted power and the sizes found; `"rates"`,
#'   those of all methods over what varies among the worlds, for example the ratio of spreads; `"width"`, expected
#'   half-widths over n. Curves of formulas are drawn over all n; a simulated search is drawn with the sizes that it
#'   tried and, simulated while drawing, some more.
#'
#'   Of [audit_numbers()]: each printed number against what the others allow, in units of its last digit.
#'
#'   Of [vet_assumptions()]: `"page"`, all of them on one page; `"normal"`, ordered values against normal
#'   quantiles, with a band that a whole normal sample stays inside with probability 95 % (Aldor-Noiman et al.
#'   2013), of pairs their changes; `"spread"`, distances from the group's median, and the SDs with intervals;
#'   `"order"`, of pairs the changes.
#' @param outcome Which outcome, by name, of a study of several; of one with subgroups outcome and subgroup,
#'   `"height: north"`.
#' @param method For the figure of groups, the method whose interval the difference has: `"welch"` (the default) or
#'   `"student"`; an answer's figure uses its own.
#' @param level Confidence of the intervals of a study's figure; an answer's figure uses its own.
#' @param beyond Difference under the null, marked in `"changes"`.
#' @param outliers `"ring"`, or `"label"` to write the row number (or the declared `id`) beside each ring
#'   in `"points"`.
#' @param base_size Size of the text in points; marks and lines follow. 11, the default where no house decided
#'   ([house_conventions()]), suits a page, 8 a column of 85 mm.
#' @param title,caption Text of your own, with line breaks as `"\n"`; `caption = ""` leaves it out.
#'   Axis names are changed by adding [ggplot2::labs()], the look by adding a ggplot2 theme.
#' @param curve `TRUE` draws the t distribution of a test of means over the `"null"` view of a permutation test.
#' @param palette Two colours, first group first.
#' @return `autoplot()`: a ggplot with a text alternative (`labels$alt`); a page, of [vet_assumptions()],
#' [weigh_evidence()] or view `"paper"`, is a `vandro_page`, whose `plots` are ggplots and which `print()` draws.
#' `plot()`: `x`, invisibly.
#' @section Large data: A group of more than 400 values is drawn as a histogram instead of points, more
#'   than 400 pairs as bundles of lines, more than 2000 ordered values as means and ranges of
#'   neighbours.
#' @section Errors: `vandro_error_needs_values` for views of single values from published numbers,
#'   `vandro_error_needs_pairs`, `vandro_error_needs_order`, `vandro_error_bad_value`.
#' @references Aldor-Noiman, S., Brown, L. D., Buja, A., Rolke, W. & Stine, R. A. (2013). The power to see: a
#'   new graphical test of normality. *The American Statistician* 67, 249-260.
#'
#'   Tukey, J. W. (1977). *Exploratory data analysis*, section 2C.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' autoplot(study)
#' autoplot(study, view = "points", outliers = "label", title = "Stem heights\nin March")
#' autoplot(gauge_effect(study), base_size = 8)
#' autoplot(test_difference(study), view = "null")
#' autoplot(test_difference(study, "ranks"), view = "superiority")
#' plot(vet_assumptions(study))
#'
#' pairs <- versus_paired(conductance, noon, dawn, unit = "mmol", label = "Leaf conductance")
#' autoplot(pairs, view = "pairs")
#' @export
autoplot <- function(object, ...) ggplot2::autoplot(object, ...)

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_study <- function(object, ..., view = NULL, outcome = NULL, method = NULL, level = 0.95, beyond = 0,
                                  outliers = c("ring", "label"), base_size = NULL, title = NULL,
                                  caption = NULL, palette = NULL) {
  refuse_more(...)
  call <- rlang::current_env()
  look <- figure_look(base_size, title, caption, palette, call)
  description <- describe_study(object, method = method, level = level)
  if (identical(view, "paper")) return(draw_paper(object, paper_outcomes(object, outcome), look, description))
  outcome <- pick_outcome(object, outcome)
  view <- check_view(view, object, outcome, call)
  outliers <- check_choice(outliers, c("ring", "label"))
  draw_study(description, view, outcome, look, outliers == "label", check_number(beyond))
}

draw_study <- function(description, view, outcome, look, label = FALSE, beyond = 0) {
  look$title <- look$title %||% default_title(outcome, description$study)
  switch(view,
    difference = draw_estimation(description, outcome, look),
    points = draw_points(description, outcome, look, label),
    distributions = draw_distributions(description, outcome, look),
    shares = draw_distributions(description, outcome, look, shares = TRUE),
    means = draw_means(description, outcome, look),
    pairs = draw_pairs(description, outcome, look),
    changes = draw_changes(description, outcome, look, beyond),
    order = draw_order(description, outcome, look)
  )
}

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_description <- function(object, ..., method = NULL, level = NULL) {
  s <- object$settings
  autoplot.vandro_study(object$study, ..., method = method %||% s$method, level = level %||% s$level)
}

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_difference <- function(object, ..., view = NULL, outcome = NULL, base_size = NULL,
                                       title = NULL, caption = NULL, palette = NULL, curve = FALSE) {
  refuse_more(...)
  call <- rlang::current_env()
  look <- figure_look(base_size, title, caption, palette, call)
  check_flag(curve)
  if (is.null(view) && is.null(outcome) && is_many(object)) view <- "intervals"
  if (identical(view, "paper")) return(draw_paper(object, paper_outcomes(object, outcome), look))
  if (isTRUE(view %in% many_views)) return(draw_many(object, view, look, call))
  outcome <- pick_answered(object, outcome)
  draw_difference(object, view, outcome, look, NULL, curve, call)
}

# The study described by the method and at the level of an answer.
described_as <- function(answer) {
  s <- answer$settings
  describe_study(answer$study, method = mean_method(answer$study, s$method[[1]]), level = s$level)
}

# `description`: that of the study at the level of the answer, where it has been computed already.
draw_difference <- function(object, view, outcome, look, description, curve = FALSE, call = rlang::caller_env()) {
  row <- outcome_rows(object, outcome, "primary")
  view <- check_difference_view(view, object, outcome, row, call)
  if (view == "null") return(draw_null(object, outcome, look, curve))
  if (view == "pairing") return(draw_pairing(object, outcome, look))
  if (view == "superiority") return(draw_superiority(object, outcome, look))
  description <- description %||% described_as(object)
  look$title <- look$title %||% default_title(outcome, object$study)
  if (view == "changes") {
    return(draw_changes(description, outcome, look, object$settings$beyond, row))
  }
  draw_estimation(description, outcome, look, object)
}

# View "paper" of an answer, for a report that has the description.
paper_figure <- function(object, description) {
  look <- figure_look(NULL, NULL, NULL, NULL, rlang::caller_env())
  same <- identical(description$settings$level, object$settings$level)
  draw_paper(object, paper_outcomes(object, NULL), look, if (same) description)
}

# A figure for a paper shows every outcome unless one is named.
paper_outcomes <- function(object, outcome) {
  study <- if (inherits(object, "vandro_study")) object else object$study
  if (!is.null(outcome)) return(list(pick_outcome(study, outcome)))
  if (inherits(object, "vandro_study")) Filter(is_comparable, study$outcomes) else answered_records(object)
}

# Views of a difference: what the answer holds decides which there are.
check_difference_view <- function(view, answer, outcome, row, call) {
  if (is.null(view) && row$estimand == "superiority") return("superiority")
  if (is.null(view) && row$estimand == "rank_biserial") return("null")
  known <- c("difference", "paper", "changes", "null", "superiority", "pairing", many_views)
  view <- check_view(view, answer$study, outcome, call, known)
  paired <- is_paired(answer$study)
  # Each: what is wrong, what the view needs, the class of the error.
  refused <- switch(view,
    superiority = list(
      paired || answer$study$source == "summary", "the measurements of independent groups.", "needs_values"
    ),
    pairing = list(!paired || outcome$data$kind != "pairs", "pairs with both measurements.", "needs_pairs"),
    difference = list(
      row$estimand == "superiority",
      "a difference or a shift; superiority has a view of its own: {.val superiority}.", "bad_value"
    ),
    null = list(
      row$method == "relative" && is.na(row$df),
      "a t distribution, ranks or a permutation test: here p is a count of assignments.", "bad_value"
    ),
    list(FALSE)
  )
  if (refused[[1]]) abort_view(view, refused[[2]], refused[[3]], call)
  view
}

#' @rdname autoplot
#' @export
plot.vandro_study <- function(x, ...) {
  print(autoplot(x, ...))
  invisible(x)
}

#' @rdname autoplot
#' @export
plot.vandro_answer <- plot.vandro_study

figure_views <- c(
  "difference", "paper", "points", "distributions", "shares", "means", "pairs", "changes", "order"
)

# The view asked for, if the study has what it shows.
check_view <- function(view, study, outcome, call, known = figure_views) {
  only_changes <- is_paired(study) && is.na(outcome$moments[[1]]$mean)
  if (is.null(view)) view <- if (only_changes) "changes" else "difference"
  view <- check_choice(view, known, arg = "view", call = call)
  halves <- view %in% c("difference", "points", "distributions", "shares", "means", "pairs", "order")
  allowed <- c(
    "difference", "means", "null", if (only_changes) "changes",
    if (is_database(study)) c("distributions", "shares", "superiority")
  )
  if (!has_values(study) && !view %in% allowed) {
    why <- if (is_database(study)) {
      "single values, which stay in the database: see {.fn take_sample}, or view {.val distributions}."
    } else {
      "single values, and the study has published numbers only."
    }
    abort_view(view, why, "needs_values", call)
  }
  if (view %in% c("pairs", "changes") && !is_paired(study)) {
    abort_view(view, "pairs, and the groups are independent.", "needs_pairs", call)
  }
  if (only_changes && halves) {
    abort_view(view, "both measurements, and the study has their changes only.", "needs_values", call)
  }
  if (view == "order" && is.null(study$rows$order)) {
    abort_view(view, "an order: declare it with {.code order = }.", "needs_order", call)
  }
  view
}
