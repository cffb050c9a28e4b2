# Printed numbers at the command line: as options, or a table of them.

audited_options <- c(
  "n", "mean", "sd", "se", "r", "sd-change", "difference", "se-difference", "t", "df", "p", "lower", "upper", "d"
)

cli_audit <- function(parsed) {
  options <- parsed$options
  given <- intersect(audited_options, names(keep_given(options)))
  if (length(parsed$files) > 1 || length(parsed$files) == (length(given) > 0)) {
    abort_usage(c(
      "One FILE with a comparison in each row is needed, or printed numbers as options.",
      "i" = "For example {.code vandro audit --t 2.10 --df 30 --p .044}."
    ))
  }
  # As text: 3.90 is not 3.9.
  numbers <- lapply(given, function(name) cli_list(options, name))
  names(numbers) <- gsub("-", "_", given, fixed = TRUE)
  how <- keep_given(list(
    paired = if (isTRUE(options$paired)) TRUE, method = cli_choice(options, "method", audited_methods()),
    estimand = options$estimand, level = cli_numbers(options, "level"),
    expect = cli_choice(options, "expect", directions), beyond = cli_numbers(options, "beyond"),
    rounding = cli_choice(options, "rounding", c("nearest", "any")), step = cli_numbers(options, "step"),
    limits = cli_numbers(options, "limits", 2), groups = unname(cli_groups(options)),
    unit = options$unit, label = options$label
  ))
  cli_tell(parsed, function(p) {
    data <- if (length(parsed$files)) list(cli_read(parsed$files, options, as_written = TRUE))
    do.call(audit_numbers, c(data, numbers, how))
  })
}
