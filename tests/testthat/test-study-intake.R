# What real files bring: their kinds, forms of dates, labels and headers, and published numbers in tables.

in_file <- function(code, name) {
  file <- file.path(withr::local_tempdir(.local_envir = parent.frame()), name)
  code(file)
  file
}
bytes <- function(text) function(file) writeBin(if (is.raw(text)) text else charToRaw(text), file)

test_that("a file is recognised by its content, whatever its name is", {
  table <- data.frame(plant = c("L1", "L2"), height = c(21.5, 19))
  csv <- function(connection) function(file) {
    output <- connection(file, "w")
    utils::write.csv(table, output, row.names = FALSE)
    close(output)
  }
  zipped <- function(file) {
    inside <- file.path(dirname(file), "inside.csv")
    utils::write.csv(table, inside, row.names = FALSE)
    utils::zip(file, inside, flags = "-jq")
  }
  written <- list(
    "a.gz" = csv(gzfile), "plain.csv" = csv(gzfile), "b.xz" = csv(xzfile), "c.bz2" = csv(bzfile), "d.zip" = zipped,
    "frame.txt" = function(file) saveRDS(table, file), "bare" = function(file) saveRDS(table, file, compress = FALSE)
  )
  for (name in names(written)) {
    read <- read_measurements(in_file(written[[name]], name), quiet = TRUE)
    attr(read, "vandro_read") <- NULL
    expect_equal(read, table, info = name)
  }
  two <- function(file) {
    inside <- file.path(dirname(file), c("one.csv", "two.csv"))
    for (one in inside) writeLines("a,b", one)
    utils::zip(file, inside, flags = "-jq")
  }
  foreign <- list(
    "R workspace" = function(file) save(table, file = file), "PDF" = bytes("%PDF-1.7 text"),
    "statistics program" = bytes("$FL2@(#)"), "picture" = bytes(as.raw(c(0x89, 0x50, 0x4e, 0x47, 13, 10))),
    "web page" = bytes("\n <!DOCTYPE html><table>"), "JSON" = bytes("{\"a\": 1}"),
    "database" = bytes("SQLite format 3"),
    "archive of archives" = function(file) {
      writeLines("a,b", file)
      for (layer in 1:4) {
        bytes <- readBin(file, "raw", file.size(file))
        output <- gzfile(file, "wb")
        writeBin(bytes, output)
        close(output)
      }
    },
    "bytes of zero" = bytes(as.raw(c(97, 0, 44, 0, 98, 0))), "must hold exactly one table" = two
  )
  for (what in names(foreign)) {
    file <- in_file(foreign[[what]], "data.csv")
    error <- expect_error(read_measurements(file), class = "vandro_error_file", info = what)
    expect_match(gsub("[ \n]+", " ", conditionMessage(error)), what, info = what)
  }
})

test_that("headers that resemble the signs of other files are headers", {
  for (header in c("par1,par2", "PAR1,PAR2", "ARROW1,x", "BZh,x", "gif8,x", "rar!,x", "RDX3,x", "$FL2,x", "%PDF,x")) {
    read <- read_measurements(in_file(function(file) writeLines(c(header, "1,2", "3,4"), file), "data.csv"), quiet = TRUE)
    expect_identical(names(read)[[1]], sub(",.*", "", header))
  }
  # Errors name the archive and not the file that was unpacked from it.
  broken <- in_file(function(file) {
    output <- gzfile(file, "w")
    writeLines(c("a,b", "1,2", "1,2,3", "4,5"), output)
    close(output)
  }, "broken.csv.gz")
  expect_error(read_measurements(broken), "broken.csv.gz", class = "vandro_error_file")
})

test_that("columns of equal names are numbered, and said so; names match without blanks at their ends", {
  lines <- c("plot,height,height,\" bed \"", "a,1,2,x", "b,3,5,y")
  file <- in_file(function(file) writeLines(lines, file), "twice.csv")
  expect_message(data <- read_measurements(file, quiet = TRUE), "height_1", class = "vandro_message_renamed")
  expect_identical(trimws(names(data)), c("plot", "height_1", "height_2", "bed"))
  long <- stats::setNames(long_data(c(1, 3, 4), c(2, 5, 9)), c(" height ", "substrate"))
  study <- versus(long, "height", substrate, groups = c("compost", "peat"))
  expect_identical(study$outcomes[[1]]$label, "height")
  expect_output(cat(run_here("read", file)$out), "height_2")
})

