# Figures to files, in the sizes that journals print.

#' Save a figure for a paper
#'
#' Draws the figure of a study or an answer again in the size in which it will be printed, so that its text has the
#' right size there, and writes it whole or not at all. A file that exists is replaced only if that is asked for.
#'
#' @param x A study, an answer, or a figure that [autoplot()] made (which keeps its text sizes).
#' @param file File to write, ending in `.pdf`, `.svg` or `.png`.
#' @param ... Passed to [autoplot()]: `view`, `outcome`, `title`, `caption`, `palette`, `base_size`, ... Not for figures
#'   that are made already.
#' @param columns Width as columns of a page: 1 (85 mm, text of 8 points) or 2 (174 mm, text of 9 points).
#' @param width,height Size in millimetres, instead. A height left out suits the figure.
#' @param dpi Points per inch of `.png`.
#' @param overwrite `TRUE` replaces a file that exists.
#' @return `file`, invisibly.
#' @section Files: PDF files contain their fonts. SVG files contain their text as text, and a text alternative
#'   (`<title>`) that screen readers read aloud. Saving the same figure twice gives identical files.
#' @section Colours: The two colours of groups differ in lightness and the groups in shape, so that figures can be read
#'   in grey and by colour-blind readers; `palette = c("black", "grey60")` prints in grey from the start.
#' @section Errors: `vandro_error_file_exists`, `vandro_error_file_is_input` (the file was read in this session),
#'   `vandro_error_output`, `vandro_error_bad_value`, and those of [autoplot()].
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' save_figure(test_difference(study), tempfile(fileext = ".pdf"), view = "paper")
#' save_figure(study, tempfile(fileext = ".png"), columns = 2, view = "points", dpi = 600)
#' @export
save_figure <- function(x, file, ..., columns = 1, width = NULL, height = NULL, dpi = 300, overwrite = FALSE) {
  check_supplied(x)
  check_supplied(file)
  check_flag(overwrite)
  file <- check_figure_path(file, overwrite)
  size <- figure_size(columns, width, height)
  dpi <- check_number(dpi, 30, 2400)
  figure <- if (is_figure(x)) {
    refuse_more(...)
    x
  } else {
    check_drawable(x)
    look <- list(...)
    look$base_size <- look$base_size %||% house_look("base_size") %||% size$base_size
    rlang::inject(autoplot(x, !!!look))
  }
  width <- size$width / 25.4
  write_whole(file, function(draft) {
    fitted <- fit_figure(figure, width, file_ending(draft))
    draw_file(fitted, draft, width, if (is.null(size$height)) fitted$height else size$height / 25.4, dpi)
  })
}

is_figure <- function(x) inherits(x, c("ggplot", "vandro_page"))

figure_endings <- c("pdf", "svg", "png")

check_figure_path <- function(file, overwrite, arg = "file", call = rlang::caller_env()) {
  file <- check_output_path(file, overwrite, arg = arg, call = call)
  if (file_ending(file) %in% figure_endings) return(file)
  abort_ending(file, figure_endings, arg, call)
}

abort_ending <- function(file, endings, arg, call) {
  wanted <- cli::cli_vec(paste0(".", endings), list("vec-last" = " or "))
  abort_vandro(
    c("{.arg {arg}} must end in {.val {wanted}}.", "x" = "It is {.file {file}}."), "output",
    file = file, call = call
  )
}

check_drawable <- function(x, call = rlang::caller_env()) {
  if (inherits(x, c("vandro_study", "vandro_answer"))) return(invisible())
  found <- class(x)[[1]]
  abort_vandro(
    c(
      "{.arg x} must be a study, an answer, or a figure of {.fn autoplot}.", "x" = "It is of type {.cls {found}}.",
      "i" = "Declare a comparison with {.fn versus} first."
    ),
    "not_an_answer",
    call = call
  )
}

# In millimetres, with the text size that suits them.
figure_size <- function(columns, width, height, call = rlang::caller_env()) {
  widths <- c(85, 174)
  columns <- check_whole(columns, 1, 2, call = call)
  width <- if (is.null(width)) widths[[columns]] else check_millimetres(width, 40, 1000, call)
  if (!is.null(height)) height <- check_number(height, 30, 1000, call = call)
  list(width = width, height = height, base_size = if (width < 120) 8 else 9)
}

