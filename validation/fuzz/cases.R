# The kinds of cases. Each makes its inputs, and has judge() run one or two public functions on them.

# --- declarations and questions ----------------------------------------------------------------------------

declare <- function(data) {
  groups <- attr(data, "groups")
  pair <- if (length(groups) >= 2) rev(groups[1:2]) else groups
  column <- function(usual) rlang::sym(if (chance(0.04)) pick("nothing", "plant", "group", "hieght") else usual)
  extra <- list()
  # Columns are given as symbols; any other piece of language is a value.
  maybe <- function(name, value, p) {
    if (chance(p)) extra[[name]] <<- if (is.call(value)) bquote(quote(.(value))) else value
  }
  maybe("groups", or_junk(pair), 0.6)
  maybe("unit", or_junk(pick("cm", "%", "\u00b5g/l", "{x}")), 0.3)
  maybe("label", or_junk(pick("Stem height", "", "<b>Height</b>")), 0.3)
  maybe("order", column("hour"), 0.15)
  maybe("missing", or_junk(pick(-99, -99, -99, c(-99, 999), list(height = 999))), 0.12)
  maybe("scale_by", or_junk(pick(10, 0.001, c(height = 2))), 0.08)
  maybe("claim", or_junk(pick("higher", "lower", "differs", "same")), 0.08)
  maybe("assigned", or_junk(TRUE), 0.08)
  paired <- chance(0.3)
  if (paired) {
    maybe("blocks", column("bench"), 0.05)
    maybe("rows_in_order", or_junk(TRUE), 0.08)
    maybe("each", column("bench"), 0.08)
    shape <- pick("two", "two", "long", "change")
    if (shape == "two") extra <- c(list(column("noon"), column("dawn")), extra)
    if (shape == "long") {
      extra <- c(list(outcome = column("height"), by = column("group"), id = column("plant")), extra)
    }
    if (shape == "change") extra <- c(list(change = column("noon")), extra)
    if (shape == "two") extra$groups <- NULL
    return(list(verb = "versus_paired", arguments = c(list(quote(data)), extra)))
  }
  maybe("blocks", column("bench"), 0.1)
  maybe("each", column("bench"), 0.12)
  maybe("id", column("plant"), 0.08)
  maybe("counts", column("plants"), 0.05)
  outcome <- if (chance(0.15)) quote(c(height, mass)) else column(pick("height", "mass", "mass"))
  list(verb = "versus", arguments = c(list(quote(data), outcome, column("group")), extra))
}

run_declared <- function(what, data) {
  eval(rlang::call2(what$verb, !!!what$arguments), list(data = data), globalenv())
}

# Mostly a method that the design knows; others have to be refused.
methods_for <- function(paired) {
  if (chance(0.1)) return(counted_methods)
  if (paired) c("paired", "signed_ranks", "permutation") else counted_methods[1:5]
}
counted_methods <- c("welch", "student", "ranks", "relative", "permutation", "paired", "signed_ranks")
# Few draws where there are any: a case has milliseconds.
cheap <- function(extra, drawn) {
  if (!drawn && chance(0.97)) return(extra)
  extra$draws <- or_junk(pick(99, 199), 0.03)
  extra$seed <- or_junk(pick(1, 7), 0.03)
  extra
}
question <- function(extra = list()) {
  maybe <- function(name, value, p) if (chance(p)) extra[[name]] <<- value
  maybe("expect", or_junk(pick("either", "higher", "lower")), 0.3)
  maybe("beyond", or_junk(pick(0, 1, -0.5, 1e10, 1e-300)), 0.2)
  maybe("alpha", or_junk(pick(0.05, 0.01, 0.2)), 0.15)
  maybe("level", or_junk(pick(0.9, 0.99, 0.5)), 0.15)
  maybe("reason", or_junk("because {x} \"said\" so"), 0.1)
  extra
}
counting <- c("ranks", "relative", "permutation", "signed_ranks")
rank_options <- function(extra, methods) {
  if (!any(methods %in% counting) && chance(0.9)) return(extra)
  maybe <- function(name, value, p) if (chance(p)) extra[[name]] <<- value
  maybe("exact", or_junk(pick(TRUE, FALSE)), 0.1)
  maybe("zeros", or_junk(pick("drop", "pratt")), 0.1)
  maybe("statistic", or_junk(pick("difference", "studentized", "trimmed_mean", "median")), 0.15)
  maybe("run_length", or_junk(pick(2, 3, "estimate")), 0.05)
  maybe("adjust", or_junk(pick("holm", "none", "max_t", "bonferroni", "hochberg", "benjamini_hochberg")), 0.15)
  maybe("threads", or_junk(pick(1, 2)), 0.05)
  extra
}