test_that("a blank label is a missing one, and one with blanks at its ends is shown in quotes", {
  data <- long_data(c(4, 6, 5, 1, 2), c(2, 3, 7), c("compost", "peat "))
  for (form in list(identity, factor)) {
    data$substrate <- form(replace(as.character(data$substrate), 4:5, c("", "  ")))
    study <- versus(data, height, substrate, groups = c("compost", "peat "))
    expect_identical(study$groups, c("compost", "\"peat \""))
    expect_identical(study$left_out$n[study$left_out$reason == "group missing"], 2)
    expect_match(gsub(" +", " ", paste(format(study), collapse = " ")), "2 rows without a group")
  }
})

test_that("text is an order where it can be read in one way only", {
  order_of <- function(x, ...) {
    data <- data.frame(before = c(5, 7, 6), after = c(6, 9, 6), when = x)
    versus_paired(data, before, after, order = when, ...)$rows$order$values
  }
  days <- as.Date(c("2026-03-01", "2026-03-13", "2026-04-02"))
  minutes <- as.POSIXct(c("2026-03-01 09:05", "2026-03-13 14:00", "2026-04-02 00:00"), tz = "UTC")
  cases <- list(
    list(c("2026-03-01", "2026-3-13", "2026-04-02"), days), list(c("01.03.2026", "13.03.2026", "02.04.2026"), days),
    list(c("01/03/2026", "13/03/2026", "02/04/2026"), days), list(c("03-01-2026", "03-13-2026", "04-02-2026"), days),
    list(c("1 March 2026", "13 Mar 2026", "2 april 2026"), days),
    list(c("2026-03-01 09:05", "2026-03-13 2:00 pm", "2026-04-02T00:00Z"), minutes),
    list(c("2026-W09-7", "2026-W11-5", "2026-W14-4"), days),
    list(c("2026W10", "2026W12", "2026W53"), as.Date(c("2026-03-02", "2026-03-16", "2026-12-28"))),
    list(c("9:05", "14:00", "23:59"), as.difftime(c(32700, 50400, 86340), units = "secs")),
    list(c("007", "010", "011"), c(7, 10, 11)), list(ordered(c("low", "mid", "top")), 1:3)
  )
  for (case in cases) expect_equal(order_of(case[[1]]), case[[2]], info = as.character(case[[1]][[1]]))
  unclear <- c("03/01/2026", "03/02/2026", "04/02/2026")
  expect_equal(format(order_of(unclear, dates = "month_day"), "%m"), c("03", "03", "04"))
  for (bad in list(
    unclear, c("P1", "P2", "P3"), c("2026-02-28", "2026-02-30", "2026-03-01"), c("1/13/2026", "13/1/2026", "1/2/2026"),
    c("25:10", "9:05", "9:06"), c("24:10", "9:05", "9:06"), c("2026-W52", "2025-W53", "2026-W51"), c("2026-03-01", NA, "2026-03-02")
  )) {
    expect_error(order_of(bad), class = "vandro_error_order", info = bad[[1]])
  }
})

test_that("pairs in long data have an order and blocks", {
  data <- conductance_long[conductance_long$plant %in% intersect(
    conductance_long$plant[conductance_long$time == "noon"], conductance_long$plant[conductance_long$time == "dawn"]
  ), ]
  data$place <- as.integer(factor(data$plant)) + 100 * (data$time == "noon")
  data$bed <- ifelse(data$place %% 2 == 0, "a", "b")
  asked <- function(...) versus_paired(data, conductance, time, plant, groups = c("noon", "dawn"), ...)
  at_time <- function(time) {
    now <- data[data$time == time, ]
    now$conductance[order(now$plant)]
  }
  wide <- data.frame(
    plant = sort(unique(data$plant)), place = seq_along(unique(data$plant)),
    noon = at_time("noon"), dawn = at_time("dawn")
  )
  checks <- function(study) {
    table <- vet_assumptions(study)$table
    as.list(table[table$check == "order", c("estimate", "statistic", "p")])
  }
  long <- asked(order = place, blocks = bed)
  expect_false(anyNA(unlist(checks(long))))
  expect_equal(checks(long), checks(versus_paired(wide, noon, dawn, order = place)))
  expect_length(long$rows$blocks$values, nrow(wide))
  data$place <- seq_len(nrow(data))
  data$bed <- data$time
  expect_error(asked(order = place), class = "vandro_error_order")
  expect_error(asked(blocks = bed), class = "vandro_error_bad_blocks")
})

