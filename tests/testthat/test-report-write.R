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
    "Seedlings", "Probes", "What the numbers are, and are not", "How it was computed", "Settings", "How to run it again"
  ))
  parts <- c(
    "Answer", "Question", "Data", "Description", "Checks", "Size of the difference", "Test", "Agreement of the methods",
    "Sentences"
  )
  bounded <- append(parts, c("Equivalence", "Weight of evidence"), after = 7)
  expect_identical(heads(3), c(parts, bounded, "Seedlings", "Probes", "Sources"))
  expect_match(page, "<nav aria-label=\"Contents\">", fixed = TRUE)
  numbers <- as.numeric(gsub("[^0-9]", "", regmatches(page, gregexpr("<caption>\\s*<span>Table [0-9]+", page))[[1]]))
  expect_identical(numbers, as.numeric(seq_along(numbers)))
  # The compact table is that of results_table().
  expect_match(page, "difference [95% CI]", fixed = TRUE)
  expect_match(page, "3.46 [1.89, 5.02]", fixed = TRUE)
  # References: of exactly what was used.
  expect_match(page, "Schuirmann, D. J.", fixed = TRUE)
  expect_match(page, "Mann, H. B.", fixed = TRUE)
  expect_no_match(page, "Gronau|Phipson|Neubert|Holm, S.")
})

test_that("the code at the end gives every number again", {
  directed <- test_difference(plots_study(), "permutation", expect = "higher", reason = "bare leaches")
  parts <- c("description", "assumptions", "effect", "difference", "equivalence", "evidence", "agreement")
  for (items in list(two_studies(), list(directed))) {
    blocks <- report_blocks(report_chapters(items, list(), NULL), list(), NULL, TRUE)
    lines <- blocks_of(blocks, "code")[[1]]$lines
    expect_match(lines[[1]], as.character(utils::packageVersion("vandro")), fixed = TRUE)
    world <- new.env()
    answers <- lapply(parse(text = lines[-1]), eval, world)
    answers <- Filter(function(x) inherits(x, "vandro_answer"), answers)
    chapters <- report_chapters(items, list(), NULL)
    shown <- unlist(lapply(chapters, function(chapter) keep_given(chapter[parts])), recursive = FALSE)
    expect_length(answers, length(shown))
    for (i in seq_along(shown)) {
      same <- intersect(names(shown[[i]]$table), c("estimate", "lower", "upper", "p", "mean", "log_bf"))
      expect_equal(as.list(answers[[i]]$table[same]), as.list(shown[[i]]$table[same]), info = lines[[i]])
    }
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
    not_a_study = report_to("html", list()), not_an_answer = report_to("html", try_bounds(test_equivalence(study, 5))),
    contradiction = report_to("html", answer, method = "student"),
    contradiction = report_to("html", test_equivalence(study, 5), within = 3),
    bad_value = report_to("html", answer, evidence = 3), output = report_to("odt", study)
  )
  twice <- list(answer, test_difference(study, "ranks"))
  expect_error(report_to("html", twice), "two answers of `test_difference\\(\\)`", class = "vandro_error_contradiction")
  # Made-up studies have no declaration: their code stays R code.
  made_up <- make_up_study(suppose_world(2, sd = 3), n = c(8, 8), seed = 4)
  lines <- blocks_of(report_blocks(report_chapters(list(made_up), list(), NULL), list(), NULL, TRUE), "code")[[1]]$lines
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

# What a browser finds in frames of these widths: width of the page, requests, broken pictures, messages of the console.
seen_in_browser <- function(file, widths) {
  page <- gsub("\"", "&quot;", gsub("&", "&amp;", read_page(file), fixed = TRUE), fixed = TRUE)
  frames <- sprintf("<iframe style=\"width:%dpx;height:800px;border:0\" srcdoc=\"%s\"></iframe>", widths, page)
  script <- paste(
    "<script>window.onload = function () { var out = [];",
    "document.querySelectorAll('iframe').forEach(function (f) { var d = f.contentDocument;",
    "var asked = f.contentWindow.performance.getEntriesByType('resource').filter(function (e) {",
    "return !/^data:/.test(e.name); }).length;",
    "var broken = [].filter.call(d.images, function (i) { return !i.complete || i.naturalWidth === 0; }).length;",
    "out.push([d.documentElement.scrollWidth, asked, broken, d.images.length].join(' ')); });",
    "document.title = 'SEEN ' + out.join(';') + '.'; };</script>"
  )
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
  seen <- regmatches(dom, regexpr("SEEN [0-9 ;]*[.]", dom))
  if (length(seen) == 0) return(NULL)
  each <- strsplit(gsub("SEEN |[.]", "", seen[[1]]), ";")[[1]]
  numbers <- lapply(strsplit(each, " "), as.numeric)
  list(
    frames = stats::setNames(as.data.frame(do.call(rbind, numbers)), c("width", "requests", "broken", "pictures")),
    console = grep("CONSOLE", readLines(log, warn = FALSE), value = TRUE)
  )
}

# Takes seconds: three drawn reports, four starts of a browser.
test_that("a browser finds nothing to complain of, on a phone and on a screen", {
  skip_if(!nzchar(find_browser()), "no browser (chromium) is installed: pages were not looked at in one")
  widths <- c(390, 1280)
  reports <- c(
    drawn_report_to("html", two_studies(), title = "Spring"),
    drawn_report_to("html", hostile_study(paste(hostile_labels, collapse = " "))),
    drawn_report_to("html", versus_summary(c(9, 8), c(3, 1), c(1, 1), label = strrep("unbreakable", 30)))
  )
  for (file in reports) {
    seen <- seen_in_browser(file, widths)
    expect_identical(seen$frames$requests, c(0, 0))
    expect_identical(seen$frames$broken, c(0, 0))
    expect_true(all(seen$frames$pictures >= 2))
    expect_true(all(seen$frames$width <= widths))
    expect_identical(seen$console, character())
  }
  # The look itself sees what is wrong.
  bad <- withr::local_tempfile(fileext = ".html", lines = paste0(
    "<!DOCTYPE html><html><body><div style='width:900px'>x</div><img src='file:///nowhere.png'>",
    "<script>console.error('boom')</script></body></html>"
  ))
  seen <- seen_in_browser(bad, widths)
  expect_gt(seen$frames$width[[1]], 390)
  expect_identical(seen$frames$broken, c(1, 1))
  expect_match(seen$console, "boom")
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
