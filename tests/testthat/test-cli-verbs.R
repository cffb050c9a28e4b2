# Every verb with its own words at the shell.

question <- c("--outcome", "height", "--by", "substrate", "--groups", "compost,peat", "--unit", "cm")

test_that("assumptions, methods, reasons, bootstrap and words are at the shell too", {
  study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
  same <- function(args, answer) expect_identical(run_here(args)$out, format(answer, width = 80))
  same(c("assumptions", demo_file(), question, "--centre", "mean", "--check-alpha", "0.1", "--limits", "0,40"), {
    vet_assumptions(study, centre = "mean", check_alpha = 0.1, limits = c(0, 40))
  })
  directed <- c("--method", "student,welch", "--expect", "higher", "--reason", "It must")
  same(c("difference", demo_file(), question, directed), {
    test_difference(study, c("student", "welch"), expect = "higher", reason = "It must")
  })
  same(
    c(
      "effect", demo_file(), question, "--estimands", "g,d_average", "--interval", "bootstrap", "--seed", "4",
      "--draws", "499", "--size-words", "faint=0.3,clear=1", "--size-source", "House rules"
    ),
    gauge_effect(
      study, c("g", "d_average"),
      interval = "bootstrap", seed = 4, draws = 499, size_words = c(faint = 0.3, clear = 1),
      size_source = "House rules"
    )
  )
  same(c("effect", demo_file(), question, "--method", "student", "--size-words", "cohen_1988"), {
    gauge_effect(study, method = "student", size_words = "cohen_1988")
  })
  expect_identical(run_here("effect", demo_file(), question, "--size-words", "a=b")$status, 2L)
  expect_identical(run_here("difference", demo_file(), question, "--reason", "x")$status, 1L)
  json <- run_here("assumptions", demo_file(), question, "--format", "json")
  got <- jsonlite::fromJSON(paste(json$out, collapse = "\n"))
  expect_identical(got$kind, "assumptions")
  expect_identical(got$table$check, vet_assumptions(study)$table$check)
})

test_that("every view can be asked for at the shell", {
  folder <- withr::local_tempdir()
  for (view in c("null", "effects", "assumptions", "normal", "spread")) {
    file <- file.path(folder, paste0(view, ".png"))
    expect_identical(run_here("plot", demo_file(), question, "--view", view, "--output", file)$status, 0L)
    expect_true(file.exists(file))
  }
})

test_that("rank methods, their options and their figure are reached from the shell", {
  file <- system.file("extdata", "root_damage.csv", package = "vandro")
  scores <- c(
    file, "--outcome", "score", "--by", "substrate", "--counts", "plants", "--groups", "compost,peat"
  )
  study <- versus(root_damage, score, substrate, counts = plants, groups = c("compost", "peat"))
  got <- run_here("difference", scores, "--method", "ranks,relative", "--exact", "no")
  expect_identical(got$out, format(test_difference(study, c("ranks", "relative"), exact = FALSE), width = 80))
  effect <- run_here("effect", scores, "--estimands", "superiority,r_rank", "--seed", "4", "--format", "csv")
  expect_identical(effect$out, export_answer(gauge_effect(study, c("superiority", "r_rank"), seed = 4), format = "csv"))
  pairs <- system.file("extdata", "moisture.csv", package = "vandro")
  zeros <- run_here(
    "narrate", pairs, "--paired", "--first", "probe_a", "--second", "probe_b", "--method", "signed_ranks",
    "--zeros", "pratt"
  )
  expect_match(paste(zeros$out, collapse = " "), "signed-rank W = 864.5, exact p = .003")
  figure <- withr::local_tempfile(fileext = ".png")
  expect_identical(
    run_here("plot", scores, "--method", "relative", "--view", "superiority", "--output", figure)$status, 0L
  )
  expect_true(file.exists(figure))
  report <- withr::local_tempfile(fileext = ".html")
  expect_identical(run_here("report", scores, "--method", "ranks", "--output", report)$status, 0L)
  expect_match(paste(readLines(report), collapse = " "), "U = 549 of 1680 pairs")
  expect_identical(run_here("difference", scores, "--method", "ranks", "--exact", "maybe")$status, 2L)
  expect_identical(run_here("difference", scores, "--method", "welch", "--zeros", "pratt")$status, 1L)
})

