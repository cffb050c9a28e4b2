many_data <- function(rows = 40, columns = 60, seed = 1) {
  set.seed(seed)
  data <- as.data.frame(matrix(rnorm(rows * columns, 20, 3), rows))
  data$V3[c(2, 9)] <- NA
  data$V4 <- round(data$V4)
  data$V5 <- as.integer(data$V4)
  data$side <- sample(rep(c("compost", "peat"), length.out = rows))
  data
}
declared <- function(data, columns) versus(data, !!columns, side, groups = c("compost", "peat"))
plain <- function(table, drop = character()) as.list(table[setdiff(names(table), c("outcome", "p_adjusted", drop))])

test_that("many outcomes are the single calls, to the last digit, by every verb", {
  data <- many_data()
  columns <- paste0("V", 1:60)
  study <- declared(data, columns)
  ask <- list(
    function(s) test_difference(s),
    function(s) test_difference(s, "student", expect = "higher", beyond = 1, level = 0.9),
    function(s) test_difference(s, c("ranks", "welch")),
    function(s) gauge_effect(s, "all", options = how(draws = 199), seed = 4),
    function(s) gauge_effect(s, c("g", "d_average"), level = 0.8),
    function(s) test_equivalence(s, within = 2, adjust = "none"),
    function(s) weigh_evidence(s), function(s) describe_study(s), function(s) vet_assumptions(s)
  )
  for (verb in ask) {
    whole <- quiet(verb(study))$table
    for (name in columns[c(1, 3, 4, 5, 37)]) {
      own <- quiet(verb(declared(data, name)))$table
      expect_identical(plain(whole[whole$outcome == name, ]), plain(own), ignore_attr = TRUE)
    }
  }
})

test_that("the same of pairs, and of frequency data", {
  set.seed(2)
  long <- do.call(rbind, lapply(1:25, function(plant) {
    data.frame(plant = plant, time = c("noon", "dawn"), a = rnorm(2, plant), b = rnorm(2))
  }))
  study <- versus_paired(long, c(a, b), time, plant, groups = c("noon", "dawn"))
  for (verb in list(test_difference, gauge_effect, function(s) test_difference(s, "signed_ranks"))) {
    whole <- quiet(verb(study))$table
    own <- quiet(verb(versus_paired(long, b, time, plant, groups = c("noon", "dawn"))))$table
    expect_identical(plain(whole[whole$outcome == "b", ]), plain(own), ignore_attr = TRUE)
  }
})

test_that("so many that they share an interpolant still have the digits of single ones", {
  set.seed(6)
  for (df in c(3, 12, 19, 20, 198, 1e5)) {
    for (spread in c(1.5, 30, 900)) {
      t <- rnorm(400) * spread
      together <- core_ncp_limits(t, df, 0.95)
      alone <- vapply(t, function(one) unlist(core_ncp_limits(one, df, 0.95)), c(0, 0))
      expect_identical(together$lower, alone[1, ])
      expect_identical(together$upper, alone[2, ])
    }
  }
})

test_that("printing many is a table of the smallest p, few are a table of all", {
  data <- many_data()
  data$V2[data$side == "compost"] <- data$V2[data$side == "compost"] + 9
  data$V7 <- 1
  answer <- test_difference(declared(data, paste0("V", 1:60)), adjust = "hochberg", simultaneous = TRUE)
  lines <- format(answer, width = 120)
  expect_match(lines[[1]], "60 outcomes")
  expect_match(lines[[3]], "^  V2 ")
  text <- paste(lines, collapse = "\n")
  for (part in c(
    "20 of 59 rows, those with the smallest p-values", "Hochberg's method (Hochberg 1988)",
    "simultaneous 95% intervals",
    "1 of 60", "does not vary", "joint lower"
  )) {
    expect_match(text, part, fixed = TRUE)
  }
  expect_lt(length(lines), 40)
  study <- declared(data, paste0("V", 1:60))
  expect_match(paste(format(study), collapse = "\n"), "the first 20; 40 more")
  some <- declared(data, paste0("V", 10:30))
  same <- function(s) test_equivalence(s, within = 1)
  for (verb in list(gauge_effect, weigh_evidence, same, vet_assumptions, describe_study)) {
    expect_lt(length(format(verb(some), width = 100)), 500)
  }
  expect_match(paste(format(vet_assumptions(some)), collapse = "\n"), "and 15 more", fixed = TRUE)
  three <- test_difference(declared(data, paste0("V", 1:3)), c("welch", "ranks"))
  expect_identical(sum(grepl("^  V[1-3] .* (Welch|Mann-Whitney) ", format(three, width = 120))), 6L)
  expect_identical(sum(grepl("^Difference:", format(three, details = TRUE))), 3L)
})

