# A revised plan beside the declared one, in one folder.
revised <- function(..., departures = character(), env = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = env)
  plan_file(folder = folder)
  lines <- c(plan_text(), "departs_from: plan.yaml", if (length(departures)) c("departures:", paste0("  ", departures)))
  run_quiet(plan_file(..., lines = lines, name = "revised.yaml", folder = folder))
}
rows <- function(run, question) run$standing[run$standing$question == question, c("study", "standing", "what")]

# Rows: the changed fields, the question, its standing, and what is said of it (part of the text).
standing_case <- function(changes, question, standing, what = "") {
  list(changes = changes, question = question, standing = standing, what = what)
}
expect_standing <- function(cases, run) {
  for (case in cases) {
    found <- rows(run(case), case$question)
    expect_identical(found$standing, case$standing, label = toString(case$changes))
    for (part in case$what) expect_true(any(grepl(part, found$what, fixed = TRUE)), label = toString(case$changes))
  }
}

test_that("without an earlier plan everything in it is planned, and tests beyond it are in addition", {
  evidence <- c("difference:" = "evidence:", "primary: welch" = "prior_half: 1", "alpha: 0.05" = "level: 0.9")
  expect_standing(list(
    standing_case(NULL, "difference", "planned"), standing_case(NULL, "description", "as a rule"),
    standing_case(NULL, "effect", "as a rule"), standing_case(NULL, "cross_check", "in addition"),
    standing_case(c("alpha: 0.05" = "alpha: 0.05\n      cross_check: yes"), "cross_check", "planned"),
    # Of a plan about evidence only, the difference is not planned.
    standing_case(evidence, "evidence", "planned"), standing_case(evidence, "difference", "in addition")
  ), function(case) run_quiet(plan_file(case$changes)))
})

test_that("changed fields depart with their reason or without, added ones are exploratory, those left out are said", {
  unchanged <- revised(c("title: Spring trial" = "title: Other words"))
  expect_false(any(unchanged$standing$standing %in% c("departed", "not run")))
  alpha <- c("alpha: 0.05" = "alpha: 0.01")
  added <- c("alpha: 0.05" = "alpha: 0.05\n      evidence: yes")
  dropped <- c("difference:" = "evidence:", "primary: welch" = "level: 0.95", "        alpha: 0.05" = "")
  more <- c("comparisons:" = paste0(
    "comparisons:\n  leaves: {outcome: leaf_area, by: substrate, groups: [compost, peat], ask: difference}"
  ))
  expect_standing(list(
    standing_case(alpha, "difference", "departed", "alpha: declared 0.05, now 0.01 (no reason on record)"),
    # What concerns the comparison concerns all of its questions.
    standing_case(
      c("groups: [compost, peat]" = "groups: [peat, compost]"), "difference", "departed",
      "groups: declared [compost, peat], now [peat, compost]"
    ),
    standing_case(added, "evidence", "in addition"), standing_case(added, "difference", "planned"),
    standing_case(
      c("primary: welch" = "primary: welch\n        secondary: ranks"), "difference", "planned",
      "in addition, exploratory: method ranks"
    ),
    standing_case(c("primary: welch" = "primary: ranks\n        secondary: welch"), "difference", "departed"),
    standing_case(dropped, "difference", c("in addition", "not run")),
    standing_case(more, "difference", c("in addition", "planned")),
    standing_case(
      c("outputs:" = "seed: 4\noutputs:"), "seed", "departed", "seed: not declared, now 4 (no reason on record)"
    )
  ), function(case) revised(case$changes))
  reasoned <- revised(alpha, departures = "height.difference.alpha: \"five outcomes, not one\"")
  expect_identical(
    rows(reasoned, "difference")$what, "alpha: declared 0.05, now 0.01 (reason: five outcomes, not one)"
  )
  whole <- revised(c("outputs:" = "seed: 4\noutputs:"))
  expect_identical(rows(whole, "seed")$study, "whole plan")
})

test_that("a direction that is given up departs, its reason with it; a plan in another folder does not", {
  folder <- withr::local_tempdir()
  lines <- sub("alpha: 0.05", "expect: higher", plan_text())
  lines <- append(lines, "        reason: more nitrogen", 16)
  plan_file(lines = lines, folder = folder)
  dir.create(file.path(folder, "data"))
  file.copy(demo_file(), file.path(folder, "data"))
  lines <- c(
    sub("seedlings: .*", "seedlings: data/seedlings.csv", lines[!grepl("expect|reason", lines)]),
    "departs_from: plan.yaml"
  )
  run <- run_quiet(plan_file(lines = lines, folder = folder, name = "b.yaml"))
  expect_identical(rows(run, "difference")$what, "expect: declared higher, now left out (no reason on record)")
  expect_false("whole plan" %in% run$standing$study)
})