test_that("permutation tests from the shell: options are the verb's own", {
  file <- system.file("extdata", "leaching.csv", package = "vandro")
  plots <- c(file, "--outcome", "nitrate", "--by", "cover", "--groups", "bare,sown", "--method", "permutation")
  got <- run_here("difference", plots, "--statistic", "difference", "--format", "json")
  answer <- jsonlite::fromJSON(paste(got$out, collapse = "\n"))
  study <- versus(leaching, nitrate, cover, groups = c("bare", "sown"))
  expect_equal(answer$table$p, test_difference(study, "permutation", statistic = "difference")$table$p)
  expect_identical(answer$settings$statistic, "difference")
  drawn <- run_here("difference", plots, "--draws", "999", "--seed", "3", "--threads", "2", "--max-memory", "0.5")
  expect_identical(drawn$out, format(test_difference(study, "permutation", draws = 999, seed = 3), width = 80))
  moist <- system.file("extdata", "moisture.csv", package = "vandro")
  series <- run_here(
    "difference", moist, "--paired", "--first", "probe_a", "--second", "probe_b", "--order", "hour", "--method",
    "permutation", "--run-length", "4"
  )
  expect_match(series$out, "Runs of 4 neighbours", fixed = TRUE, all = FALSE)
  folder <- withr::local_tempdir()
  figure <- file.path(folder, "n.png")
  expect_identical(run_here("plot", plots, "--view", "null", "--curve", "--output", figure)$status, 0L)
  expect_identical(run_here("difference", plots, "--draws", "5")$status, 1L)
  expect_identical(run_here("difference", plots, "--statistic", "mode")$status, 2L)
})

test_that("equivalence, other bounds and the cross-check are at the shell with the verbs' own words", {
  study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
  same <- function(got, answer) {
    expect_identical(got$status, 0L)
    expect_identical(got$out, format(answer, width = 80))
  }
  asked <- c(demo_file(), question, "--within", "-2,5", "--reason", "a shelf holds 5 cm more")
  declared <- test_equivalence(study, c(-2, 5), reason = "a shelf holds 5 cm more")
  same(run_here("equivalence", asked), declared)
  same(
    run_here("equivalence", demo_file(), question, "--within", "0.5", "--bounds-in", "sd", "--sd-of", "pooled"),
    test_equivalence(study, 0.5, bounds_in = "sd", sd_of = "pooled")
  )
  same(run_here("bounds", asked, "--bounds", "3,4"), try_bounds(declared, c(3, 4)))
  same(run_here("bounds", asked, "--points", "9"), try_bounds(declared, points = 9))
  same(
    run_here("cross-check", demo_file(), question, "--seed", "4", "--flagged", "both", "--alpha", "0.01"),
    cross_check(study, seed = 4, flagged = "both", alpha = 0.01)
  )
  same(run_here("cross-check", asked, "--seed", "4"), cross_check(
    study,
    within = c(-2, 5), reason = "a shelf holds 5 cm more", seed = 4
  ))
  same(run_here("narrate", asked), narrate(declared))
  claimed <- run_here("difference", demo_file(), question, "--claim", "same")
  expect_match(claimed$out, "Claim       sameness", fixed = TRUE, all = FALSE)
  folder <- withr::local_tempdir()
  for (view in c("equivalence", "bounds", "cross-check")) {
    file <- file.path(folder, paste0(view, ".svg"))
    expect_identical(run_here("plot", asked, "--view", view, "--output", file)$status, 0L)
    expect_true(file.exists(file))
  }
  report <- file.path(folder, "report.html")
  expect_identical(run_here("report", asked, "--output", report)$status, 0L)
  expect_match(readLines(report), "a shelf holds 5 cm more", fixed = TRUE, all = FALSE)
  expect_identical(run_here("equivalence", demo_file(), question)$status, 2L)
  expect_identical(run_here("equivalence", demo_file(), question, "--within", "1,2,3")$status, 2L)
  expect_identical(run_here("equivalence", demo_file(), question, "--within", "1,2")$status, 1L)
  expect_identical(run_here("cross-check", demo_file(), question, "--flagged", "all")$status, 2L)
})

