# The command line's options as data: name, what it takes, what it means, which commands know it.
# Every value arrives as text and is turned into a number here, strictly.

# Every group lists its most used options first.
cli_spec <- function() {
  groups <- list(
    Data = cli_data_options(),
    "Published or supposed numbers" = cli_published_options(),
    Question = cli_question_options(),
    Method = cli_method_options(),
    "Supposed study" = cli_world_options(),
    "Printed numbers" = cli_audit_options(),
    Plan = cli_plan_options(),
    Output = cli_output_options(),
    Figure = cli_figure_options()
  )
  options <- Map(function(group, name) lapply(group, c, group = name), groups, names(groups))
  unlist(unname(options), recursive = FALSE)
}

cli_option <- function(name, takes, help, commands) {
  list(name = name, takes = takes, help = help, commands = commands)
}

# Commands that read data, and those that test.
on_data <- c(
  "describe", "assumptions", "difference", "equivalence", "bounds", "cross-check", "evidence", "priors", "effect",
  "narrate", "plot", "report", "table", "plan", "subgroups"
)
on_file <- c(on_data, "audit", "read")
# Those that may be asked in one direction, and those that test in any way.
on_direction <- c("difference", "cross-check", "narrate", "plot", "report", "table", "plan")
on_test <- c(on_direction, "equivalence", "bounds")
on_bounds <- setdiff(on_test, "difference")
on_count <- setdiff(on_test, "cross-check")
on_drawn <- c(on_test, "effect", "rehearse")
on_evidence <- c("evidence", "priors")
on_prior <- c(on_evidence, "narrate", "plot", "report", "plan")
on_checks <- c("assumptions", "report", "plan")
on_level <- c(setdiff(on_data, c("equivalence", "bounds")), "rehearse", "audit")
# Those about a supposed world.
on_world <- c("rehearse", "make-up", "narrate", "plot")
on_rehearsal <- setdiff(on_world, "make-up")
on_either <- c(union(on_data, on_world), "audit")
on_style <- c("narrate", "report", "table")
on_house <- c(setdiff(on_data, "plan"), "run")
on_expect <- c(on_direction, on_evidence, "rehearse", "audit")
on_statistic <- c(on_test, "rehearse")

cli_data_options <- function() {
  list(
    cli_option("outcome", "COLUMN", "the column of measurements; several: A,B", on_data),
    cli_option("by", "COLUMN", "the column of groups or occasions", on_data),
    cli_option("first", "COLUMN", "where each group has a column: that of the first group", on_data),
    cli_option("second", "COLUMN", "that of the second group", on_data),
    cli_option("paired", NULL, "the two columns, or the two rows of each --id, are pairs", c(on_data, "audit")),
    cli_option("id", "COLUMN", "the column that names the unit; several: A,B", on_data),
    cli_option("change", "COLUMN", "the column of changes, already computed", on_data),
    cli_option("each", "COLUMN", "the column of subgroups; each gets its own comparison", on_data),
    cli_option("order", "COLUMN", "the column by which rows or pairs are ordered", on_data),
    cli_option("dates", "WORD", "day_month or month_day: how dates such as 03/04/2026 in --order are read", on_data),
    cli_option("blocks", "COLUMN", "the column of blocks", on_data),
    cli_option("counts", "COLUMN", "the column that says how often a row occurs", on_data),
    cli_option(
      "missing", "LIST", "values that stand for a missing one: -99,n/a or, with a decimal comma, -99,5;n/a", on_data
    ),
    cli_option("scale-by", "NUMBER", "factor by which the outcome is multiplied", on_data),
    cli_option("rows-in-order", NULL, "pairs without --id: the rows of both occasions are in the same order", on_data),
    cli_option("decimal-mark", "MARK", "decimal mark of FILE: '.' or ','", on_file),
    cli_option("thousands", "MARK", "thousands mark of FILE", on_file),
    cli_option("encoding", "NAME", "encoding of FILE: UTF-8, Latin-1, windows-1252, UTF-16, ...", on_file),
    cli_option("sheet", "NAME", "sheet of a spreadsheet", on_file),
    cli_option(
      "published", NULL, "FILE holds published numbers: a row for each group, or for each comparison", on_data
    ),
    cli_option(
      "published-columns", "LIST", "what the columns of published numbers hold: n=plants,mean=average", on_data
    )
  )
}

