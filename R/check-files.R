# Files are written whole or not at all, never over another one unasked, and never over what was read.

# What this session knows of files: those it has read, and those that must not be there when they are written.
known_files <- new.env(parent = emptyenv())
known_files$read <- character()
known_files$new <- character()

# A file that was read is raw data: nothing is ever written over it.
note_input <- function(file) known_files$read <- union(known_files$read, normalizePath(file, mustWork = FALSE))

# By whatever name: as a link, or as another entry of the same file.
is_input <- function(file) {
  read <- known_files$read
  normalizePath(file, mustWork = FALSE) %in% read || file_key(file) %in% vapply(read[file.exists(read)], file_key, "")
}

# "file", "folder", "other" (a device or a pipe) or "" where there is nothing.
file_kind <- function(file) native_file_kind(enc2native(file))

# Text to standard output; "" when it arrived, else why not.
put_bytes <- function(lines) {
  flush(stdout())
  native_put_out(unlist(lapply(lines, function(line) c(charToRaw(line), as.raw(10L)))) %||% raw())
}

file_key <- function(file) {
  key <- native_file_key(enc2native(file))
  if (nzchar(key)) key else normalizePath(file, mustWork = FALSE)
}

check_output_path <- function(file, overwrite, arg = rlang::caller_arg(file),
                              call = rlang::caller_env()) {
  file <- file_name(check_text(file, arg = arg, call = call, null = FALSE))
  folder <- dirname(file)
  if (!nzchar(file) || dir.exists(file)) {
    abort_vandro(
      c("{.arg {arg}} must name a file.", "x" = "{.file {file}} is a folder."),
      "output",
      file = file, call = call
    )
  }
  if (!dir.exists(folder)) {
    abort_vandro(
      c(
        "The folder {.file {folder}} does not exist.",
        "i" = "Create it first, or choose another place for {.arg {arg}}."
      ),
      "output",
      file = file, call = call
    )
  }
  if (file_kind(file) == "other") {
    abort_vandro(
      c(
        "{.arg {arg}} must name an ordinary file.", "x" = "{.file {file}} is a device or a pipe.",
        "i" = "At the command line, results without {.code --output} go to standard output."
      ),
      "output",
      file = file, call = call
    )
  }
  if (file.exists(file) && !overwrite) abort_file_exists(file, call)
  if (file.exists(file) && is_input(file)) {
    abort_vandro(
      c(
        "{.file {file}} was read in this session and was left as it is.",
        "i" = "Choose another name: data that were read are never written over."
      ),
      "file_is_input",
      file = file, call = call
    )
  }
  new <- setdiff(known_files$new, file_place(file))
  known_files$new <- if (overwrite) new else c(new, file_place(file))
  file
}

abort_file_exists <- function(file, call) {
  abort_vandro(
    c(
      "{.file {file}} exists already and was left as it is.",
      "i" = "Choose another name, or say {.code overwrite = TRUE} (command line: {.code --force})."
    ),
    "file_exists",
    file = file, call = call
  )
}

# The place of a file that may not be there yet.
file_place <- function(file) file.path(normalizePath(dirname(file), mustWork = FALSE), basename(file))

# Where a link leads: what is written goes there, and the link stays.
link_target <- function(file) {
  for (step in 1:40) {
    to <- Sys.readlink(file)
    if (is.na(to) || !nzchar(to)) return(file)
    file <- if (startsWith(to, "/")) to else file.path(dirname(file), to)
  }
  stop("the name is a link that leads nowhere")
}

# `write` gets the path of a file beside the final one; only when it has succeeded is that renamed.
write_whole <- function(file, write, call = rlang::caller_env()) {
  new <- file_place(file)
  on.exit(known_files$new <- setdiff(known_files$new, new), add = TRUE)
  draft <- NULL
  on.exit(unlink(draft), add = TRUE)
  rlang::try_fetch(
    {
      target <- link_target(file)
      ending <- regmatches(basename(target), regexpr("[.][A-Za-z0-9]+$", basename(target)))
      draft <- draft_name(dirname(target), c(ending, "")[[1]])
      write(draft)
      put_in_place(draft, target, !new %in% known_files$new)
    },
    error = function(parent) {
      if (inherits(parent, "vandro_file_appeared")) abort_file_exists(file, call)
      abort_vandro(
        c("{.file {file}} could not be written; nothing was changed."),
        "output",
        file = file, parent = parent, call = call
      )
    }
  )
  invisible(file)
}

# A file that is replaced keeps its permissions. One that has come into being since the name was checked is not
# replaced: a link cannot be made where there is a file, however late that came.
put_in_place <- function(draft, target, replace) {
  if (replace) {
    if (file.exists(target)) Sys.chmod(draft, file.info(target)$mode, use_umask = FALSE)
  } else {
    if (suppressWarnings(file.link(draft, target))) return(invisible())
    if (file.exists(target)) stop_inside("The file has appeared.", "vandro_file_appeared")
  }
  if (!file.rename(draft, target)) stop("the file could not be renamed")
}

# Drafts carry the machine and process that write them, by which the next run knows those that were left behind.
draft_name <- function(folder, extension = "") {
  clear_drafts(folder)
  tempfile(sprintf("%s%d-", draft_stem(), Sys.getpid()), folder, extension)
}

draft_stem <- function() sprintf(".vandro-%s-", gsub("[^A-Za-z0-9]+", "", Sys.info()[["nodename"]]))

