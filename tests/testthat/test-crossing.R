# Every kind of study x every method x every way of telling: an answer without a hole in its text, or a refusal that the
# study deserves. A method or an effect size that is added to the catalogue is crossed at once.

crossed_studies <- function(con) {
  g <- c("compost", "peat")
  nd <- c("noon", "dawn")
  from <- function(name) dplyr::tbl(con, name)
  list(
    values = height_study(),
    few = plots_study(),
    counts = versus(root_damage, score, substrate, groups = g, counts = plants),
    summaries = published_study(),
    database = versus(from("seedlings"), height, substrate, groups = g, unit = "cm"),
    subgroups = versus(two_benches, height, substrate, groups = g, each = bench),
    many = versus(seedlings, c(height, leaf_area), substrate, groups = g),
    pairs = versus_paired(benched, noon, dawn, unit = "mmol"),
    changes = versus_paired(changes, change = change, groups = nd, unit = "mmol"),
    published_pairs = versus_paired_summary(n = 22, mean = c(180, 134), sd = c(30, 28), r = 0.7, groups = nd),
    published_changes = versus_paired_summary(n = 22, mean_change = 46, sd_change = 20, groups = nd),
    database_pairs = versus_paired(from("benched"), noon, dawn, unit = "mmol", assigned = TRUE),
    database_changes = versus_paired(from("changes"), change = change, groups = nd),
    pair_subgroups = versus_paired(benched, noon, dawn, each = bench, unit = "mmol"),
    database_subgroups = versus(from("two_benches"), height, substrate, groups = g, each = bench),
    database_pair_subgroups = versus_paired(from("benched"), noon, dawn, each = bench)
  )
}
two_benches <- seedlings[seedlings$bench != "south", ]
benched <- cbind(conductance, bench = rep(c("north", "south"), 12))
changes <- stats::na.omit(data.frame(change = conductance$noon - conductance$dawn))

# The study with its answers, each computed when it is first asked for and once.
answers_of <- function(study, method) {
  a <- new.env()
  a$study <- study
  a$method <- method
  ask <- list(
    difference = function() test_difference(study, method), effect = function() gauge_effect(study, method = method),
    cross = function() cross_check(study, method),
    equivalence = function() test_equivalence(study, bounds_of(study), method)
  )
  found <- list()
  for (name in names(ask)) local({
    name <- name
    makeActiveBinding(name, function() {
      if (is.null(found[[name]])) found[[name]] <<- tryCatch(ask[[name]](), error = identity)
      if (inherits(found[[name]], "error")) stop(found[[name]])
      found[[name]]
    }, a)
  })
  a
}
bounds_of <- function(study) {
  method <- mean_method(study)
  gap <- vapply(study$outcomes, function(outcome) mean_gap(method, outcome$moments), 0)
  0.8 * max(abs(gap), 5)
}

built <- function(plot) {
  ggplot2::ggplot_build(plot)
  plot
}
voices <- function(x, ...) unlist(lapply(c(...), function(voice) narrate(x, voice = voice)))

ways_of_telling <- list(
  print = function(a) format(a$difference, width = 100),
  voices = function(a) voices(a$difference, "journal", "plain", "claim"),
  study = function(a) unlist(lapply(c("journal", "plain"), function(v) narrate(a$study, method = a$method, voice = v))),
  table = function(a) format(results_table(a$difference, checks = FALSE), width = 200),
  figure = function(a) (if (length(a$study$outcomes) == 1) built else identity)(autoplot(a$difference))$labels,
  paper = function(a) autoplot(a$difference, view = "paper")$legend,
  json = function(a) {
    table <- jsonlite::fromJSON(paste(export_answer(a$difference), collapse = "\n"))$table
    expect_named(table, names(a$difference$table))
  },
  csv = function(a) expect_length(export_answer(a$difference, format = "csv"), nrow(a$difference$table) + 1),
  effect = function(a) c(format(a$effect, width = 150), voices(a$effect, "journal", "plain")),
  effect_all = function(a) format(gauge_effect(a$study, "all", method = a$method), width = 150),
  effect_figure = function(a) autoplot(a$effect)$labels,
  cross = function(a) c(format(a$cross, width = 150), voices(a$cross, "journal", "plain")),
  cross_figure = function(a) autoplot(a$cross)$labels,
  equivalence = function(a) c(format(a$equivalence, width = 150), voices(a$equivalence, "journal", "plain", "claim")),
  # Its figures are those above.
  report = function(a) {
    file <- withr::local_tempfile(fileext = ".md")
    with_functions(list(doc_figure = function(plot) NULL), write_report(list(a$difference, a$effect, a$cross), file))
    lines <- readLines(file)
    lines[!grepl("<-", lines, fixed = TRUE)]
  }
)

