# Every public function says what it needs, returns and refuses, and shows it.

help_pages <- function() {
  pages <- tools::Rd_db("vandro")
  tag <- function(page, name) Filter(function(part) identical(attr(part, "Rd_tag"), name), page)
  lapply(pages, function(page) {
    text <- function(parts) paste(unlist(parts), collapse = "")
    list(
      alias = unlist(lapply(tag(page, "\\alias"), text)), examples = text(tag(page, "\\examples")),
      value = text(tag(page, "\\value")), sections = vapply(tag(page, "\\section"), function(s) text(s[[1]]), ""),
      whole = text(page)
    )
  })
}

test_that("every exported function has a page with examples, value and errors", {
  pages <- help_pages()
  for (name in getNamespaceExports("vandro")) {
    page <- Filter(function(page) name %in% page$alias, pages)
    expect_length(page, 1)
    page <- page[[1]]
    expect_true(grepl(name, page$examples, fixed = TRUE), info = name)
    expect_true(nzchar(page$value), info = name)
    expect_true("Errors" %in% page$sections || grepl("vandro_error", page$whole, fixed = TRUE), info = name)
  }
})

test_that("pages of methods name their sources by author and year", {
  pages <- help_pages()
  of <- function(name) Filter(function(page) name %in% page$alias, pages)[[1]]$whole
  for (name in c(
    "test_difference", "gauge_effect", "test_equivalence", "weigh_evidence", "vet_assumptions", "rehearse_study",
    "compare_subgroups", "audit_numbers"
  )) {
    expect_match(of(name), "[(](18|19|20)[0-9]{2}[)]", info = name)
    expect_match(of(name), "validation", fixed = TRUE, info = name)
  }
})

test_that("every argument is documented", {
  expect_length(tools::checkDocFiles("vandro"), 0)
  expect_length(tools::codoc("vandro"), 0)
})
