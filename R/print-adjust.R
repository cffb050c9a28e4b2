# How adjustments over several outcomes are named, and where they come from.

adjust_names <- c(
  holm = "Holm", hochberg = "Hochberg", benjamini_hochberg = "Benjamini-Hochberg", bonferroni = "Bonferroni",
  max_t = "max t, step-down", max_t_single = "max t"
)
adjust_citations <- c(
  holm = "Holm 1979", hochberg = "Hochberg 1988", benjamini_hochberg = "Benjamini & Hochberg 1995",
  bonferroni = "Dunn 1961", max_t = "Westfall & Young 1993", max_t_single = "Westfall & Young 1993"
)

# "Holm's method (Holm 1979)"
adjust_phrase <- function(x) {
  adjust <- x$settings$adjust %||% "holm"
  joint <- x$detail$joint
  name <- switch(adjust,
    holm = "Holm's method", hochberg = "Hochberg's method", benjamini_hochberg = "the method of Benjamini and Hochberg",
    bonferroni = "Bonferroni's method", max_t = "the largest t of all outcomes, step-down",
    max_t_single = "the largest t of all outcomes"
  )
  how <- if (!is.null(joint$total)) {
    what <- if (is_paired(x$study)) "sets of signs" else "assignments"
    if (joint$exact) {
      sprintf(", over all %s %s", format_count(joint$total), what)
    } else {
      sprintf(", over %s random %s (seed %s)", format_count(x$settings$draws), what, format_count(x$settings$seed))
    }
  }
  sprintf("%s%s (%s)", name, how %||% "", adjust_citations[[adjust]])
}
