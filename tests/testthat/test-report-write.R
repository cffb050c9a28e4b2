hostile_labels <- c(
  script = "<script>alert(1)</script>", dollars = "$x_1$ & 100%", formula = "=cmd()", ticks = "`a` ``b``",
  pipes = "a|b||c", emoji = "\U0001F331 leaf", arabic = "\u0637\u0648\u0644 \u0627\u0644\u0633\u0627\u0642",
  slashes = "\\alpha{b}\\\\ ~^#", stars = "*a* _b_ **c** [d](e) ![f](g)", long = strrep("very long name ", 12),
  list = "1. first", quotes = "\"a\" 'b' -- c..."
)

hostile_study <- function(label) {
  versus_summary(
    n = c(9, 8), mean = c(3, 1), sd = c(1, 1.5), label = label, unit = label,
    groups = paste(label, c("A", "B"))
  )
}

report_to <- function(ending, x, ..., folder = withr::local_tempdir(.local_envir = parent.frame())) {
  with_blank_figures(drawn_report_to(ending, x, ..., folder = folder))
}

drawn_report_to <- function(ending, x, ..., folder = withr::local_tempdir(.local_envir = parent.frame())) {
  file <- file.path(folder, paste0("report.", ending))
  write_report(x, file, ..., date = "2026-03-01")
  file
}

read_page <- function(file) paste(readLines(file, encoding = "UTF-8", warn = FALSE), collapse = "\n")

# What a reader of the file sees, without marks.
plain_of <- function(file, from) {
  out <- tempfile(fileext = ".txt")
  source <- tempfile(fileext = paste0(".", from))
  on.exit(unlink(c(out, source)))
  # Commands of LaTeX that pandoc does not know.
  unknown <- c("`" = "\\textasciigrave{}", "|" = "\\textbar{}", "\"" = "{\\ttfamily\\char34}")
  if (from == "latex") {
    text <- read_page(file)
    for (i in seq_along(unknown)) text <- gsub(unknown[[i]], sprintf("MARK%dMARK", i), text, fixed = TRUE)
    writeLines(enc2utf8(text), source, useBytes = TRUE)
  } else {
    file.copy(file, source)
  }
  rmarkdown::pandoc_convert(source, to = "plain", from = from, output = out, options = "--wrap=none")
  text <- gsub("[ \u00a0]+", " ", read_page(out))
  for (i in seq_along(unknown)) text <- gsub(sprintf("MARK%dMARK", i), names(unknown)[[i]], text, fixed = TRUE)
  text
}

two_studies <- function() {
  probes <- versus_paired(moisture, probe_a, probe_b, unit = "%", label = "Soil moisture")
  list(
    Seedlings = test_difference(height_study(), c("welch", "ranks")),
    Probes = test_equivalence(probes, within = 0.5, reason = "the valve opens in steps of 0.5 %"),
    weigh_evidence(probes)
  )
}

# Takes seconds: a report of three answers.
test_that("answers of one study share a chapter, in the order of the questions", {
  page <- read_page(report_to("html", two_studies(), title = "Spring"))
  heads <- function(level) {
    found <- regmatches(page, gregexpr(sprintf("<h%d>[^<]*</h%d>", level, level), page))[[1]]
    gsub("<[^>]*>", "", found)
  }
  expect_identical(heads(2), c(
    "Contents", "Answers", "Seedlings", "Probes", "What the numbers are, and are not", "How it was computed",
    "Settings", "How to run it again"
  ))
  parts <- c(
    "Answer", "Question", "Data", "Description", "Checks", "Size of the difference", "Test", "Agreement of the methods",
    "Sentences"
  )
  bounded <- append(parts, c("Equivalence", "Weight of evidence"), after = 7)
  expect_identical(heads(3), c(parts, bounded, "Seedlings", "Probes", "Sources"))
  expect_match(page, "<nav aria-label=\"Contents\" class=\"beside\">", fixed = TRUE)
  numbers <- as.numeric(gsub("[^0-9]", "", regmatches(page, gregexpr("<caption>\\s*<span>Table [0-9]+", page))[[1]]))
  expect_identical(numbers, as.numeric(seq_along(numbers)))
  # The compact table is that of results_table().
  expect_match(page, "difference [95% CI]", fixed = TRUE)
  expect_match(page, "3.46 [1.89, 5.02]", fixed = TRUE)
  expect_match(page, "Each comparison has a chapter below.", fixed = TRUE)
  # References: of exactly what was used.
  expect_match(page, "Schuirmann, D. J.", fixed = TRUE)
  expect_match(page, "Mann, H. B.", fixed = TRUE)
  expect_no_match(page, "Gronau|Phipson|Neubert|Holm, S.")
})

