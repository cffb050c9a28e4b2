# The same data in every shape give the same numbers.

numbers <- function(study) {
  c(
    unlist(
      test_difference(
        study
      )$table[c("estimate", "se", "lower", "upper", "statistic", "df", "p", "n_first", "n_second")]
    ),
    unlist(gauge_effect(study)$table[c("estimate", "lower", "upper")])
  )
}

test_that("counts give the expanded data's description, to the last digit", {
  counted <- versus(root_damage, score, substrate, counts = plants, groups = c("compost", "peat"))
  expanded <- root_damage[rep(seq_len(nrow(root_damage)), root_damage$plants), ]
  plain <- quiet(versus(expanded, score, substrate, groups = c("compost", "peat")))
  expect_identical(describe_study(counted)$table, describe_study(plain)$table)
  expect_identical(as.data.frame(counted)$value, as.data.frame(plain)$value)
  expect_error(
    versus(root_damage, score, substrate, counts = plants, order = score),
    class = "vandro_error_bad_roles"
  )
  bad <- transform(root_damage, plants = plants - 1.5)
  expect_error(versus(bad, score, substrate, counts = plants), class = "vandro_error_bad_counts")
  bad$plants <- matrix(1, nrow(bad), 2)
  expect_error(versus(bad, score, substrate, counts = plants), class = "vandro_error_column_type")
  expect_error(versus(bad, score, substrate, order = plants), class = "vandro_error_column_type")
  bad$plants <- as.list(seq_len(nrow(bad)))
  expect_error(versus(bad, score, substrate, id = plants), class = "vandro_error_column_type")
})

test_that("blanks at the end of a column are padding, blanks in the middle missing cases", {
  data <- data.frame(a = c(1, NA, 3, 4, NA, NA), b = c(5, 6, 7, 8, 9, 1))
  study <- quiet(versus(data, first = a, second = b))
  expect_identical(outcome_sizes(study$outcomes[[1]]), c(3, 6))
  expect_identical(study$left_out$n, c(1, 0))
  vectors <- quiet(versus(first = data$a, second = data$b))
  expect_identical(vectors$left_out$n, c(3, 0))
})

test_that("units and labels go to their outcomes by name", {
  study <- versus(seedlings, c(height, dry_mass), substrate,
    groups = c("compost", "peat"), unit = c(dry_mass = "g", height = "cm"), label = c(height = "Stem")
  )
  expect_identical(outcome_title(study$outcomes[[1]]), "Stem (cm)")
  expect_identical(outcome_title(study$outcomes[[2]]), "dry_mass (g)")
  expect_error(
    versus(seedlings, height, substrate, unit = c(hight = "cm"), groups = c("compost", "peat")),
    class = "vandro_error_bad_value"
  )
})

test_that("order, blocks and id come along and are checked", {
  data <- transform(seedlings, day = rep(as.Date("2026-03-01") + 0:24, 2))
  study <- quiet(
    versus(data, height, substrate, groups = c("compost", "peat"), order = day, blocks = bench, id = plant)
  )
  expect_match(
    paste(format(study, width = 200), collapse = ""),
    "ordered by day, in blocks of bench, units told by plant"
  )
  expect_error(versus(data, height, substrate, order = plant), class = "vandro_error_order")
  data$day[[4]] <- NA
  expect_error(versus(data, height, substrate, order = day), "Row 4", class = "vandro_error_order")
  expect_error(versus(data, first = height, second = dry_mass, by = substrate), class = "vandro_error_bad_roles")
  twice <- transform(seedlings, plant = rep(plant[1:25], 2))
  expect_message(
    versus(twice, height, substrate, groups = c("compost", "peat"), id = plant),
    "of plant in both groups"
  )
  expect_message(
    versus(transform(seedlings, substrate = sub("peat", "Compost ", substrate)), height, substrate),
    "differ only in case or blanks"
  )
})

test_that("published pairs: r and the SD of the changes from each other", {
  a <- versus_paired_summary(22, mean = c(214, 148), sd = c(41, 36), r = 0.62)
  sd <- sqrt(41^2 + 36^2 - 2 * 0.62 * 41 * 36)
  b <- versus_paired_summary(22, mean = c(214, 148), sd = c(41, 36), sd_change = sd)
  c <- versus_paired_summary(22, mean_change = 66, sd_change = sd)
  d <- versus_paired_summary(22, mean_change = 66, se_change = sd / sqrt(22))
  for (study in list(b, c, d)) {
    # What rounding leaves open depends on what was printed; the answer does not.
    numbers <- setdiff(names(test_difference(a)$table), c("p_least", "p_most"))
    expect_equal(test_difference(study)$table[numbers], test_difference(a)$table[numbers], tolerance = 1e-12)
  }
  expect_equal(b$outcomes[[1]]$pairs$r, 0.62)
  values <- conductance_study()$outcomes[[1]]
  m <- values$moments
  from_r <- versus_paired_summary(m[[1]]$n, c(m[[1]]$mean, m[[2]]$mean), c(m[[1]]$sd, m[[2]]$sd), values$pairs$r)
  expect_equal(test_difference(from_r)$table$p, test_difference(conductance_study())$table$p, tolerance = 1e-10)
})

test_that("published pairs ask for what they lack", {
  error <- function(..., class = "missing_ingredient") {
    expect_error(versus_paired_summary(...), class = paste0("vandro_error_", class))
  }
  error(22, mean = c(214, 148), sd = c(41, 36))
  error(22, mean = c(214, 148), r = 0.5)
  error(22, sd_change = 3)
  error(22, mean = c(2, 1), sd = c(41, 36), r = 1.2, class = "bad_value")
  error(22, mean = c(2, 1), sd = c(41, 36), sd_change = 90, class = "bad_value")
  error(22, mean = c(2, 1), mean_change = 3, sd_change = 9, class = "bad_value")
  error(22.5, mean_change = 3, sd_change = 9, class = "bad_value")
  expect_error(versus_summary(c(5, 6), c(1, 2)), class = "vandro_error_missing_ingredient")
  expect_error(versus_summary(c(5, 6), c(1, 2), lower = c(0, 3), upper = c(2, 1)), class = "vandro_error_bad_value")
})