cli_published_options <- function() {
  list(
    cli_option(
      "n", "N1,N2",
      "sizes of both groups, or the number of pairs; several supposed designs: 20;30;20,40",
      on_either
    ),
    cli_option("mean", "M1,M2", "means of both groups; for a supposed study that of the second group", on_either),
    cli_option("sd", "S1,S2", "standard deviations of both groups (NA for a group of one value)", on_either),
    cli_option("se", "S1,S2", "standard errors of both means, in place of --sd", c(on_data, "audit")),
    cli_option(
      "lower", "NUMBER",
      "printed lower limit of the difference; published ones of both means (L1,L2), in place of --sd",
      c("audit", on_data)
    ),
    cli_option(
      "upper", "NUMBER",
      "printed upper limit of the difference; published ones of both means (U1,U2)",
      c("audit", on_data)
    ),
    cli_option("published-level", "NUMBER", "confidence level of --lower and --upper (0.95)", on_data),
    cli_option("r", "NUMBER", "pairs: correlation of both measurements", on_either),
    cli_option("mean-change", "NUMBER", "pairs: mean of the changes", on_data),
    cli_option("sd-change", "NUMBER", "pairs: standard deviation of the changes", on_either),
    cli_option(
      "se-change", "NUMBER", "pairs: standard error of the mean change, in place of --sd-change", on_data
    )
  )
}

cli_question_options <- function() {
  list(
    cli_option("groups", "A,B", "the two groups, first minus second; codes with labels: A=1,B=2", on_either),
    cli_option("unit", "UNIT", "unit of the outcome", on_either),
    cli_option("label", "TEXT", "name of the outcome in sentences and figures", on_either),
    cli_option("expect", "WORD", "either, higher or lower (of the first group)", on_expect),
    cli_option(
      "within", "BOUNDS",
      "bounds of equivalence: 3, or -2,3 (of evidence: what counts as no effect, in SD units)",
      c(on_bounds, on_evidence, "rehearse")
    ),
    cli_option("bounds-in", "WORD", "unit of --within: outcome or sd", c(on_bounds, "rehearse")),
    cli_option("sd-of", "WORD", "which SD: average, pooled, first, second or change", on_bounds),
    cli_option("reason", "TEXT", "why you chose this direction, these bounds or this prior", c(on_test, on_evidence)),
    cli_option("beyond", "NUMBER", "difference under the null hypothesis", on_expect),
    cli_option("claim", "WORD", "different or same: the claim that you want to support", on_data),
    cli_option("assigned", "WORD", "yes or no: were the units assigned at random?", on_data),
    cli_option("phrases", "A,B", "the groups inside a sentence: 'on compost,on peat'", on_data),
    cli_option("bounds", "LIST", "other bounds to try: 0.25,0.75,1", "bounds"),
    cli_option("widths", "LIST", "other values of --prior-half to try: 0.2,0.5,1", "priors"),
    cli_option("points", "NUMBER", "number of bounds or widths tried where none are given", c("bounds", "priors"))
  )
}