test_that("wide data with more than two occasions, and several rows of a unit, say what to do", {
  data <- data.frame(dawn = c(1, 3, 2:10), noon = c(2, 5, 4:12), dusk = c(9, 8, 3:11) + 0.5)
  data[] <- lapply(data, function(x) x + seq_along(x) / 7)
  expect_error(versus_paired(data, dawn, noon, dusk), "versus_paired(data, dawn, noon)", fixed = TRUE)
  expect_error(versus_paired(data, c(dawn, noon, dusk)), "versus_paired(data, dawn, noon)", fixed = TRUE)
  expect_message(
    study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), id = bench), "not valid as they stand"
  )
  averaged <- stats::aggregate(height ~ bench + substrate, seedlings, mean)
  expect_match(study$notes[[2]], "aggregate(height ~ bench + substrate, data, mean)", fixed = TRUE)
  expect_identical(nrow(averaged), 6L)
})

test_that("a data frame of published numbers is a study, by group or by comparison", {
  by_group <- data.frame(
    trait = rep(c("height", "mass"), each = 2), unit = rep(c("cm", "g"), each = 2), substrate = c("compost", "peat"),
    N = c(18, 20, 17, 20), average = c(22.1, 19.8, 2.1, 1.8), SD = c(3.9, 3.2, 0.4, 0.3)
  )
  wide <- data.frame(
    outcome = c("height", "mass"), unit = c("cm", "g"), n_compost = c(18, 17), n_peat = 20, mean_compost = c(22.1, 2.1),
    mean_peat = c(19.8, 1.8), sd_compost = c(3.9, 0.4), sd_peat = c(3.2, 0.3)
  )
  groups <- c("compost", "peat")
  numbered <- stats::setNames(wide, c("outcome", "unit", "n1", "n2", "mean1", "mean2", "sd1", "sd2"))
  named <- stats::setNames(wide, c("outcome", "unit", letters[1:6]))
  one <- versus_summary(c(17, 20), c(2.1, 1.8), c(0.4, 0.3), groups, outcome = "mass", unit = "g")
  for (study in list(
    versus_summary(by_group, groups = groups), versus_summary(wide, groups = groups),
    versus_summary(numbered, groups = groups),
    versus_summary(named, groups = groups, columns = list(n = c("a", "b"), mean = c("c", "d"), sd = c("e", "f")))
  )) {
    expect_equal(test_difference(study, adjust = "none")$table$p[[2]], test_difference(one)$table$p)
    expect_identical(study$outcomes[[2]]$unit, "g")
  }
  refused(
    unknown_group = versus_summary(wide, groups = c("mulch", "sand")),
    many_groups = versus_summary(cbind(wide, n_sand = 9, mean_sand = 2, sd_sand = 1)),
    contradiction = versus_summary(by_group, mean = "average"),
    bad_value = versus_summary(transform(by_group, substrate = c("compost", "peat", "compost", "")), groups = groups),
    bad_value = versus_summary(transform(by_group, trait = c("height", "height", NA, "mass")), groups = groups)
  )
  turned <- test_difference(versus_summary(by_group[3:4, ], groups = rev(groups)))$table
  expect_equal(turned$estimate, -0.3)
  expect_message(versus_summary(by_group[3:4, ]), "compost minus peat", class = "vandro_message_direction")
  expect_error(versus_summary(seedlings), class = "vandro_error_missing_ingredient")
  expect_error(versus_summary(by_group[-1, ], groups = groups), class = "vandro_error_bad_value")
  expect_error(versus_summary(transform(wide, sd_peat = c(1, -1)), groups = groups), class = "vandro_error_bad_value")
  file <- in_file(function(file) utils::write.csv(by_group, file, row.names = FALSE), "printed.csv")
  told <- run_here("difference", file, "--published", "--groups", "compost,peat", "--published-columns", "mean=average")
  expect_match(paste(told$out, collapse = " "), "height (cm)  18 + 20", fixed = TRUE)
  expect_identical(run_here("difference", file, "--published", "--by", "substrate")$status, 2L)
})

