# Random cases at the public interface. From the project's root, after `make install`:
#   Rscript validation/fuzz/run.R [cases] [seed] [cores]     100000 cases take an hour on two cores
#   Rscript validation/fuzz/run.R case 4711 [seed]           one of them again
# Every case has a random stream of its own; what went wrong is listed with the number to run again. A case that takes
# longer than a minute, or its process with it, counts as a hang or a crash.
suppressMessages(library(vandro))
# Classes whose operators come from it behave alike in every case, also in one that is run again alone.
invisible(requireNamespace("vctrs", quietly = TRUE))
here <- dirname(sub("^--file=", "", grep("^--file=", commandArgs(), value = TRUE)[[1]]))
for (part in c("generators.R", "oracle.R", "cases.R", "cases-files.R", "cases-session.R")) source(file.path(here, part))
# Whether progress is shown depends on how busy the machine is.
options(cli.num_colors = 1, warn = 1, cli.progress_show_after = 1e6)
Sys.setenv(TZ = "UTC")

run_case <- function(i, seed) {
  set.seed(seed + i)
  kind <- sample(names(kinds), 1, prob = kind_weights)
  # Seconds of work, not of waiting: a busy machine is nobody's fault.
  began <- sum(proc.time()[1:2])
  wrong <- tryCatch(kinds[[kind]](), error = function(e) paste("the case itself broke:", conditionMessage(e)))
  took <- sum(proc.time()[1:2]) - began
  list(kind = kind, wrong = unlist(wrong), took = took, answered = last_outcome$answered)
}

arguments <- commandArgs(trailingOnly = TRUE)
if (identical(arguments[1], "case")) {
  print(run_case(as.integer(arguments[[2]]), as.integer(c(arguments[-(1:2)], 20261128)[[1]])))
  quit(save = "no")
}
cases <- as.integer(c(arguments, 100000)[[1]])
seed <- as.integer(c(arguments[-1], 20261128)[[1]])
cores <- as.integer(c(arguments[-(1:2)], parallel::detectCores())[[1]])

share <- 500
starts <- seq(1, cases, by = share)
progress <- tempfile("share")
run_share <- function(start) {
  file <- paste0(progress, start)
  quiet <- file(nullfile(), "w")
  sink(quiet)
  sink(quiet, type = "message")
  out <- lapply(start:min(cases, start + share - 1), function(i) {
    cat(i, file = file)
    found <- run_case(i, seed)
    c(list(case = i), found)
  })
  sink(type = "message")
  sink()
  close(quiet)
  out
}

# Shares in processes of their own, and a watch on each: one that stays at the same case for a minute is ended.
running <- list()
problems <- list()
began <- Sys.time()
# Told at once, one of each kind: a whole run takes an hour.
kinds_told <- character()
note <- function(problem) {
  problems[[length(problems) + 1]] <<- problem
  alike <- substr(gsub("[0-9.e+-]+", "#", problem$what), 1, 100)
  if (alike %in% kinds_told) return(invisible())
  kinds_told <<- c(kinds_told, alike)
  cat(sprintf("case %s (%s): %s\n", problem$case, problem$kind, substr(problem$what, 1, 300)))
}
take <- function(found) {
  for (one in found) {
    tally[[one$kind]] <<- tally[[one$kind]] + 1
    answered <<- answered + isTRUE(one$answered)
    for (what in one$wrong) note(list(case = one$case, kind = one$kind, what = what))
    if (one$took > 15) note(list(case = one$case, kind = one$kind, what = sprintf("took %.0f s", one$took)))
  }
}
tally <- stats::setNames(numeric(length(kinds)), names(kinds))
answered <- 0
while (length(starts) || length(running)) {
  while (length(starts) && length(running) < cores) {
    start <- starts[[1]]
    starts <- starts[-1]
    job <- local({
      start <- start
      parallel::mcparallel(run_share(start), silent = TRUE)
    })
    running[[as.character(job$pid)]] <- list(job = job, start = start)
  }
  done <- parallel::mccollect(lapply(running, `[[`, "job"), wait = FALSE, timeout = 2)
  for (pid in names(done)) {
    if (!is.list(done[[pid]])) {
      at <- readLines(paste0(progress, running[[pid]]$start), warn = FALSE)
      note(list(case = at, kind = "?", what = paste("the process ended:", format(done[[pid]])[[1]])))
    } else {
      take(done[[pid]])
    }
    running[[pid]] <- NULL
  }
  for (pid in names(running)) {
    file <- paste0(progress, running[[pid]]$start)
    if (!file.exists(file) || difftime(Sys.time(), file.mtime(file), units = "secs") < 60) next
    note(list(case = readLines(file, warn = FALSE), kind = "?", what = "hangs"))
    tools::pskill(as.integer(pid), tools::SIGKILL)
    running[[pid]] <- NULL
  }
}
cat(sprintf(
  "%d cases in %.0f s, %.0f %% with an answer, the others refused: %s\n", sum(tally),
  as.numeric(difftime(Sys.time(), began, units = "secs")), 100 * answered / sum(tally),
  paste(names(tally), tally, collapse = ", ")
))
bad <- unique(vapply(problems, function(p) as.character(p$case), ""))
if (length(bad)) cat(sprintf("%d problems, %d kinds; cases: %s\n", length(problems), length(kinds_told), toString(bad)))
cat(sprintf("%d passed, %d failed\n", as.integer(sum(tally) - length(bad)), length(bad)))
quit(save = "no", status = length(problems) > 0)
