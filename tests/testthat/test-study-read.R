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
  comma <- read_measurements(write_bytes("a;b\n1,5;x\n2,25;y\n"), decimal_mark = ",", quiet = TRUE)
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
  error("a,b\n1,2\n1,2,3\n4,5\n", "file")
  error("Spring in the greenhouse\n\nheight,substrate\n1,peat\n2,peat\n", "file")
  error("a;b;c\n0;1;1;2\n3;1;4\n6;1;7\n", "file", quiet = TRUE)
  error(as.raw(c(0xff, 0xfe, 0x61, 0)), "encoding")
  # Two columns of one name, of which the first is no text.
  error(c(charToRaw("a,a\n1,"), as.raw(0xfc), charToRaw("\n")), "encoding")
  error("a,b\n1,2\n", "bad_value", decimal_mark = ";")
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
  expect_silent(expect_error(read_measurements(path("a.xlsx")), class = "vandro_error_file"))
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
  data <- read_measurements(marked, decimal_mark = ",", thousands = ".", quiet = TRUE)
  expect_identical(data$a, c(1234.5, 12, 1e6))
  wrong <- write_bytes("a;b\n12,34;1\n1,234;2\n")
  expect_type(read_measurements(wrong, thousands = ",", quiet = TRUE)$a, "character")
  worded <- write_bytes("a;b\n1,5;x\nn/a;y\n2,5;z\n")
  expect_identical(read_measurements(worded, decimal_mark = ",", quiet = TRUE)$a, c("1.5", "n/a", "2.5"))
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
  data <- read_measurements(file, decimal_mark = ",", missing = -9, quiet = TRUE)
  read <- list(file = normalizePath(file), decimal_mark = ",", missing = "-9")
  expect_identical(attr(data, "vandro_read"), read)
  expect_identical(versus(data, h, g, groups = c("a", "b"))$read, read)
  expect_null(height_study()$read)
  expect_null(versus(first = c(1, 2, 3), second = c(2, 3, 5), groups = c("a", "b"))$read)
})

# A spreadsheet of plain cells; `rows` is its XML.
sheet_file <- function(rows, file = withr::local_tempfile(fileext = ".xlsx", .local_envir = parent.frame())) {
  folder <- withr::local_tempdir()
  for (part in c("_rels", "xl/_rels", "xl/worksheets")) dir.create(file.path(folder, part), recursive = TRUE)
  put <- function(part, text) writeLines(text, file.path(folder, part))
  schema <- "http://schemas.openxmlformats.org/"
  type <- "application/vnd.openxmlformats-officedocument.spreadsheetml."
  part <- function(name, kind) sprintf('<Override PartName="/xl/%s.xml" ContentType="%s%s+xml"/>', name, type, kind)
  put("[Content_Types].xml", sprintf(
    '<Types xmlns="%spackage/2006/content-types"><Default Extension="rels" ContentType="%s"/>%s%s%s</Types>', schema,
    "application/vnd.openxmlformats-package.relationships+xml", part("workbook", "sheet.main"),
    part("worksheets/sheet1", "worksheet"), part("styles", "styles")
  ))
  related <- function(type, target) {
    about <- paste0(schema, "officeDocument/2006/relationships/", type)
    each <- sprintf('<Relationship Id="%s" Type="%s" Target="%s"/>', type, about, target)
    each <- paste(each, collapse = "")
    sprintf('<Relationships xmlns="%spackage/2006/relationships">%s</Relationships>', schema, each)
  }
  put("_rels/.rels", related("officeDocument", "xl/workbook.xml"))
  put("xl/_rels/workbook.xml.rels", related(c("worksheet", "styles"), c("worksheets/sheet1.xml", "styles.xml")))
  main <- sprintf('xmlns="%sspreadsheetml/2006/main"', schema)
  put("xl/workbook.xml", sprintf(
    '<workbook %s xmlns:r="%sofficeDocument/2006/relationships"><sheets>%s</sheets></workbook>', main, schema,
    '<sheet name="one" sheetId="1" r:id="worksheet"/>'
  ))
  formats <- '<cellXfs><xf numFmtId="0"/><xf numFmtId="14"/></cellXfs>'
  put("xl/styles.xml", sprintf("<styleSheet %s>%s</styleSheet>", main, formats))
  body <- paste(rows, collapse = "")
  put("xl/worksheets/sheet1.xml", sprintf("<worksheet %s><sheetData>%s</sheetData></worksheet>", main, body))
  withr::with_dir(folder, utils::zip(file, list.files(recursive = TRUE, all.files = TRUE), "-qrX"))
  file
}
sheet_row <- function(i, ...) {
  cells <- c(...)
  sprintf('<row r="%d">%s</row>', i, paste0(sprintf('<c r="%s%d"', LETTERS[seq_along(cells)], i), cells, collapse = ""))
}
as_number <- function(x) sprintf("><v>%.17g</v></c>", x)
as_words <- function(x) sprintf(' t="inlineStr"><is><t>%s</t></is></c>', x)
as_day <- function(x) sprintf(' s="1"><v>%s</v></c>', x)

