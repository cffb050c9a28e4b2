# Where the results of a command go, by the shell itself.

asked <- c("--outcome", "height", "--by", "substrate", "--groups", "compost,peat")
shell <- function(words) {
  withr::local_envvar(R_LIBS = paste(.libPaths(), collapse = .Platform$path.sep))
  words <- sub("%s", shQuote(system.file("exec", "vandro", package = "vandro")), words, fixed = TRUE)
  out <- suppressWarnings(system(sprintf("sh -c %s 2>&1", shQuote(words)), intern = TRUE))
  list(text = out, status = as.integer(attr(out, "status") %||% 0L))
}

# Takes seconds: three times the command in a process of its own.
test_that("results that do not arrive are an error, a reader that leaves is none", {
  skip_on_os("windows")
  skip_if_not(file.exists("/dev/full"))
  difference <- paste("%s difference", shQuote(demo_file()), paste(asked, collapse = " "))
  for (where in c("> /dev/full", ">&-")) {
    got <- shell(paste(difference, where))
    expect_identical(got$status, 1L)
    expect_match(got$text, "standard output", all = FALSE)
  }
  got <- shell(paste0("{ ", difference, "; echo status $? >&2; } | true"))
  expect_identical(got$text, "status 141")
})

test_that("the profile of a folder has no say, and letters are letters whatever the shell's language", {
  skip_on_os("windows")
  folder <- withr::local_tempdir()
  withr::local_dir(folder)
  writeLines("cat('PROFILE')", ".Rprofile")
  lines <- c("gr\u00f6\u00dfe,seite", "1.5,s\u00fcd", "2.5,s\u00fcd", "3.1,nord", "4.2,nord")
  writeLines(enc2utf8(lines), "h\u00f6he.csv", useBytes = TRUE)
  got <- shell(paste(
    "LC_ALL=C %s difference h*.csv --outcome gr\u00f6\u00dfe --by seite --groups s\u00fcd,nord --label H\u00f6he"
  ))
  expect_identical(got$status, 0L)
  expect_identical(got$text[[1]], "Difference: H\u00f6he, s\u00fcd minus nord")
})

test_that("one file gives its name to what is written, and COLUMNS the width", {
  folder <- withr::local_tempdir()
  got <- run_here("difference", demo_file(), asked, "--output", file.path(folder, "{name}.json"))
  expect_identical(list.files(folder), "seedlings.json")
  narrow <- withr::with_envvar(c(COLUMNS = "50"), run_here("difference", demo_file(), asked))
  expect_lte(max(nchar(narrow$out)), 50)
})

test_that("formulas behind blanks are text in CSV, and come back from it", {
  cells <- c("=1+1", "\t=cmd()", "\r\n@x", " -a", "-1.5", "a=b")
  expect_identical(csv_quote(cells)[c(5, 6)], c("-1.5", "a=b"))
  expect_true(all(startsWith(gsub("\"", "", csv_quote(cells)[1:4]), "'")))
})