questions <- list(
  describe_study = function(paired) list(set = or_junk(pick("full", "short"), 0.1), level = or_junk(0.95)),
  vet_assumptions = function(paired) {
    list(check_alpha = or_junk(0.05), centre = or_junk(pick("median", "mean")), limits = or_junk(pick(NULL, c(0, 50))))
  },
  test_difference = function(paired) {
    methods <- some(methods_for(paired), pick(1, 1, 2))
    out <- cheap(list(method = or_junk(methods)), any(methods %in% c("permutation", "relative")))
    out <- rank_options(question(out), methods)
    if (chance(0.05)) out$simultaneous <- or_junk(TRUE)
    out
  },
  test_equivalence = function(paired) {
    methods <- some(methods_for(paired), 1)
    out <- list(within = or_junk(pick(1, c(-1, 2), 0.1, 1e300), 0.1), method = or_junk(methods))
    out <- rank_options(cheap(out, methods == "permutation"), methods)
    if (chance(0.2)) out$bounds_in <- or_junk("sd")
    if (chance(0.2)) out$alpha <- or_junk(0.01)
    out
  },
  gauge_effect = function(paired) {
    bootstrap <- chance(0.1)
    codes <- c("shift", "rank_biserial", if (paired) c("g_change", "d_change") else c("g", "d_pooled", "superiority"))
    out <- cheap(list(estimands = or_junk(pick(NULL, NULL, "all", "mean_ratio", some(codes)))), bootstrap)
    if (bootstrap) out$interval <- "bootstrap"
    if (chance(0.05)) out$interval <- or_junk(pick("bonett", "noncentral_t"))
    if (chance(0.1)) out$level <- or_junk(0.9)
    if (chance(0.1)) out$size_words <- or_junk(pick("cohen", c(small = 0.1, big = 1)))
    out
  },
  weigh_evidence = function(paired) {
    out <- list(prior_half = or_junk(pick(0.5, 1, 2, 1e-3)), expect = or_junk(pick("either", "higher", "lower")))
    if (chance(0.1)) out$within <- or_junk(c(-0.1, 0.1))
    if (chance(0.1)) out$prior_location <- or_junk(0.4)
    if (chance(0.1)) out$prior_df <- or_junk(pick(1, 3, 30))
    out
  },
  compare_subgroups = function(paired) list(method = or_junk(pick(NULL, "welch", "student", "paired"))),
  cross_check = function(paired) {
    out <- question(cheap(list(flagged = or_junk(pick("kept", "both"))), TRUE))
    if (chance(0.3)) out$within <- or_junk(1)
    out
  },
  results_table = function(paired) list(estimands = or_junk(pick(NULL, "g", "d_pooled")), checks = or_junk(TRUE)),
  narrate = function(paired) {
    voice <- or_junk(pick("journal", "plain", "claim"))
    list(voice = voice, explain = or_junk(chance(0.5)), sources = or_junk(chance(0.5)))
  }
)
# Some cost ten times as much as others.
question_weights <- c(4, 3, 12, 6, 6, 3, 2, 1, 1, 2)

study_case <- function() {
  data <- long_data()
  what <- declare(data)
  asked <- sample(names(questions), 1, prob = question_weights)
  with <- questions[[asked]](what$verb == "versus_paired")
  judge(function() {
    study <- run_declared(what, data)
    if (chance(0.3)) return(study)
    answer <- do.call(asked, c(list(study), Filter(Negate(is.null), with)), quote = TRUE)
    if (!inherits(answer, "vandro_answer") || chance(0.8)) return(answer)
    follow_up(answer)
    answer
  }, list(data, what, with))
}

# What an analyst does next with an answer.
follow_up <- function(answer) {
  switch(sample.int(4, 1),
    as.character(narrate(answer)),
    jsonlite::fromJSON(export_answer(answer, format = "json")),
    utils::read.csv(text = export_answer(answer, format = "csv")),
    as.data.frame(answer)
  )
}

# Any function, arguments of any kind.
junk_case <- function() {
  verb <- pick(
    "versus", "versus_paired", "versus_summary", "versus_paired_summary", "test_difference", "test_equivalence",
    "gauge_effect", "weigh_evidence", "describe_study", "vet_assumptions", "cross_check", "compare_subgroups",
    "narrate",
    "results_table", "try_bounds", "try_priors", "suppose_world", "vary_world", "make_up_study", "rehearse_study",
    "audit_numbers", "number_style", "house_conventions", "compare_answers", "compare_runs", "export_answer",
    "read_measurements", "read_plan", "read_conventions", "save_figure", "take_sample", "write_plan", "write_report",
    "run_plan"
  )
  known <- setdiff(names(formals(get(verb))), c("...", "threads", "max_memory", "draws", "overwrite"))
  names <- some(known, pick(1, 2, 3))
  # The required ones come along, so that the others are reached.
  given <- c(some_required(verb), stats::setNames(lapply(names, function(name) junk()), names))
  given <- given[!duplicated(names(given), fromLast = TRUE)]
  judge(function() do.call(verb, given, quote = TRUE), given)
}
tiny_study <- function() suppressMessages(versus(first = c(12.1, 13.4, 11.8, 14.2), second = c(10.2, 11.9, 10.8, 9.7)))
some_required <- function(verb) {
  first <- names(formals(get(verb)))[[1]]
  value <- switch(first,
    study = tiny_study(), x = test_difference(tiny_study()), world = suppose_world(1, sd = 2),
    file = file.path(tempdir(), "nothing.csv"), plan = file.path(tempdir(), "nothing.yaml"), NULL
  )
  out <- if (is.null(value)) list() else stats::setNames(list(value), first)
  if (verb == "versus_summary") out <- list(n = c(18, 20), mean = c(22.1, 19.8), sd = c(3.9, 3.2))
  if (verb == "versus_paired_summary") out <- list(n = 12, mean_change = 1.2, sd_change = 2)
  if (verb == "test_equivalence") out$within <- 1
  if (verb %in% c("make_up_study", "rehearse_study")) out$n <- 10
  if (verb %in% c("write_report", "write_plan", "save_figure")) out$file <- file.path(tempdir(), "out", "x.md")
  out
}