test_that("every cell of a spreadsheet counts for the type of its column", {
  skip_if_not_installed("readxl")
  n <- 1100
  rows <- vapply(seq_len(n), function(i) {
    sheet_row(
      i + 1, as_words(c("compost", "peat")[[1 + i %% 2]]), as_number(i / 10),
      if (i < n) as_number(i) else as_day(44000),
      if (i < n) as_number(0.1 + 0.2) else as_words("n/a"), if (i < n) "/>" else as_number(1.5), as_day(44000 + i),
      as_day(44000 + i / 2), if (i == 5) as_words(" 07.5 ") else as_number(i), as_words(if (i == 5) "NA" else " x ")
    )
  }, "")
  head <- sheet_row(1, as_words(c(
    "side", "height", "late", "words", "last", "day", "time", "mixed", "blanks"
  )))
  data <- read_measurements(sheet_file(c(head, rows)), quiet = TRUE)
  expect_identical(data$height, seq_len(n) / 10)
  expect_identical(data$late[c(1, n)], c("1", "2020-06-18"))
  expect_identical(data$words[c(1, n)], c("0.30000000000000004", "n/a"))
  expect_s3_class(data$time, "POSIXct")
  expect_identical(data$mixed, replace(as.double(seq_len(n)), 5, 7.5))
  expect_identical(data$blanks, replace(rep("x", n), 5, NA))
  expect_identical(data$last, c(rep(NA, n - 1), 1.5))
  expect_identical(data$day, as.Date("2020-06-18") + seq_len(n))
  expect_error(versus(data, late, side), "Row 1100 holds \"2020-06-18\"", class = "vandro_error_not_numeric")
  expect_identical(quiet(versus(data, words, side, missing = "n/a"))$outcomes[[1]]$moments[[1]]$max, 0.1 + 0.2)
  far <- sheet_file(c(head, rows[1:3], '<row r="1048576"><c r="XFD1048576"><v>1</v></c></row>'))
  expect_error(read_measurements(far), "XFD1048576", class = "vandro_error_too_large")
})

