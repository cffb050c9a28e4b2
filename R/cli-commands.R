# One function per command: parsed options -> public verbs -> text or files.

# A verb asked as the options say, and as the house has it where they say nothing.
cli_ask <- function(verb, study, args, options) {
  args <- conventional(keep_given(args), verb, study, options$house)
  rlang::inject((!!verb_of(verb))(study, !!!args))
}

cli_describe <- function(study, options) {
  set <- cli_choice(options, "set", c("full", "short"))
  cli_ask("describe_study", study, c(list(set = set), cli_question(options[c("method", "level")])), options)
}

cli_difference <- function(study, options) cli_ask("test_difference", study, cli_question(options), options)

cli_subgroups <- function(study, options) {
  cli_ask("compare_subgroups", study, cli_question(options[c("method", "level", "alpha", "adjust")]), options)
}

cli_equivalence <- function(study, options) {
  if (is.null(options$within)) abort_usage("Option {.code --within} is needed: the bounds, as 3 or -2,3.")
  # The tests of the bounds have sides and a level of their own.
  given <- intersect(c("expect", "beyond", "level"), names(keep_given(options)))
  if (length(given)) abort_usage("Options {.code --within} and {.code --{given[[1]]}} exclude each other.")
  cli_ask("test_equivalence", study, c(cli_within(options), cli_question(options)), options)
}

cli_bounds <- function(study, options) {
  count <- if (is.null(options$bounds)) 1 else length(cli_list(options, "bounds"))
  do.call(try_bounds, c(list(cli_equivalence(study, options)), keep_given(list(
    bounds = cli_numbers(options, "bounds", count), points = cli_numbers(options, "points")
  ))))
}

cli_cross_check <- function(study, options) {
  known <- c("expect", "beyond", "level", "alpha", "reason", "method", "statistic", "draws", "seed", "threads")
  cli_ask("cross_check", study, c(
    cli_within(options), cli_question(options[intersect(names(options), known)]),
    list(flagged = cli_choice(options, "flagged", c("kept", "both")))
  ), options)
}

# Bounds are those of the interval null, in SD units.
cli_evidence <- function(study, options) {
  cli_ask("weigh_evidence", study, c(
    cli_within(options["within"]), cli_question(options[c("expect", "beyond", "level", "reason")]), list(
      prior_half = cli_numbers(options, "prior-half"), prior_location = cli_numbers(options, "prior-location"),
      prior_df = cli_numbers(options, "prior-df"), strength_words = cli_words(options, "strength-words"),
      strength_source = options[["strength-source"]]
    )
  ), options)
}

cli_priors <- function(study, options) {
  count <- if (is.null(options$widths)) 1 else length(cli_list(options, "widths"))
  do.call(try_priors, c(list(cli_evidence(study, options)), keep_given(list(
    widths = cli_numbers(options, "widths", count), points = cli_numbers(options, "points")
  ))))
}

cli_effect <- function(study, options) {
  shared <- options[c("level", "method", "exact", "zeros", "draws", "seed", "threads")]
  cli_ask("gauge_effect", study, c(cli_question(shared), list(
    estimands = cli_list(options, "estimands"), interval = options$interval,
    size_words = cli_words(options, "size-words"), size_source = options[["size-source"]]
  )), options)
}

cli_assumptions <- function(study, options) {
  cli_ask("vet_assumptions", study, list(
    check_alpha = cli_numbers(options, "check-alpha"), alpha = cli_numbers(options, "alpha"),
    centre = cli_choice(options, "centre", c("median", "mean")), level = cli_numbers(options, "level"),
    spread_rule = cli_numbers(options, "spread-rule"), spread_source = options[["spread-source"]],
    limits = cli_numbers(options, "limits", 2)
  ), options)
}

# Where numbers have a decimal comma, -99,5 is one of them, and semicolons part a list.
cli_missing <- function(options) {
  text <- options$missing
  if (is.null(text)) return(NULL)
  semicolon <- grepl(";", text, fixed = TRUE) || grepl("^[-+]?[0-9]+,[0-9]+$", text)
  cli_split(text, "missing", if (identical(options[["decimal-mark"]], ",") && semicolon) ";" else ",")
}

refuse_file_options <- function(parsed) {
  if (length(parsed$files)) {
    abort_usage(c(
      "Published numbers are given without a FILE.",
      "x" = "A file was given too: {.file {parsed$files[[1]]}}."
    ))
  }
  refuse_column_options(parsed$options, "needs a FILE, not published numbers", file_columns)
}

# Options that say what the columns of a FILE are.
file_columns <- c(
  "by", "first", "second", "id", "change", "counts", "order", "dates", "blocks", "each", "missing", "scale-by",
  "rows-in-order", "published-columns"
)

refuse_column_options <- function(options, why, names) {
  for (name in names) {
    given <- options[[name]]
    if (!is.null(given) && !isFALSE(given)) abort_usage("Option {.code --{name}} {why}.")
  }
}

