north <- function(data) data[data$bench == "north", ]

test_that("every subgroup is the study of its own rows, to the last digit", {
  each <- versus(seedlings, c(height, dry_mass), substrate, groups = c("compost", "peat"), each = bench, id = plant)
  expect_identical(each$each, list(name = "bench", labels = c("north", "middle", "south")))
  expect_identical(vapply(each$outcomes, record_name, "")[1:4], c(
    "height: north", "height: middle", "height: south", "dry_mass: north"
  ))
  alone <- versus(north(seedlings), c(height, dry_mass), substrate, groups = c("compost", "peat"), id = plant)
  columns <- c("estimate", "se", "lower", "upper", "statistic", "df", "p", "n_first", "n_second")
  for (ask in list(
    list(test_difference), list(test_difference, "ranks"), list(gauge_effect), list(weigh_evidence),
    list(vet_assumptions), list(describe_study), list(test_equivalence, within = list(height = 2, dry_mass = 0.3))
  )) {
    call <- function(study) suppressWarnings(do.call(ask[[1]], c(list(study), ask[-1])))$table
    whole <- call(each)
    own <- call(alone)
    kept <- whole[whole$subgroup == "north", ]
    shared <- intersect(c(columns, "mean", "sd", "median", "cases", "verdict", "bf_difference"), names(own))
    expect_identical(as.list(kept[shared]), as.list(own[shared]), ignore_attr = TRUE)
  }
  expect_identical(as.data.frame(each)[as.data.frame(each)$subgroup == "north", c("outcome", "group", "value")],
    as.data.frame(alone),
    ignore_attr = TRUE
  )
})

test_that("pairs in every shape, frequency data and blocks go by subgroup", {
  data <- cbind(conductance, side = rep(c("left", "right"), length.out = nrow(conductance)))
  wide <- versus_paired(data, noon, dawn, each = side)
  left <- versus_paired(data[data$side == "left", ], noon, dawn)
  one <- function(study) test_difference(study)$table[1, c("estimate", "p", "lower")]
  expect_identical(as.list(one(wide)), as.list(one(left)))
  changes <- data.frame(change = data$noon - data$dawn, side = data$side)
  by_side <- versus_paired(changes, change, groups = c("noon", "dawn"), each = side)
  expect_equal(as.list(one(by_side)), as.list(one(left)))
  long <- merge(conductance_long, data[c("plant", "side")])
  keyed <- versus_paired(long, conductance, time, plant, groups = c("noon", "dawn"), each = side)
  expect_equal(as.list(one(keyed)$p), as.list(one(left)$p))
  expect_identical(sort(unique(keyed$left_out$subgroup)), c("left", "right"))
  counted <- cbind(root_damage, bed = rep(1:2, 6))
  damage <- function(data, ...) {
    test_difference(versus(data, score, substrate, counts = plants, groups = c("compost", "peat"), ...))$table$p
  }
  expect_identical(damage(counted, each = bed)[[2]], damage(counted[counted$bed == 2, ]))
  halves <- transform(seedlings, half = rep(1:2, each = 25), turn = rev(seq_len(50)))
  asked <- function(data, ...) {
    study <- versus(data, height, substrate, groups = c("compost", "peat"), blocks = bench, order = turn, ...)
    test_difference(study, "permutation", seed = 3)$table
  }
  expect_identical(asked(halves, each = half)$p[[2]], asked(halves[halves$half == 2, ])$p)
})

