# These matrices simulate readers who lack cones of one kind (Machado, Oliveira & Fernandes 2009).
cones <- list(
  all = diag(3),
  long = rbind(c(0.152286, 1.052583, -0.204868), c(0.114503, 0.786281, 0.099216), c(-0.003882, -0.048116, 1.051998)),
  middle = rbind(c(0.367322, 0.860646, -0.227968), c(0.280085, 0.672501, 0.047413), c(-0.01182, 0.04294, 0.968881)),
  short = rbind(c(1.255528, -0.076749, -0.178779), c(-0.078411, 0.930809, 0.147602), c(0.004733, 0.691367, 0.3039))
)

# Returns CIE Lab coordinates, with a row for each colour.
seen_colours <- function(colours, kind) {
  x <- t(grDevices::col2rgb(colours)) / 255
  light <- ifelse(x <= 0.04045, x / 12.92, ((x + 0.055) / 1.055)^2.4) %*% t(cones[[kind]])
  light <- pmin(pmax(light, 0), 1)
  shown <- ifelse(light <= 0.0031308, 12.92 * light, 1.055 * light^(1 / 2.4) - 0.055)
  grDevices::convertColor(shown, "sRGB", "Lab")
}

test_that("colours are told apart by colour-blind readers, and pairs of them in grey", {
  methods <- vapply(method_entries, function(entry) entry$colour, "")
  sets <- list(group_colours, meaning_colours, verdict_colours, unique(methods))
  for (set in sets) for (kind in names(cones)) expect_gt(min(dist(seen_colours(set, kind))), 15)
  for (set in sets[1:2]) expect_gt(abs(diff(seen_colours(set, "all")[, 1])), 20)
  # Teal and orange belong to the groups.
  expect_identical(intersect(group_colours, c(meaning_colours, verdict_colours, methods, neutral)), character())
})

test_that("a figure fits its text to the device that it is printed on", {
  figure <- autoplot(height_study(c("compost", "peat")), title = strrep("words of a long title ", 8))
  lines_on <- function(width) {
    withr::local_pdf(NULL, width = width, height = 5)
    print(figure)
    drawn <- grid::grid.ls(grid::grid.force(), print = FALSE)$name
    texts <- lapply(unique(drawn), function(name) tryCatch(grid::grid.get(name)$label, error = function(e) NULL))
    texts <- unlist(Filter(is.character, texts))
    title <- texts[startsWith(texts, "words of")]
    lengths(strsplit(title, "\n", fixed = TRUE))
  }
  expect_lt(lines_on(16), lines_on(4))
  expect_s3_class(figure + ggplot2::labs(x = "cm"), "vandro_figure")
  file <- withr::local_tempfile(fileext = ".png")
  suppressMessages(ggplot2::ggsave(file, figure, width = 4, height = 3))
  expect_gt(file.size(file), 1000)
})