# A width that is too small for millimetres is one in inches.
check_millimetres <- function(width, low, high, call) {
  if (is.numeric(width) && length(width) == 1 && isTRUE(width >= low / 25.4 && width < low)) {
    abort_vandro(
      c(
        "{.arg width} is in millimetres, from {low} to {high}.", "x" = "It is {width}.",
        "i" = "For {width} inches write {.code width = {round(25.4 * width)}}."
      ),
      "bad_value",
      arg = "width", call = call
    )
  }
  check_number(width, low, high, arg = "width", call = call)
}

draw_file <- function(fitted, file, width, height, dpi = 300) {
  current <- grDevices::dev.cur()
  open_device(file, width, height, dpi)
  device <- grDevices::dev.cur()
  tryCatch(draw_fitted(fitted), finally = close_device(device, current))
  kind <- file_ending(file)
  if (kind == "svg") finish_svg(file, fitted$figure$labels$alt)
  if (kind == "pdf") finish_pdf(file)
  stop_unfinished(file, kind)
}

# Two processes draw figures if the session is not interactive. A fork of an interactive session would share its
# windows.
on_two_cores <- function(jobs, work) {
  alone <- interactive() || .Platform$OS.type != "unix" || length(jobs) < 2 || isTRUE(parallel::detectCores() < 2)
  if (alone) return(lapply(jobs, work))
  done <- suppressWarnings(parallel::mclapply(jobs, work, mc.cores = 2, mc.set.seed = FALSE))
  failed <- vapply(done, function(x) is.null(x) || inherits(x, "try-error"), NA)
  # Jobs that failed in a fork run again here, so that their errors appear.
  done[failed] <- lapply(jobs[failed], work)
  done
}

draw_fitted <- function(fitted) {
  if (is.null(fitted$grob)) return(print(fitted$figure))
  grid::grid.newpage()
  grid::grid.draw(fitted$grob)
}

# Adds the text alternative and fallback fonts, and removes marks that are covered.
finish_svg <- function(file, alt) {
  text <- without_covered(readLines(file, encoding = "UTF-8"))
  text <- gsub("(font-family: \"[^\"]*\");", "\\1, Arial, Helvetica, sans-serif;", text)
  if (!is.null(alt)) {
    at <- grep("^<svg ", text)[[1]]
    text[[at]] <- sub("(<svg [^>]*)>", "\\1 role='img'>", text[[at]])
    text <- append(text, sprintf("<title>%s</title>", escaped_text(enc2utf8(alt))), at)
  }
  connection <- file(file, "wb")
  on.exit(close(connection))
  writeLines(text, connection, useBytes = TRUE)
}

escaped_text <- function(text) {
  gsub(">", "&gt;", gsub("<", "&lt;", gsub("&", "&amp;", text, fixed = TRUE), fixed = TRUE), fixed = TRUE)
}

# If opaque marks lie within a quarter of a point of each other, only one of them can be seen. Removing the others keeps
# figures of thousands of values small.
without_covered <- function(lines) {
  mark <- grepl("^<circle cx='[-0-9.]+' cy='[-0-9.]+'", lines) & !grepl("opacity", lines, fixed = TRUE)
  if (sum(mark) < 500) return(lines)
  place <- function(name) {
    value <- as.numeric(sub(sprintf("^.* %s='([-0-9.]+)'.*$", name), "\\1", lines[mark]))
    round(4 * value)
  }
  look <- sub("^<circle cx='[-0-9.]+' cy='[-0-9.]+'", "", lines[mark])
  # Within a layer the last mark lies on top.
  layer <- cumsum(!mark)[mark]
  covered <- duplicated(paste(layer, place("cx"), place("cy"), look), fromLast = TRUE)
  lines[setdiff(seq_along(lines), which(mark)[covered])]
}

# The same figure, the same file: the time of writing, as long as before, becomes a fixed one.
finish_pdf <- function(file) {
  bytes <- readBin(file, "raw", file.size(file))
  at <- grepRaw("/CreationDate \\(D:[0-9]{14}", bytes)
  if (length(at)) {
    bytes[at + 16 + seq_len(14)] <- charToRaw("20000101000000")
    writeBin(bytes, file)
  }
}
