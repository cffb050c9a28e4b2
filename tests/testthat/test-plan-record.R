test_that("the record has one line per field, and one changed field is one changed line", {
  folder <- withr::local_tempdir()
  one <- run_quiet(plan_file(folder = folder), file.path(folder, "one"))
  changes <- list(
    c("alpha: 0.05" = "alpha: 0.01"), c("unit: cm" = "unit: mm"), c("primary: welch" = "primary: student"),
    c("title: Spring trial" = "title: Another"), c("tables: csv" = "tables: [csv, md]"),
    c("groups: [compost, peat]" = "groups: [peat, compost]"), c("outcome: height" = "outcome: leaf_area")
  )
  before <- readLines(file.path(folder, "one", "record.txt"))
  for (change in changes) {
    run_quiet(plan_file(change, folder = folder, name = "other.yaml"), file.path(folder, "two"), overwrite = TRUE)
    after <- readLines(file.path(folder, "two", "record.txt"))
    expect_length(after, length(before))
    expect_identical(sum(before != after), 1L)
  }
  expect_true("height.difference.alpha: 0.05" %in% before)
  expect_identical(sum(grepl("^bytes of seedlings: [0-9a-f]{12}$", before)), 1L)
})

test_that("the fingerprint covers what decides numbers, and nothing else", {
  print_of <- function(...) read_plan(plan_file(...))$fingerprint
  plain <- print_of()
  same <- list(
    c("title: Spring trial" = "title: Other"), c("unit: cm" = "unit: mm"), c("date: 2026-03-02" = "date: 2027-01-01"),
    c("  report: none" = "  report: html"), c("alpha: 0.05" = "alpha: 5e-2   # a comment"),
    c("outputs:" = "conventions: {name: House, numbers: {decimals: 1}}\noutputs:"),
    c("groups: [compost, peat]" = "groups:\n      - compost\n      - peat")
  )
  for (change in same) expect_identical(print_of(change), plain)
  other <- list(
    c("alpha: 0.05" = "alpha: 0.01"), c("groups: [compost, peat]" = "groups: [peat, compost]"),
    c("outputs:" = "seed: 3\noutputs:"), c("outputs:" = "conventions: {alpha: 0.01}\noutputs:"),
    c("        alpha: 0.05" = "        alpha: 0.05\n      effect: yes")
  )
  prints <- vapply(other, print_of, "")
  expect_false(plain %in% prints)
  expect_length(unique(prints), length(prints))
  # A line moved is the same plan; a file of conventions counts by what it holds.
  moved <- plan_text()
  expect_identical(print_of(lines = moved[c(1:8, 10, 9, 11:length(moved))]), plain)
  folder <- withr::local_tempdir()
  house <- function(alpha) writeLines(c("conventions: 1", paste("alpha:", alpha)), file.path(folder, "house.yaml"))
  change <- c("outputs:" = "conventions: house.yaml\noutputs:")
  house(0.05)
  first <- print_of(change, folder = folder)
  house(0.01)
  expect_false(print_of(change, folder = folder) == first)
})

test_that("values are written so that they are read back as the same", {
  hostile <- c(
    "plain", "No", "yes", "null", "~", "01", "1.50", "a: b", "a #b", "- c", "[d]", "{e}", "\"q\"", "it's",
    "back\\slash",
    "line\nbreak", "tab\there", "&a", "*b", "!c", "%d", "@e", "`f`", "", " lead", "trail ", "\u00fcber \u4e2d \u0627",
    "\U1F331", "a\u0085b", "a\u2028b", "<<", "=1+1", "---", "?", "y"
  )
  for (text in hostile) {
    back <- read_yaml(yaml_file(paste("key:", yaml_value(text))), "a plan", "plan: 1", NULL)$tree$key
    expect_identical(back, text)
  }
  list <- read_yaml(yaml_file(paste("key:", yaml_value(hostile))), "a plan", "plan: 1", NULL)$tree$key
  expect_identical(unlist(list), hostile)
  named <- stats::setNames(c(0.1, 1e-300, -2), c("a b", "No", "c:d"))
  source <- read_yaml(yaml_file(paste("key:", yaml_value(named))), "a plan", "plan: 1", NULL)
  expect_identical(plan_readers$named_numbers(source$tree$key, "key", source), named)
  expect_identical(yaml_block(list(a = list(), b = list(c = 1, d = c(TRUE, FALSE)))), c(
    "a: yes", "b:", "  c: 1", "  d: [yes, no]"
  ))
})
