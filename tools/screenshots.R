# Makes the pictures of docs/screenshots/ from the demo data, at about 1280 x 800, and writes down what they show.
# Run after `make install`: Rscript tools/screenshots.R (pages need Chromium).
# With "check" nothing is drawn: the script fails if a picture would show something else today.
library(vandro)
folder <- "docs/screenshots"
check <- "check" %in% commandArgs(trailingOnly = TRUE)

# What a picture shows: rounded numbers and text of every layer, or the text of a page. Fonts and pixels do not matter.
shown <- list()
numbers_of <- function(x) if (is.numeric(x)) format(signif(unclass(x), 6)) else if (is.atomic(x)) as.character(x)
layers_of <- function(object) {
  if (inherits(object, "vandro_page")) return(lapply(object$plots, layers_of))
  if (!inherits(object, "ggplot")) return(layers_of(autoplot(object)))
  built <- ggplot2::ggplot_build(object)
  labels <- Filter(is.character, as.list(object$labels)[c("title", "subtitle", "caption", "x", "y", "alt")])
  list(labels, lapply(built$data, function(layer) lapply(layer[setdiff(names(layer), "PANEL")], numbers_of)))
}
note <- function(name, ...) {
  if (is.null(shown[[name]])) shown[[name]] <<- rlang::hash(lapply(list(...), layers_of))
}
note_text <- function(name, text) {
  text <- paste(text, collapse = "\n")
  # Where a letter of a drawing stands depends on the fonts of the machine; only the words of drawings count.
  drawing <- gregexpr("(?s)<svg.*?</svg>", text, perl = TRUE)
  regmatches(text, drawing) <- lapply(regmatches(text, drawing), gsub, pattern = "<[^>]*>", replacement = "")
  text <- gsub("data:image[^\"]*|file[0-9a-f]+|[0-9a-f]{12}|vandro [0-9.]+|/[^ <\"']*/", "", text)
  shown[[name]] <<- rlang::hash(text)
}

draw <- function(name, object) {
  note(name, object)
  if (check) return(invisible())
  grDevices::png(file.path(folder, name), 1280, 800, res = 160, type = "cairo")
  plot(object)
  grDevices::dev.off()
}
study <- versus(seedlings, height, substrate,
  groups = c("compost", "peat"), unit = "cm", label = "Stem height"
)
draw("difference.png", study)
draw("audit.png", audit_numbers(
  n = c(18, 20), mean = c("22.1", "19.8"), sd = c("3.9", "3.2"), t = "2.00", df = "36", p = ".13", d = "0.65",
  groups = c("compost", "peat"), unit = "cm", label = "Stem height"
))
draw("effect.png", gauge_effect(study, "all", seed = 7))

leaf <- versus(seedlings, leaf_area, substrate,
  groups = c("compost", "peat"), unit = "cm\u00b2", label = "Leaf area", id = plant
)
pairs <- versus_paired(conductance, noon, dawn, unit = "mmol", label = "Leaf conductance")
probes <- versus_paired(moisture, probe_a, probe_b, order = hour, unit = "%", label = "Soil moisture")
draw("assumptions.png", vet_assumptions(leaf))
small <- function(name, object, ...) {
  note(name, object)
  if (check) return(invisible())
  grDevices::png(file.path(folder, name), 960, 640, res = 130, type = "cairo")
  plot(object, ...)
  grDevices::dev.off()
}
# Four ways to look at data, on one picture.
looks <- list(
  autoplot(leaf, view = "points", outliers = "label", base_size = 9),
  autoplot(leaf, view = "distributions", base_size = 9),
  autoplot(pairs, view = "pairs", base_size = 9), autoplot(probes, view = "order", base_size = 9)
)
note("looks.png", looks[[1]], looks[[2]], looks[[3]], looks[[4]])
if (!check) {
  grDevices::png(file.path(folder, "looks.png"), 1280, 860, res = 130, type = "cairo")
  grid::grid.newpage()
  grid::pushViewport(grid::viewport(layout = grid::grid.layout(2, 2)))
  for (i in 1:4) {
    print(looks[[i]], vp = grid::viewport(layout.pos.row = (i + 1) %/% 2, layout.pos.col = 1 + (i - 1) %% 2))
  }
  grDevices::dev.off()
}

