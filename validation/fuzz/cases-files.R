# Kinds of cases that come from outside: files, plans, command lines, tables in a database.

# Processes share one temporary folder.
folder_of_cases <- function() {
  folder <- file.path(tempdir(), paste0("fuzz-", Sys.getpid()))
  dir.create(folder, showWarnings = FALSE)
  folder
}

# Bytes of a text file, damaged here and there.
damaged <- function(bytes, times = pick(0, 0, 0, 1, 1, 2, 5)) {
  for (i in seq_len(times)) {
    at <- sample.int(max(1, length(bytes)), 1)
    piece <- as.raw(unlist(pick(
      0x00, c(0xff, 0xfe), c(0xc3), 0x22, 0x27, c(0x0d, 0x0a), 0x2c, 0x3b, 0x09, sample(0:255, 3),
      c(0xef, 0xbb, 0xbf), 0x5c,
      rep(0x61, 2000)
    )))
    bytes <- switch(sample.int(4, 1),
      append(bytes, piece, at), bytes[-at], utils::head(bytes, at), replace(bytes, at, piece[[1]])
    )
  }
  bytes
}

file_case <- function() {
  data <- as.data.frame(long_data())
  data <- data[!vapply(data, function(x) is.list(x) || is.matrix(x), NA)]
  file <- file.path(folder_of_cases(), paste0("data.", pick("csv", "csv", "tsv", "txt", "dat", "CSV")))
  sep <- pick(",", ",", ";", "\t", "|")
  suppressWarnings(try(utils::write.table(
    as.data.frame(data), file, sep = sep, dec = if (sep == ";") "," else ".", row.names = FALSE, quote = chance(0.7),
    na = pick("NA", "", "-")
  ), silent = TRUE))
  if (!file.exists(file)) writeLines("a,b", file)
  writeBin(damaged(readBin(file, "raw", 1e6)), file)
  with <- list(quiet = TRUE)
  if (chance(0.3)) with$decimal_mark <- or_junk(pick(".", ","))
  if (chance(0.1)) with$thousands <- or_junk(pick(",", ".", " "))
  if (chance(0.15)) with$missing <- or_junk(pick("-", c("-99", "NA")))
  if (chance(0.1)) with$encoding <- or_junk(pick("UTF-8", "latin1", "UTF-16LE"))
  if (chance(0.1)) with$as_written <- or_junk(TRUE)
  before <- tools::md5sum(file)
  wrong <- judge(function() {
    read <- do.call("read_measurements", c(list(file), with), quote = TRUE)
    study <- versus(read, height, group)
    test_difference(study)
  }, with)
  c(wrong, if (!identical(before, tools::md5sum(file))) "file changed")
}

plan_lines <- function(name = pick("height", "height", "h\u00f6he", "a b", "\"1\"", "../x", "CON", "=1+1")) {
  c(
    "plan: 1", "title: Spring trial", "declared:", "  date: 2026-03-02", "data:",
    sprintf("  seedlings: %s", system.file("extdata", "seedlings.csv", package = "vandro")), "comparisons:",
    sprintf("  %s:", name), "    outcome: height", "    by: substrate", "    groups: [compost, peat]", "    unit: cm",
    "    ask:",
    "      difference:", "        primary: welch", "        secondary: [student]", "        expect: higher",
    "        reason: more nitrogen", "      effect: yes", "      equivalence:", "        within: 1",
    "        reason: nobody sees less", "outputs:", "  report: none", "  figures: none", "  tables: csv"
  )
}
plan_junk <- c(
  "!!python/object:os.system", "!expr quit()", "!r stop()", "&a [*a]", "*nothing", "{", "[", "\"", "'", "? x", "- ",
  ": ", "|", ">", "%YAML 9", "---", "...", "\tx: 1", "<<: *a", "~", "null", "yes", "1e999", ".inf", ".nan", "0x1F",
  "2026-13-45", "\u00e9", "{a: {b: {c: 1}}}", "[1, 2, [3]]", "../../etc/passwd", "/", "`system('x')`", "-1", "0",
  "higher", "none", "all", "compost", "\x01", "\u202e"
)
mutate_plan <- function(lines) {
  for (i in seq_len(pick(0, 1, 1, 2, 3))) {
    at <- sample.int(length(lines), 1)
    token <- sample(plan_junk, 1)
    lines <- switch(sample.int(7, 1),
      lines[-at], append(lines, lines[[at]], at), append(lines, token, at),
      replace(lines, at, sub(":.*", paste0(": ", token), lines[[at]])),
      replace(lines, at, paste0("  ", lines[[at]])),
      replace(lines, at, sub("[a-z]+", token, lines[[at]])),
      replace(lines, c(at, 1), lines[c(1, at)])
    )
    if (length(lines) == 0) lines <- ""
  }
  lines
}
plan_case <- function() {
  folder <- folder_of_cases()
  file <- file.path(folder, "plan.yaml")
  writeBin(charToRaw(enc2utf8(paste(mutate_plan(plan_lines()), collapse = "\n"))), file)
  output <- file.path(folder, "results")
  unlink(output, recursive = TRUE)
  carried_out <- chance(0.08)
  wrong <- judge(function() {
    plan <- read_plan(file)
    utils::capture.output(print(plan))
    if (carried_out) run_plan(plan, output, quiet = TRUE, date = "2026-06-30") else plan
  })
  whole <- !dir.exists(output) || file.exists(file.path(output, "results.json"))
  rest <- setdiff(
    list.files(folder, all.files = TRUE, no.. = TRUE),
    c(basename(file), "results", list.files(folder, "^data[.]|^out[.]"))
  )
  unlink(output, recursive = TRUE)
  c(wrong, if (!whole) "half a folder was left", if (length(rest)) paste("left behind:", rest[[1]]))
}