cli_method_options <- function() {
  list(
    cli_option(
      "method", "LIST",
      "primary method, then others: welch,student,ranks,relative; pairs: paired,signed_ranks; both: permutation",
      c(on_test, "describe", "effect", "rehearse", "audit", "subgroups")
    ),
    cli_option("level", "NUMBER", "confidence level of two-sided intervals, 0 to 1 (0.95)", on_level),
    cli_option("alpha", "NUMBER", "significance level (0.05)", c(on_test, "assumptions", "rehearse", "subgroups")),
    cli_option(
      "estimands", "LIST",
      "all, or codes: mean_difference,d_pooled,g,shift,superiority,...",
      c("effect", "narrate", "table", "report", "plot", "plan")
    ),
    cli_option(
      "adjust", "WORD",
      "for several outcomes: holm, hochberg, benjamini_hochberg, bonferroni, max_t, max_t_single or none",
      c("difference", "equivalence", "narrate", "report", "table", "plot", "subgroups", "plan")
    ),
    cli_option(
      "simultaneous", NULL,
      "adds intervals that are valid for all outcomes at once",
      c("difference", "plot", "plan")
    ),
    cli_option("interval", "WORD", "noncentral_t, bonett or bootstrap", "effect"),
    cli_option("set", "WORD", "full or short", "describe"),
    cli_option(
      "exact", "WORD",
      "ranks and permutation: yes computes the exact distribution whatever it costs, no never does",
      c(on_count, "effect")
    ),
    cli_option("zeros", "WORD", "drop or pratt: what signed_ranks does with changes of zero", c(on_count, "effect")),
    cli_option("statistic", "WORD", "permutation: studentized, difference, trimmed or median", on_statistic),
    cli_option("run-length", "NUMBER", "permutation keeps this many neighbours together; or estimate", on_count),
    cli_option("prior-half", "NUMBER", "half of the prior lies within so many SDs of its centre (0.707)", on_prior),
    cli_option("prior-location", "NUMBER", "where the prior is centred, in SD units (0)", on_prior),
    cli_option("prior-df", "NUMBER", "degrees of freedom of the prior (1: Cauchy)", on_prior),
    cli_option("strength-words", "WORDS", "jeffreys, kass_raftery, or thresholds: some=3,much=30", on_prior),
    cli_option("strength-source", "TEXT", "source of your own thresholds of strength", on_prior),
    cli_option("size-words", "WORDS", "cohen, or thresholds: slight=0.1,clear=0.4", c("effect", "report", "plan")),
    cli_option("size-source", "TEXT", "source of your own thresholds", c("effect", "report", "plan")),
    cli_option("flagged", "WORD", "kept, or both: also without values flagged as outlying", c("cross-check", "plot")),
    cli_option("check-alpha", "NUMBER", "significance level of the checks", on_checks),
    cli_option("centre", "WORD", "median or mean: centre of the test of equal variances", on_checks),
    cli_option("spread-rule", "NUMBER", "largest ratio of the SDs that is acceptable to you", on_checks),
    cli_option("spread-source", "TEXT", "source of --spread-rule", on_checks),
    cli_option("limits", "LOW,HIGH", "smallest and largest possible value", c(on_checks, "audit")),
    cli_option(
      "draws", "NUMBER", "number of bootstrap samples, random assignments or simulated studies", on_drawn
    ),
    cli_option("seed", "NUMBER", "seed of the random numbers", c(on_drawn, "make-up")),
    cli_option("threads", "NUMBER", "number of threads for random draws", c(on_drawn, "run")),
    cli_option("max-memory", "NUMBER", "gigabytes that permutation may take", on_count)
  )
}

cli_world_options <- function() {
  list(
    cli_option("difference", "NUMBER", "difference, first minus second", c(on_world, "audit")),
    cli_option("standardized", "NUMBER", "difference in SDs, in place of --difference", on_world),
    cli_option("difference-sd", "NUMBER", "SD of the difference, for assurance", on_world),
    cli_option(
      "shape", "WORDS", "normal, uniform, skewed, strongly_skewed or heavy_tailed, of both groups or A,B", on_world
    ),
    cli_option("rounded-to", "NUMBER", "step to which measurements are rounded", on_world),
    cli_option("vary", "LISTS", "several scenarios: sd_ratio=0.5,1,2;shape=normal,skewed", on_rehearsal),
    cli_option("power", "NUMBER", "target power, in place of --n: finds the smallest n", on_rehearsal),
    cli_option("half-width", "NUMBER", "target half-width of the interval, in place of --n", on_rehearsal),
    cli_option("ratio", "NUMBER", "second size divided by the first, with --power or --half-width", on_rehearsal),
    cli_option("simulate", "WORD", "yes simulates everything, no uses formulas only", on_rehearsal)
  )
}

cli_audit_options <- function() {
  list(
    cli_option("t", "NUMBER", "printed t", "audit"),
    cli_option("df", "NUMBER", "printed degrees of freedom", "audit"),
    cli_option("p", "NUMBER", "printed p, or an inequality: '<.001'", "audit"),
    cli_option("se-difference", "NUMBER", "printed standard error of the difference", "audit"),
    cli_option("d", "NUMBER", "printed standardized effect", "audit"),
    cli_option("estimand", "CODE", "what --d is: d_pooled, g, d_average, ...", "audit"),
    cli_option("rounding", "WORD", "nearest, or any: numbers may have been cut off", "audit"),
    cli_option("step", "NUMBER", "smallest step of a single measurement (1: whole numbers)", "audit")
  )
}