# Returns the script at the end of a page.
script_of <- function(file) {
  code <- sub("^.*<h2>How to run it again</h2>.*?<code>(.*?)</code>.*$", "\\1", read_page(file))
  for (sign in list(c("&lt;", "<"), c("&gt;", ">"), c("&quot;", "\""), c("&#39;", "'"), c("&amp;", "&"))) {
    code <- gsub(sign[[1]], sign[[2]], code, fixed = TRUE)
  }
  strsplit(code, "\n", fixed = TRUE)[[1]]
}

# Takes seconds: three reports, drawn twice.
test_that("the script at the end runs in a fresh session and writes the same report again", {
  withr::local_dir(withr::local_tempdir())
  file.copy(demo_file(), "seedlings.csv")
  data <- read_measurements("seedlings.csv", quiet = TRUE)
  bounds <- function(within) test_equivalence(versus_paired(moisture, probe_a, probe_b), within, reason = "a \"valve\"")
  narrow <- bounds(0.3)
  wide <- bounds(0.6)
  study <- versus(data, height, substrate, groups = c("compost", "peat"))
  write_report(
    list(
      narrow = narrow, try_bounds(narrow, c(0.2, 0.4)), wide = wide, Both = compare_answers(n = narrow, w = wide), study
    ), "r.html",
    parts = c("-agreement", "-checks"), text = c("One\n\ntwo", conclusion = "Fine."), author = "Ada",
    date = "2026-03-01", style = number_style(leading_zero = TRUE),
    conventions = house_conventions("House", level = 0.9)
  )
  expect_identical(vandro_command(c(
    "report", "seedlings.csv", "--outcome", "height", "--by", "substrate", "--groups", "compost,peat", "--method",
    "ranks", "--expect", "higher", "--reason", "nitrogen", "--date", "2026-03-01", "--output", "cli.html"
  )), 0L)
  writeLines(c(
    "plan: 1", "seed: 3", "data: {s: seedlings.csv}", "comparisons:", "  height: {data: s, outcome: height, by:",
    "    substrate, groups: [compost, peat], ask: {difference: {primary: permutation}}}",
    "outputs: {report: html, figures: none, tables: none}"
  ), "plan.yaml")
  run_plan("plan.yaml", "results", date = "2026-03-01", quiet = TRUE)
  dir.create("before")
  written <- c("r.html", "cli.html", "results")
  expect_true(all(file.rename(written, file.path("before", written))))
  scripts <- lapply(file.path("before", c("r.html", "cli.html", "results/report.html")), script_of)
  writeLines(unlist(scripts), "again.R")
  libraries <- paste(.libPaths(), collapse = .Platform$path.sep)
  said <- system2(
    file.path(R.home("bin"), "Rscript"), c("--vanilla", "again.R"),
    stdout = TRUE, stderr = TRUE, env = paste0("R_LIBS=", shQuote(libraries))
  )
  expect_identical(attr(said, "status"), NULL, info = paste(said, collapse = "\n"))
  for (file in written[1:2]) expect_identical(read_page(file), read_page(file.path("before", file)), label = file)
  # The report of a plan with one comparison has no chapters.
  expect_no_match(read_page("before/results/report.html"), "has a chapter below", fixed = TRUE)
  # Only the date differs.
  results <- function(folder) gsub("20[0-9]{2}-[0-9]{2}-[0-9]{2}", "", readLines(file.path(folder, "results.json")))
  expect_identical(results("results"), results("before/results"))
})

