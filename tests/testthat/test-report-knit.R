rendered <- function(lines, to = "html") {
  folder <- withr::local_tempdir(.local_envir = parent.frame())
  file <- file.path(folder, "document.Rmd")
  writeLines(c("---", "title: x", "---", "", "```{r, include = FALSE}", "library(vandro)", "```", "", lines), file)
  text <- knitr::knit(text = readLines(file), quiet = TRUE, envir = new.env())
  if (to == "markdown") return(text)
  source <- file.path(folder, "document.md")
  writeLines(enc2utf8(text), source, useBytes = TRUE)
  out <- file.path(folder, "document.html")
  # With the formulas in \\[ \\] and \\( \\) that R Markdown allows.
  from <- "markdown+tex_math_single_backslash"
  rmarkdown::pandoc_convert(source, from = from, to = "html", output = out, options = "--standalone")
  paste(readLines(out, encoding = "UTF-8"), collapse = "\n")
}

test_that("in a document sentences are paragraphs and answers blocks of text", {
  text <- rendered(to = "markdown", c(
    "```{r, echo = FALSE}",
    "groups <- c(\"compost\", \"peat\")",
    "study <- versus(seedlings, height, substrate, groups = groups, unit = \"cm\", label = \"Height\")",
    "narrate(study)", "test_difference(study)", "study", "suppose_world(2, sd = 3)", "```"
  ))
  expect_match(text, "\n\nHeight was 3.46 cm higher in the compost group", fixed = TRUE)
  expect_match(text, "~~~\nDifference: Height (cm), compost minus peat", fixed = TRUE)
  expect_match(text, "~~~\nScenario:", fixed = TRUE)
  expect_no_match(text, "##|#>")
})

test_that("labels come out as themselves, whatever Markdown would make of them", {
  skip_if_not(rmarkdown::pandoc_available())
  hostile <- c(
    "<script>alert(1)</script>", "$x_1$ *y* `z`", "- 1. [a](b) |c| ~d~ ^e^", "~~~~", "```",
    "(a) \\[1\\] [b]: c [d][e]", "\\alpha & \"q\" 'r'"
  )
  for (label in hostile) {
    page <- rendered(c(
      "```{r, echo = FALSE}",
      sprintf("study <- versus_summary(n = c(9, 8), mean = c(3, 1), sd = c(1, 1), label = %s)", deparse(label)),
      "narrate(study)", "study", "```"
    ))
    plain <- sub("^.*<body>(.*)</body>.*$", "\\1", page)
    expect_no_match(plain, "<script|<em>|<a href|<sub>|<sup>|<li>|math inline")
    shown <- gsub("<[^>]*>", "", plain)
    for (pair in list(c("&lt;", "<"), c("&gt;", ">"), c("&quot;", "\""), c("&amp;", "&"), c("&#39;", "'"))) {
      shown <- gsub(pair[[1]], pair[[2]], shown, fixed = TRUE)
    }
    shown <- gsub("[[:space:]]+", " ", shown)
    expect_match(shown, paste0("Study: ", label), fixed = TRUE)
    expect_match(shown, paste0(label, " was 2.00 higher in the first group"), fixed = TRUE)
    expect_match(shown, "95% CI [0.96, 3.04] for first minus second", fixed = TRUE)
  }
})