# --- summaries, worlds, audits -----------------------------------------------------------------------------

summary_case <- function() {
  size <- function() if (chance(0.06)) pick(0, 1, 2.5) else pick(2, 3, 10, 30, 1e6)
  number <- function() if (chance(0.06)) 1e308 else pick(0, 1, -2, 12.5, 1e160, 1e-160, stats::rnorm(1))
  spread <- function() if (chance(0.06)) 0 else pick(1, 3.2, 1e-12, 1e150, abs(stats::rnorm(1)))
  paired <- chance(0.4)
  given <- if (paired) {
    pick(
      list(n = size(), mean = c(number(), number()), sd = c(spread(), spread()), r = pick(0, 0.5, -0.9, 1, 1.2)),
      list(
        n = size(), mean_change = number(), sd_change = spread()
      ), list(n = size(), mean_change = number(), se_change = spread())
    )
  } else {
    pick(
      list(n = c(size(), size()), mean = c(number(), number()), sd = c(spread(), spread())),
      list(n = c(size(), size()), mean = c(number(), number()), se = c(spread(), spread())),
      list(n = c(size(), size()), mean = c(2, 3), lower = c(1, 2), upper = c(3, pick(4, 5)))
    )
  }
  given <- lapply(given, or_junk, 0.04)
  if (chance(0.2)) given$groups <- labels(2)
  asked <- sample(names(questions), 1, prob = question_weights)
  with <- questions[[asked]](paired)
  judge(function() {
    study <- do.call(if (paired) "versus_paired_summary" else "versus_summary", given, quote = TRUE)
    do.call(asked, c(list(study), Filter(Negate(is.null), with)), quote = TRUE)
  }, list(given, with))
}

world_case <- function() {
  given <- list(difference = or_junk(stats::rnorm(1)), sd = or_junk(pick(1, c(1, 2), 1e-5)))
  if (chance(0.3)) given$r <- or_junk(pick(0.5, -0.5))
  if (chance(0.3)) given$shape <- or_junk(pick("normal", "skewed", c("uniform", "heavy_tailed")))
  if (chance(0.2)) given$rounded_to <- or_junk(pick(0.5, 1))
  if (chance(0.2)) given$difference_sd <- or_junk(0.5)
  n <- or_junk(pick(5, c(5, 8), list(4, 6)))
  paired <- !is.null(given$r)
  asked <- list(
    method = or_junk(some(methods_for(paired), 1)), draws = 100, seed = 3
  )
  if (chance(0.2)) asked$within <- or_junk(1)
  if (chance(0.3)) {
    n <- NULL
    asked$power <- or_junk(pick(0.5, 0.8))
    asked$method <- if (paired) "paired" else "welch"
  }
  judge(function() {
    world <- do.call("suppose_world", given, quote = TRUE)
    if (chance(0.3)) return(make_up_study(world, if (is.null(n)) 5 else n, seed = 1))
    do.call("rehearse_study", c(list(world), if (!is.null(n)) list(n = n), asked), quote = TRUE)
  }, list(given, asked))
}

audit_case <- function() {
  printed <- function(x) or_junk(pick(x, format(x), format(round(x, 1)), paste0("<", abs(x)), "1,5", ".05"), 0.05)
  given <- list(
    n = or_junk(c(pick(2, 10, 18, 30), pick(2, 10, 18, 30)), 0.03), mean = or_junk(c(22.1, pick(19.8, "19.80"))),
    sd = or_junk(c(3.9, abs(stats::rnorm(1, 3)))), t = printed(stats::rnorm(1, 2)), df = printed(pick(36, 28.4, 9)),
    p = printed(stats::runif(1)), lower = printed(-1), upper = printed(2), difference = printed(stats::rnorm(1)),
    d = printed(0.4)
  )
  given <- some(given, pick(3, 5, 7, 9))
  if (chance(0.2)) given$paired <- or_junk(TRUE)
  judge(function() do.call("audit_numbers", given, quote = TRUE), given)
}
