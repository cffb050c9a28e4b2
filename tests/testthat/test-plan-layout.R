fails <- function(..., lines = plan_text()) {
  expect_error(read_plan(plan_file(..., lines = lines)), class = "vandro_error_plan")
}

test_that("unknown and misspelt keys are errors with a suggestion and their line", {
  cases <- list(
    list(c("title:" = "titel:"), 2L, "\"title\""),
    list(c("    outcome:" = "    outcomes:"), 9L, "\"outcome\""),
    list(c("      difference:" = "      diference:"), 14L, "\"difference\""),
    list(c("        alpha:" = "        alhpa:"), 16L, "\"alpha\""),
    list(c("  figures:" = "  figure:"), 19L, "\"figures\"")
  )
  for (case in cases) {
    e <- fails(case[[1]])
    expect_identical(e$line, case[[2]])
    expect_match(conditionMessage(e), paste0("Did you mean ", case[[3]]), fixed = TRUE)
  }
  # No near name: the known ones.
  expect_match(conditionMessage(fails(c("        alpha:" = "        zzzzzz:"))), "Keys here", fixed = TRUE)
  # The arguments of one verb are not those of another, and a plan says primary.
  expect_match(conditionMessage(fails(c("primary: welch" = "method: welch"))), "no key \"method\"", fixed = TRUE)
  expect_error(
    read_plan(plan_file(c("difference:" = "description:", "primary: welch" = "level: 0.9"))), "no key \"alpha\"",
    class = "vandro_error_plan"
  )
})

test_that("values of the wrong type are errors that say what is wanted", {
  wrong <- function(change, text, line = NULL) {
    e <- fails(change)
    expect_match(conditionMessage(e), text, fixed = TRUE)
    if (!is.null(line)) expect_identical(e$line, line)
  }
  wrong(c("alpha: 0.05" = "alpha: small"), "must be a number", 16L)
  wrong(c("alpha: 0.05" = "alpha: 0,05"), "decimal point", 16L)
  wrong(c("alpha: 0.05" = "alpha: [0.05, 0.1]"), "It is a list")
  wrong(c("alpha: 0.05" = "alpha:"), "It has no value", 16L)
  wrong(c("alpha: 0.05" = "alpha: 1e999"), "must be a number")
  wrong(c("alpha: 0.05" = "alpha: .inf"), "must be a number")
  wrong(c("alpha: 0.05" = "exact: perhaps"), "must be yes or no", 16L)
  wrong(c("outcome: height" = "outcome: {a: 1}"), "holds keys", 9L)
  wrong(c("unit: cm" = "unit: [[cm]]"), "\"unit\" must be")
  wrong(c("plan: 1" = "plan: 2"), "layout 2 is not known", 1L)
  wrong(c("date: 2026-03-02" = "date: last March"), "must be a day", 4L)
  wrong(c("date: 2026-03-02" = "date: 2026-13-02"), "must be a day", 4L)
  wrong(c("data:" = "data: 5\nmore:"), "no key \"more\"")
  wrong(c("  height:" = "  ../height:"), "become names of files", 8L)
  wrong(c("  height:" = "  data:"), "cannot be called \"data\"", 8L)
  wrong(c("outputs:" = "departures:\n  x: [1, 2]\noutputs:"), "one piece of text")
})

test_that("a direction and bounds need their reason", {
  e <- fails(c("alpha: 0.05" = "expect: higher"))
  expect_match(conditionMessage(e), "\"expect\" needs a \"reason\"", fixed = TRUE)
  expect_identical(e$line, 16L)
  plan <- read_plan(plan_file(c("alpha: 0.05" = "expect: higher\n        reason: more nitrogen")))
  expect_identical(plan$fields$comparisons$height$ask$difference$reason, "more nitrogen")
  expect_s3_class(read_plan(plan_file(c("alpha: 0.05" = "expect: either"))), "vandro_plan")
  expect_match(conditionMessage(fails(c(
    "difference:" = "equivalence:", "alpha: 0.05" = "within: 3"
  ))), "\"within\" needs a \"reason\"", fixed = TRUE)
})

test_that("numbers, lists and mappings are read as the verbs want them", {
  plan <- read_plan(plan_file(c(
    "outcome: height" = "outcome: [height, leaf_area]", "unit: cm" = "unit: {height: cm, leaf_area: cm²}",
    "groups: [compost, peat]" = "groups: {compost: 01, No: 2}",
    "alpha: 0.05" = paste0(
      "alpha: 5e-2\n      equivalence:\n        within: {height: 3, leaf_area: [-9, 10]}\n        reason: pots"
    )
  )))
  height <- plan$fields$comparisons$height
  expect_identical(height$outcome, c("height", "leaf_area"))
  expect_identical(height$unit, c(height = "cm", leaf_area = "cm\u00b2"))
  expect_identical(height$groups, c(compost = "01", No = "2"))
  expect_identical(height$ask$difference$alpha, 0.05)
  expect_identical(height$ask$equivalence$within, list(height = 3, leaf_area = c(-9, 10)))
  short <- plan_text()
  short <- append(short[!grepl("difference:|primary|alpha", short)], "      [difference, effect]", 13)
  expect_identical(
    read_plan(plan_file(lines = short))$fields$comparisons$height$ask, list(difference = list(), effect = list())
  )
})

test_that("every argument of the planned verbs is known, with a type", {
  for (question in names(plan_verbs)) {
    types <- question_fields(question)
    expect_false(anyNA(names(types)))
    expect_true(all(types %in% names(plan_readers)))
  }
  expect_true(all(unlist(lapply(plan_fields, function(x) if (length(x) == 1) x)) %in% names(plan_readers)))
  known <- unlist(lapply(
    list(versus, versus_paired, versus_summary, versus_paired_summary),
    function(f) names(formals(f))
  ))
  expect_identical(
    setdiff(names(declaration_fields), known), c("heading", "paired", "change")
  )
})

test_that("equivalence needs its bounds before anything is run", {
  for (asked in c("equivalence: yes", "equivalence: {alpha: 0.1}")) {
    e <- fails(c("        alpha: 0.05" = paste0("        alpha: 0.05\n      ", asked)))
    expect_match(conditionMessage(e), "needs its bounds", fixed = TRUE)
    expect_identical(e$line, 17L)
  }
  expect_match(conditionMessage(fails(c("  figures: none" = "  figures: bmp"))), "cannot be", fixed = TRUE)
})