test_that("codes keep their zeros and digits, quotes are single, marks are understood or asked about", {
  file <- withr::local_tempfile(fileext = ".csv")
  read <- function(..., lines) {
    writeLines(lines, file)
    read_measurements(file, quiet = TRUE, ...)
  }
  data <- read(lines = c(
    "code,id,\"a \"\"b\"\"\",y,z", "01,9007199254740993,\"x \"\"y\"\"\",3000000000,007.5",
    "02,9007199254740992,z,1.5,008"
  ))
  expect_identical(as.list(data), list(
    code = c("01", "02"), id = c("9007199254740993", "9007199254740992"), `a "b"` = c("x \"y\"", "z"), y = c(3e9, 1.5),
    z = c(7.5, 8)
  ), ignore_attr = TRUE)
  # Codes of digits are numbers all the same where they are an outcome.
  sums <- quiet(versus(read(lines = c("g,y", "a,05", "a,992", "b,01100", "b,07")), y, g))$outcomes[[1]]$moments
  expect_identical(c(sums[[1]]$mean, sums[[2]]$mean), c(498.5, 553.5))
  marks <- list(
    "\"1,234\"" = "`thousands = \",\"`; if", "\"1,234.5\"" = "`thousands = \",\"`", "1'234" = "`thousands = \"'\"`",
    "\"1.234,5\"" = "`decimal_mark = \",\", thousands = \".\"`", "\"7,5\"" = "`decimal_mark = \",\"`"
  )
  for (number in names(marks)) {
    data <- read(lines = c("g,y", paste0("a,", number), "a,992", "b,1100", "b,7"))
    said <- gsub("\\s+", " ", tryCatch(versus(data, y, g), error = conditionMessage))
    expect_match(said, marks[[number]], fixed = TRUE)
  }
  # 1.234 beside 992,5 is more than a thousand, or nothing.
  lines <- c("g;y", "a;1.234", "a;992,5", "b;1.100,5", "b;7,5")
  data <- read(lines = lines, decimal_mark = ",")
  expect_error(versus(data, y, g), "thousands = \".\"", class = "vandro_error_not_numeric", fixed = TRUE)
  expect_identical(read(lines = lines, decimal_mark = ",", thousands = ".")$y, c(1234, 992.5, 1100.5, 7.5))
  lines <- c("g;y", "a;-99,5", "a;992,5", "b;n/a", "b;7,5")
  expect_identical(read(lines = lines, decimal_mark = ",", missing = c("-99,5", "n/a"))$y, c(NA, 992.5, NA, 7.5))
  data <- read(lines = lines[-4], decimal_mark = ",")
  expect_identical(quiet(versus(data, y, g, missing = "-99,5"))$left_out$n[[3]], 1)
  got <- run_here("describe", file, "--outcome", "y", "--by", "g", "--decimal-mark", ",", "--missing", "-99,5")
  expect_match(got$out, "a +1 ", all = FALSE)
})

test_that("a pipe is read, one bad file does not spoil the next, and what runs code is asked about", {
  skip_on_os("windows")
  folder <- withr::local_tempdir()
  pipe <- file.path(folder, "pipe")
  system2("mkfifo", pipe)
  system2("sh", c("-c", shQuote(sprintf("cat %s > %s", shQuote(demo_file()), shQuote(pipe)))), wait = FALSE)
  from_pipe <- as.list(read_measurements(pipe, quiet = TRUE))
  expect_identical(from_pipe, as.list(read_measurements(demo_file(), quiet = TRUE)), ignore_attr = TRUE)
  bad <- file.path(folder, c("bad.csv", "bad.rds", "data.rds"))
  writeBin(c(charToRaw("g,y\na,1\n"), as.raw(0), charToRaw("b,\"2\na,3\nb,4")), bad[[1]])
  writeBin(as.raw(c(0x1f, 0x8b, 8, 0, 0, 1:40)), bad[[2]])
  expect_error(read_measurements(bad[[1]]), class = "vandro_error_file")
  expect_silent(read_measurements(demo_file(), quiet = TRUE))
  expect_silent(expect_error(read_measurements(bad[[2]]), class = "vandro_error_file"))
  saveRDS(seedlings, bad[[3]])
  study <- versus(read_measurements(bad[[3]], quiet = TRUE), height, substrate, groups = c("compost", "peat"))
  plan <- file.path(folder, "plan.yaml")
  write_plan(test_difference(study), plan)
  expect_length(grep("trust: yes", readLines(plan)), 1)
  expect_s3_class(run_plan(plan, quiet = TRUE), "vandro_run")
  writeLines(grep("trust|fingerprint", readLines(plan), invert = TRUE, value = TRUE), plan)
  expect_error(run_plan(plan, quiet = TRUE), "trust: yes", class = "vandro_error_plan")
})
