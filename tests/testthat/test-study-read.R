# The data without the note on where they were read.
expect_read <- function(data, expected) {
  expect_identical(data, expected, ignore_attr = "vandro_read")
}

write_bytes <- function(text, name = "trial.csv", env = parent.frame()) {
  file <- file.path(withr::local_tempdir(.local_envir = env), name)
  writeBin(if (is.raw(text)) text else charToRaw(text), file)
  file
}

test_that("the shipped file reads back as the shipped data", {
  expect_message(data <- read_measurements(demo_file()), "50 rows, 8 columns")
  expect_read(data, seedlings)
})

test_that("tabs, semicolons, decimal commas and Latin-1 are read", {
  tabs <- read_measurements(write_bytes("a\tb\n1.5\tx\n\ty\n"), quiet = TRUE)
  expect_read(tabs, data.frame(a = c(1.5, NA), b = c("x", "y")))
  comma <- read_measurements(write_bytes("a;b\n1,5;x\n2,25;y\n"), decimal = ",", quiet = TRUE)
  expect_identical(comma$a, c(1.5, 2.25))
  latin <- write_bytes(c(charToRaw("a,b\n1,g"), as.raw(0xfc), charToRaw("n\n2,rot\n")))
  expect_error(
    read_measurements(latin), "Column \"b\" has other bytes in row 1",
    class = "vandro_error_encoding"
  )
  expect_identical(read_measurements(latin, encoding = "Latin-1", quiet = TRUE)$b, c("gün", "rot"))
})

test_that("a file that cannot be read as it stands is an error", {
  error <- function(text, class, ...) {
    expect_error(read_measurements(write_bytes(text), ...), class = paste0("vandro_error_", class))
  }
  error(raw(), "empty_data")
  error("height,substrate\n", "empty_data")
  error("height,height\n1,2\n", "duplicate_columns")
  error("a,b\n1,2\n1,2,3\n4,5\n", "file")
  error("Spring in the greenhouse\n\nheight,substrate\n1,peat\n2,peat\n", "file")
  error("a;b;c\n0;1;1;2\n3;1;4\n6;1;7\n", "file", quiet = TRUE)
  error(as.raw(c(0xff, 0xfe, 0x61, 0)), "encoding")
  # Two columns of one name, of which the first is no text.
  error(c(charToRaw("a,a\n1,"), as.raw(0xfc), charToRaw("\n")), "encoding")
  error("a,b\n1,2\n", "bad_value", decimal = ";")
  expect_error(read_measurements("nowhere.csv"), class = "vandro_error_file")
  expect_error(read_measurements(tempdir()), "folder", class = "vandro_error_file")
  near <- write_bytes("a\n1\n")
  expect_error(read_measurements(sub("trial", "trail", near)), "Did you mean")
})

test_that("first lines of every honest kind are headers", {
  names_of <- function(text) names(read_measurements(write_bytes(text), quiet = TRUE))
  expect_identical(names_of("\n\n a , b\n1,2\n"), c("a", "b"))
  expect_identical(names_of("\"\",a\n1,2\n"), c("V1", "a"))
  expect_identical(names_of(",a\r\n1,2\r\n"), c("V1", "a"))
  expect_identical(names_of("\" \"\ta\n1\t2\n"), c(" ", "a"))
  expect_identical(names_of("\"\"\n1\n2\n"), "V1")
  expect_identical(names_of("\ufeff\"h\u00f6he\";b\n1;2\n"), c("h\u00f6he", "b"))
  expect_identical(names_of("\"stem\nheight\",b\n1,2\n"), c("stem\nheight", "b"))
  expect_identical(names_of("height\n1\n2\n"), "height")
})