clear_drafts <- function(folder) {
  pattern <- sprintf("^%s([0-9]+)-[0-9a-f]+([.][A-Za-z0-9]+)?$", gsub(".", "[.]", draft_stem(), fixed = TRUE))
  found <- list.files(folder, pattern, all.files = TRUE)
  for (name in found) {
    if (!is_running(as.integer(sub(pattern, "\\1", name)))) unlink(file.path(folder, name), recursive = TRUE)
  }
}

is_running <- function(pid) {
  isTRUE(pid == Sys.getpid()) || dir.exists(file.path("/proc", pid)) || isTRUE(suppressWarnings(tools::pskill(pid, 0)))
}

# Graphics devices do not tell when a disk is full; the end of the file does.
stop_unfinished <- function(file, kind) {
  end <- readBin(file, "raw", file.size(file))
  end <- end[seq_along(end) > length(end) - 16]
  if (length(grepRaw(c(png = "IEND", svg = "</svg>", pdf = "%%EOF")[[kind]], end, fixed = TRUE)) == 0) {
    stop("the figure ends before its end: is the disk full?")
  }
}

# A folder that is made beside the final one and takes its place whole; `check` looks once more at what is replaced.
# While the two change places a lock beside them keeps others out. It names the old folder, so that the next run can
# bring that back after one that was killed in between.
write_whole_folder <- function(folder, write, call = rlang::caller_env(), check = function() NULL) {
  recover_folder(folder)
  draft <- NULL
  on.exit(unlink(draft, recursive = TRUE), add = TRUE)
  rlang::try_fetch(
    {
      draft <- draft_name(dirname(folder))
      dir.create(draft)
      write(draft)
      lock <- take_lock(folder)
      on.exit(unlink(lock, recursive = TRUE), add = TRUE)
      check()
      if (!file.exists(folder)) {
        if (!file.rename(draft, folder)) stop("the folder could not be renamed")
      } else {
        change_places(draft, folder, lock)
      }
    },
    error = function(parent) {
      if (inherits(parent, "vandro_error_file_exists")) return(rlang::zap())
      abort_vandro(
        c("The folder {.file {folder}} could not be written."), "output",
        file = folder, parent = parent, call = call
      )
    }
  )
  invisible(folder)
}

change_places <- function(draft, folder, lock) {
  aside <- draft_name(dirname(folder))
  writeLines(basename(aside), file.path(lock, "aside"))
  if (!file.rename(folder, aside)) stop("the folder that is there could not be moved")
  if (!file.rename(draft, folder)) {
    file.rename(aside, folder)
    stop("the folder could not be renamed")
  }
  unlink(aside, recursive = TRUE)
}

lock_of <- function(folder) file.path(dirname(folder), paste0(".", basename(folder), "-vandro-lock"))

# Only one process at a time can make the folder of the lock.
take_lock <- function(folder) {
  lock <- lock_of(folder)
  for (wait in 1:100) {
    if (dir.create(lock, showWarnings = FALSE)) {
      writeLines(c(draft_stem(), Sys.getpid()), file.path(lock, "owner"))
      return(lock)
    }
    recover_folder(folder)
    Sys.sleep(0.1)
  }
  stop(sprintf("another run is writing it: %s is there", basename(lock)))
}

# After a process that was killed between the two renames the old folder comes back, or goes where the new one is there.
recover_folder <- function(folder) {
  lock <- lock_of(folder)
  if (!file.exists(file.path(lock, "owner"))) return(invisible())
  owner <- readLines(file.path(lock, "owner"), warn = FALSE)
  if (length(owner) != 2 || owner[[1]] != draft_stem() || is_running(as.integer(owner[[2]]))) return(invisible())
  named <- file.path(lock, "aside")
  aside <- if (file.exists(named)) file.path(dirname(folder), basename(readLines(named)[[1]]))
  if (!is.null(aside) && dir.exists(aside)) {
    if (file.exists(folder)) unlink(aside, recursive = TRUE) else file.rename(aside, folder)
  }
  unlink(lock, recursive = TRUE)
  invisible()
}

write_whole_text <- function(file, lines, call = rlang::caller_env()) {
  write_whole(file, function(draft) put_text(draft, lines), call = call)
}

# What a full disk keeps from being written is not always told before the file is closed.
put_text <- function(draft, lines) {
  lines <- enc2utf8(lines)
  connection <- file(draft, open = "wb")
  tryCatch(writeLines(lines, connection, useBytes = TRUE), finally = suppressWarnings(close(connection)))
  if (file.size(draft) < sum(nchar(lines, "bytes") + 1)) stop("only a part could be written: is the disk full?")
}

# Returns the path relative to a folder: "../data/seedlings.csv".
path_from <- function(path, folder) {
  parts <- function(x) strsplit(normalizePath(x, winslash = "/", mustWork = FALSE), "/", fixed = TRUE)[[1]]
  path <- parts(path)
  folder <- parts(folder)
  shared <- 0
  while (shared < min(length(path) - 1, length(folder)) && path[[shared + 1]] == folder[[shared + 1]]) {
    shared <- shared + 1
  }
  if (shared <= 1) return(paste(path, collapse = "/"))
  paste(c(rep("..", length(folder) - shared), path[-seq_len(shared)]), collapse = "/")
}

file_ending <- function(file) tolower(sub("^.*[.]", "", basename(file)))
