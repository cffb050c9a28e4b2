# Sentences about audited numbers.

#' @exportS3Method
tell.vandro_audit <- function(x, voice, decimals, ...) {
  vapply(seq_along(x$study$outcomes), function(i) {
    outcome <- x$study$outcomes[[i]]
    about <- sprintf("%s (%s)", capital(outcome$label), study_direction(x$study))
    if (voice == "plain") {
      fitting <- x$detail$kind[[i]] %in% c("none", "impossible")
      return(sprintf("%s: %s.", about, if (fitting) audit_verdict(x, i) else plain_audit(x, i)))
    }
    sprintf("%s: %s. Taken as: %s.", about, audit_verdict(x, i), audit_readings(x, i))
  }, "")
}

plain_audit <- function(x, i) {
  rows <- outcome_rows(x, x$study$outcomes[[i]])
  off <- audit_names(rows$quantity[rows$fits %in% FALSE], x$study)
  few <- if (length(off) == 1) off else paste(paste(utils::head(off, -1), collapse = ", "), "and", utils::tail(off, 1))
  switch(x$detail$kind[[i]],
    one = sprintf("the number for %s cannot be right if the other numbers are", few),
    one_of = sprintf("the numbers for %s cannot all be right", few),
    several = sprintf("several numbers cannot be right: %s", few)
  )
}