words <- function() {
  commands <- c(
    "read", "describe", "assumptions", "difference", "subgroups", "equivalence", "bounds", "evidence", "priors",
    "rehearse", "make-up", "audit", "table", "effect", "narrate", "help", "compare", "--version", "diference", ""
  )
  shipped <- function(name) system.file("extdata", name, package = "vandro")
  files <- c(shipped("seedlings.csv"), shipped("moisture.csv"), "nothing.csv", tempdir())
  out <- c(sample(commands, 1), if (chance(0.85)) files[[pick(1, 1, 1, 1, 2, 3, 4)]])
  values <- list(
    outcome = "height", by = "substrate", groups = "compost,peat", unit = "cm", method = some(counted_methods, 1),
    expect = "higher", beyond = "1", level = "0.9", alpha = "0.01", within = "1",
    format = pick("json", "csv", "text"), first = "probe_a", second = "probe_b", n = "18,20", mean = "22.1,19.8",
    sd = "3.9,3.2", difference = "2.5", power = "0.8", seed = "7", draws = "99", each = "bench", t = "2.1", df = "30",
    p = ".08", reason = "more nitrogen"
  )
  values[c("paired", "quiet", "help", "nonsense")] <- list(NULL)
  strange <- c(hostile_labels, "nan", "1e999", "-5", "0x")
  options <- lapply(names(values), function(name) {
    value <- values[[name]]
    c(paste0("--", name), if (!is.null(value) && chance(0.1)) sample(strange, 1) else value)
  })
  usual <- if (chance(0.6)) unlist(options[1:3])
  c(out, usual, unlist(some(options, pick(0, 1, 2, 3))))
}
command_case <- function() {
  args <- words()
  status <- NULL
  # A command's errors end as messages and a status; what it says is its own.
  wrong <- judge(function() {
    utils::capture.output(status <<- vandro_command(args))
    NULL
  }, args)
  wrong <- grep("^foreign message", wrong, invert = TRUE, value = TRUE)
  c(wrong, if (!is.numeric(status) || !status %in% c(0, 1, 2)) paste("status", format(status)))
}

# --- databases ---------------------------------------------------------------------------------------------

# The same question of the values here and in an engine: the same numbers, or an error of ours on either side.
database_case <- function() {
  long <- long_data(pick(0, 2, 5, 20, 60))
  data <- long
  keep <- vapply(data, function(x) is.atomic(x) && is.null(dim(x)) && !is.complex(x) && !is.object(x), NA)
  data <- as.data.frame(data)[keep]
  data <- data[!is.na(names(data)) & nzchar(names(data)) & !duplicated(tolower(names(data)))]
  con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  on.exit(DBI::dbDisconnect(con))
  written <- tryCatch(suppressWarnings({
    DBI::dbWriteTable(con, "m", data)
    TRUE
  }), error = function(e) FALSE)
  if (!written) return(character())
  asked <- pick("test_difference", "describe_study", "gauge_effect", "weigh_evidence", "vet_assumptions")
  method <- pick(NULL, "student", "ranks")
  # Without `groups` the direction is that of the first rows here, of the labels there.
  groups <- if (chance(0.9)) rev(attr(long, "groups"))[1:2]
  ask <- function(from) {
    study <- versus(from, mass, group, groups = groups)
    if (asked == "test_difference") test_difference(study, method) else get(asked)(study)
  }
  there <- NULL
  wrong <- judge(function() there <<- ask(dplyr::tbl(con, "m")))
  if (is.null(there) || length(wrong) || asked != "test_difference" || is.null(groups)) return(wrong)
  here <- tryCatch(suppressMessages(suppressWarnings(ask(data))), vandro_error = function(e) NULL)
  if (is.null(here)) return("an answer from the engine, none from the values")
  # Equal means leave the dust of rounding, and a t of that.
  same <- function(name, dust = 0) {
    a <- here$table[[name]]
    b <- there$table[[name]]
    if (is.na(b) || is.na(a)) return(TRUE)
    abs(a - b) <= max(1e-6 * max(abs(a), abs(b), 1e-300), dust)
  }
  c(
    if (!same("statistic", 1e-12)) "statistics of engine and values differ",
    if (here$table$p_kind == there$table$p_kind && !same("p")) "p of engine and values differ"
  )
}
