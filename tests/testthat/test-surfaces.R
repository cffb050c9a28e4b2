# What one answer says on all its surfaces is one set of numbers, and every claim in words is true of its table.

# One random comparison: every shape of data, what is declared about it.
surface_study <- function(i) {
  declared <- list(
    unit = list(NULL, "cm", "%")[[1 + i %% 3]], label = list("Stem height", "pH", "leaf area")[[1 + i %% 3]],
    claim = list(NULL, "same", "different")[[1 + (i %/% 3) %% 3]], assigned = list(NULL, TRUE, FALSE)[[1 + i %% 3]],
    groups = c("compost", "peat")
  )
  n <- 4 + i %% 9
  gap <- c(0, 0.4, -3, 12)[[1 + i %% 4]]
  digits <- c(0, 1, 6)[[1 + (i %/% 2) %% 3]]
  first <- round(stats::rnorm(n, 20 + gap, 3), digits)
  second <- round(stats::rnorm(n + if (i %% 2) 0 else 3, 20, 2), digits)
  long <- long_data(c(first, NA), second)
  scores <- data.frame(score = rep(0:4, 2), substrate = rep(declared$groups, each = 5), plants = sample(1:6, 10, TRUE))
  declare <- function(verb, ...) rlang::inject(verb(..., !!!declared))
  switch(1 + i %% 8,
    declare(versus, long, height, substrate),
    declare(versus_paired, data.frame(a = first, b = second[seq_len(n)] + 0.01), a, b),
    declare(versus_summary, c(n, n + 2), c(20 + gap, 20), c(3, 2)),
    declare(versus_paired_summary, n, mean_change = gap + 0.1, sd_change = 2),
    declare(versus_paired, data.frame(change = first - 20.3), change),
    declare(versus, scores, score, substrate, counts = plants),
    declare(versus, first = first, second = second),
    versus(transform(long, width = 2 * height + rev(height) / 3), c(height, width), substrate, groups = declared$groups)
  )
}

surface_methods <- function(study) {
  if (study$source == "summary") return(methods_where(design = study$design, summaries = TRUE))
  methods_where(design = study$design)
}

# An answer of one of the verbs, or NULL where these few values allow none.
surface_answer <- function(i, study = quiet(surface_study(i))) {
  methods <- surface_methods(study)
  method <- methods[[1 + i %/% 8 %% length(methods)]]
  beyond <- if (method == "relative") 0 else c(0, 0, 1.5, -2)[[1 + (i %/% 7) %% 4]]
  asked <- c(
    list(expect = directions[[1 + (i %/% 5) %% 3]], beyond = beyond, alpha = c(0.05, 0.01)[[1 + i %% 2]]),
    if (method %in% c("relative", "permutation")) list(seed = i),
    if (length(study$outcomes) > 1) list(adjust = c("holm", "benjamini_hochberg", "none")[[1 + i %/% 8 %% 3]])
  )
  bounded <- if (method_fact(method, "bounds")) method else methods[[1]]
  # That few values cannot decide is said in a warning.
  tryCatch(suppressWarnings(switch(1 + i %/% 3 %% 6,
    test_equivalence(study, c(1, 4, 15)[[1 + i %% 3]], bounded), gauge_effect(study, method = method),
    weigh_evidence(study), cross_check(study, method),
    rlang::inject(test_difference(study, method, !!!asked)), rlang::inject(test_difference(study, method, !!!asked))
  ), classes = "vandro_warning"), vandro_error = function(e) NULL)
}

surface_styles <- list(
  NULL, number_style(leading_zero = TRUE, decimal_mark = ","), number_style(decimals = 3, p_decimals = 4)
)

# The answer and those that its surfaces are made of; what these draw has seed 1.
surface_sources <- function(answer) {
  study <- answer$study
  method <- if (!inherits(answer, c("vandro_effect", "vandro_evidence"))) answer$table$method[[1]]
  c(
    list(answer), if (inherits(answer, "vandro_equivalence")) list(difference_of(answer)),
    if (inherits(answer, "vandro_evidence")) list(test_difference(study)),
    list(gauge_effect(study, "all", method = method, seed = if (study$source == "values") 1))
  )
}