cli_plan_options <- function() {
  list(
    cli_option(
      "ask", "LIST",
      paste(
        "questions: description, assumptions, effect, difference, subgroups, equivalence, evidence, cross_check",
        "(difference)"
      ),
      "plan"
    ),
    cli_option("name", "NAME", "name of the comparison", "plan"),
    cli_option("by-whom", "NAME", "who declares the plan", "plan"),
    cli_option("only-check", NULL, "reads and checks the plan, and runs nothing", "run"),
    cli_option(
      "instead", "LISTS", "other values for single fields: height.difference.alpha=0.01;height.unit=mm", "run"
    ),
    cli_option("conventions", "FILE", "house conventions (YAML); options override them", c(on_house, "plan"))
  )
}

cli_output_options <- function() {
  list(
    cli_option(
      "output", "FILE",
      "write there (demo, run: folder) and not to standard output; of several FILEs {name} is each one's",
      c(on_either, "demo", "run", "compare", "read", "completion", "manual")
    ),
    cli_option(
      "format", "WORD",
      "text, json or csv; by default the ending of --output decides",
      c(setdiff(on_data, c("plot", "report", "plan")), "rehearse", "audit", "run", "compare", "read")
    ),
    cli_option(
      "force", NULL, "replace a file that exists",
      c(on_either, "demo", "run", "compare", "read", "completion", "manual")
    ),
    cli_option(
      "details", NULL,
      "adds hypotheses, degrees of freedom, single checks and accuracy",
      c("difference", "equivalence", "evidence", "effect", "assumptions")
    ),
    cli_option(
      "decimals", "NUMBER",
      "decimals in the outcome's unit",
      c(setdiff(on_data, c("plot", "report", "plan")), "rehearse")
    ),
    cli_option("title", "TEXT", "title of the report, table, figure or plan", c("plot", "report", "table", "plan")),
    cli_option("caption", "TEXT", "caption of the figure", "plot"),
    cli_option("voice", "WORD", "journal, plain or claim", "narrate"),
    cli_option("explain", "WORD", "yes explains what p-values and intervals mean", "narrate"),
    cli_option("sources", "WORD", "yes adds the sources of the methods", "narrate"),
    cli_option("parts", "LIST", "parts of the report in their order, or with a minus left out (=-data)", "report"),
    cli_option(
      "text", "TEXT",
      "text of your own under the title; \\n is a line break, \\n\\n a new paragraph",
      c("report", "plan")
    ),
    cli_option("author", "TEXT", "author of the report", c("report", "plan")),
    cli_option(
      "date", "DATE", "date printed on the report; of a plan when it is declared", c("report", "run", "plan")
    ),
    cli_option("checks", "WORD", "no leaves out the note on the SDs", "table"),
    cli_option("unitless-decimals", "NUMBER", "decimals of numbers without a unit (2)", on_style),
    cli_option("p-decimals", "NUMBER", "decimals of p-values (3)", on_style),
    cli_option("p-as", "WORD", "value or inequality: how p-values are written", on_style),
    cli_option("leading-zero", "WORD", "yes writes 0.05, no .05", on_style),
    cli_option("written-decimal-mark", "MARK", "'.' or ',' in what is written", on_style),
    cli_option("shell", "NAME", "bash, zsh or fish", "completion"),
    cli_option("quiet", NULL, "no messages, only results and errors", NULL)
  )
}

cli_figure_options <- function() {
  list(
    cli_option(
      "view", "WORD",
      paste(
        "difference, paper, points, distributions, shares, means, pairs, changes, order, null, pairing, superiority,",
        "equivalence, bounds, cross-check, evidence, posterior, widths, power, rates, width, effects, assumptions,",
        "normal or spread"
      ),
      "plot"
    ),
    cli_option("columns", "NUMBER", "width of the figure as columns of a page: 1 (85 mm) or 2 (174 mm)", "plot"),
    cli_option("width", "NUMBER", "width of the figure in millimetres, instead", "plot"),
    cli_option("height", "NUMBER", "height of the figure in millimetres", "plot"),
    cli_option("dpi", "NUMBER", "points per inch of a .png figure (300)", "plot"),
    cli_option("base-size", "NUMBER", "size of the text of a figure in points", "plot"),
    cli_option("palette", "A,B", "two colours, first group first: black,grey60", "plot"),
    cli_option("outliers", "WORD", "ring or label, for --view points", "plot"),
    cli_option("curve", NULL, "draws the t distribution over --view null of a permutation test", "plot")
  )
}