test_that("a plan changed after its fingerprint was declared says so", {
  sealed <- read_plan(plan_file())$fingerprint
  seal <- sprintf("date: 2026-03-02\n  fingerprint: %s", sealed)
  kept <- run_quiet(plan_file(c("date: 2026-03-02" = seal)))
  expect_false("fingerprint" %in% kept$standing$question)
  expect_match(declaration_sentence(kept), "as declared", fixed = TRUE)
  changed <- run_quiet(plan_file(c("date: 2026-03-02" = seal, "alpha: 0.05" = "alpha: 0.01")))
  expect_match(rows(changed, "fingerprint")$what, "the plan was changed after it was declared", fixed = TRUE)
  expect_match(declaration_sentence(changed), paste(sealed, "was declared"), fixed = TRUE)
  expect_match(paste(format(changed$plan, width = 80), collapse = " "), "the plan was changed", fixed = TRUE)
})

test_that("data with other bytes than those declared depart", {
  file <- system.file("extdata", "seedlings.csv", package = "vandro")
  with_print <- function(print) {
    run_quiet(plan_file(stats::setNames(
      sprintf("seedlings: {file: %s, fingerprint: %s}", file, print), paste("seedlings:", file)
    )))
  }
  expect_false("data.seedlings" %in% with_print(file_fingerprint(file))$standing$question)
  expect_identical(rows(with_print("0123456789ab"), "data.seedlings")$standing, "departed")
})

test_that("a reason for what does not depart is an error, not lost", {
  e <- expect_error(
    revised(c("alpha: 0.05" = "alpha: 0.01"), departures = "height.difference.alhpa: why"),
    class = "vandro_error_plan"
  )
  expect_match(conditionMessage(e), "Did you mean \"height.difference.alpha\"", fixed = TRUE)
  expect_error(
    run_quiet(plan_file(lines = c(plan_text(), "departures: {a: b}"))), "need the plan that was declared",
    class = "vandro_error_plan"
  )
  expect_error(
    run_quiet(plan_file(lines = c(plan_text(), "departs_from: none.yaml"))), "departs from cannot be used",
    class = "vandro_error_plan"
  )
})

test_that("what a call changes departs from the file, field by field", {
  plan <- read_plan(plan_file())
  run <- run_quiet(plan, instead = c(height.difference.alpha = "0.01", "height.unit" = "mm"))
  expect_identical(rows(run, "difference")$what, "alpha: declared 0.05, now 0.01 (no reason on record)")
  expect_identical(run$answers$height$difference$settings$alpha, 0.01)
  expect_identical(nrow(record_differences(plan$record, run$plan$record)), 2L)
  expect_match(declaration_sentence(run), "with changes", fixed = TRUE)
  same <- run_quiet(plan, instead = c(height.difference.alpha = "0.05"))
  expect_false("departed" %in% same$standing$standing)
  new <- run_quiet(plan, instead = c(height.evidence.prior_half = "0.5", height.effect = "yes"))
  expect_identical(rows(new, "evidence")$standing, "in addition")
  short <- plan_text()
  short <- append(short[!grepl("difference:|primary|alpha", short)], "      [difference, effect]", 13)
  listed <- run_quiet(plan_file(lines = short), instead = c(height.difference.secondary = "[ranks, student]"))
  expect_identical(listed$answers$height$difference$settings$method, c("welch", "ranks", "student"))
})

test_that("changes that no plan can have are errors", {
  plan <- plan_file()
  bad <- function(...) expect_error(run_quiet(plan, instead = c(...)), class = "vandro_error_plan")
  expect_match(conditionMessage(bad(height.difference.alhpa = "1")$parent), "\"alpha\"", fixed = TRUE)
  bad(height.difference.alpha = "small")
  bad(height.difference.expect = "higher")
  bad(height.unit = "!expr 1")
  bad(height.unit = "*x")
  refused(bad_value = run_quiet(plan, instead = 5), bad_value = run_quiet(plan, instead = "a"))
})

test_that("conventions that decide otherwise depart, those that only look otherwise do not", {
  plan <- plan_file(c("outputs:" = "conventions: {name: A, alpha: 0.05}\noutputs:"))
  asked <- function(house) rows(run_quiet(plan, conventions = house), "conventions")
  expect_identical(nrow(asked(house_conventions("B", alpha = 0.05, style = number_style(decimals = 1)))), 0L)
  expect_match(asked(house_conventions("B", alpha = 0.01))$what, "declared A, now B", fixed = TRUE)
  folder <- withr::local_tempdir()
  house <- function(alpha, name) writeLines(c("conventions: 1", paste("alpha:", alpha)), file.path(folder, name))
  house(0.05, "one.yaml")
  house(0.01, "two.yaml")
  plan_file(c("outputs:" = "conventions: one.yaml\noutputs:"), folder = folder)
  lines <- c(plan_text(), "departs_from: plan.yaml", "conventions: two.yaml")
  other <- run_quiet(plan_file(lines = lines, folder = folder, name = "b.yaml"))
  expect_identical(rows(other, "conventions")$standing, "departed")
})