test_that("parts come in the order that was asked, and what was asked beyond has its place", {
  study <- height_study()
  bounded <- test_equivalence(study, 5, reason = "shelf")
  heads <- function(...) {
    page <- read_page(report_to("html", ...))
    gsub("<[^>]*>", "", regmatches(page, gregexpr("<h2>[^<]*</h2>", page))[[1]])[-1]
  }
  expect_identical(heads(study, parts = c("settings", "test", "answer")), c("Test", "Answer", "Settings"))
  left <- heads(study, parts = paste0("-", setdiff(names(part_headings), c("answer", "evidence"))))
  expect_identical(left, "Answer")
  # Text creates a part that the report would not have.
  own <- heads(study, parts = c("evidence", "answer"), text = c(evidence = "Mine."))
  expect_identical(own, c("Weight of evidence", "Answer"))
  evidence <- weigh_evidence(study)
  page <- read_page(report_to("html", list(
    bounded, test_equivalence(study, 2, reason = "a hand"), try_bounds(bounded, c(3, 4)), evidence,
    try_priors(evidence, c(0.2, 1)), test_difference(study), test_difference(study, "ranks"),
    vet_assumptions(study), vet_assumptions(study, check_alpha = 0.2), compare_answers(a = bounded, b = bounded)
  )))
  for (said in c(
    "Other bounds", "Other priors", "Equivalence: within -2 to 2", "Test: Mann-Whitney",
    "Checks: check alpha 0.2", "A and b do not differ", "Answers side by side"
  )) {
    expect_match(gsub("<[^>]*>", "", page), said, fixed = TRUE)
  }
})

# Takes seconds: eight reports, two of them through pandoc.
test_that("the same input gives the same files, of every kind", {
  study <- height_study()
  # That a figure drawn twice is the same file is tested by itself.
  for (ending in c("html", "md", "tex", if (rmarkdown::pandoc_available()) "docx")) {
    made <- vapply(1:2, function(i) {
      folder <- withr::local_tempdir()
      report_to(ending, study, folder = folder)
      paste(tools::md5sum(list.files(folder, recursive = TRUE, full.names = TRUE)), collapse = " ")
    }, "")
    expect_identical(made[[1]], made[[2]], label = ending)
  }
})

# Takes seconds: eight reports, read back by pandoc.
test_that("labels come out as themselves in every format", {
  skip_if_not(rmarkdown::pandoc_available())
  joined <- list(
    paste(hostile_labels[names(hostile_labels) != "long"], collapse = " / "), trimws(hostile_labels[["long"]])
  )
  for (name in seq_along(joined)) {
    label <- joined[[name]]
    study <- hostile_study(label)
    folder <- withr::local_tempdir()
    for (ending in c("html", "docx", "md", "tex")) dir.create(file.path(folder, ending))
    for (ending in c("html", "docx", "md", "tex")) {
      file <- report_to(ending, study, folder = file.path(folder, ending), title = label, author = label, text = label)
      from <- switch(ending, html = "html", docx = "docx", md = "markdown", tex = "latex")
      seen <- gsub("\\s+", " ", plain_of(file, from))
      groups <- sprintf("%s A minus %s B", label, label)
      # An apostrophe is a typographic one in LaTeX, and three dots are.
      if (ending == "tex") seen <- gsub("[\u2018\u2019]", "'", gsub("\u2026", "...", seen, fixed = TRUE))
      expect_true(grepl(groups, seen, fixed = TRUE), label = paste(name, ending))
    }
    page <- gsub("data:image[^\"]*", "", read_page(file.path(folder, "html", "report.html")))
    expect_no_match(page, "<script|<b>a</b>", label = name)
  }
})

test_that("Word holds tables and figures, with title and text alternatives", {
  skip_if_not(rmarkdown::pandoc_available())
  file <- drawn_report_to("docx", height_study(), title = "Spring & summer", author = "Ada Reed")
  folder <- withr::local_tempdir()
  utils::unzip(file, exdir = folder)
  body <- read_page(file.path(folder, "word/document.xml"))
  said <- gsub("<[^>]*>", "", body)
  expect_match(said, "Spring &amp; summer", fixed = TRUE)
  expect_match(said, "Ada Reed, 2026-03-01", fixed = TRUE)
  expect_match(said, "Figure 1. Stem height (cm); compost minus peat.", fixed = TRUE)
  expect_gt(lengths(regmatches(body, gregexpr("<w:tbl>", body))), 7)
  expect_length(list.files(file.path(folder, "word/media")), 3)
  expect_match(body, "descr=\"Estimation figure of Stem height", fixed = TRUE)
})

test_that("Markdown and LaTeX have their figures beside them, never over something else", {
  folder <- withr::local_tempdir()
  markdown <- read_page(report_to("md", height_study(), folder = folder))
  expect_setequal(list.files(file.path(folder, "report-md-figures")), sprintf("figure-%d.png", 1:3))
  expect_match(markdown, "](<report-md-figures/figure-2.png>)", fixed = TRUE)
  figures <- file.path(folder, "report-tex-figures")
  dir.create(figures)
  expect_error(report_to("tex", height_study(), folder = folder), class = "vandro_error_file_exists")
  expect_false(file.exists(file.path(folder, "report.tex")))
  latex <- read_page(report_to("tex", height_study(), folder = folder, overwrite = TRUE))
  expect_setequal(list.files(figures), sprintf("figure-%d.pdf", 1:3))
  expect_match(latex, "\\includegraphics[width=\\linewidth]{report-tex-figures/figure-3.pdf}", fixed = TRUE)
  writeLines("mine", file.path(figures, "notes.txt"))
  expect_error(report_to("tex", height_study(), folder = folder, overwrite = TRUE), class = "vandro_error_file_exists")
  expect_identical(readLines(file.path(figures, "notes.txt")), "mine")
})

