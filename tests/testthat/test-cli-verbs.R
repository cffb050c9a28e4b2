# Every verb with its own words at the shell: rows of words and of the call that gives the same.

height <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
damage <- versus(root_damage, score, substrate, counts = plants, groups = c("compost", "peat"))
plots <- versus(leaching, nitrate, cover, groups = c("bare", "sown"))
probes <- versus_paired(moisture, probe_a, probe_b, order = hour)
world <- suppose_world(2.5, sd = c(3, 4), groups = c("compost", "peat"), unit = "cm")
bounded <- test_equivalence(height, c(-2, 5), reason = "a shelf holds 5 cm more")
evidence <- weigh_evidence(height, prior_half = 0.5, expect = "higher")

same_answers <- rlang::exprs(
  "describe S" = describe_study(height),
  "assumptions S --centre mean --check-alpha 0.1 --limits 0,40" =
    vet_assumptions(height, centre = "mean", check_alpha = 0.1, limits = c(0, 40)),
  "difference S --method student,welch --expect higher --reason 'It must'" =
    test_difference(height, c("student", "welch"), expect = "higher", reason = "It must"),
  "difference S --claim same" =
    test_difference(versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm", claim = "same")),
  "difference DAMAGE --method ranks,relative --exact no" =
    test_difference(damage, c("ranks", "relative"), options = how(exact = FALSE)),
  "difference PLOTS --method permutation --draws 999 --seed 3 --threads 2 --max-memory 0.5" =
    test_difference(plots, "permutation", options = how(draws = 999), seed = 3),
  "difference PLOTS --method permutation --statistic difference" =
    test_difference(plots, "permutation", options = how(statistic = "difference")),
  "difference PROBES --order hour --method permutation --run-length 4" =
    test_difference(probes, "permutation", options = how(run_length = 4)),
  "narrate PROBES --order hour --method signed_ranks --zeros pratt" =
    narrate(probes, method = "signed_ranks", options = how(zeros = "pratt")),
  "effect S --estimands g,d_average --interval bootstrap --seed 4 --draws 499 --size-words faint=0.3,clear=1
    --size-source 'House rules'" = gauge_effect(
    height, c("g", "d_average"),
    interval = "bootstrap", seed = 4, options = how(draws = 499), size_words = c(faint = 0.3, clear = 1),
    size_source = "House rules"
  ),
  "effect S --method student --size-words cohen" =
    gauge_effect(height, method = "student", size_words = "cohen"),
  "effect DAMAGE --estimands superiority,r_rank --seed 4 --format csv" =
    gauge_effect(damage, c("superiority", "r_rank"), seed = 4),
  "equivalence S BOUNDED" = bounded,
  "equivalence S --within 0.5 --bounds-in sd --sd-of pooled" =
    test_equivalence(height, 0.5, bounds_in = "sd", sd_of = "pooled"),
  "bounds S BOUNDED --bounds 3,4" = try_bounds(bounded, c(3, 4)),
  "bounds S BOUNDED --points 9" = try_bounds(bounded, points = 9),
  "narrate S BOUNDED" = narrate(bounded),
  "cross-check S --seed 4 --flagged both --alpha 0.01" = cross_check(height, seed = 4, flagged = "both", alpha = 0.01),
  "cross-check S BOUNDED --seed 4" =
    cross_check(height, within = c(-2, 5), reason = "a shelf holds 5 cm more", seed = 4),
  "evidence S PRIOR" = evidence,
  "evidence S --within 0.1 --strength-words some=3,much=30 --strength-source us" =
    weigh_evidence(height, within = 0.1, strength_words = c(some = 3, much = 30), strength_source = "us"),
  "priors S PRIOR --widths 0.2,1 --format csv" = try_priors(evidence, c(0.2, 1)),
  "narrate S PRIOR" = narrate(evidence),
  "rehearse WORLD --power 0.8 --method welch,student --ratio 2" =
    rehearse_study(world, power = 0.8, method = c("welch", "student"), ratio = 2),
  "rehearse WORLD --n 20;30;20,40 --within 6 --format csv" =
    rehearse_study(world, list(20, 30, c(20, 40)), within = 6),
  "rehearse WORLD --n 8 --method ranks --draws 200 --seed 3 --vary sd_ratio=1,2;shape=normal,skewed" = rehearse_study(
    vary_world(world, sd_ratio = c(1, 2), shape = c("normal", "skewed")), 8, "ranks",
    draws = 200, seed = 3
  ),
  "narrate WORLD --power 0.8" = narrate(rehearse_study(world, power = 0.8)),
  "audit PRINTED" = audit_numbers(
    n = c("18", "20"), mean = c("22.1", "19.8"), sd = c("3.90", "3.2"), t = "2.00", df = "36", p = ".13"
  ),
  "table S --method student --estimands g" = results_table(height, method = "student", estimands = "g"),
  "table S --written-decimal-mark ," = results_table(height, style = number_style(decimal_mark = ",")),
  "narrate S --written-decimal-mark , --leading-zero yes" =
    narrate(height, style = number_style(decimal_mark = ",", leading_zero = TRUE)),
  "narrate S --p-as inequality --unitless-decimals 1" =
    narrate(height, style = number_style(p_as = "inequality", decimals = 1)),
  "narrate S --explain yes --sources yes" = narrate(height, explain = TRUE, sources = TRUE),
  "narrate S --voice claim --claim same" = narrate(
    versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm", claim = "same"),
    voice = "claim"
  ),
  "narrate S --assigned yes" =
    narrate(versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm", assigned = TRUE))
)

test_that("a command prints what its verb prints", {
  for (line in names(same_answers)) {
    answer <- suppressWarnings(quiet(eval(same_answers[[line]])))
    got <- at_shell(line)
    expect_identical(got$status, 0L, label = line)
    # A style is in force for the time of the call that has it.
    style <- if (is.call(same_answers[[line]])) eval(same_answers[[line]]$style)
    printed <- if (grepl("--format csv", line)) {
      export_answer(answer, format = "csv")
    } else {
      with_style(style, format(answer, width = 80))
    }
    expect_identical(got$out, printed, label = line)
  }
})

test_that("every view can be asked for, and files are written in their kinds", {
  withr::local_dir(withr::local_tempdir())
  views <- c(
    S = "null effects assumptions normal spread evidence posterior widths", "S --columns 1 --dpi 100" = "paper",
    "S --palette black,grey60" = "difference", "S BOUNDED" = "equivalence bounds cross-check",
    "PROBES --order hour --title Probes" = paste(figure_views, collapse = " "),
    "DAMAGE --method relative" = "superiority", "PLOTS --method permutation --curve" = "null",
    "WORLD --n 20;30" = "power rates width"
  )
  for (words in names(views)) {
    for (view in strsplit(views[[words]], " ", fixed = TRUE)[[1]]) {
      line <- sprintf("plot %s --view %s --output %s.png --force", words, view, view)
      expect_identical(at_shell(line)$status, 0L, label = line)
      expect_true(file.exists(paste0(view, ".png")), label = line)
    }
  }
  reports <- c(
    "S BOUNDED --output a.html" = "a shelf holds 5 cm more",
    "S --prior-half 0.5 --output b.html" = "Weight of evidence",
    "DAMAGE --method ranks --output c.html" = "U = 549 of 1680 pairs",
    "S --output d.md --text One.\\n\\nTwo. --parts=-meaning" = "\nOne.\n\nTwo.\n"
  )
  for (words in names(reports)) {
    expect_identical(at_shell(paste("report", words))$status, 0L, label = words)
    file <- regmatches(words, regexpr("[a-d][.](html|md)", words))
    expect_match(paste(readLines(file), collapse = "\n"), reports[[words]], fixed = TRUE)
  }
  for (step in list(c("", 0), c("", 1), c("--force", 0))) {
    expect_identical(at_shell(paste("table S --output t.md", step[[1]]))$status, as.integer(step[[2]]))
  }
})

test_that("made-up data and audited tables go through files", {
  withr::local_dir(withr::local_tempdir())
  made <- at_shell("make-up WORLD --n 24,22 --seed 7")
  expect_match(paste(made$err, collapse = " "), "made up (seed 7)", fixed = TRUE)
  writeLines(made$out, "made-up.csv")
  again <- at_shell("difference made-up.csv --outcome outcome --by group --format csv")
  study <- make_up_study(world, c(24, 22), seed = 7)
  expect_identical(utils::read.csv(text = again$out)$statistic, test_difference(study)$table$statistic)
  writeLines(c("outcome,t,df,p", "height,2.10,30,<.05", "mass,-1.50,12,.160", "area,3.00,9,0.10"), "table.csv")
  read <- read_measurements("table.csv", as_written = TRUE, quiet = TRUE)
  expect_identical(at_shell("audit table.csv --format csv")$out, export_answer(audit_numbers(read), format = "csv"))
  expect_identical(at_shell("audit table.csv --t 2")$status, 2L)
})

test_that("wrong words have status 2, what the verb refuses has status 1", {
  status <- c(
    "effect S --size-words a=b" = 2, "difference S --reason x" = 1,
    "difference DAMAGE --method ranks --exact maybe" = 2,
    "difference DAMAGE --method welch --zeros pratt" = 1, "difference PLOTS --method permutation --draws 5" = 1,
    "difference PLOTS --method permutation --statistic mode" = 2, "equivalence S" = 2,
    "equivalence S --within 1,2,3" = 2,
    "equivalence S --within 1,2" = 1, "cross-check S --flagged all" = 2, "evidence S --prior-half 0" = 1,
    "rehearse S WORLD --n 5" = 2, "rehearse WORLD --vary shape --n 5" = 2, "make-up S WORLD --n 5" = 2,
    "narrate S WORLD --n 5" = 2, "plot S --view power --output x.png" = 2, "rehearse WORLD --n 5 --simulate maybe" = 2,
    "rehearse --difference 0 --sd 3 --power 0.8" = 1, "audit" = 2, "audit --t x --df 3" = 1
  )
  for (line in names(status)) expect_identical(at_shell(line)$status, as.integer(status[[line]]), label = line)
})