# Figure 1 of a paper, as it is saved for two columns.
traits <- versus(seedlings, c(height, leaf_area),
  substrate,
  groups = c("compost", "peat"), unit = c(height = "cm", leaf_area = "cm\u00b2"),
  label = c(height = "Stem height", leaf_area = "Leaf area")
)
note("paper.png", autoplot(test_difference(traits), view = "paper"))
if (!check) {
  save_figure(
    test_difference(traits), file.path(folder, "paper.png"),
    view = "paper", columns = 2, dpi = 180, overwrite = TRUE
  )
}

damage <- versus(root_damage, score, substrate,
  counts = plants, groups = c("compost", "peat"), label = "Root damage"
)
beside <- function(name, figures, height, widths = rep(1, length(figures))) {
  do.call(note, c(name, figures))
  if (check) return(invisible())
  grDevices::png(file.path(folder, name), 1280, height, res = 110, type = "cairo")
  grid::grid.newpage()
  grid::pushViewport(grid::viewport(layout = grid::grid.layout(1, length(figures), widths = widths)))
  for (i in seq_along(figures)) print(figures[[i]], vp = grid::viewport(layout.pos.row = 1, layout.pos.col = i))
  grDevices::dev.off()
}
draw("superiority.png", autoplot(test_difference(damage, "ranks"), view = "superiority"))

# Many outcomes and subgroups.
all_traits <- function(...) {
  versus(seedlings, c(height, leaf_area, dry_mass, chlorophyll), substrate, groups = c("compost", "peat"), ...)
}
on_benches <- versus(seedlings, c(height, leaf_area), substrate,
  groups = c("compost", "peat"), unit = c(height = "cm", leaf_area = "cm\u00b2"), each = bench,
  label = c(height = "Stem height", leaf_area = "Leaf area")
)
beside("many.png", list(
  autoplot(compare_subgroups(on_benches), base_size = 8),
  autoplot(test_difference(all_traits(each = bench)), view = "intervals", base_size = 8),
  autoplot(test_difference(all_traits()), view = "overview", base_size = 8)
), 560, c(1, 1.25, 1))

plots <- versus(leaching, nitrate, cover, groups = c("bare", "sown"), unit = "mg/l", label = "Nitrate")
beside("permutation.png", list(
  autoplot(test_difference(plots, "permutation"), view = "null", curve = TRUE, base_size = 9),
  autoplot(test_difference(probes, "permutation", seed = 7), view = "pairing", base_size = 9)
), 520)

within <- test_equivalence(probes, within = 0.5, reason = "the valve opens in steps of 0.5 %")
draw("equivalence.png", within)
small("bounds.png", try_bounds(within))
small("cross-check.png", cross_check(plots, flagged = "both"))

colour <- versus(seedlings, chlorophyll, substrate, groups = c("compost", "peat"), label = "Chlorophyll")
draw("evidence.png", weigh_evidence(colour))
supposed <- function(...) suppose_world(..., groups = c("compost", "peat"), unit = "cm", label = "Stem height")
both <- list(
  autoplot(
    rehearse_study(supposed(2.5, sd = c(3, 4)), method = c("welch", "ranks"), power = 0.8, seed = 7),
    base_size = 9
  ),
  autoplot(rehearse_study(
    vary_world(supposed(0, sd = 3), sd_ratio = c(0.25, 0.5, 1, 2, 4)),
    n = c(10, 30), method = c("welch", "student", "ranks", "relative", "permutation"), seed = 7, threads = 2
  ), base_size = 9)
)
beside("rehearsal.png", both, 520)