test_that("a report holds no single measurement and no id", {
  data <- transform(seedlings, height = height + seq_along(height) / 1e4, plant = paste0("secret-", plant))
  study <- versus(data, height, substrate, groups = c("compost", "peat"), id = plant)
  page <- gsub("data:image[^\"]*", "", read_page(report_to("md", study)))
  expect_no_match(page, "secret-", fixed = TRUE)
  inside <- sort(na.omit(data$height))[3:40]
  expect_false(any(vapply(format(inside, digits = 8), grepl, NA, page, fixed = TRUE)))
})

test_that("a report of so few values that they can be told warns of that", {
  few <- versus(first = c(12.1, 13.4, 11.8, 14.2), second = c(10.2, 11.9, 10.8, 9.7, 10.1))
  page <- read_page(report_to("md", few))
  expect_match(page, "Small groups:", fixed = TRUE)
  expect_match(page, "the smallest has 4 values", fixed = TRUE)
  expect_no_match(read_page(report_to("md", height_study())), "Small groups:", fixed = TRUE)
  published <- versus_summary(n = c(3, 3), mean = c(22.1, 19.8), sd = c(3.9, 3.2))
  expect_no_match(read_page(report_to("md", published)), "Small groups:", fixed = TRUE)
})

test_that("what a report cannot tell is refused with a way out", {
  study <- height_study()
  answer <- test_difference(study)
  refused(
    not_a_study = report_to("html", seedlings), not_an_answer = report_to("html", list(study, 3)),
    not_a_study = report_to("html", list()), not_an_answer = report_to("html", compare_answers(answer, answer)),
    bad_value = report_to("html", study, parts = "tests"), bad_value = report_to("html", study, parts = 3),
    contradiction = report_to("html", study, parts = c("test", "-data")),
    contradiction = report_to("html", study, parts = "-test", text = c(test = "Mine.")),
    contradiction = report_to("html", answer, method = "student"),
    contradiction = report_to("html", test_equivalence(study, 5), within = 3),
    bad_value = report_to("html", answer, evidence = 3), output = report_to("odt", study)
  )
  # Made-up studies have no declaration: their code stays R code.
  made_up <- make_up_study(suppose_world(2, sd = 3), n = c(8, 8), seed = 4)
  lines <- sub("^(?s).*~~~\\n(library.*)~~~.*$", "\\1", read_page(report_to("md", made_up)), perl = TRUE)
  expect_silent(parse(text = lines))
  with_bounds <- read_page(report_to("html", answer, within = 5))
  expect_match(with_bounds, "<h2>Equivalence</h2>", fixed = TRUE)
})

# --- in a browser ----------------------------------------------------------------------------------------

find_browser <- function() {
  found <- Sys.which(c("chromium", "chromium-browser", "google-chrome"))
  found <- found[nzchar(found)]
  if (length(found)) found[[1]] else ""
}

# Opens pages in frames of these widths. `frames` has a row for each file and width; `faults` lists what readers with
# poor or no sight would miss.
seen_in_browser <- function(files, widths) {
  pages <- vapply(files, function(file) {
    gsub("\"", "&quot;", gsub("&", "&amp;", read_page(file), fixed = TRUE), fixed = TRUE)
  }, "")
  frames <- sprintf(
    "<iframe style=\"width:%dpx;height:800px;border:0\" srcdoc=\"%s\"></iframe>", rep(widths, length(files)),
    rep(pages, each = length(widths))
  )
  script <- c("<script>", readLines(test_path("accessible.js")), "</script>")
  folder <- withr::local_tempdir()
  frame <- file.path(folder, "frame.html")
  lines <- enc2utf8(c("<!DOCTYPE html><meta charset=utf-8><title>none</title>", frames, script))
  writeLines(lines, frame, useBytes = TRUE)
  log <- file.path(folder, "log")
  dom <- system2(find_browser(), c(
    "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync",
    paste0("--user-data-dir=", file.path(folder, "profile")), "--window-size=1400,900", "--enable-logging=stderr",
    "--virtual-time-budget=8000", "--dump-dom", shQuote(paste0("file://", frame))
  ), stdout = TRUE, stderr = log, timeout = 120)
  seen <- regmatches(dom, regexpr("SEEN [^<]*[.]END", dom))
  if (length(seen) == 0) return(NULL)
  each <- strsplit(gsub("SEEN |[.]END", "", seen[[1]]), ";")[[1]]
  parts <- strsplit(each, "|", fixed = TRUE)
  numbers <- lapply(parts, function(part) as.numeric(strsplit(part[[1]], " ")[[1]]))
  list(
    frames = stats::setNames(as.data.frame(do.call(rbind, numbers)), c("width", "requests", "broken", "pictures")),
    faults = as.character(unique(unlist(lapply(parts, `[`, -1)))),
    console = grep("CONSOLE", readLines(log, warn = FALSE), value = TRUE)
  )
}

