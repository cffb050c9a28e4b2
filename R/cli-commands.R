# One function per command: parsed options -> public verbs -> text or files.

cli_commands <- list(
  describe = list(
    run = function(p) cli_answer(p, cli_describe),
    about = "size, centre, spread and shape of both groups"
  ),
  difference = list(
    run = function(p) cli_answer(p, cli_difference),
    about = "the difference, its interval and its test"
  ),
  effect = list(run = function(p) cli_answer(p, cli_effect), about = "effect sizes with intervals"),
  narrate = list(run = function(p) cli_narrate(p), about = "the sentences for a paper"),
  plot = list(run = function(p) cli_plot(p), about = "the figure, to a .png, .svg or .pdf file"),
  report = list(run = function(p) cli_report(p), about = "one self-contained HTML report"),
  demo = list(run = function(p) cli_demo(p), about = "the whole job on the shipped data, into a folder")
)

cli_question <- function(options) {
  question <- list(
    expect = cli_choice(options, "expect", directions), beyond = cli_numbers(options, "beyond"),
    level = cli_numbers(options, "level"), alpha = cli_numbers(options, "alpha")
  )
  question[!vapply(question, is.null, NA)]
}

cli_describe <- function(study, options) {
  do.call(describe_study, c(list(study), cli_question(options["level"])))
}

cli_difference <- function(study, options) do.call(test_difference, c(list(study), cli_question(options)))

cli_effect <- function(study, options) {
  estimands <- if (!is.null(options$estimands)) strsplit(options$estimands, ",", fixed = TRUE)[[1]]
  do.call(gauge_effect, c(list(study, estimands), cli_question(options["level"])))
}

# A file or published numbers, never both.
cli_study <- function(parsed) {
  options <- parsed$options
  published <- intersect(c("n", "mean", "sd"), names(options))
  if (length(published)) return(cli_study_published(parsed, published))
  if (length(parsed$files) != 1) {
    count <- length(parsed$files)
    abort_usage(c(
      "One FILE is needed, or {.code --n}, {.code --mean} and {.code --sd}.",
      "x" = "{cli::qty(count)}{count} file{?s} {?was/were} given.",
      "i" = "{.code -} reads standard input."
    ))
  }
  for (name in c("outcome", "by")) {
    if (is.null(options[[name]])) abort_usage("Option {.code --{name}} is needed: it names a column.")
  }
  groups <- cli_groups(options)
  data <- cli_read(parsed$files, options)
  versus(
    data, !!options$outcome, !!options$by,
    groups = groups, unit = options$unit, label = options$label
  )
}

cli_study_published <- function(parsed, published) {
  options <- parsed$options
  if (length(published) < 3 || length(parsed$files)) {
    lacking <- paste0("--", setdiff(c("n", "mean", "sd"), published))
    abort_usage(c(
      "Published numbers are given as {.code --n}, {.code --mean} and {.code --sd}, without a FILE.",
      "x" = if (length(published) < 3) "Missing: {.code {lacking}}.",
      "x" = if (length(parsed$files)) "A file was given too: {.file {parsed$files[[1]]}}."
    ))
  }
  groups <- cli_groups(options)
  versus_summary(
    cli_numbers(options, "n", 2), cli_numbers(options, "mean", 2), cli_numbers(options, "sd", 2),
    groups = unname(groups) %||% c("first", "second"), outcome = options$outcome %||% "outcome",
    unit = options$unit, label = options$label
  )
}

cli_read <- function(file, options) {
  decimal <- cli_choice(options, "decimal", c(".", ",")) %||% "."
  encoding <- cli_choice(options, "encoding", c("UTF-8", "Latin-1")) %||% "UTF-8"
  if (file == "-") {
    file <- tempfile(fileext = ".txt")
    on.exit(unlink(file))
    input <- base::file("stdin", "rb")
    on.exit(close(input), add = TRUE)
    save_stream(input, file)
  }
  read_measurements(file, decimal = decimal, encoding = encoding, quiet = TRUE)
}

save_stream <- function(input, file) {
  output <- base::file(file, "wb")
  on.exit(close(output))
  repeat {
    bytes <- readBin(input, "raw", 2^20)
    if (length(bytes) == 0) break
    writeBin(bytes, output)
  }
}

cli_answer <- function(parsed, verb) {
  options <- parsed$options
  format <- cli_choice(options, "format", c("text", "json", "csv")) %||% "text"
  digits <- cli_numbers(options, "digits")
  answer <- verb(cli_study(parsed), options)
  lines <- if (
    format == "text"
  ) format(answer, digits = digits, width = 80) else export_answer(answer, format = format)
  cli_emit(lines, options)
}

cli_emit <- function(lines, options) {
  if (is.null(options$output)) {
    writeLines(enc2utf8(lines), useBytes = TRUE)
    return(character())
  }
  file <- check_output_path(options$output, options$force, arg = "--output", call = NULL)
  write_whole_text(file, lines, call = NULL)
}

cli_narrate <- function(parsed) {
  options <- parsed$options
  voice <- cli_choice(options, "voice", c("journal", "plain")) %||% "journal"
  arguments <- c(
    list(cli_study(parsed)), cli_question(options),
    list(voice = voice, digits = cli_numbers(options, "digits"))
  )
  cli_emit(format(do.call(narrate, arguments), width = 80), options)
}

cli_plot <- function(parsed) {
  options <- parsed$options
  if (is.null(options$output)) abort_usage("Option {.code --output} is needed: the file of the figure.")
  width <- cli_numbers(options, "width") %||% 7.2
  height <- cli_numbers(options, "height") %||% 4.6
  kind <- tolower(sub("^.*[.]", "", basename(options$output)))
  if (!kind %in% c("png", "svg", "pdf")) {
    abort_usage("{.code --output} must end in {.val .png}, {.val .svg} or {.val .pdf}.")
  }
  file <- check_output_path(options$output, options$force, arg = "--output", call = NULL)
  plot <- autoplot(cli_difference(cli_study(parsed), options), base_size = if (width < 5) 8 else 11)
  write_whole(file, function(draft) {
    switch(kind,
      png = grDevices::png(draft, width, height, units = "in", res = 300, type = png_type()),
      svg = grDevices::svg(draft, width, height),
      pdf = grDevices::pdf(draft, width, height)
    )
    device <- grDevices::dev.cur()
    tryCatch(print(plot), finally = grDevices::dev.off(device))
  }, call = NULL)
}

# Servers have no screen to draw on; cairo needs none.
png_type <- function() if (isTRUE(capabilities("cairo"))) "cairo" else getOption("bitmapType")

cli_report <- function(parsed) {
  options <- parsed$options
  if (is.null(options$output)) abort_usage("Option {.code --output} is needed: the file of the report.")
  texts <- options[intersect(c("title", "author", "date"), names(options))]
  do.call(write_report, c(
    list(cli_study(parsed), options$output, overwrite = options$force), cli_question(options), texts
  ))
}