test_that("Parquet, RDS and spreadsheets are read like text", {
  folder <- withr::local_tempdir()
  path <- function(name) file.path(folder, name)
  saveRDS(seedlings, path("a.rds"))
  expect_read(read_measurements(path("a.rds"), quiet = TRUE), seedlings)
  saveRDS(1:3, path("b.rds"))
  expect_error(read_measurements(path("b.rds")), class = "vandro_error_file")
  writeLines("not one", path("c.rds"))
  expect_error(suppressWarnings(read_measurements(path("c.rds"))), class = "vandro_error_file")
  skip_if_not_installed("nanoparquet")
  nanoparquet::write_parquet(seedlings, path("a.parquet"))
  expect_equal(read_measurements(path("a.parquet"), quiet = TRUE), seedlings, ignore_attr = "vandro_read")
  writeLines("not one", path("b.parquet"))
  expect_error(read_measurements(path("b.parquet")), class = "vandro_error_file")
  skip_if_not_installed("readxl")
  writeLines("not one", path("a.xlsx"))
  expect_error(read_measurements(path("a.xlsx")), class = "vandro_error_file")
  datasets <- readxl::read_excel(readxl::readxl_example("datasets.xlsx"), sheet = 2)
  sheet <- read_measurements(readxl::readxl_example("datasets.xlsx"), sheet = 2, quiet = TRUE)
  expect_identical(dim(sheet), dim(datasets))
})

test_that("other encodings are converted, and a wrong one is said", {
  utf16 <- iconv("höhe,g\n1,a\n2,b\n", "UTF-8", "UTF-16LE", toRaw = TRUE)[[1]]
  file <- write_bytes(c(as.raw(c(0xff, 0xfe)), utf16))
  expect_named(read_measurements(file, encoding = "UTF-16", quiet = TRUE), c("höhe", "g"))
  euro <- write_bytes(c(charToRaw("a,b\n1,"), as.raw(0x80), charToRaw("\n")))
  expect_identical(read_measurements(euro, encoding = "windows-1252", quiet = TRUE)$b, "\u20ac")
  expect_error(read_measurements(euro, encoding = "nonsense"), class = "vandro_error_encoding")
})

test_that("thousands marks, a byte order mark and declared codes are understood", {
  marked <- write_bytes("a;b\n\"1.234,5\";x\n12;y\n\"1.000.000\";z\n")
  data <- read_measurements(marked, decimal = ",", thousands = ".", quiet = TRUE)
  expect_identical(data$a, c(1234.5, 12, 1e6))
  wrong <- write_bytes("a;b\n12,34;1\n1,234;2\n")
  expect_type(read_measurements(wrong, thousands = ",", quiet = TRUE)$a, "character")
  worded <- write_bytes("a;b\n1,5;x\nn/a;y\n2,5;z\n")
  expect_identical(read_measurements(worded, decimal = ",", quiet = TRUE)$a, c("1.5", "n/a", "2.5"))
  bom <- write_bytes(c(as.raw(c(0xef, 0xbb, 0xbf)), charToRaw("height,g\n1,a\n2,b\n")))
  expect_named(read_measurements(bom, quiet = TRUE), c("height", "g"))
  coded <- write_bytes("a,b\n1,x\nn/a,y\n-99,z\n4,n/a\n")
  data <- read_measurements(coded, missing = c(-99, "n/a"), quiet = TRUE)
  expect_read(data, data.frame(a = c(1, NA, NA, 4), b = c("x", "y", "z", NA)))
})

test_that("what keeps a column from being numbers is told by row and value", {
  file <- write_bytes("height,g\n1,a\n2,b\nca. 3,a\n4,b\n")
  expect_message(read_measurements(file), "row 3 \"ca. 3\"", fixed = TRUE)
  expect_message(read_measurements(write_bytes("g\na\nb\n")), "g (text)", fixed = TRUE)
})

test_that("data say where and how they were read, and a study keeps it", {
  file <- write_bytes("h;g\n1,5;a\n2,5;b\n3;a\n-9;b\n4;b\n")
  data <- read_measurements(file, decimal = ",", missing = -9, quiet = TRUE)
  read <- list(file = normalizePath(file), decimal = ",", missing = "-9")
  expect_identical(attr(data, "vandro_read"), read)
  expect_identical(versus(data, h, g, groups = c("a", "b"))$read, read)
  expect_null(height_study()$read)
  expect_null(versus(first = c(1, 2, 3), second = c(2, 3, 5), groups = c("a", "b"))$read)
})
