# The stories that come with the package, from file to paragraph.
examples <- list.files(system.file("examples", package = "vandro"), "[.]R$", full.names = TRUE)

test_that("there is one for every kind of study", {
  expect_setequal(
    sub("[.]R$", "", basename(examples)),
    c("independent", "pairs", "summaries", "tiny", "equivalence", "scores", "plan")
  )
})

# Takes seconds: seven analyses from file to report, one of them drawn.
test_that("every story runs and ends in a paragraph, a figure and a report", {
  for (file in examples) {
    frame <- new.env()
    # One of them draws its figures; the others write them empty.
    follow <- function() suppressMessages(source(file, local = frame, print.eval = TRUE))
    out <- utils::capture.output(if (basename(file) == "pairs.R") follow() else with_blank_figures(follow()))
    expect_gt(length(out), 20)
    expect_false(any(grepl("\\bNaN\\b", out)))
    paragraph <- paste(readLines(file.path(frame$folder, "paragraph.txt")), collapse = " ")
    expect_gt(nchar(paragraph), 150)
    written <- list.files(frame$folder, recursive = TRUE)
    expect_true(any(grepl("report[.]html$", written)), label = basename(file))
    expect_true(any(grepl("[.](pdf|png)$", written)), label = basename(file))
    unlink(frame$folder, recursive = TRUE)
  }
})
