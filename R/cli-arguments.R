# Options as arguments of the verbs, shared by several commands.

cli_question <- function(options) with_method_options(cli_flat_question(options))

cli_flat_question <- function(options) {
  keep_given(list(
    expect = cli_choice(options, "expect", directions), beyond = cli_numbers(options, "beyond"),
    level = cli_numbers(options, "level"), alpha = cli_numbers(options, "alpha"),
    adjust = cli_choice(options, "adjust", adjust_ways), reason = options$reason,
    method = cli_list(options, "method"), zeros = cli_choice(options, "zeros", c("drop", "pratt")),
    exact = cli_yes(options, "exact"), draws = cli_numbers(options, "draws"),
    seed = cli_numbers(options, "seed"), threads = cli_numbers(options, "threads"),
    statistic = cli_choice(options, "statistic", permutation_statistics),
    run_length = if (identical(options[["run-length"]], "estimate")) "estimate" else cli_numbers(options, "run-length"),
    max_memory = cli_numbers(options, "max-memory"), simultaneous = if (isTRUE(options$simultaneous)) TRUE
  ))
}

# Bounds as one number or two, with their unit.
cli_within <- function(options) {
  count <- if (is.null(options$within)) 1 else length(cli_list(options, "within"))
  keep_given(list(
    within = cli_numbers(options, "within", min(2, count)),
    bounds_in = cli_choice(options, "bounds-in", c("outcome", "sd")), sd_of = options[["sd-of"]]
  ))
}

cli_yes <- function(options, name) {
  word <- cli_choice(options, name, c("yes", "no"))
  if (is.null(word)) NULL else word == "yes"
}

# A file or published numbers, never both.
cli_study <- function(parsed) {
  published <- intersect(
    c("n", "mean", "sd", "se", "lower", "upper", "published-level", "r", "mean-change", "sd-change", "se-change"),
    names(parsed$options)
  )
  if (length(published)) cli_study_published(parsed, published) else cli_study_file(parsed)
}

# An option of the prior means that the weight of evidence is wanted, where a command can add it.
asks_evidence <- function(options) {
  any(c("prior-half", "prior-location", "prior-df") %in% names(keep_given(options)))
}

# Supposed worlds have no file.
refuse_file <- function(parsed) {
  if (length(parsed$files) == 0) return(invisible())
  abort_usage(c(
    "A supposed world is given by {.code --difference} and {.code --sd}, without a FILE.",
    "x" = "A file was given too: {.file {parsed$files[[1]]}}.",
    "i" = "What a study found cannot stand for what is true."
  ))
}

# Whether the options describe a supposed world; then the command needs no data.
asks_rehearsal <- function(options) any(c("difference", "standardized") %in% names(keep_given(options)))

cli_study_published <- function(parsed, published) {
  options <- parsed$options
  refuse_file_options(parsed)
  if (!"n" %in% published) abort_usage("Missing: {.code --n}, the published sizes.")
  paired <- isTRUE(options$paired) || any(c("r", "mean-change", "sd-change", "se-change") %in% published)
  groups <- cli_groups(options)
  common <- keep_given(list(
    groups = unname(groups), outcome = options$outcome, unit = options$unit, label = options$label,
    claim = cli_choice(options, "claim", c("different", "same")), assigned = cli_yes(options, "assigned"),
    phrases = cli_list(options, "phrases")
  ))
  numbers <- keep_given(list(
    mean = cli_numbers(options, "mean", 2), sd = cli_numbers(options, "sd", 2, lacking = TRUE)
  ))
  if (paired) {
    numbers <- c(numbers, keep_given(list(
      r = cli_numbers(options, "r"), mean_change = cli_numbers(options, "mean-change"),
      sd_change = cli_numbers(options, "sd-change"), se_change = cli_numbers(options, "se-change")
    )))
    return(do.call(versus_paired_summary, c(list(cli_numbers(options, "n")), numbers, common)))
  }
  if (is.null(numbers$mean)) abort_usage("Missing: {.code --mean}, the published means.")
  numbers <- c(numbers, keep_given(list(
    se = cli_numbers(options, "se", 2, lacking = TRUE), lower = cli_numbers(options, "lower", 2),
    upper = cli_numbers(options, "upper", 2), level = cli_numbers(options, "published-level")
  )))
  if (length(intersect(names(numbers), c("sd", "se", "lower", "upper"))) == 0) {
    abort_usage("Missing: {.code --sd} or {.code --se}, or {.code --lower} and {.code --upper}.")
  }
  do.call(versus_summary, c(list(cli_numbers(options, "n", 2)), numbers, common))
}

cli_study_file <- function(parsed) {
  options <- parsed$options
  if (length(parsed$files) != 1) {
    count <- length(parsed$files)
    abort_usage(c(
      "One FILE is needed, or {.code --n}, {.code --mean} and {.code --sd}.",
      "x" = "{cli::qty(count)}{count} file{?s} {?was/were} given.",
      "i" = "{.code -} reads standard input."
    ))
  }
  if (isTRUE(options$published) || !is.null(options[["published-columns"]])) return(cli_study_table(parsed))
  columns <- intersect(c("outcome", "by", "first", "second", "id", "change"), names(options))
  paired <- isTRUE(options$paired) || "change" %in% columns
  if (length(setdiff(columns, "id")) == 0) {
    abort_usage(c(
      "Which columns are compared?",
      "i" = "{.code --outcome} and {.code --by}, or {.code --first} and {.code --second}, or
        {.code --change}."
    ))
  }
  if ("outcome" %in% columns && !"by" %in% columns) {
    abort_usage("Option {.code --by} is needed: it names the column that tells the groups apart.")
  }
  data <- cli_read(parsed$files, options)
  common <- keep_given(list(
    groups = cli_groups(options), unit = options$unit, label = options$label,
    order = options$order, dates = cli_choice(options, "dates", date_orders), blocks = options$blocks,
    each = options$each, missing = cli_missing(options),
    scale_by = cli_numbers(options, "scale-by"), claim = cli_choice(options, "claim", c("different", "same")),
    assigned = cli_yes(options, "assigned"), phrases = cli_list(options, "phrases"),
    rows_in_order = if (isTRUE(options[["rows-in-order"]])) TRUE
  ))
  columns <- c(columns, intersect("counts", names(options)))
  words <- lapply(stats::setNames(nm = columns), function(name) cli_columns(options, name, names(data)))
  rlang::inject((if (paired) versus_paired else versus)(data, !!!words, !!!common))
}

# Returns the columns that an option names. A text that is the name of a column is not parted at its commas.
cli_columns <- function(options, name, known) {
  text <- options[[name]]
  if (trimws(text) %in% trimws(known)) text else cli_list(options, name)
}

# Declares a comparison of published numbers that stand in a file.
cli_study_table <- function(parsed) {
  options <- parsed$options
  columns <- setdiff(file_columns, "published-columns")
  refuse_column_options(options, "needs measurements, not published numbers", columns)
  named <- cli_named(options, "published-columns", ",", "say what columns hold", "n=plants,mean=average")
  rlang::inject(versus_summary(cli_read(parsed$files, options), !!!keep_given(list(
    groups = cli_groups(options), columns = if (!is.null(named)) split(unname(named), names(named)),
    unit = options$unit, label = options$label,
    outcome = options$outcome, level = cli_numbers(options, "published-level"),
    claim = cli_choice(options, "claim", c("different", "same")), assigned = cli_yes(options, "assigned"),
    phrases = cli_list(options, "phrases")
  ))))
}