# One voice an answer; figures and reports, which take longest, of some.
surface_texts <- function(answer, i, style) {
  tested <- inherits(answer, c("vandro_difference", "vandro_equivalence"))
  voice <- c("journal", "plain", if (tested) "claim")[[1 + i %/% 2 %% (2 + tested)]]
  labels <- function() unlist(autoplot(answer)$labels[c("title", "subtitle", "caption", "alt")])
  report <- function() {
    file <- withr::local_tempfile(fileext = ".md")
    quick_report(answer, file, style = style)
    lines <- readLines(file)
    lines[!grepl("^(    |#|!)", lines)]
  }
  with_style(style, list(
    sentence = unclass(narrate(answer, voice = voice, style = style)),
    print = format(answer, width = 1000, details = TRUE),
    figure = if (i %% 4 == 0 && length(answer$study$outcomes) == 1) labels(),
    table = if (inherits(answer, "vandro_difference")) format(results_table(answer, checks = FALSE, style = style)),
    report = if (i %% 40 == 2) report()
  ))
}

# What a computer reads is the table to the last digit; a figure's own data hold the same limits.
data_faults <- function(answer, i) {
  table <- answer$table
  read <- list(
    json = jsonlite::fromJSON(paste(export_answer(answer), collapse = "\n"))$table,
    csv = utils::read.csv(text = export_answer(answer, format = "csv"), check.names = FALSE),
    frame = as.data.frame(answer)
  )
  faults <- unlist(lapply(names(read), function(surface) {
    same <- vapply(names(Filter(is.numeric, table)), function(name) {
      identical(as.numeric(read[[surface]][[name]]), as.numeric(table[[name]]))
    }, NA)
    if (!all(same)) paste(surface, "differs in", toString(names(same)[!same]))
  }))
  if (inherits(answer, "vandro_equivalence") && nrow(table) == 1 && i %% 4 == 0 && !anyNA(table$lower)) {
    layers <- ggplot2::ggplot_build(autoplot(answer))$data
    drawn <- unlist(lapply(layers, function(layer) Filter(is.numeric, layer)))
    if (!all(c(table$estimate, table$lower, table$upper) %in% drawn)) faults <- c(faults, "figure has other limits")
  }
  faults
}

surface_faults <- function(answer, i) {
  faults <- data_faults(answer, i)
  note <- function(what, found, text) {
    if (length(found)) faults <<- c(faults, sprintf("%d, %s [%s]: %s", i, what, toString(found), text))
  }
  texts <- surface_texts(answer, i, surface_styles[[1 + i %% 3]])
  sources <- surface_sources(answer)
  known <- numbers_of(sources)
  for (surface in names(texts)) {
    for (text in texts[[surface]]) {
      # Reports bring tables of checks and of the data as well.
      if (surface != "report") note(paste("numbers,", surface), strange_numbers(text, sources, known), text)
      if (surface != "report") note(paste("p,", surface), untrue_p(text, sources), text)
      note(paste("interval,", surface), strange_intervals(text, sources), text)
      note(paste("words,", surface), untrue_words(text, answer, sources), text)
      if (surface == "sentence") note("form", form_faults(text), text)
    }
  }
  faults
}

# Takes a minute: 400 answers, each on up to eight surfaces.
test_that("all surfaces of an answer show its numbers, and their words are true of them", {
  set.seed(90)
  answers <- lapply(1:400, surface_answer)
  expect_identical(sum(lengths(answers) > 0), 400L)
  faults <- lapply(seq_along(answers), function(i) if (!is.null(answers[[i]])) surface_faults(answers[[i]], i))
  expect_identical(c(character(), unlist(faults)), character())
})

test_that("the readers of surfaces see what is wrong", {
  answer <- test_difference(height_study())
  text <- unclass(narrate(answer))
  wrong <- function(from, to, reader, ...) reader(sub(from, to, text, fixed = TRUE), ...)
  expect_identical(wrong("3.46", "3.47", strange_numbers, list(answer)), "3.47")
  expect_identical(wrong("p < .001", "p = .002", untrue_p, list(answer)), "p = .002")
  expect_identical(untrue_p("p > .999", list(answer)), "p > .999")
  expect_length(wrong("[1.89", "[1.88", strange_intervals, list(answer)), 1)
  expect_length(strange_intervals("3.45 cm, 95% CI 1.89 to 5.02", list(answer)), 1)
  expect_identical(wrong("higher in", "lower in", untrue_words, answer), "verdict")
  expect_identical(untrue_words("Compost raised it (exact p = .01, seed 3).", answer), c("exact", "seed", "cause"))
  expect_identical(form_faults("Two  blanks (here ,"), c("two blanks", "blank before a mark", "no end", "brackets"))
  expect_identical(form_faults("there were 1 rows, NA of 2 row."), c("missing value", "no capital", "number and noun"))
})