test_that("evidence, priors and what tells them go by the same options", {
  folder <- withr::local_tempdir()
  study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
  prior <- c("--prior-width", "0.5", "--expect", "higher")
  answer <- weigh_evidence(study, prior_width = 0.5, expect = "higher")
  expect_identical(run_here("evidence", demo_file(), question, prior)$out, format(answer, width = 80))
  csv <- run_here("priors", demo_file(), question, prior, "--widths", "0.2,1", "--format", "csv")
  expect_identical(csv$out, export_answer(try_priors(answer, c(0.2, 1)), format = "csv"))
  expect_identical(run_here("narrate", demo_file(), question, prior)$out, format(narrate(answer), width = 80))
  words <- run_here(
    "evidence", demo_file(), question, "--within", "0.1", "--strength-words", "some=3,much=30", "--strength-source",
    "us"
  )
  expect_match(paste(words$out, collapse = " "), "much for an effect (us)", fixed = TRUE)
  for (view in c("evidence", "posterior", "widths")) {
    file <- file.path(folder, paste0(view, ".png"))
    expect_identical(run_here("plot", demo_file(), question, "--view", view, "--output", file)$status, 0L)
    expect_true(file.exists(file))
  }
  file <- file.path(folder, "r.html")
  expect_identical(run_here("report", demo_file(), question, "--prior-width", "0.5", "--output", file)$status, 0L)
  page <- paste(readLines(file), collapse = " ")
  expect_true(grepl("Weight of evidence", page, fixed = TRUE) && grepl("Rouder, J. N.", page, fixed = TRUE))
  bad <- run_here("evidence", demo_file(), question, "--prior-width", "0")
  expect_identical(bad$status, 1L)
  expect_match(bad$err[[1]], "must be above 0", fixed = TRUE)
})

test_that("rehearsals and made-up data go by a supposed world, never by a file", {
  folder <- withr::local_tempdir()
  supposed <- c("--difference", "2.5", "--sd", "3,4", "--groups", "compost,peat", "--unit", "cm")
  world <- suppose_world(2.5, sd = c(3, 4), groups = c("compost", "peat"), unit = "cm")
  found <- run_here("rehearse", supposed, "--power", "0.8", "--method", "welch,student", "--ratio", "2")
  expect_identical(found$out, format(
    rehearse_study(world, power = 0.8, method = c("welch", "student"), ratio = 2),
    width = 80
  ))
  designs <- run_here("rehearse", supposed, "--n", "20;30;20,40", "--within", "6", "--format", "csv")
  three <- rehearse_study(world, list(20, 30, c(20, 40)), within = 6)
  expect_identical(designs$out, export_answer(three, format = "csv"))
  drawn <- c("--n", "8", "--method", "ranks", "--draws", "200", "--seed", "3")
  varied <- run_here("rehearse", supposed, drawn, "--vary", "sd_ratio=1,2;shape=normal,skewed", "--format", "json")
  got <- jsonlite::fromJSON(paste(varied$out, collapse = "\n"))
  worlds <- vary_world(world, sd_ratio = c(1, 2), shape = c("normal", "skewed"))
  answer <- rehearse_study(worlds, 8, "ranks", draws = 200, seed = 3)
  expect_identical(got$table$power, answer$table$power)
  expect_relative(got$settings$worlds[["SD ratio 2, skewed"]]$sd, worlds[[2]]$sd, 1e-15)
  told <- run_here("narrate", supposed, "--power", "0.8")
  expect_identical(told$out, format(narrate(rehearse_study(world, power = 0.8)), width = 80))
  for (view in c("power", "rates", "width")) {
    file <- file.path(folder, paste0(view, ".png"))
    expect_identical(run_here("plot", supposed, "--n", "20;30", "--view", view, "--output", file)$status, 0L)
    expect_true(file.exists(file))
  }
  made <- run_here("make-up", supposed, "--n", "24,22", "--seed", "7")
  file <- file.path(folder, "made-up.csv")
  writeLines(made$out, file)
  again <- run_here("difference", file, "--outcome", "value", "--by", "group", "--format", "json")
  study <- make_up_study(world, c(24, 22), seed = 7)
  expect_identical(
    jsonlite::fromJSON(paste(again$out, collapse = "\n"))$table$statistic, test_difference(study)$table$statistic
  )
  expect_match(paste(made$err, collapse = " "), "made up (seed 7)", fixed = TRUE)
  for (wrong in list(
    c("rehearse", demo_file(), supposed, "--n", "5"), c("rehearse", supposed, "--vary", "shape", "--n", "5"),
    c("make-up", demo_file(), supposed, "--n", "5"), c("narrate", demo_file(), supposed, "--n", "5"),
    c("plot", demo_file(), question, "--view", "power", "--output", file.path(folder, "x.png")),
    c("rehearse", supposed, "--n", "5", "--simulate", "maybe")
  )) {
    expect_identical(do.call(run_here, as.list(wrong))$status, 2L)
  }
  expect_identical(run_here("rehearse", "--difference", "0", "--sd", "3", "--power", "0.8")$status, 1L)
})