test_that("a look at a file proposes a question that can be asked", {
  for (data in list(seedlings, conductance, conductance_long, moisture, leaching)) {
    code <- declaration_code(proposed_question(data), "data")
    expect_s3_class(eval(parse(text = code)), "vandro_study")
  }
  out <- run_here("read", shipped("conductance_long.csv"))$out
  typed <- gsub("\\", "", paste(out[-seq_len(grep("^Next", out))], collapse = " "), fixed = TRUE)
  words <- scan(text = typed, what = "", quiet = TRUE, quote = "'\"")
  expect_identical(run_here(words[-1])$status, 0L)
  withr::local_dir(withr::local_tempdir())
  for (more in list("--label", c("--r", "0.5", "--label"))) {
    made <- run_here("make-up", "--difference", "2", "--sd", "3,4", "--n", "9", "--seed", "7", "--groups",
      "new bed,pair", more, "Stem height", "--output", sprintf("made%d.csv", length(more)))
    typed <- gsub("\\", "", paste(made$err[-seq_len(grep("Next", made$err))], collapse = " "), fixed = TRUE)
    expect_identical(run_here(scan(text = typed, what = "", quiet = TRUE, quote = "'\"")[-1])$status, 0L)
  }
})

test_that("commands obey the options that belong to what they write", {
  withr::local_dir(withr::local_tempdir())
  asked <- c(demo_file(), "--outcome", "height,dry_mass", "--by", "substrate", "--groups", "compost,peat")
  told <- run_here("table", asked, "--within", "1", "--bounds-in", "sd", "--format", "json")$out
  rows <- jsonlite::fromJSON(paste(told, collapse = "\n"))$rows
  verdict <- test_equivalence(
    versus(seedlings, c(height, dry_mass), substrate, groups = c("compost", "peat")), 1, bounds_in = "sd"
  )$table
  expect_equal(rows$p_equivalence, verdict$p)
  expect_identical(rows$verdict, verdict$verdict)
  for (other in c("--expect", "--level")) {
    expect_identical(run_here("table", asked, "--within", "1", other, "0.9")$status, 2L)
  }
  one <- replace(asked, 3, "height")
  expect_identical(run_here("plot", one, "--estimands", "g,d_pooled", "--output", "sizes.png")$status, 0L)
  expect_identical(run_here("plan", one, "--ask", "effect", "--estimands", "g", "--output", "plan.yaml")$status, 0L)
  expect_match(paste(readLines("plan.yaml"), collapse = " "), "estimands: +(- )?g")
  report <- c(one, "--size-words", "slight=0.1,clear=0.4", "--size-source", "ours", "--centre", "mean")
  expect_identical(run_here("report", report, "--method", "ranks,welch", "--output", "r.md")$status, 0L)
  text <- paste(readLines("r.md"), collapse = " ")
  expect_match(text, "clear")
  expect_match(text, "Levene")
})

test_that("hints at the command line are options that can be typed as they stand", {
  hints <- list(
    list(c("--by", "substrate_code", "--groups", "a,b"), "--groups a=2,b=1"),
    list(c("--by", "substrate", "--paired"), "--paired --outcome height --by substrate --id"),
    list(c("--by", "substrate", "--paired"), "--rows-in-order")
  )
  for (hint in hints) {
    said <- run_here("describe", demo_file(), "--outcome", "height", hint[[1]])$err
    expect_match(gsub(" +", " ", paste(said, collapse = " ")), hint[[2]], fixed = TRUE)
  }
  expect_match(run_here("rehearse", "--difference", "2", "--sd", "1,2")$err, "None of them was given", all = FALSE)
  expect_error(rehearse_study(suppose_world(2, sd = 1:2)), "power = 0.8", class = "vandro_error_contradiction")
})
