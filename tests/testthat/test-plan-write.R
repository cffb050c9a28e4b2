read_shipped <- function(name, ...) {
  read_measurements(system.file("extdata", name, package = "vandro"), quiet = TRUE, ...)
}
height_read <- function(...) {
  versus(read_shipped("seedlings.csv"), height, substrate,
    groups = c("compost", "peat"), unit = "cm",
    label = "Stem height", ...
  )
}
written <- function(x, ..., env = parent.frame()) {
  file <- withr::local_tempfile(fileext = ".yaml", .local_envir = env)
  write_plan(x, file, ..., date = "2026-03-02")
  file
}
# What a plan that was written gives, beside the answers it was written from.
expect_same_answers <- function(answers, ...) {
  run <- run_quiet(written(answers, ...))
  for (answer in answers) {
    question <- names(plan_verbs)[plan_verbs == answer$settings$verb]
    key <- vapply(run$studies, study_key, "")
    name <- names(key)[match(study_key(answer$study), key)]
    again <- as.data.frame(run$answers[[name]][[place_in_report(question)]])
    expect_identical(again, as.data.frame(answer))
  }
}

test_that("a plan that was written gives the answers it was written from", {
  study <- height_read(assigned = TRUE, claim = "different")
  expect_same_answers(list(
    test_difference(study, c("permutation", "welch"),
      expect = "higher", beyond = 1, alpha = 0.01, seed = 4,
      options = how(draws = 999, statistic = "difference", exact = FALSE), reason = "more nitrogen: twice, \"at least\""
    ),
    gauge_effect(study, c("g", "superiority"),
      level = 0.9, size_words = c(slight = 0.1, clear = 0.6),
      size_source = "us"
    ),
    vet_assumptions(study, check_alpha = 0.1, limits = c(0, 60)), describe_study(study, set = "short"),
    weigh_evidence(study, prior_half = 0.5, strength_words = "jeffreys"),
    cross_check(study, expect = "higher", reason = "more nitrogen", seed = 2)
  ))
  expect_same_answers(list(
    test_equivalence(study, c(-2, 4), "ranks", reason = "pots", alpha = 0.1),
    gauge_effect(study, "shift", method = "ranks")
  ))
})

test_that("every shape of declaration can be written and run again", {
  leaves <- versus(read_shipped("seedlings.csv"), c(height, leaf_area), substrate,
    groups = c("compost", "peat"), unit = c(height = "cm", leaf_area = "cm\u00b2"),
    label = c(height = "Height: \"stem\"", leaf_area = "Leaf area"), blocks = bench
  )
  expect_same_answers(list(
    test_difference(leaves),
    test_equivalence(leaves, list(height = 3, leaf_area = c(-9, 10)), reason = "r")
  ))
  coded <- versus(read_shipped("seedlings.csv"), "height", "substrate_code",
    groups = c(compost = 1, peat = 2),
    missing = 19.9
  )
  expect_same_answers(list(test_difference(coded)))
  wide <- versus_paired(read_shipped("conductance.csv"), noon, dawn, unit = "mmol")
  expect_same_answers(list(test_difference(wide, c("signed_ranks", "paired"))))
  long <- versus_paired(read_shipped("conductance_long.csv"), conductance, time, plant, groups = c("noon", "dawn"))
  expect_same_answers(list(test_difference(long)))
  probes <- versus_paired(read_shipped("moisture.csv"),
    first = probe_a, second = probe_b, order = hour,
    scale_by = 0.01
  )
  expect_same_answers(list(test_difference(probes, "permutation", options = how(run_length = "estimate"), seed = 3)))
  counted <- versus(read_shipped("root_damage.csv"), score, substrate, counts = plants, groups = c("compost", "peat"))
  expect_same_answers(list(test_difference(counted, "ranks")))
  columns <- versus(read_shipped("conductance.csv"), first = noon, second = dawn)
  expect_same_answers(list(test_difference(columns)))
  expect_same_answers(list(test_difference(published_study()), weigh_evidence(published_study())))
  expect_same_answers(list(test_difference(versus_summary(c(1, 5), c(18, 21), c(NA, 1.7)), "student")))
  pairs <- versus_paired_summary(22, c(214, 148), c(41, 36), r = 0.62, groups = c("noon", "dawn"))
  expect_same_answers(list(test_difference(pairs)))
  # Groups that were not named, and columns chosen by a helper, are written as they were found.
  announced <- quiet(versus(read_shipped("seedlings.csv"), tidyselect::starts_with("h"), substrate))
  expect_same_answers(list(test_difference(announced)))
})

