traits <- function(...) {
  versus(seedlings, c(height, leaf_area), substrate,
    groups = c("compost", "peat"), unit = c(height = "cm", leaf_area = "cm\u00b2"),
    label = c(height = "Stem height", leaf_area = "Leaf area"), ...
  )
}

test_that("every number of the table is the verbs' own, unrounded in the data frame and rounded in the cells", {
  study <- traits()
  table <- results_table(study)
  numbers <- as.data.frame(table)
  found <- test_difference(study)$table
  expect_identical(numbers$estimate, found$estimate)
  expect_identical(numbers$p_adjusted, found$p_adjusted)
  size <- gauge_effect(study, "g_average")$table
  expect_identical(numbers$effect_lower, size$lower)
  described <- describe_study(study)$table
  expect_identical(numbers$mean_first, described$mean[described$group == "compost"])
  cells <- table$cells
  expect_identical(cells[["difference [95% CI]"]][[1]], "3.46 [1.89, 5.02]")
  expect_identical(cells[["compost mean (SD)"]], c("22.32 (2.86)", "63.3 (20.5)"))
  expect_identical(cells[["t (df)"]][[1]], "4.45 (44.5)")
  expect_identical(cells$p[[1]], "< .001")
  expect_true("p (Holm)" %in% names(cells))
  told <- c("Differences are compost minus peat", "Welch's test, two-sided", "average SD", "Brown-Forsythe F(1, 45)")
  for (text in told) {
    expect_match(paste(table$notes, collapse = " "), text, fixed = TRUE)
  }
  expect_no_match(paste(results_table(study, checks = FALSE)$notes, collapse = " "), "Brown-Forsythe")
})

test_that("pairs, ranks, permutations and published numbers have the columns that they have", {
  pairs <- results_table(versus_paired(conductance, noon, dawn, unit = "mmol"))
  expect_true(all(c("pairs", "g (average) [95% CI]") %in% names(pairs$cells)))
  ranks <- results_table(traits(), method = "ranks")
  expect_true(all(c("shift [95% CI]", "U", "rank-biserial [95% CI]") %in% names(ranks$cells)))
  expect_match(paste(ranks$notes, collapse = " "), "p exact", fixed = TRUE)
  drawn <- results_table(traits(), method = "permutation", options = how(exact = FALSE, draws = 999), seed = 4)
  expect_match(paste(drawn$notes, collapse = " "), "p simulated, seed 4", fixed = TRUE)
  directed <- results_table(published_study(), expect = "higher", beyond = 1, estimands = "g")
  expect_match(directed$notes[[2]], "one-sided (compost expected to be higher), of a difference of 1", fixed = TRUE)
  expect_true("g [95% CI]" %in% names(directed$cells))
  made_up <- results_table(make_up_study(suppose_world(1, sd = 2), 9, seed = 3))
  expect_match(paste(made_up$notes, collapse = " "), "made up (seed 3)", fixed = TRUE)
  expect_match(format(pairs, width = 200)[[1]], "noon minus dawn", fixed = TRUE)
})

test_that("it is written in every kind, whole and never over another file unasked", {
  folder <- withr::local_tempdir()
  path <- function(kind) file.path(folder, paste0("table.", kind))
  study <- traits()
  for (kind in c("md", "html", "tex", "csv", "txt")) {
    results_table(study, file = path(kind))
    expect_match(paste(readLines(path(kind), encoding = "UTF-8"), collapse = " "), "22", fixed = TRUE)
  }
  expect_identical(
    utils::read.csv(path("csv"))$estimate, as.data.frame(results_table(study))$estimate
  )
  expect_error(results_table(study, file = path("csv")), class = "vandro_error_file_exists")
  expect_error(results_table(study, file = path("xls")), class = "vandro_error_output")
  expect_error(results_table(study, estimands = c("g", "d_pooled")), class = "vandro_error_bad_value")
  expect_error(results_table(study, estimands = "gg"), class = "vandro_error")
  skip_if_not(rmarkdown::pandoc_available())
  withr::local_dir(folder)
  results_table(study, file = "table.docx")
  back <- file.path(folder, "back.html")
  rmarkdown::pandoc_convert(path("docx"), to = "html", output = back)
  page <- gsub("\u00a0", " ", paste(readLines(back, encoding = "UTF-8"), collapse = " "), fixed = TRUE)
  expect_match(page, "<table", fixed = TRUE)
  expect_match(page, "3.46 [1.89, 5.02]", fixed = TRUE)
})

test_that("labels come out as themselves in every kind", {
  hostile <- "<b>$x_1$|`a`|=cmd()\\&%#{~^"
  study <- versus_summary(
    n = c(9, 8), mean = c(3, 1), sd = c(1, 1), label = hostile, groups = c("=1+1", "@b"), outcome = "=x()"
  )
  table <- results_table(study)
  expect_match(paste(results_html(table), collapse = "\n"), "&lt;b&gt;$x_1$|`a`|=cmd()\\&amp;%#{~^", fixed = TRUE)
  tex <- paste(latex_table(table$cells, table$title, results_note(table)), collapse = "\n")
  expect_match(tex, "\\textless{}b\\textgreater{}\\$x\\_1\\$\\textbar{}\\textasciigrave{}a", fixed = TRUE)
  expect_match(tex, "\\textbar{}=cmd()\\textbackslash{}\\&\\%\\#\\{", fixed = TRUE)
  expect_match(tex, "\\textasciitilde{}\\textasciicircum{}", fixed = TRUE)
  expect_match(table_csv(table$numbers)[[2]], "^'=x\\(\\),'=1\\+1 minus @b,")
  expect_identical(
    csv_quote(c("-1.5", "=A1", "plain", "-x", "+3e4", "@me")),
    c("-1.5", "'=A1", "plain", "'-x", "+3e4", "'@me")
  )
  skip_if_not(rmarkdown::pandoc_available())
  folder <- withr::local_tempdir()
  writeLines(enc2utf8(results_markdown(table)), file.path(folder, "t.md"), useBytes = TRUE)
  rmarkdown::pandoc_convert(
    file.path(folder, "t.md"),
    from = "markdown", to = "html", output = file.path(folder, "t.html")
  )
  page <- paste(readLines(file.path(folder, "t.html"), encoding = "UTF-8"), collapse = " ")
  expect_match(page, "&lt;b&gt;$x_1$|`a`|=cmd()\\&amp;%#{~^", fixed = TRUE)
  expect_identical(lengths(regmatches(page, gregexpr("<th[ >]", page))), length(table$cells))
})