photograph <- function(page, name, height = 800) {
  note_text(name, readLines(page, encoding = "UTF-8", warn = FALSE))
  if (check) return(invisible())
  system2("chromium", c(
    "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync",
    paste0("--user-data-dir=", tempfile()), "--hide-scrollbars",
    sprintf("--window-size=1280,%d", height),
    paste0("--screenshot=", normalizePath(file.path(folder, name), mustWork = FALSE)),
    paste0("file://", page)
  ), stdout = FALSE, stderr = FALSE)
}
report <- tempfile(fileext = ".html")
write_report(list(
  Seedlings = test_difference(study, c("welch", "ranks")),
  Probes = test_equivalence(probes, within = 0.5, reason = "the valve opens in steps of 0.5 %")
), report, title = "Spring in the greenhouse", author = "Ada Reed", date = "2026-03-01", text = paste(
  "Seedlings were raised in house 2 on two substrates. The probes stood side by side in one bed for two days."
))
photograph(report, "report.png", 1500)
planned <- file.path(tempfile("plan-"), "results")
dir.create(dirname(planned))
run_plan(system.file("examples", "plan.yaml", package = "vandro"), planned, date = "2026-06-30", quiet = TRUE)
photograph(file.path(planned, "report.html"), "plan.png", 1200)
# The same on three phones.
phones <- tempfile(fileext = ".html")
frame <- paste0(
  "<iframe src='file://%s%s' style='width:390px;height:840px;border:0;",
  "margin:20px 0 20px 27px;background:#fff'></iframe>"
)
writeLines(c(
  "<meta charset='utf-8'><body style='margin:0;background:#16212b'>",
  sprintf(frame, report, c("", "#part-table-2", "#part-table-6"))
), phones)
photograph(phones, "phone.png", 880)
table <- tempfile(fileext = ".html")
results_table(traits, file = table)
photograph(table, "table.png", 330)

# The command line: what a person types and what comes back, on a dark page.
terminal <- function(commands) {
  file.copy(list.files(system.file("extdata", package = "vandro"), full.names = TRUE), tempdir())
  owner <- setwd(tempdir())
  on.exit(setwd(owner))
  unlist(lapply(commands, function(command) {
    c(paste("$", command), suppressWarnings(system(paste(command, "2>&1"), intern = TRUE)), "")
  }))
}
question <- "seedlings.csv --outcome height --by substrate --groups compost,peat --unit cm"
lines <- terminal(c(
  paste("vandro difference", question, "--expect higher --reason \"it holds water\""),
  paste(
    "vandro equivalence moisture.csv --paired --first probe_a --second probe_b --unit % --label Moisture",
    "--within 0.5"
  ),
  paste("vandro narrate", question, "--voice claim --written-decimal-mark ,"),
  "vandro rehearse --difference 2.5 --sd 3,4 --power 0.8 --groups compost,peat --unit cm --label \"Stem height\"",
  "vandro effect seedlings.csv --outcome hieght --by substrate"
))
page <- tempfile(fileext = ".html")
writeLines(c(
  "<meta charset='utf-8'><body style='margin:0;background:#16212b;color:#e8eef2'>",
  "<pre style='font:14px/1.4 DejaVu Sans Mono,monospace;padding:24px'>",
  htmltools::htmlEscape(lines), "</pre>"
), page)
photograph(page, "command-line.png", 1260)

record <- file.path(folder, "shown.csv")
drawn_by <- paste("ggplot2", utils::packageVersion("ggplot2"))
if (check) {
  before <- utils::read.csv(record)
  # Another ggplot2 computes other layers.
  same_ggplot2 <- identical(unique(before$by), drawn_by)
  now <- unlist(shown)[before$picture]
  stale <- before$picture[is.na(now) | now != before$shows]
  said <- if (same_ggplot2) "pictures that are not current:" else "drawn by another ggplot2, not compared:"
  cat(if (length(stale)) c(said, stale) else "all pictures are current", "\n")
  quit(save = "no", status = same_ggplot2 && length(stale) > 0)
}
utils::write.csv(data.frame(picture = names(shown), shows = unlist(shown), by = drawn_by), record, row.names = FALSE)

# The pictures of the README travel with the tarball, which has no docs/.
for (name in list.files("man/figures")) file.copy(file.path(folder, name), "man/figures", overwrite = TRUE)
