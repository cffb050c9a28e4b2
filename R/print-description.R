# Descriptions to text.

#' @rdname print.vandro_study
#' @export
format.vandro_description <- function(x, ..., decimals = NULL, width = cli::console_width()) {
  decimals <- check_decimals(decimals)
  blocks <- record_blocks(x, function(outcome) {
    cells <- description_cells(x, outcome, outcome_decimals(outcome, decimals))
    c(
      heading_line(paste("Description:", outcome_title(outcome)), study_direction(x$study)),
      text_table(cells$centre),
      if (!is.null(cells$shape)) text_table(cells$shape),
      pair_entry(outcome, width),
      text_entry("Intervals", description_interval_words(x), width),
      if (!is.null(cells$shape)) text_entry("Quartiles", "rule 7 of Hyndman & Fan (1996)", width),
      excluded_entry(x$study, outcome, width)
    )
  })
  c(join_blocks(blocks), note_lines(x$study, width))
}

description_interval_words <- function(x) {
  paste0(
    format_percent(x$settings$level), "; t for each mean",
    if (!is_paired(x$study)) sprintf(", %s for the difference", interval_label(x$settings$method))
  )
}

# Rounded columns of one outcome's description: centre and spread, and (full set) shape.
description_cells <- function(x, outcome, decimals) {
  rows <- x$table[is_row_of(x$table, outcome), ]
  known <- !is.na(rows$mean)
  rows <- rows[known, ]
  number <- function(column) format_number(column, decimals)
  given <- function(what) format_each(rows[[what]], level_decimals_each(what, outcome, decimals)[known])
  filled <- function(cells) cells[vapply(cells, function(cell) any(nzchar(cell)), NA)]
  centre <- filled(list(
    group = rows$group, n = format_count(rows$n), missing = format_count(rows$missing),
    mean = given("mean"), SD = given("sd"), SE = number(rows$se),
    lower = number(rows$lower), upper = number(rows$upper)
  ))
  if (is.null(rows$median)) return(list(centre = centre))
  shape <- rows[!is.na(rows$median), ]
  if (nrow(shape) == 0) return(list(centre = centre))
  list(centre = centre, shape = filled(list(
    group = shape$group, min = number(shape$min), q1 = number(shape$q1), median = number(shape$median),
    q3 = number(shape$q3), max = number(shape$max), skewness = format_number(shape$skewness),
    kurtosis = format_number(shape$kurtosis)
  )))
}
