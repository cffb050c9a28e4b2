read <- function(...) read_yaml(yaml_file(...), "a plan", "plan: 1", NULL)

test_that("every scalar stays the text that stands in the file", {
  tree <- read(
    "plain: some words", "no: No", "code: 01", "decimals: 1.50", "big: 1e3", "day: 2026-03-01", "n: [y, n, off, ~]",
    "quoted: \"a: b # c\"", "single: 'it''s'", "clock: 12:30", "thousand: 1_000", "hex: 0x1F"
  )$tree
  expect_identical(tree[c("no", "code", "decimals", "big", "day")], list(
    no = "No", code = "01", decimals = "1.50", big = "1e3", day = "2026-03-01"
  ))
  expect_identical(tree$n, list("y", "n", "off", NA))
  expect_identical(tree$quoted, "a: b # c")
  expect_identical(tree$single, "it's")
  expect_identical(tree[c("clock", "thousand", "hex")], list(clock = "12:30", thousand = "1_000", hex = "0x1F"))
})

test_that("what YAML could do beyond plain data is refused, with its line", {
  refused <- function(line, ..., text) {
    e <- expect_error(read(...), class = "vandro_error_plan")
    expect_identical(e$line, line)
    expect_match(conditionMessage(e), text, fixed = TRUE)
  }
  refused(2L, "a: 1", "b: !expr system('touch /tmp/never')", text = "a tag")
  refused(2L, "a: [1,", "  !e 2]", text = "a tag")
  refused(1L, "a: {b: *x}", text = "an anchor or alias")
  refused(2L, "a: 1", "b: !!python/object:os.system {}", text = "a tag")
  refused(1L, "!r a: 1", text = "a tag")
  refused(1L, "a: &x [1, 2]", "b: *x", text = "an anchor or alias")
  refused(3L, "a: 1", "c:", "  - *x", text = "an anchor or alias")
  refused(2L, "a: {b: 1}", "<<: {c: 2}", text = "a merged mapping")
  refused(2L, "a: 1", "? [b, c]", ": 2", text = "a key of several parts")
  refused(1L, "%YAML 1.1", "---", "a: 1", text = "a directive")
  refused(2L, "a: 1", "---", "b: 2", text = "a second document")
  # Keys in quotes hide nothing.
  refused(1L, "\"a\": !r 1", text = "a tag")
  refused(2L, "a: 1", "  'b': !!binary x", text = "a tag")
  refused(1L, "\"a\": &x 1", text = "an anchor or alias")
  refused(1L, "{\"a\": *x}", text = "an anchor or alias")
  refused(2L, "a:", "- \"b\": !e 2", text = "a tag")
  refused(1L, paste0("a: ", strrep("[", 50000)), text = "brackets within each other")
  refused(2L, "a:", paste0("  - {b: ", strrep("[{c: ", 15), "1"), text = "brackets within each other")
  expect_identical(read("\"a: !b\": \"c: &d [[[\"")$tree, list("a: !b" = "c: &d [[["))
})

test_that("a bomb of aliases is refused before it is read", {
  lines <- c("a0: &a0 [x, x]", sprintf("a%d: &a%d [%s]", 1:40, 1:40, paste0("*a", 0:39, ", *a", 0:39)))
  e <- expect_error(read(lines), class = "vandro_error_plan")
  expect_identical(e$line, 1L)
})

test_that("keys that come twice and files that are no YAML are errors with lines", {
  twice <- expect_error(read("a: 1", "b:", "  c: 1", "  d: 2", "  c: 3"), class = "vandro_error_plan")
  expect_identical(twice$line, 5L)
  expect_match(conditionMessage(twice), "The first time is line 3", fixed = TRUE)
  # The same key in two mappings, and in the entries of a list, is none.
  expect_length(read("a:", "  c: 1", "b:", "  c: 2", "l:", "  - c: 1", "  - c: 2")$tree, 3)
  expect_error(read("a: {b: 1, b: 2}"), "stands twice", class = "vandro_error_plan")
  broken <- expect_error(read("a: [1, 2", "b: 3"), "not whole YAML", class = "vandro_error_plan")
  expect_identical(broken$line, 2L)
  expect_error(read("a: 1", "\tb: 2"), "not whole YAML", class = "vandro_error_plan")
  expect_error(read(""), "nothing in it", class = "vandro_error_plan")
  expect_error(read("- a", "- b"), "keys with values", class = "vandro_error_plan")
  expect_error(read("just text"), "keys with values", class = "vandro_error_plan")
})

test_that("the file must be there, be text in UTF-8, and be of a plan's size", {
  refused(file = read_plan("nowhere.yaml"), file = read_plan(tempdir()))
  file <- withr::local_tempfile(fileext = ".yaml")
  writeBin(c(charToRaw("plan: 1\ntitle: B"), as.raw(0xF6), charToRaw("den\n")), file)
  e <- expect_error(read_plan(file), class = "vandro_error_encoding")
  expect_identical(e$line, 2L)
  writeBin(as.raw(c(0xFF, 0xFE, 0x70, 0x00, 0x6C, 0x00)), file)
  expect_error(read_plan(file), "UTF-16", class = "vandro_error_encoding")
  writeBin(c(as.raw(c(0xEF, 0xBB, 0xBF)), charToRaw("a: 1\r\nb: 2\r\n")), file)
  expect_identical(read_yaml(file, "a plan", "plan: 1", NULL)$tree, list(a = "1", b = "2"))
  writeLines(strrep("# filling\n", 110000), file)
  expect_error(read_plan(file), "too large", class = "vandro_error_plan")
})

test_that("lines are known for keys, and for what stands in braces that of the key around it", {
  source <- read("a: 1", "", "# comment: not a key", "b:", "  c:", "    d: {e: 1}", "  f: \"g: h\"")
  expect_identical(line_of(source, c("b", "c", "d")), 6L)
  expect_identical(line_of(source, c("b", "c", "d", "e")), 6L)
  expect_identical(line_of(source, c("b", "f")), 7L)
  expect_null(line_of(source, "z"))
})
