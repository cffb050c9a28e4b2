test_that("a run holds the answers that the verbs give to the same questions", {
  run <- run_quiet(plan_file(c(
    "outcome: height" = "outcome: [height, leaf_area]", "unit: cm" = "unit: {height: cm}",
    "alpha: 0.05" = paste0(
      "secondary: [student, permutation]\n        level: 0.9\n        seed: 5\n      assumptions: {check_alpha: 0.1}\n",
      "      effect: {estimands: [g], level: 0.9}\n      equivalence:\n",
      "        within: {height: 3, leaf_area: [-9, 10]}\n",
      "        reason: pots\n      evidence: {prior_half: 0.5}\n      description: {set: short}"
    )
  )))
  study <- versus(seedlings, c(height, leaf_area), substrate, groups = c("compost", "peat"), unit = c(height = "cm"))
  same <- function(question, answer) {
    expect_equal(as.data.frame(run$answers$height[[question]]), as.data.frame(answer), tolerance = 0)
  }
  same("difference", test_difference(study, c("welch", "student", "permutation"), level = 0.9, seed = 5))
  same("assumptions", vet_assumptions(study, check_alpha = 0.1))
  same("effect", gauge_effect(study, "g", level = 0.9))
  same("equivalence", test_equivalence(study, list(height = c(-3, 3), leaf_area = c(-9, 10)), reason = "pots"))
  same("evidence", weigh_evidence(study, prior_half = 0.5))
  same("description", describe_study(study, set = "short"))
  expect_identical(study_fingerprint(run$studies$height), study_fingerprint(study))
  expect_identical(as.data.frame(run)$study, rep("height", 6))
})

test_that("pairs, changes, counts and published numbers are declared as they are", {
  file <- function(name) system.file("extdata", name, package = "vandro")
  lines <- c(
    "plan: 1", "data:", paste("  wide:", file("conductance.csv")), paste("  long:", file("conductance_long.csv")),
    paste("  damage:", file("root_damage.csv")), "comparisons:",
    "  wide: {data: wide, paired: yes, first: noon, second: dawn, unit: mmol, ask: difference}",
    paste0(
      "  keyed: {data: long, paired: yes, outcome: conductance, by: time, id: plant, groups: [noon, dawn],",
      " unit: mmol, ask: difference}"
    ),
    "  scores: {data: damage, outcome: score, by: substrate, counts: plants, groups: [compost, peat],",
    "    ask: [difference]}",
    "  hillside:", "    n: [18, 20]", "    mean: [22.1, 19.8]", "    sd: [3.9, 3.2]", "    groups: [compost, peat]",
    "    unit: cm", "    label: Stem height", "    ask: difference",
    "  changes: {n: 22, mean_change: 66, sd_change: 33.6, ask: [difference, evidence]}"
  )
  run <- run_quiet(plan_file(lines = lines))
  estimate <- function(name) as.data.frame(run$answers[[name]]$difference)$estimate
  expect_identical(estimate("wide"), as.data.frame(test_difference(conductance_study()))$estimate)
  expect_identical(estimate("keyed"), estimate("wide"))
  counted <- versus(root_damage, score, substrate, counts = plants, groups = c("compost", "peat"))
  expect_identical(estimate("scores"), as.data.frame(test_difference(counted))$estimate)
  expect_identical(as.data.frame(run$answers$hillside$difference), as.data.frame(test_difference(published_study())))
  expect_identical(estimate("changes"), 66)
  expect_identical(unique(as.data.frame(run)$study), c("wide", "keyed", "scores", "hillside", "changes"))
  single <- "  single: {n: [1, 5], mean: [18, 21], sd: [NA, 1.7], ask: {difference: {primary: student}}}"
  run <- run_quiet(plan_file(lines = c("plan: 1", "comparisons:", single)))
  study <- versus_summary(c(1, 5), c(18, 21), c(NA, 1.7))
  expect_identical(as.data.frame(run$answers$single$difference), as.data.frame(test_difference(study, "student")))
  expect_error(
    run_quiet(plan_file(lines = c("plan: 1", "comparisons:", sub("NA", "none", single, fixed = TRUE)))),
    "must be a number", class = "vandro_error_plan"
  )
})

test_that("what is drawn has the seed of the question, of the plan, or 1; threads change nothing", {
  seed_of <- function(..., threads = 1) {
    run <- run_quiet(plan_file(...), threads = threads)
    run$answers$height$difference$settings$seed
  }
  drawn <- c("primary: welch" = "primary: permutation")
  expect_identical(seed_of(drawn), 1)
  expect_identical(seed_of(c(drawn, "outputs:" = "seed: 8\noutputs:")), 8)
  expect_identical(seed_of(c(drawn, "alpha: 0.05" = "seed: 3", "outputs:" = "seed: 8\noutputs:")), 3)
  expect_null(seed_of())
  one <- run_quiet(plan_file(drawn))
  two <- run_quiet(plan_file(drawn), threads = 2)
  expect_identical(as.data.frame(one), as.data.frame(two))
  # Nothing is taken from R's own generator.
  set.seed(1)
  before <- .Random.seed
  run_quiet(plan_file(c(drawn, "alpha: 0.05" = "alpha: 0.05\n      effect: {interval: bootstrap, estimands: [g]}")))
  expect_identical(.Random.seed, before)
})

