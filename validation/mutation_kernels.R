# The same for the kernels: one token of a header of inst/include/vandro is changed, the kernels' tests that include it
# are compiled and run. Writes inst/validation/mutation_kernels.csv. From the project's root:
#   Rscript validation/mutation_kernels.R [changes per header] [cores] [pattern of headers]    (half an hour for 3)
source("validation/resumed.R")
arguments <- commandArgs(trailingOnly = TRUE)
per_header <- as.integer(c(arguments, 3)[[1]])
cores <- as.integer(c(arguments[-1], 2)[[1]])
pattern <- c(arguments[-(1:2)], ".")[[1]]
set.seed(20261128)

include <- "inst/include/vandro"
headers <- list.files(include, "[.]hpp$")
library_flags <- unlist(lapply(c("testthat", "BH"), function(package) {
  folder <- system.file("include", package = package)
  if (nzchar(folder)) c("-isystem", folder)
}))
flags <- c("-std=c++17", "-O1", library_flags)
work <- tempfile("mutants")
dir.create(work)
main <- file.path(work, "main.o")
stopifnot(system2("g++", c("-std=c++17", "-O0", library_flags, "-c", "tests/cpp/main.cpp", "-o", main)) == 0)

# Headers that a file includes, at any depth.
included <- function(file, seen = character()) {
  own <- sub(
    ".*[\"<](vandro/)?([a-z_0-9]+[.]hpp).*", "\\2",
    grep("#include [\"<][a-z_0-9/]*[.]hpp", readLines(file), value = TRUE)
  )
  own <- setdiff(own[file.exists(file.path(include, own))], seen)
  for (one in own) seen <- included(file.path(include, one), c(seen, one))
  unique(c(seen, own))
}
tests <- list.files("tests/cpp", "^test-.*[.]cpp$", full.names = TRUE)
reached <- lapply(stats::setNames(tests, tests), included)
tests_of <- function(header) {
  own <- file.path("tests/cpp", sub("[.]hpp$", ".cpp", paste0("test-", header)))
  using <- names(reached)[vapply(reached, function(x) header %in% x, NA)]
  # The nearest first: fewest other headers.
  unique(c(intersect(own, using), using[order(lengths(reached[using]))]))
}

# Tokens with what stands in for them; spaces keep templates, includes and signs of numbers out.
swaps <- c(
  " + " = " - ", " - " = " + ", " * " = " / ", " / " = " * ", " < " = " <= ", " <= " = " < ", " > " = " >= ",
  " >= " = " > ",
  " == " = " != ", " != " = " == ", " && " = " || ", " || " = " && ", " += " = " -= ", " -= " = " += ",
  "std::min(" = "std::max(",
  "std::max(" = "std::min(", "++" = "--", " << " = " >> ", " & " = " | "
)
number <- "(?<![A-Za-z_0-9.])[0-9]+([.][0-9]+)?(?![A-Za-z_0-9.x])"
sites <- function(header) {
  lines <- readLines(file.path(include, header))
  code <- sub("//.*", "", lines)
  usable <- grepl("[;{(,]", code) & !grepl("^\\s*(#|template|namespace|struct|class|enum|using|static_assert)", code) &
    !c(FALSE, grepl("\\\\$", utils::head(lines, -1)))
  out <- list()
  for (i in which(usable)) {
    for (from in names(swaps)) {
      at <- gregexpr(from, code[[i]], fixed = TRUE)[[1]]
      for (k in at[at > 0]) out[[length(out) + 1]] <- list(line = i, at = k, from = from, to = swaps[[from]])
    }
    found <- gregexpr(number, code[[i]], perl = TRUE)[[1]]
    for (k in seq_along(found)) {
      if (found[[k]] < 0) next
      from <- substr(code[[i]], found[[k]], found[[k]] + attr(found, "match.length")[[k]] - 1)
      value <- as.numeric(from)
      broken <- grepl(".", from, fixed = TRUE)
      to <- if (broken) sprintf("%.17g", value * 1.25 + 0.125 * (value == 0)) else sprintf("%.0f", value + 1)
      if (broken && !grepl("[.e]", to)) to <- paste0(to, ".0")
      out[[length(out) + 1]] <- list(line = i, at = found[[k]], from = from, to = to)
    }
  }
  lapply(out, c, list(header = header))
}

try_mutant <- function(site, id) {
  folder <- file.path(work, id)
  dir.create(file.path(folder, "vandro"), recursive = TRUE)
  on.exit(unlink(folder, recursive = TRUE))
  file.copy(list.files(include, full.names = TRUE), file.path(folder, "vandro"))
  file <- file.path(folder, "vandro", site$header)
  lines <- readLines(file)
  line <- lines[[site$line]]
  lines[[site$line]] <- paste0(
    substr(line, 1, site$at - 1), site$to, substr(line, site$at + nchar(site$from), nchar(line))
  )
  writeLines(lines, file)
  change <- trimws(lines[[site$line]])
  for (test in tests_of(site$header)) {
    program <- file.path(folder, "run")
    log <- file.path(folder, "log")
    built <- system2("g++", c(flags, "-I", folder, shQuote(test), main, "-o", program), stdout = log, stderr = log)
    if (built != 0) return(list(change = change, by = "does not compile"))
    status <- system2("timeout", c("120", program), stdout = log, stderr = log)
    if (status != 0) return(list(change = change, by = if (status == 124) "the clock" else basename(test)))
  }
  list(change = change, by = NA_character_)
}

# More places than wanted, as some changes do not compile.
chosen <- lapply(headers, function(header) {
  all <- sites(header)
  all[sample.int(length(all), min(length(all), 2 * per_header))]
})
of_header <- function(h) {
  done <- parallel::mclapply(seq_along(chosen[[h]]), function(k) {
    # Every second one is a spare.
    if (k > per_header + 2) return(NULL)
    try_mutant(chosen[[h]][[k]], paste(h, k, sep = "-"))
  }, mc.cores = cores, mc.preschedule = FALSE)
  rows <- lapply(seq_along(done), function(k) {
    one <- done[[k]]
    if (!is.list(one) || identical(one$by, "does not compile")) return(NULL)
    site <- chosen[[h]][[k]]
    data.frame(
      header = headers[[h]], line = site$line, from = trimws(site$from), to = trimws(site$to), code = one$change,
      noticed_by = one$by
    )
  })
  rows <- do.call(rbind, rows)
  cat(sprintf("%s: %d of %d\n", headers[[h]], sum(!is.na(rows$noticed_by)), nrow(rows)))
  rows
}
# Of some headers the same changes as of all.
found <- lapply(grep(pattern, headers), function(h) {
  resumed("mutation", paste(headers[[h]], per_header, sep = "-"), function() of_header(h))
})
table <- do.call(rbind, found)
utils::write.csv(
  table, if (pattern == ".") "inst/validation/mutation_kernels.csv" else stdout(), row.names = FALSE, na = ""
)
cat(sprintf("%d of %d changes noticed\n", sum(!is.na(table$noticed_by)), nrow(table)))
missed <- table[is.na(table$noticed_by), ]
for (i in seq_len(nrow(missed))) cat(
  sprintf(
    "%s:%d %s -> %s | %s\n", missed$header[[i]], missed$line[[i]], missed$from[[i]], missed$to[[i]], missed$code[[i]]
  )
)