# Takes seconds: three drawn reports, two starts of a browser.
test_that("a browser finds nothing to complain of, on a phone, a tablet and a screen", {
  skip_if(!nzchar(find_browser()), "no browser (chromium) is installed: pages were not looked at in one")
  widths <- c(360, 768, 1280)
  reports <- c(
    drawn_report_to("html", two_studies(), title = "Spring"),
    drawn_report_to("html", hostile_study(paste(hostile_labels, collapse = " "))),
    drawn_report_to("html", versus_summary(c(9, 8), c(3, 1), c(1, 1), label = strrep("unbreakable", 30)))
  )
  seen <- seen_in_browser(reports, widths)
  expect_identical(nrow(seen$frames), 9L)
  expect_identical(c(seen$frames$requests, seen$frames$broken), rep(0, 18))
  expect_true(all(seen$frames$pictures >= 2))
  expect_true(all(seen$frames$width <= rep(widths, 3)))
  expect_identical(seen$faults, character())
  expect_identical(seen$console, character())
  # The look itself sees what is wrong.
  bad <- withr::local_tempfile(fileext = ".html", lines = paste0(
    "<!DOCTYPE html><html><body><div style='width:900px'>x</div><img src='file:///nowhere.png'><h1>a</h1><h3>b</h3>",
    "<p style='color:#999' id='a'>pale</p><p id='a'>twice</p><table><tr><td>1</td></tr></table>",
    "<script>console.error('boom')</script></body></html>"
  ))
  seen <- seen_in_browser(bad, widths)
  expect_gt(seen$frames$width[[1]], 390)
  expect_identical(seen$frames$broken, c(1, 1, 1))
  expect_match(seen$console, "boom")
  expect_setequal(seen$faults, c(
    "language", "title", "heading 3 after 1", "picture without text", "table without caption", "table without heads",
    "contrast of pale", "twice the name a"
  ))
})

test_that("control characters, brackets and addresses in labels break no format, and nothing comes alive", {
  folder <- withr::local_tempdir()
  data <- data.frame(y = c(1, 2, 3.5, 4, 5, 6.2), g = c("a[1](javascript:alert(1))", "b\u0001\ufffe"))
  study <- quiet(versus(data, y, g, label = "Height](http://x.example) \u0002 [h", unit = "cm\u0003"))
  expect_identical(study$groups[[2]], "b<U+0001><U+FFFE>")
  files <- file.path(folder, paste0("report.", c("md", "html", "docx", "tex")))
  for (file in files) quick_report(study, file, title = "Title \u0007 javascript:alert(2)")
  save_figure(study, file.path(folder, "figure.svg"))
  utils::unzip(files[[3]], "word/document.xml", exdir = folder)
  parts <- c(files[c(1, 2, 4)], file.path(folder, c("word/document.xml", "figure.svg")))
  for (part in parts) expect_no_match(readLines(part, warn = FALSE), "[\\x01-\\x08\\x0b\\x0c\\x0e-\\x1f]", perl = TRUE)
  skip_if_not(rmarkdown::pandoc_available())
  # As R Markdown and as other readers of Markdown take it.
  for (from in c("markdown+autolink_bare_uris", "gfm")) {
    page <- file.path(folder, "page.html")
    rmarkdown::pandoc_convert(files[[1]], to = "html", from = from, output = page)
    lines <- readLines(page)
    expect_false(any(grepl("href=\"(javascript|http:)", lines)))
    expect_length(grep("<img", lines), 3)
  }
})
