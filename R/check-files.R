# Files are written whole or not at all, and never over another one unasked.

check_output_path <- function(file, overwrite, arg = rlang::caller_arg(file),
                              call = rlang::caller_env()) {
  file <- check_text(file, arg = arg, call = call, null = FALSE)
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
  if (file.exists(file) && !overwrite) {
    abort_vandro(
      c(
        "{.file {file}} exists already and was left as it is.",
        "i" = "Choose another name, or say {.code overwrite = TRUE} (command line: {.code --force})."
      ),
      "file_exists",
      file = file, call = call
    )
  }
  file
}

# `write` gets the path of a file beside the final one; only when it has succeeded is that renamed.
write_whole <- function(file, write, call = rlang::caller_env()) {
  extension <- sub("^.*([.][^./\\\\]*)$", "\\1", basename(file))
  draft <- tempfile(".vandro-", dirname(file), fileext = extension)
  on.exit(unlink(draft), add = TRUE)
  rlang::try_fetch(
    {
      write(draft)
      if (!file.rename(draft, file)) stop("the file could not be renamed")
    },
    error = function(parent) {
      abort_vandro(
        c("{.file {file}} could not be written; nothing was changed."),
        "output",
        file = file, parent = parent, call = call
      )
    }
  )
  invisible(file)
}

# Graphics devices do not tell when a disk is full; the end of the file does.
stop_unfinished <- function(file, kind) {
  end <- readBin(file, "raw", file.size(file))
  end <- end[seq_along(end) > length(end) - 16]
  if (length(grepRaw(c(png = "IEND", svg = "</svg>", pdf = "%%EOF")[[kind]], end, fixed = TRUE)) == 0) {
    stop("the figure ends before its end: is the disk full?")
  }
}

# A folder that is made beside the final one and takes its place whole. Whoever is killed between the two renames leaves
# the old one under a name from which recover_folder() fetches it.
write_whole_folder <- function(folder, write, call = rlang::caller_env()) {
  recover_folder(folder)
  draft <- tempfile(".vandro-", dirname(folder))
  on.exit(unlink(draft, recursive = TRUE), add = TRUE)
  rlang::try_fetch(
    {
      dir.create(draft)
      write(draft)
      aside <- folder_aside(folder)
      replaces <- file.exists(folder)
      if (replaces && !file.rename(folder, aside)) stop("the folder that is there could not be moved")
      if (!file.rename(draft, folder)) {
        if (replaces) file.rename(aside, folder)
        stop("the folder could not be renamed")
      }
      unlink(aside, recursive = TRUE)
    },
    error = function(parent) {
      abort_vandro(
        c("The folder {.file {folder}} could not be written."), "output",
        file = folder, parent = parent, call = call
      )
    }
  )
  invisible(folder)
}

folder_aside <- function(folder) file.path(dirname(folder), paste0(".", basename(folder), "-before"))

recover_folder <- function(folder) {
  aside <- folder_aside(folder)
  if (!dir.exists(aside)) return(invisible())
  # Where the new one is in place only the removal of the old one is left to do.
  if (file.exists(folder)) unlink(aside, recursive = TRUE) else file.rename(aside, folder)
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