cli_plot <- function(parsed) {
  if (is.null(parsed$options$output)) abort_usage("Option {.code --output} is needed: the file of the figure.")
  check_named_outputs(parsed)
  cli_finish(cli_each(parsed, cli_plot_file))
}

cli_plot_file <- function(parsed) {
  options <- parsed$options
  view <- cli_choice(options, "view", unique(c(
    figure_views, "null", "pairing", "superiority", many_views, "subgroups", "effects", "equivalence", "bounds",
    "cross-check", evidence_names(), rehearsal_names(), vet_names()
  )))
  if (!file_ending(options$output) %in% figure_endings) {
    abort_usage("{.code --output} must end in {.val .png}, {.val .svg} or {.val .pdf}.")
  }
  check_output_path(options$output, options$force, arg = "--output", call = NULL)
  size <- keep_given(list(
    columns = cli_numbers(options, "columns") %||% 2, width = cli_numbers(options, "width"),
    height = cli_numbers(options, "height"), dpi = cli_numbers(options, "dpi")
  ))
  look <- keep_given(list(
    base_size = cli_numbers(options, "base-size") %||% house_look("base_size") %||%
      figure_size(size$columns, size$width, size$height)$base_size,
    title = options$title,
    caption = options$caption, palette = cli_list(options, "palette")
  ))
  plot <- rlang::try_fetch(
    if (asks_rehearsal(options)) {
      refuse_file(parsed)
      do.call(autoplot, c(list(cli_rehearse(options), view = view), look))
    } else {
      cli_figure(cli_study(parsed), view, options, look)
    },
    vandro_error_unknown_argument = function(e) {
      abort_usage("This figure has no two colours to choose: leave out {.code --palette}.", option = "palette")
    }
  )
  do.call(save_figure, c(list(plot, options$output, overwrite = options$force), size))
}

# Views of answers other than the difference's and the study's own.
vet_names <- function() c("assumptions", "normal", "spread")
evidence_names <- function() c("evidence", "posterior", "widths")
rehearsal_names <- function() c("power", "rates", "width")

cli_figure <- function(study, view, options, look) {
  draw <- function(object, ...) do.call(autoplot, c(list(object), keep_given(list(...)), look))
  view <- view %||% asked_view(options)
  if (view %in% rehearsal_names()) {
    abort_usage("View {.val {view}} is of a supposed world: {.code --difference} and {.code --sd}, without a FILE.")
  }
  if (view %in% setdiff(figure_views, c("difference", "paper"))) {
    return(draw(
      study,
      view = view, outliers = cli_choice(options, "outliers", c("ring", "label")),
      level = cli_numbers(options, "level"), beyond = cli_numbers(options, "beyond")
    ))
  }
  if (view %in% evidence_names()) return(draw(cli_evidence(study, options), view = view))
  if (view %in% vet_names()) {
    answer <- cli_assumptions(study, options[intersect(c("level", "alpha", "house"), names(options))])
    return(draw(answer, view = if (view == "assumptions") "page" else view))
  }
  switch(view,
    "cross-check" = draw(cli_cross_check(study, options)),
    subgroups = draw(cli_subgroups(study, options)),
    equivalence = ,
    bounds = draw(cli_equivalence(study, options), view = view),
    effects = draw(cli_effect(study, options)),
    draw(cli_difference(study, options), view = if (view != "usual") view, curve = options$curve)
  )
}

# What the options ask about where no view is named; "usual": the figure that goes with the method.
asked_view <- function(options) {
  if (asks_evidence(options)) return("evidence")
  if (!is.null(options$within)) return("equivalence")
  if (is.null(options$estimands)) "usual" else "effects"
}

# What is in a file, one row per column.
cli_look <- function(parsed) {
  if (length(parsed$files) == 0) abort_usage("{.code vandro read} needs a FILE; {.code -} reads standard input.")
  kind <- cli_format(parsed$options)
  found <- cli_each(parsed, function(p) {
    data <- cli_read(p$files, p$options)
    structure(column_table(data), proposed = proposed_commands(p$files, proposed_question(data), p$options))
  })
  if (!is.null(parsed$options$output)) cli_finish(found)
  if (is.null(names(found))) names(found) <- parsed$files
  if (length(found)) {
    cli_emit(switch(kind,
      text = titled_texts(lapply(found, function(table) c(format_columns(table), attr(table, "proposed")))),
      csv = table_csv(by_file(found)),
      json = table_json(by_file(found), "columns")
    ), parsed$options)
  }
  cli_finish(found)
}

cli_answer <- function(parsed, verb) cli_tell(parsed, function(p) verb(cli_study(p), p$options))

cli_rehearsal <- function(parsed) {
  refuse_file(parsed)
  cli_tell(parsed, function(p) cli_rehearse(p$options))
}