test_that("how the file was read goes into the plan", {
  folder <- withr::local_tempdir()
  file <- file.path(folder, "d.csv")
  writeBin(charToRaw("h\xf6he;g\n1,5;a\n2,5;a\n4;b\n-99;a\n3,25;b\n"), file)
  data <- read_measurements(file, decimal_mark = ",", encoding = "Latin-1", missing = -99, quiet = TRUE)
  study <- versus(data, "h\u00f6he", "g", groups = c("a", "b"))
  plan <- write_plan(study, file.path(folder, "plan.yaml"))
  expect_identical(plan$fields$data$d[c("file", "decimal_mark", "encoding", "missing")], list(
    file = "d.csv", decimal_mark = ",", encoding = "Latin-1", missing = "-99"
  ))
  run <- run_quiet(file.path(folder, "plan.yaml"))
  expect_identical(study_fingerprint(run$studies[[1]]), study_fingerprint(study))
})

test_that("comparisons have names, the plan its own seal", {
  study <- height_read()
  probes <- versus_paired(read_shipped("moisture.csv"), probe_a, probe_b)
  file <- written(list("My height!" = study, probes, test_equivalence(probes, 0.5, reason = "valve")),
    title = "T", by = "M", outputs = list(report = "md", figures = "none"), seed = 3, text = "a\n\nb"
  )
  plan <- read_plan(file)
  expect_identical(names(plan$fields$comparisons)[[1]], "My_height_")
  expect_identical(names(plan$fields$comparisons[[2]]$ask), "equivalence")
  expect_identical(plan$fields$declared, list(date = "2026-03-02", by = "M", fingerprint = plan$fingerprint))
  expect_identical(plan$fields$text, "a\n\nb")
  expect_identical(plan$fields$outputs, list(report = "md", figures = "none"))
  expect_identical(plan$fields$comparisons[[1]]$ask, list(difference = list()))
})

test_that("what cannot be planned is an error, and nothing is written", {
  folder <- withr::local_tempdir()
  file <- file.path(folder, "plan.yaml")
  study <- height_read()
  expect_error(write_plan(height_study(), file), "needs the file", class = "vandro_error_plan_data")
  changed <- read_shipped("seedlings.csv")
  changed$height <- changed$height + 1
  other <- versus(changed, height, substrate, groups = c("compost", "peat"))
  expect_error(write_plan(other, file), "does not give the study", class = "vandro_error_plan_data")
  expect_error(
    write_plan(test_difference(study, expect = "higher"), file), "needs the reason",
    class = "vandro_error_no_source"
  )
  expect_error(write_plan(test_equivalence(study, 3), file), "needs the reason", class = "vandro_error_no_source")
  refused(
    not_an_answer = write_plan(try_bounds(test_equivalence(study, 3, reason = "r")), file),
    not_a_study = write_plan(seedlings, file),
    contradiction = write_plan(list(test_difference(study), test_difference(study, "ranks")), file),
    bad_value = write_plan(study, file, outputs = list(report = "md", figure = "png"))
  )
  expect_length(list.files(folder, all.files = TRUE, no.. = TRUE), 0)
  write_plan(study, file)
  expect_error(write_plan(study, file), class = "vandro_error_file_exists")
  expect_s3_class(write_plan(study, file, overwrite = TRUE), "vandro_plan")
})

test_that("data that were not read by us need their file", {
  path <- system.file("extdata", "seedlings.csv", package = "vandro")
  plan <- read_plan(written(list(h = height_study()), data = path))
  expect_identical(basename(plan$fields$data$seedlings$file), "seedlings.csv")
  named <- read_plan(written(list(h = height_study()), data = c(h = path)))
  expect_identical(named$fingerprint, plan$fingerprint)
  expect_error(written(height_study(), data = "nowhere.csv"), class = "vandro_error_file")
})

test_that("code of a declaration is taken apart, never run", {
  expect_identical(plain_value(quote(c(a = -1, b = 2))), c(a = -1, b = 2))
  expect_identical(plain_value(quote(.data$height)), "height")
  expect_identical(plain_value(quote(1:3)), 1:3)
  expect_null(plain_value(quote(system("true"))))
  expect_null(plain_value(quote(c(1, Sys.time()))))
})