test_that("a subgroup with one group keeps its row and says why; all of them are an error", {
  data <- seedlings[!(seedlings$bench == "north" & seedlings$substrate == "peat"), ]
  expect_message(
    study <- versus(data, c(height, dry_mass), substrate, groups = c("compost", "peat"), each = bench),
    "No comparison is possible for 2 of 6", class = "vandro_message_note"
  )
  table <- test_difference(study, c("welch", "ranks"), simultaneous = TRUE)$table
  lost <- table$subgroup == "north"
  expect_identical(is.na(table$p), lost)
  expect_match(table$reason[lost], "no value in peat")
  expect_true(all(is.na(table$reason[!lost])))
  # Not counted among those that p is adjusted for.
  primary <- table[table$role == "primary" & !lost, ]
  expect_identical(primary$p_adjusted, core_adjust_p(primary$p, "holm"))
  for (verb in list(
    describe_study, vet_assumptions, gauge_effect, weigh_evidence, cross_check,
    function(s) test_equivalence(s, within = 1), function(s) gauge_effect(s, "g", interval = "bootstrap", seed = 1),
    function(s) gauge_effect(s, method = "ranks"), function(s) test_difference(s, "permutation", seed = 1)
  )) {
    answer <- quiet(verb(study))
    expect_true("north" %in% answer$table$subgroup)
    expect_false(any(vapply(answer$table, function(column) any(is.nan(column)), NA)))
    expect_error(format(answer), NA)
    text <- tryCatch(narrate(answer), vandro_error = function(e) "no text")
    expect_type(text, "character")
  }
  expect_match(paste(format(test_difference(study)), collapse = " "), "No result")
  expect_match(paste(narrate(study), collapse = " "), "Height (bench north) allows no comparison", fixed = TRUE)
  expect_match(paste(format(results_table(study)), collapse = " "), "No result: height (bench north)", fixed = TRUE)
  nowhere <- data[data$bench == "north", ]
  nowhere$substrate <- factor(nowhere$substrate, c("compost", "peat"))
  expect_error(
    versus(rbind(nowhere, transform(nowhere[1, ], substrate = "peat", height = NA)), height, substrate, each = bench,
      groups = c("compost", "peat")
    ),
    class = "vandro_error_all_missing"
  )
})

test_that("among several outcomes one without an answer does not stop the others; alone it is an error", {
  data <- transform(seedlings, flat = 3, one = ifelse(seq_len(50) < 3, seq_len(50) / 2, NA))
  study <- quiet(versus(data, c(height, flat, one), substrate, groups = c("compost", "peat")))
  table <- test_difference(study)$table
  expect_match(table$reason[[2]], "does not vary")
  expect_identical(is.na(table$p), c(FALSE, TRUE, TRUE))
  alone <- versus(data, flat, substrate, groups = c("compost", "peat"))
  expect_error(test_difference(alone), class = "vandro_error_no_spread")
  both <- versus(transform(data, also = flat), c(flat, also), substrate, groups = c("compost", "peat"))
  refused(no_spread = test_difference(both), no_spread = gauge_effect(both))
  # Errors of the question stay errors.
  expect_error(test_difference(study, "relative", options = how(draws = 3)), class = "vandro_error_bad_value")
})

test_that("rows without a subgroup are told, halves in two subgroups refused", {
  data <- seedlings
  data$bench[1:3] <- NA
  expect_message(versus(data, height, substrate, groups = c("compost", "peat"), each = bench), "3 rows have no bench")
  data$bench <- NA
  expect_error(
    versus(data, height, substrate, groups = c("compost", "peat"), each = bench), class = "vandro_error_one_group"
  )
  moved <- transform(conductance_long, side = ifelse(time == "noon", "left", "right"))
  expect_error(
    versus_paired(moved, conductance, time, plant, groups = c("noon", "dawn"), each = side),
    "belong together", class = "vandro_error_bad_subgroups"
  )
  expect_error(versus(data, first = height, second = dry_mass, each = plant), class = "vandro_error_bad_roles")
})

# Takes seconds: a report of three subgroups.
test_that("figures, reports and tables name the subgroup; values without some rows are those of the subgroup", {
  study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm", each = bench)
  answer <- test_difference(study)
  figure <- autoplot(answer, outcome = "height: middle")
  expect_match(figure$labels$alt, "bench middle")
  expect_error(autoplot(answer, outcome = "height: nowhere"), class = "vandro_error_bad_value")
  expect_identical(outcome_title(study$outcomes[[2]]), "height (cm) (bench middle)")
  without <- cross_check(study, flagged = "both", seed = 1)$table
  own <- cross_check(
    versus(seedlings[seedlings$bench == "middle", ], height, substrate, groups = c("compost", "peat")),
    flagged = "both", seed = 1
  )$table
  expect_identical(without$p[without$subgroup == "middle"], own$p)
  expect_match(
    narrate(test_difference(one_outcome(study, study$outcomes[[3]]))), "Height (bench south) was 4.95 cm", fixed = TRUE
  )
  folder <- withr::local_tempdir()
  file <- file.path(folder, "report.html")
  quick_report(study, file)
  page <- paste(readLines(file), collapse = "\n")
  expect_match(page, "Between subgroups")
  expect_match(page, "Subgroups two by two")
})
