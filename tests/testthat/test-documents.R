# What the documents promise: their code runs, their output is the output, their links lead somewhere.

project <- function(...) file.path(dirname(package_source()), ...)

vignettes <- function() list.files(project("vignettes"), "[.]Rmd$", full.names = TRUE)

documents <- function() {
  found <- c(list.files(project(), "[.]md$", full.names = TRUE), project("docs", "gallery.md"), vignettes())
  found[file.exists(found)]
}

# Takes seconds: the README's own reports and figures are drawn.
test_that("every block of the README runs and prints what is shown", {
  skip_if_not(file.exists(project("README.md")), "a tarball's tests have no README")
  expect_identical(document_faults(project("README.md")), NULL)
})

# Takes seconds: seventeen documents, each in a session of its own.
test_that("every chunk of the vignettes runs", {
  for (file in vignettes()) expect_identical(document_faults(file), NULL)
})

test_that("a block that stops, and output that is another, are seen", {
  file <- withr::local_tempfile(fileext = ".md", lines = c(
    "```r", "x <- 1", "x + 1", "#> [1] 2", "x", "#> [1] 3", "```", "", "```sh", "vandro nothing", "```",
    "<!-- not run: it is broken -->", "```r", "stop()", "```", "```{r, eval = FALSE}", "stop()", "```"
  ))
  expect_match(document_faults(file), "prints:\n\\[1\\] 1$|vandro: .*nothing", all = TRUE)
  expect_length(document_faults(file), 2)
})

test_that("the prose check catches every example of its list, and finds nothing in what the package says", {
  skip_if_not(file.exists(project("tools", "prose.R")), "a tarball has no tools")
  check <- new.env()
  sys.source(project("tools", "prose.R"), check)
  withr::local_dir(project())
  patterns <- check$prose_patterns()
  caught <- vapply(seq_len(nrow(patterns)), function(i) {
    nrow(check$prose_faults(data.frame(line = 1, text = patterns$example[[i]]), patterns[i, ])) > 0
  }, NA)
  expect_identical(patterns$pattern[!caught], character())
  expect_identical(nrow(check$prose_faults(data.frame(line = 1, text = strrep("and so ", 30)), patterns)), 1L)
  expect_identical(check$prose_of_package()$text, character())
})

test_that("every link to a file of the project leads to one", {
  for (file in documents()) {
    text <- paste(readLines(file, encoding = "UTF-8", warn = FALSE), collapse = "\n")
    links <- regmatches(text, gregexpr("\\]\\(([^)#: ]+)[)#]", text))[[1]]
    links <- gsub("^\\]\\(|[)#]$", "", links)
    expect_identical(links[!file.exists(file.path(dirname(file), links))], character(), label = basename(file))
  }
})

test_that("pictures of the README are the current ones", {
  skip_if_not(dir.exists(project("docs")), "a tarball has no docs")
  shipped <- list.files(project("man", "figures"), full.names = TRUE)
  expect_identical(
    unname(tools::md5sum(shipped)), unname(tools::md5sum(project("docs", "screenshots", basename(shipped))))
  )
})

test_that("every vignette that is named anywhere exists", {
  sources <- c(documents(), list.files(project("R"), "[.]R$", full.names = TRUE))
  text <- unlist(lapply(sources, readLines, encoding = "UTF-8", warn = FALSE))
  named <- unlist(regmatches(text, gregexpr("vignette\\(\"[a-z-]+\"", text)))
  named <- unique(gsub("vignette\\(|\"", "", named))
  expect_gt(length(named), 10)
  expect_identical(setdiff(named, sub("[.]Rmd$", "", basename(vignettes()))), character())
})

test_that("every link between help pages leads to a page", {
  pages <- tools::Rd_db("vandro")
  # Targets of a tag anywhere in a page: "=name" in brackets, else its text. Links into other packages are theirs.
  targets <- function(part, tag) {
    if (!is.list(part)) return(NULL)
    option <- attr(part, "Rd_option")
    if (!identical(attr(part, "Rd_tag"), tag)) return(unlist(lapply(part, targets, tag)))
    if (is.null(option)) paste(unlist(part), collapse = "") else sub("^=", "", grep("^=", option, value = TRUE))
  }
  links <- unique(unlist(lapply(pages, targets, "\\link")))
  expect_gt(length(links), 30)
  of_r <- vapply(links, exists, NA, envir = baseenv())
  expect_identical(setdiff(links[!of_r], unlist(lapply(pages, targets, "\\alias"))), character())
})

test_that("set-up installs every package that DESCRIPTION names", {
  skip_if_not(file.exists(project("tools", "needs.txt")), "a tarball has no tools")
  needs <- strsplit(readLines(project("tools", "needs.txt")), " +")
  installed <- unlist(lapply(Filter(function(line) identical(line[2], "packages"), needs), utils::tail, -2))
  fields <- read.dcf(project("DESCRIPTION"), fields = c("Imports", "LinkingTo", "Suggests"))
  named <- trimws(sub("[(].*$", "", unlist(strsplit(fields, ","))))
  base <- rownames(utils::installed.packages(priority = "base"))
  expect_identical(setdiff(named, c(installed, base)), character())
})

test_that("an installation with vignettes lists and opens all of them, and the package can be cited", {
  expect_silent(cited <- format(utils::citation("vandro"), style = "text"))
  expect_match(cited, as.character(utils::packageVersion("vandro")), fixed = TRUE)
  built <- system.file("doc", package = "vandro")
  skip_if(built == "", "vandro was installed without its vignettes (make install builds them)")
  listed <- utils::vignette(package = "vandro")$results[, "Item"]
  expect_setequal(listed, sub("[.]Rmd$", "", basename(vignettes())))
  for (name in listed) expect_true(file.exists(file.path(built, utils::vignette(name, package = "vandro")$PDF)))
})
