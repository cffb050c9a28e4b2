# Size of a PNG in points, and the density it is to be printed at.
png_size <- function(file) {
  bytes <- as.integer(readBin(file, "raw", 32))
  number <- function(at) sum(bytes[at + 0:3] * 256^(3:0))
  c(number(17), number(21))
}

# Takes seconds: figures are drawn as PDF, SVG and PNG.
test_that("figures have the size in which they are printed, in every kind of file", {
  folder <- withr::local_tempdir()
  path <- function(name) file.path(folder, name)
  study <- height_study()
  save_figure(study, path("one.png"))
  expect_equal(png_size(path("one.png"))[[1]], 85 / 25.4 * 300, tolerance = 0.002)
  save_figure(study, path("two.png"), columns = 2, dpi = 100)
  expect_equal(png_size(path("two.png"))[[1]], 174 / 25.4 * 100, tolerance = 0.002)
  save_figure(study, path("own.png"), width = 120, height = 60, dpi = 100)
  expect_equal(png_size(path("own.png")), c(120, 60) / 25.4 * 100, tolerance = 0.005)
  expect_identical(save_figure(study, path("a.svg"), view = "points"), path("a.svg"))
  svg <- readLines(path("a.svg"), encoding = "UTF-8")
  expect_match(svg, "<svg .*width='240.94pt'.* role='img'>", all = FALSE)
  expect_match(svg, "<title>.*compost.*</title>", all = FALSE)
  expect_no_match(svg, "id=\"surface")
  save_figure(test_difference(study), path("a.pdf"), view = "paper")
  head <- rawToChar(readBin(path("a.pdf"), "raw", 5))
  expect_identical(head, "%PDF-")
})

# Takes seconds: figures are drawn as PDF, SVG and PNG, twice each.
test_that("the same figure is the same file, and labels cannot break it", {
  folder <- withr::local_tempdir()
  path <- function(name) file.path(folder, name)
  hostile <- versus(seedlings, height, substrate, groups = c("compost", "peat"), label = "<b>&\"@alt@</title>")
  for (kind in c("svg", "pdf", "png")) {
    for (i in 1:2) save_figure(hostile, path(paste0(i, ".", kind)))
    files <- path(paste0(1:2, ".", kind))
    expect_identical(unname(tools::md5sum(files[[1]])), unname(tools::md5sum(files[[2]])), label = kind)
  }
  svg <- paste(readLines(path("1.svg"), encoding = "UTF-8"), collapse = "\n")
  expect_match(svg, "&lt;b&gt;&amp;\"@alt@&lt;/title&gt;", fixed = TRUE)
  expect_length(gregexpr("</title>", svg, fixed = TRUE)[[1]], 1)
})

test_that("nothing that exists is replaced unasked, and nothing half-written stays", {
  folder <- withr::local_tempdir()
  file <- file.path(folder, "f.png")
  writeLines("mine", file)
  expect_error(save_figure(height_study(), file), class = "vandro_error_file_exists")
  expect_identical(readLines(file), "mine")
  broken <- ggplot2::ggplot() + ggplot2::geom_point(ggplot2::aes(x = .data$nowhere, y = 1), data.frame(a = 1))
  expect_error(save_figure(broken, file, overwrite = TRUE), class = "vandro_error_output")
  expect_identical(readLines(file), "mine")
  expect_identical(list.files(folder, all.files = TRUE, no.. = TRUE), "f.png")
  expect_null(grDevices::dev.list())
  save_figure(height_study(), file, overwrite = TRUE)
  expect_gt(file.size(file), 1000)
})

test_that("what cannot be saved says why", {
  study <- height_study()
  refused(
    output = save_figure(study, "f.bmp"), output = save_figure(study, file.path("nowhere", "f.png")),
    not_an_answer = save_figure(seedlings, "f.png"), bad_value = save_figure(study, "f.png", columns = 3),
    bad_value = save_figure(study, "f.png", dpi = 1), needs_pairs = save_figure(study, "f.png", view = "pairs")
  )
  expect_error(save_figure(autoplot(study), "f.png", view = "points"), class = "vandro_error_unknown_argument")
})

test_that("a figure with many rows or much text is taller, and pages stack where they are narrow", {
  one <- fit_figure(autoplot(height_study(), base_size = 8), 3.35)$height
  many <- fit_figure(autoplot(cross_check(plots_study(), flagged = "both"), base_size = 8), 3.35)$height
  expect_gt(many, one)
  long <- height_study(c("compost", "peat"))
  long$groups <- paste(long$groups, strrep(" of a garden far away", 4))
  expect_gt(fit_figure(autoplot(long, base_size = 8), 3.35)$height, one)
  page <- autoplot(vet_assumptions(height_study()), base_size = 8)
  expect_gt(fit_figure(page, 3.35)$height, fit_figure(page, 6.85)$height)
  expect_null(grDevices::dev.list())
  expect_length(page_rows(page, 240)$rows, 2)
  expect_length(page_rows(page, 500)$rows, 1)
})

test_that("the device that was current is so afterwards", {
  folder <- withr::local_tempdir()
  for (k in 1:2) grDevices::pdf(file.path(folder, paste0(k, ".pdf")))
  open <- grDevices::dev.list()
  withr::defer(for (device in open) grDevices::dev.off(device))
  grDevices::dev.set(open[[1]])
  for (ending in figure_endings) save_figure(height_study(), file.path(folder, paste0("a.", ending)))
  expect_identical(grDevices::dev.cur(), open[1])
  expect_identical(grDevices::dev.list(), open)
})