test_that("printed numbers are audited from options and from a table, with their zeros", {
  folder <- withr::local_tempdir()
  given <- c("--n", "18,20", "--mean", "22.1,19.8", "--sd", "3.90,3.2", "--t", "2.00", "--df", "36", "--p", ".13")
  answer <- audit_numbers(
    n = c("18", "20"), mean = c("22.1", "19.8"), sd = c("3.90", "3.2"), t = "2.00", df = "36", p = ".13"
  )
  expect_identical(run_here("audit", given)$out, format(answer, width = 80))
  file <- file.path(folder, "table.csv")
  writeLines(c("outcome,t,df,p", "height,2.10,30,<.05", "mass,-1.50,12,.160", "area,3.00,9,0.10"), file)
  csv <- run_here("audit", file, "--format", "csv")
  read <- read_measurements(file, as_written = TRUE, quiet = TRUE)
  expect_identical(csv$out, export_answer(audit_numbers(read), format = "csv"))
  expect_match(csv$out, ",t,2.10,", fixed = TRUE, all = FALSE)
  expect_identical(run_here("audit")$status, 2L)
  expect_identical(run_here("audit", file, "--t", "2")$status, 2L)
  expect_identical(run_here("audit", "--t", "x", "--df", "3")$status, 1L)
})

test_that("the table of a publication goes to the shell as text, CSV or a file", {
  folder <- withr::local_tempdir()
  study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
  table <- results_table(study, method = "student", estimand = "g")
  asked <- c("table", demo_file(), question, "--method", "student", "--estimand", "g")
  expect_identical(do.call(run_here, as.list(asked))$out, format(table, width = 80))
  csv <- do.call(run_here, as.list(c(asked, "--format", "csv")))
  expect_identical(csv$out, table_csv(as.data.frame(table)))
  json <- do.call(run_here, as.list(c(asked, "--format", "json")))
  expect_identical(jsonlite::fromJSON(paste(json$out, collapse = "\n"))$rows$p, as.data.frame(table)$p)
  file <- file.path(folder, "t.md")
  expect_identical(do.call(run_here, as.list(c(asked, "--output", file)))$status, 0L)
  expect_true(file.exists(file))
  expect_identical(do.call(run_here, as.list(c(asked, "--output", file)))$status, 1L)
  expect_identical(do.call(run_here, as.list(c(asked, "--output", file, "--force")))$status, 0L)
})

test_that("sentences, tables, figures and reports take their styles and kinds from the shell", {
  folder <- withr::local_tempdir()
  path <- function(name) file.path(folder, name)
  said <- function(...) gsub("\\s+", " ", paste(run_here("narrate", demo_file(), question, ...)$out, collapse = " "))
  expect_match(said("--decimal-mark", ",", "--leading-zero", "yes"), "[1,89; 5,02] for compost", fixed = TRUE)
  expect_match(said("--voice", "claim", "--claim", "same"), "enough evidence to reject the claim", fixed = TRUE)
  expect_match(said("--assigned", "yes"), "raised", fixed = TRUE)
  expect_match(said("--assigned", "no"), "may have other causes", fixed = TRUE)
  expect_match(said("--explain", "yes", "--sources", "yes"), "About p: .*Sources: .*Welch, B. L.")
  expect_match(said("--p-as", "inequality", "--decimals", "1"), "d = 1.3, 95% CI [0.7, 1.9]", fixed = TRUE)
  table <- run_here("table", demo_file(), question, "--decimal-mark", ",")
  expect_match(table$out, "3,46 [1,89; 5,02]", fixed = TRUE, all = FALSE)
  expect_identical(run_here(
    "plot", demo_file(), question, "--view", "paper", "--columns", "1", "--dpi", "100", "--palette", "black,grey60",
    "--output", path("f.png")
  )$status, 0L)
  expect_identical(run_here(
    "report", demo_file(), question, "--output", path("r.md"), "--text", "One.\\n\\nTwo.", "--explain", "no"
  )$status, 0L)
  report <- readLines(path("r.md"))
  expect_true(all(c("One.", "Two.") %in% report))
  expect_no_match(report, "About p", fixed = TRUE)
})
