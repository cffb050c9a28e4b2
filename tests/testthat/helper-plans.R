# Plans in a folder of their own, about the shipped files.

plan_text <- function(...) {
  c(
    "plan: 1", "title: Spring trial", "declared:", "  date: 2026-03-02", "data:",
    sprintf("  seedlings: %s", system.file("extdata", "seedlings.csv", package = "vandro")), "comparisons:",
    "  height:", "    outcome: height", "    by: substrate", "    groups: [compost, peat]", "    unit: cm", "    ask:",
    "      difference:", "        primary: welch", "        alpha: 0.05", "outputs:", "  report: none",
    "  figures: none", "  tables: csv", ...
  )
}

# The file of a plan whose lines were changed by `...`: pattern = replacement.
plan_file <- function(..., lines = plan_text(), name = "plan.yaml", folder = withr::local_tempdir(.local_envir = env),
                      env = parent.frame()) {
  changes <- c(...)
  for (pattern in names(changes)) {
    stopifnot(any(grepl(pattern, lines, fixed = TRUE)))
    lines <- sub(pattern, changes[[pattern]], lines, fixed = TRUE)
  }
  file <- file.path(folder, name)
  # A replacement may hold several lines.
  writeLines(enc2utf8(unlist(strsplit(lines, "\n", fixed = TRUE))), file, useBytes = TRUE)
  file
}

yaml_file <- function(..., env = parent.frame()) {
  file <- withr::local_tempfile(fileext = ".yaml", .local_envir = env)
  writeLines(enc2utf8(c(...)), file, useBytes = TRUE)
  file
}

run_quiet <- function(...) with_blank_figures(run_plan(..., quiet = TRUE, date = "2026-06-30"))

file_sums <- function(folder) {
  files <- list.files(folder, recursive = TRUE, all.files = TRUE)
  stats::setNames(tools::md5sum(file.path(folder, files)), files)
}