# The class of the refusal that is right, NULL where there must be an answer.
deserved <- function(study, method, way) {
  unable <- function(field) !method_fact(method, field)
  if (way == "equivalence" && unable("bounds")) return("method_bounds")
  lacking <- switch(study$source, summary = unable("summaries"), database = unable("databases"), FALSE)
  # Effect sizes of means need no single values, whichever the method.
  of_means <- way == "effect_all" || (method_is(method, "reassignment") && way %in% c("effect", "effect_figure"))
  if (lacking) return(if (!of_means) "needs_values")
  if (way == "equivalence" && study$source == "database" && unable("database_bounds")) "method_bounds"
}

holes <- "\\b(NA|NaN|NULL|Inf)\\b|none \\| none|character\\(0|\\[, \\]|\\(\\)|\\bto( fit|[,;]|[.] )"

# "values, ranks, print: [bad_value] ..." for what is neither an answer nor a deserved refusal.
crossing_fault <- function(a, way) {
  said <- tryCatch(
    withCallingHandlers(ways_of_telling[[way]](a),
      vandro_message = function(m) invokeRestart("muffleMessage"),
      vandro_warning = function(w) invokeRestart("muffleWarning")
    ),
    error = identity
  )
  refusal <- deserved(a$study, a$method, way)
  if (inherits(said, "error")) {
    if (!is.null(refusal) && inherits(said, paste0("vandro_error_", refusal))) return(NULL)
    return(sprintf("[%s] %s", toString(utils::head(class(said), 1)), conditionMessage(said)))
  }
  if (!is.null(refusal)) return(paste("answers, where it should refuse with", refusal))
  at <- grep(holes, unlist(Filter(is.character, as.list(said))), value = TRUE, perl = TRUE)
  if (length(at)) paste("a hole in:", at[[1]])
}

crossing_faults <- function(studies, methods = names(method_entries)) {
  faults <- list()
  for (kind in names(studies)) {
    for (method in intersect(methods, methods_where(design = studies[[kind]]$design))) {
      a <- answers_of(studies[[kind]], method)
      for (way in names(ways_of_telling)) {
        faults[[paste(kind, method, way, sep = ", ")]] <- crossing_fault(a, way)
      }
    }
  }
  unlist(faults)
}

test_that("every kind of study gives every output by every method", {
  con <- sqlite(seedlings = seedlings, two_benches = two_benches, benched = benched, changes = changes)
  studies <- quiet(crossed_studies(con))
  expect_null(crossing_faults(studies))
})

test_that("a new method is one entry, a new effect size one entry and its formula", {
  toy <- utils::modifyList(method_entries$welch, list(
    code = "toy", label = "Toy", phrase = "the toy test", possessive = "toy", test_label = "Toy", rehearsal = NA,
    formula = FALSE, effects = c("mean_difference", "d_larger"), closing = "d_larger", scaled = "d_larger",
    errors = function(m) utils::modifyList(core_welch_errors(m[[1]], m[[2]]), list(df = pmin(m[[1]]$n, m[[2]]$n) - 1))
  ))
  larger <- standardized_entry(
    code = "d_larger", design = "independent", size_words = TRUE, sd_of = NA_character_, audited = character(),
    label = "d (larger SD)", symbol = "d", standardizer = "larger SD", divisor_of = "within a group",
    source = "Cohen 1988", use = "nothing"
  )
  formula <- core_effect_formula(function(parts) pmax(parts$sd_first, parts$sd_second), function(parts) parts$n_first)
  methods <- c(method_entries, catalogue(do.call(method_entry, toy)))
  estimands <- c(estimand_entries, catalogue(larger))
  con <- sqlite(seedlings = seedlings, two_benches = two_benches, benched = benched, changes = changes)
  studies <- quiet(crossed_studies(con))[c("values", "summaries", "database", "subgroups", "many")]
  with_functions(list(
    method_entries = methods, method_families = vapply(methods, `[[`, "", "family"), estimand_entries = estimands,
    estimand_families = vapply(estimands, `[[`, "", "family"), estimand_scales = vapply(estimands, `[[`, "", "scale"),
    core_effects = c(core_effects, list(d_larger = formula))
  ), {
    expect_null(crossing_faults(studies, "toy"))
    said <- paste(format(narrate(studies$values, method = "toy"), width = 1000), collapse = " ")
    expect_match(said, "toy t\\(22\\) = 4[.]45.*d = 1[.][0-9]+, 95% CI .* \\(larger SD")
    expect_match(results_table(studies$values, method = "toy")$notes[[2]], "the toy test")
    refused(
      method_design = rehearse_study(suppose_world(difference = 1, sd = 2), n = 10, method = "toy"),
      bad_value = gauge_effect(conductance_study(), "d_larger")
    )
  })
  refused(bad_value = test_difference(studies$values, "toy"))
})
