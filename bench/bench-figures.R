# This benchmark compares figures and reports with ggplot2's own drawing of the same plots.
source("bench/helper.R")
library(vandro)

study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm", label = "Stem height")
pairs <- versus_paired(conductance, noon, dawn, unit = "mmol")
plots <- list(
  autoplot(study), autoplot(study, view = "points"), autoplot(pairs, view = "pairs"), autoplot(cross_check(study)),
  autoplot(test_equivalence(study, 5, reason = "a shelf")), autoplot(weigh_evidence(study), view = "posterior")
)
# The list contains twenty plots.
plots <- rep_len(plots, 20)
file <- tempfile(fileext = ".svg")
own <- function() {
  for (plot in plots) {
    svglite::svglite(file, 6.5, 4)
    grid::grid.draw(ggplot2::ggplot_gtable(ggplot2::ggplot_build(plot)))
    grDevices::dev.off()
  }
}
side_by_side(
  "20 figures, SVG",
  "ggplot2 alone" = own,
  "save_figure()" = function() for (plot in plots) save_figure(plot, file, columns = 2, overwrite = TRUE),
  rounds = 3
)

# These tasks are whole processes, including the start of R.
run <- function(code) function() system2(file.path(R.home("bin"), "Rscript"), c("--vanilla", "-e", shQuote(code)))
page <- tempfile(fileext = ".html")
folder <- tempfile()
declared <- "library(vandro); s <- versus(seedlings, height, substrate, groups = c(\"compost\", \"peat\")); "
side_by_side(
  "from the start of R",
  "three plots by ggplot2 alone, not saved" = run(paste0(
    declared, "grDevices::pdf(NULL); for (v in c(\"difference\", \"points\", \"means\")) ",
    "grid::grid.draw(ggplot2::ggplot_gtable(ggplot2::ggplot_build(autoplot(s, view = v))))"
  )),
  "write_report() of one study" = run(sprintf("%swrite_report(s, \"%s\", overwrite = TRUE)", declared, page)),
  "the shipped plan" = run(sprintf(paste(
    "library(vandro); r <- run_plan(system.file(\"examples\", \"plan.yaml\", package = \"vandro\"), \"%s\",",
    "overwrite = TRUE, quiet = TRUE)"
  ), folder)),
  rounds = 3
)