test_that("effect and cross-check take over what the difference asks", {
  run <- run_quiet(plan_file(c(
    "primary: welch" = "primary: student", "alpha: 0.05" = paste0(
      "alpha: 0.01\n        expect: higher\n        reason: more nitrogen\n      cross_check: yes\n      effect: yes"
    )
  )))
  check <- run$answers$height$agreement
  expect_identical(check$settings$expect, "higher")
  expect_identical(check$settings$alpha, 0.01)
  expect_identical(check$settings$method[[1]], "student")
  expect_identical(run$answers$height$effect$settings$method, "student")
})

test_that("conventions decide where a question does not", {
  house <- house_conventions("A",
    level = 0.9, alpha = 0.01, method = c(independent = "student"),
    size_words = "cohen"
  )
  run <- run_quiet(plan_file(c("        primary: welch" = "        adjust: none", "alpha: 0.05" = "beyond: 1")),
    conventions = house
  )
  s <- run$answers$height$difference$settings
  expect_identical(s[c("method", "level", "alpha")], list(method = "student", level = 0.9, alpha = 0.01))
  own <- run_quiet(plan_file(), conventions = house)$answers$height$difference$settings
  expect_identical(own[c("method", "level", "alpha")], list(method = "welch", level = 0.9, alpha = 0.05))
  expect_true("size_word" %in% names(as.data.frame(run$answers$height$effect)))
})

test_that("errors of verbs are told with their place in the plan", {
  e <- expect_error(run_quiet(plan_file(c("primary: welch" = "primary: paired"))), class = "vandro_error_plan")
  expect_identical(e$line, 14L)
  expect_s3_class(e$parent, "vandro_error_method_design")
  expect_match(conditionMessage(e), "\"difference\" of \"height\" could not be carried out", fixed = TRUE)
  e <- expect_error(run_quiet(plan_file(c("groups: [compost, peat]" = "groups: [compost, pete]"))),
    class = "vandro_error_plan"
  )
  expect_identical(e$line, 8L)
  refused(bad_value = run_plan(5), bad_value = run_quiet(plan_file(), conventions = list(1)))
})

test_that("progress is told, and can be kept quiet", {
  said <- character()
  withCallingHandlers(run_plan(plan_file()), vandro_message_progress = function(m) {
    said <<- c(said, trimws(conditionMessage(m)))
    invokeRestart("muffleMessage")
  })
  expect_identical(said, c("[1/2] height: difference", "[2/2] height: the other parts of the report"))
  expect_silent(run_quiet(plan_file()))
})

test_that("p of all planned differences can be adjusted together", {
  both <- c(
    plan_text()[1:16],
    sub("height", "leaves", sub("outcome: height", "outcome: [leaf_area, dry_mass]", plan_text()[8:16])),
    plan_text()[17:20], "adjust: holm"
  )
  folder <- withr::local_tempdir()
  run <- run_quiet(
    plan_file(c("  report: none" = "  report: md"), lines = both, folder = folder),
    file.path(folder, "out")
  )
  table <- as.data.frame(run)
  # Holm (1979): the ordered p times 3, 2, 1, and never below the one before.
  order <- order(table$p)
  expected <- pmin(1, cummax(table$p[order] * 3:1))
  expect_equal(table$p_adjusted[order], expected, tolerance = 1e-14)
  text <- paste(readLines(file.path(folder, "out", "report.md")), collapse = " ")
  expect_match(text, "adjusted for the 3 primary tests of the plan", fixed = TRUE)
  alone <- run_quiet(plan_file(c("outputs:" = "adjust: holm\noutputs:")))
  expect_missing(as.data.frame(alone)$p_adjusted)
  expect_error(read_plan(plan_file(c("outputs:" = "adjust: max_t\noutputs:"))), "must be",
    class = "vandro_error_plan"
  )
  e <- expect_error(
    read_plan(plan_file(c("outputs:" = "adjust: none\noutputs:", "alpha: 0.05" = "adjust: holm"))),
    class = "vandro_error_plan"
  )
  expect_identical(e$line, 16L)
})

test_that("subgroups and ways of adjusting are declared, run and compared", {
  folder <- withr::local_tempdir()
  file <- plan_file(c(
    "by: substrate" = "by: substrate\n    each: bench", "alpha: 0.05" = "alpha: 0.05\n      subgroups: {level: 0.9}",
    "outputs:" = "adjust: hochberg\noutputs:", "  report: none" = "  report: md"
  ), folder = folder)
  run <- run_quiet(file, file.path(folder, "out"))
  answers <- run$answers[[1]]
  expect_s3_class(answers$subgroups, "vandro_subgroups")
  expect_identical(answers$subgroups$settings$level, 0.9)
  table <- as.data.frame(run)
  expect_equal(table$p_adjusted, core_adjust_p(table$p, "hochberg"))
  expect_true(file.exists(file.path(folder, "out", "tables", "subgroups.csv")))
  text <- paste(readLines(file.path(folder, "out", "report.md")), collapse = "\n")
  expect_match(text, "Between subgroups")
  expect_match(text, "Hochberg 1988")
})

test_that("a comparison may have any letters in its name", {
  folder <- withr::local_tempdir()
  study <- versus(read_measurements(demo_file(), quiet = TRUE), height, substrate, groups = c("compost", "peat"))
  plan <- file.path(folder, "plan.yaml")
  write_plan(list("h\u00f6he \u4e2d" = test_difference(study)), plan)
  run <- run_plan(plan, file.path(folder, "results"), quiet = TRUE)
  expect_identical(names(run$answers), "h\u00f6he_\u4e2d")
  expect_true(all(file.exists(file.path(folder, "results", run$files))))
})
