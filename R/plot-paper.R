# The figure for a paper: values, difference and interval of every outcome, with the text that goes below it.

# A page of panels. Its legend is text, as journals set it, not part of the picture.
draw_paper <- function(object, outcomes, look, description = NULL) {
  study <- if (inherits(object, "vandro_study")) object else object$study
  # More panels than letters could not be told apart: then all intervals in one.
  if (length(outcomes) > most_panels) {
    if (inherits(object, "vandro_study")) object <- test_difference(object)
    figure <- draw_many(object, "intervals", look, rlang::caller_env())
    page <- new_page(list(A = figure + ggplot2::labs(title = NULL, caption = NULL)), look, "")
    page$legend <- figure_legend(figure)
    return(page)
  }
  # Beside each other they have the width of a column, and its text size.
  several <- length(outcomes) > 1 || is_paired(study)
  if (several && look$base_size > 8) look$base_size <- max(8, 0.73 * look$base_size)
  description <- description %||% described_as(object)
  each <- lapply(outcomes, function(outcome) paper_panels(object, description, outcome, look))
  panels <- unlist(each, recursive = FALSE)
  tags <- if (length(panels) > 1) LETTERS[seq_along(panels)]
  legend <- paper_legend(panels, rep(outcomes, lengths(each)), study, tags)
  panels <- lapply(seq_along(panels), function(i) {
    bare <- panels[[i]] + ggplot2::labs(title = NULL, caption = NULL)
    if (is.null(tags)) return(bare)
    tag <- ggplot2::element_text(face = "bold", margin = ggplot2::margin(b = 4))
    bare + ggplot2::labs(tag = tags[[i]]) + ggplot2::theme(plot.tag = tag)
  })
  names(panels) <- tags %||% "A"
  look$title <- look$title %||% ""
  look$caption <- look$caption %||% ""
  page <- new_page(panels, look, "")
  page$rows <- if (length(panels) == 1) list(1) else split(seq_along(panels), (seq_along(panels) - 1) %/% 2)
  page$heights <- rep(1, length(page$rows))
  page$legend <- legend
  page$even <- TRUE
  page
}

# For pairs the lines of the pairs and the changes; for other designs the difference figure.
paper_panels <- function(object, description, outcome, look) {
  look <- list(base_size = look$base_size, palette = look$palette, title = "")
  study <- description$study
  draw <- function(view) {
    if (inherits(object, "vandro_difference")) return(draw_difference(object, view, outcome, look, description))
    draw_study(description, check_view(view, study, outcome, NULL), outcome, look)
  }
  if (!is_paired(study)) {
    superiority <- inherits(object, "vandro_difference") && !in_outcome_unit(outcome_rows(object, outcome, "primary"))
    return(list(draw(if (superiority) "superiority" else "difference")))
  }
  if (outcome$data$kind != "pairs") return(list(draw(if (outcome$data$kind == "changes") "changes" else NULL)))
  list(draw_study(description, "pairs", outcome, look), draw("changes"))
}

# What is compared, then what the marks of each panel are (once, where they are alike), then what was left out.
paper_legend <- function(panels, outcomes, study, tags) {
  names <- vapply(outcomes, record_name, "")
  tagged <- function(which) if (length(tags)) sprintf("(%s) ", paste(tags[which], collapse = ", ")) else ""
  # Of one outcome everything but the marks is said of all panels.
  of_outcome <- function(name) if (length(unique(names)) > 1) tagged(names == name) else ""
  each <- outcomes[!duplicated(names)]
  left <- vapply(outcomes, function(outcome) excluded_caption(study, outcome) %||% "", "")
  marks <- vapply(seq_along(panels), function(i) {
    text <- figure_legend(panels[[i]])
    trimws(if (nzchar(left[[i]])) sub(left[[i]], "", text, fixed = TRUE) else text)
  }, "")
  alike <- length(unique(marks)) == 1
  titles <- vapply(each, function(o) paste0(of_outcome(record_name(o)), outcome_title(o)), "")
  paste(c(
    sprintf("%s; %s.", capital(paste(titles, collapse = ", ")), study_direction(study)),
    if (alike) marks[[1]] else paste0(vapply(seq_along(panels), tagged, ""), marks),
    unlist(lapply(each, function(o) {
      text <- excluded_caption(study, o)
      if (!is.null(text)) paste0(of_outcome(record_name(o)), text)
    }))
  ), collapse = " ")
}

# Title and caption of a figure as one paragraph.
figure_legend <- function(figure) {
  texts <- if (inherits(figure, "vandro_page")) {
    c(figure$title, figure$legend %||% figure$caption)
  } else {
    c(figure$labels$title, figure$labels$caption)
  }
  texts <- gsub("[[:space:]]+", " ", trimws(texts))
  texts <- texts[nzchar(texts)]
  paste(ifelse(grepl("[.?!]$", texts), texts, paste0(texts, ".")), collapse = " ")
}

# The same figure without the text that stands below it.
without_legend <- function(figure) {
  if (!inherits(figure, "vandro_page")) return(figure + ggplot2::labs(title = NULL, caption = NULL))
  figure$title <- ""
  figure$caption <- ""
  figure
}
