# Documents as a reader would follow them: every block of code in order, in one fresh session.

# Fenced blocks of a Markdown file. A line "<!-- not run: reason -->" above a block says why a test cannot run it.
document_blocks <- function(file) {
  lines <- readLines(file, encoding = "UTF-8", warn = FALSE)
  fence <- grep("^```", lines)
  stopifnot(length(fence) %% 2 == 0)
  lapply(split(fence, (seq_along(fence) - 1) %/% 2), function(ends) {
    head <- sub("^```", "", lines[[ends[[1]]]])
    above <- if (ends[[1]] > 1) lines[[ends[[1]] - 1]] else ""
    list(
      language = sub("^\\{?([a-z]*).*$", "\\1", head), line = ends[[1]],
      lines = lines[seq_len(ends[[2]] - ends[[1]] - 1) + ends[[1]]], may_stop = grepl("error *= *TRUE", head),
      run = !grepl("eval *= *FALSE", head) && !grepl("^<!-- not run: .+ -->$", above)
    )
  })
}

# Code up to each run of "#> " lines, with these lines as what it must print.
block_segments <- function(block) {
  shown <- grepl("^#>", block$lines)
  part <- cumsum(c(TRUE, utils::head(shown, -1) & !utils::tail(shown, -1)))
  lapply(unname(split(seq_along(shown), part)), function(at) {
    list(
      language = block$language, line = block$line, may_stop = block$may_stop, code = block$lines[at][!shown[at]],
      shown = sub("^#> ?", "", block$lines[at][shown[at]])
    )
  })
}

# Runs a document in a folder with the shipped files; one list per segment, with what it printed and its error, if any.
run_document <- function(file) {
  blocks <- Filter(function(block) block$run && block$language %in% c("r", "sh", "yaml"), document_blocks(file))
  segments <- unlist(lapply(blocks, block_segments), recursive = FALSE, use.names = FALSE)
  folder <- withr::local_tempdir()
  file.copy(list.files(system.file("extdata", package = "vandro"), full.names = TRUE), folder)
  command <- file.path(folder, "bin")
  dir.create(command)
  file.symlink(system.file("exec", "vandro", package = "vandro"), file.path(command, "vandro"))
  saveRDS(segments, file.path(folder, "segments.rds"))
  script <- file.path(folder, "run.R")
  writeLines(deparse(bquote({
    options(width = 80)
    grDevices::pdf(NULL)
    segments <- readRDS("segments.rds")
    # What figures in files look like is the matter of other tests.
    utils::assignInNamespace("draw_fitted", function(fitted) grid::grid.newpage(), "vandro")
    follow <- function(segment) {
      if (segment$language == "yaml") return(writeLines(segment$code, "plan.yaml", useBytes = TRUE))
      if (segment$language == "r") {
        source(exprs = parse(text = segment$code, encoding = "UTF-8"), local = globalenv(), print.eval = TRUE)
        return(invisible())
      }
      writeLines(c("set -e", segment$code), "block.sh", useBytes = TRUE)
      said <- suppressWarnings(system2("bash", "block.sh", stdout = TRUE, stderr = TRUE))
      if (!is.null(attr(said, "status"))) stop(paste(utils::tail(said, 6), collapse = "\n"))
    }
    done <- lapply(segments, function(segment) {
      error <- NULL
      printed <- utils::capture.output(tryCatch(follow(segment), error = function(e) error <<- conditionMessage(e)))
      list(printed = printed, error = error)
    })
    saveRDS(done, .(file.path(folder, "done.rds")))
  })), script)
  withr::local_dir(folder)
  withr::local_envvar(
    R_LIBS = paste(.libPaths(), collapse = .Platform$path.sep), TZ = "UTC",
    PATH = paste(command, Sys.getenv("PATH"), sep = .Platform$path.sep)
  )
  log <- suppressWarnings(system2(
    file.path(R.home("bin"), "Rscript"), c("--vanilla", "run.R"), stdout = TRUE, stderr = TRUE
  ))
  done <- file.path(folder, "done.rds")
  if (!file.exists(done)) stop(file, " broke off: ", paste(utils::tail(log, 5), collapse = "\n"))
  Map(c, segments, readRDS(done))
}

# What does not hold of a document: blocks that stop, output that is not the one shown. Empty where all is well.
document_faults <- function(file) {
  unlist(lapply(run_document(file), function(segment) {
    at <- sprintf("%s:%d", basename(file), segment$line)
    if (!is.null(segment$error) && !segment$may_stop) return(paste(at, "stops:", segment$error))
    if (length(segment$shown) && !identical(trimws(segment$shown, "right"), trimws(segment$printed, "right"))) {
      return(paste(c(paste(at, "prints:"), segment$printed), collapse = "\n"))
    }
  }))
}
