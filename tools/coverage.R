# Puts the lines counted by gcov together, and has covr count those of the core. See coverage.sh; with "kernels" as
# second argument the core is left out.
arguments <- commandArgs(trailingOnly = TRUE)
reports <- list.files(arguments[[1]], "vandro#[a-z_0-9]+[.]hpp[.]gcov$", recursive = TRUE, full.names = TRUE)
counted <- do.call(rbind, lapply(reports, function(file) {
  fields <- regmatches(lines <- readLines(file), regexec("^ *([^:]+): *([0-9]+):", lines))
  fields <- do.call(rbind, Filter(length, fields))
  code <- fields[trimws(fields[, 2]) != "-" & fields[, 3] != "0", , drop = FALSE]
  if (nrow(code) == 0) return(NULL)
  header <- sub(".*#([a-z_0-9]+[.]hpp)[.]gcov$", "\\1", file)
  data.frame(file = header, line = as.integer(code[, 3]), hit = !grepl("#|=", code[, 2]))
}))
counted <- stats::aggregate(hit ~ file + line, counted, any)
kernels <- stats::aggregate(hit ~ file, counted, function(x) c(sum(x), length(x)))
table <- data.frame(part = "kernel", file = kernels$file, reached = kernels$hit[, 1], lines = kernels$hit[, 2])
missed <- counted[!counted$hit, ]
for (file in unique(missed$file)) cat(file, "not reached:", sort(missed$line[missed$file == file]), "\n")
if (!"kernels" %in% arguments) {
  Sys.setenv(NOT_CRAN = "true")
  tests <- paste(
    "for (f in list.files('tests/testthat', 'test-(core|verb|study|certified|accuracy|by-hand)', full.names = TRUE))",
    "testthat::test_file(f, package = 'vandro', load_package = 'installed', reporter = 'silent',",
    "stop_on_failure = FALSE)"
  )
  found <- covr::package_coverage(".", type = "none", code = tests, quiet = TRUE, clean = TRUE)
  lines <- covr::tally_coverage(found, by = "line")
  lines <- lines[grepl("^R/core-", lines$filename), ]
  core <- stats::aggregate(value ~ filename, lines, function(x) c(sum(x > 0), length(x)))
  table <- rbind(table, data.frame(
    part = "core", file = sub("^R/", "", core$filename), reached = core$value[, 1], lines = core$value[, 2]
  ))
  for (file in unique(lines$filename)) {
    at <- lines$line[lines$filename == file & lines$value == 0]
    if (length(at)) cat(file, "not reached:", at, "\n")
  }
  utils::write.csv(table, "inst/validation/coverage.csv", row.names = FALSE)
}
for (part in unique(table$part)) {
  own <- table[table$part == part, ]
  shares <- c(sum(own$reached), sum(own$lines))
  cat(sprintf("%s: %d of %d lines, %.1f %%\n", part, shares[[1]], shares[[2]], 100 * shares[[1]] / shares[[2]]))
}