test_that("figures of many show every outcome with a result, on a scale they share", {
  data <- many_data()
  data$V7 <- 1
  study <- versus(data, !!paste0("V", 1:60), side, groups = c("compost", "peat"), unit = "cm")
  answer <- test_difference(study)
  figure <- autoplot(answer)
  shown <- ggplot2::ggplot_build(figure)$plot$data
  table <- answer$table[!is.na(answer$table$p), ]
  expect_setequal(shown$name, table$outcome)
  expect_equal(shown$estimate, sort(table$estimate))
  expect_match(figure$labels$x, "Difference \\(cm\\)")
  expect_match(figure$labels$caption, "No result for 1")
  # Outcomes of different units are standardized.
  mixed <- versus(data, c(V1, V2, V3), side, groups = c("compost", "peat"), unit = c(V1 = "cm", V2 = "g"))
  differences <- test_difference(mixed, simultaneous = TRUE)
  sized <- autoplot(differences, view = "intervals")
  expect_match(sized$labels$x, "Standardized")
  expect_equal(sort(sized$data$estimate), sort(gauge_effect(mixed, "g_average")$table$estimate))
  overview <- autoplot(answer, view = "overview")
  expect_equal(overview$data$height, -log10(table$p))
  expect_match(overview$labels$caption, "Holm")
  expect_error(autoplot(test_difference(declared(data, "V1")), view = "overview"), class = "vandro_error_bad_value")
  expect_error(ggplot2::ggplotGrob(overview), NA)
  expect_error(ggplot2::ggplotGrob(sized), NA)
  expect_identical(p_tick(c(0, 1, 4, 7)), c("1", ".1", ".0001", "1e-7"))
  expect_equal(p_breaks(4.2), c(0:5, -log10(0.05)))
  expect_equal(p_breaks(324), c(0, 100, 200, 300))
  # Below the smallest double p still has its place.
  far <- data.frame(side = rep(c("compost", "peat"), each = 200), V1 = sin(1:400), V2 = cos(1:400))
  far[far$side == "peat", 2:3] <- far[far$side == "peat", 2:3] + rep(c(90, 400), each = 200)
  tiny <- test_difference(declared(far, c("V1", "V2")))
  heights <- autoplot(tiny, view = "overview")$data$height
  expect_equal(heights, -tiny$table$log_p / log(10))
  expect_gt(min(heights), 324)
  expect_gt(diff(heights), 100)
  many <- autoplot(answer, view = "paper")
  expect_s3_class(many, "vandro_page")
  expect_length(many$plots, 1)
})

# Takes seconds: a report on many outcomes.
test_that("a report about many has tables in place of pages", {
  data <- many_data(30, 20, 3)
  data$V1[data$side == "peat"] <- data$V1[data$side == "peat"] + 12
  study <- declared(data, paste0("V", 1:20))
  folder <- withr::local_tempdir()
  file <- file.path(folder, "many.html")
  quick_report(study, file)
  page <- paste(readLines(file), collapse = "\n")
  parts <- c(
    "1 of 20 comparisons has p at most .05; after", "Checks of all outcomes", "significant after adjustment", "V1 was"
  )
  for (part in parts) {
    expect_match(page, part, fixed = TRUE)
  }
  expect_lt(file.size(file), 1e6)
  plain <- file.path(folder, "plain.md")
  quick_report(test_difference(study, adjust = "none"), plain)
  expect_no_match(paste(readLines(plain), collapse = "\n"), "after adjustment", fixed = TRUE)
  quick_report(list(test_equivalence(study, within = 3, reason = "half a step"), weigh_evidence(study)),
    file.path(folder, "more.md")
  )
  text <- paste(readLines(file.path(folder, "more.md")), collapse = "\n")
  expect_match(text, "Weight of evidence")
  expect_match(text, "inconclusive|equivalent")
})
