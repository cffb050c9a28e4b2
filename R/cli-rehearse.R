# Commands about what is supposed rather than measured: options -> world -> public verbs.

# Several values of what is varied: "sd_ratio=0.5,1,2;shape=normal,skewed".
cli_world <- function(options) {
  sizes <- function(name) if (is.null(options[[name]])) 1 else min(2, length(cli_list(options, name)))
  world <- do.call(suppose_world, keep_given(list(
    difference = cli_numbers(options, "difference"), sd = cli_numbers(options, "sd", sizes("sd")),
    standardized = cli_numbers(options, "standardized"), mean = cli_numbers(options, "mean"),
    r = cli_numbers(options, "r"), sd_change = cli_numbers(options, "sd-change"),
    difference_sd = cli_numbers(options, "difference-sd"), shape = cli_list(options, "shape"),
    rounded_to = cli_numbers(options, "rounded-to"), groups = unname(cli_groups(options)), unit = options$unit,
    label = options$label
  )))
  if (is.null(options$vary)) return(world)
  parts <- cli_named(options, "vary", ";", "name what varies and its values", "sd_ratio=0.5,1,2")
  values <- lapply(parts, function(text) {
    pieces <- cli_list(list(vary = text), "vary")
    numbers <- text_number(pieces)
    if (anyNA(numbers)) pieces else numbers
  })
  do.call(vary_world, c(list(world), values))
}

# "20", "20,40", or several designs: "20;30;20,40".
cli_designs <- function(options) {
  if (is.null(options$n)) return(NULL)
  designs <- lapply(strsplit(options$n, ";", fixed = TRUE)[[1]], function(text) {
    cli_numbers(list(n = text), "n", min(2, length(cli_list(list(n = text), "n"))))
  })
  if (length(designs) == 1) designs[[1]] else designs
}

cli_rehearse <- function(options) {
  question <- cli_flat_question(options[c(
    "expect", "beyond", "level", "alpha", "method", "draws", "seed", "threads", "statistic"
  )])
  do.call(rehearse_study, c(
    list(cli_world(options)), question, cli_within(options[c("within", "bounds-in")]), keep_given(list(
      n = cli_designs(options), power = cli_numbers(options, "power"), half_width = cli_numbers(options, "half-width"),
      ratio = cli_numbers(options, "ratio"), simulate = cli_yes(options, "simulate")
    ))
  ))
}

# Writes the made-up data as a table whose columns fit the next command. The scenario and that command go to standard
# error.
cli_make_up <- function(parsed) {
  refuse_file(parsed)
  options <- parsed$options
  study <- do.call(make_up_study, c(
    list(cli_world(options), cli_designs(options)), keep_given(list(seed = cli_numbers(options, "seed")))
  ))
  made <- as.data.frame(study)
  outcome <- gsub("[^\\p{L}\\p{N}]+", "_", tolower(options$label %||% "outcome"), perl = TRUE)
  groups <- study$groups
  if (is_paired(study)) {
    id <- free_name("pair", groups)
    table <- stats::setNames(data.frame(seq_len(nrow(made)), made$first, made$second), c(id, groups))
    columns <- list(paired = TRUE, first = groups[[1]], second = groups[[2]], id = id)
  } else {
    outcome <- free_name(outcome, "group")
    table <- stats::setNames(data.frame(made$group, made$value), c("group", outcome))
    columns <- list(outcome = outcome, by = "group", groups = listed_option(groups))
  }
  written <- cli_emit(table_csv(table), options)
  next_one <- next_command("difference", options$output %||% "FILE", columns, options[c("unit", "label")])
  inform_vandro(c("i" = "{study$notes[[length(study$notes)]]}"), "made_up")
  # The lines are not wrapped again, so that the shell reads them as they stand.
  lines <- shell_lines(next_one)
  inform_lines(c("i" = "Next, for example:", stats::setNames(lines, rep("", length(lines)))), "next")
  invisible(written)
}

# A name for a column beside others.
free_name <- function(name, others) utils::tail(make.unique(c(others, name), "_"), 1)
