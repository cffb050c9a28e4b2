# A difference in SD units.
standardized_entry <- function(code, design, size_words, sd_of, audited, label, symbol, standardizer, divisor_of,
                               source, use) {
  estimand_entry(
    code = code, design = design, family = "means", offered = TRUE, scale = "sd", values = FALSE,
    size_words = size_words, sd_of = sd_of, audited = audited, label = label, symbol = symbol, name = symbol, lead = "",
    plain_lead = "On average", centre = "a mean", interval_of = "the standardized difference",
    test_of = "of the difference", short = "means", entry = "Difference", standardizer = standardizer,
    divisor_of = divisor_of, source = source, use = use, intervals = NULL
  )
}

# A difference in units of the SD of the group that is the standard; `corrected`: for small samples.
one_sd_entry <- function(code, sd_of, standard, other, corrected = FALSE) {
  symbol <- if (corrected) "g" else "d"
  standardized_entry(
    code = code, design = c("independent", "paired"), size_words = TRUE,
    sd_of = if (corrected) NA_character_ else sd_of,
    audited = if (corrected) character() else c("independent", "paired"),
    label = function(groups, paired) sprintf("%s (SD of %s)", symbol, groups[[standard]]), symbol = symbol,
    standardizer = function(groups, paired) {
      paste0("SD of ", groups[[standard]], if (corrected) ", corrected for small samples")
    },
    divisor_of = "within a group", source = if (corrected) "Hedges 1981" else "Glass 1976",
    use = function(groups, paired) {
      if (corrected) return(sprintf("as d (SD of %s), without its upward bias in small samples", groups[[standard]]))
      sprintf("%s is the standard that %s is held against", groups[[standard]], groups[[other]])
    }
  )
}

# Every effect size, and everything else that a method estimates, in the order of tables.
estimand_entries <- catalogue( # nolint: cyclocomp_linter.
  estimand_entry(
    code = "mean_difference", design = c("independent", "paired"), family = "means", offered = TRUE,
    scale = "outcome", values = FALSE, size_words = FALSE, sd_of = NA_character_, audited = character(),
    label = "difference", symbol = "difference", name = "difference", lead = "", plain_lead = "On average",
    centre = "a mean", interval_of = "the difference", test_of = "of the difference", short = "means",
    entry = "Difference", standardizer = NA_character_, divisor_of = NA_character_, source = "",
    use = "wherever readers know the unit: report it first", intervals = NULL
  ),
  estimand_entry(
    code = "mean_ratio", design = c("independent", "paired"), family = "means", offered = TRUE, scale = "ratio",
    values = FALSE, size_words = FALSE, sd_of = NA_character_, audited = character(), label = "ratio of means",
    symbol = "ratio of means", name = "ratio of means", lead = "", plain_lead = "On average", centre = "a mean",
    interval_of = "the ratio", test_of = "of the difference", short = "means", entry = "Difference",
    standardizer = NA_character_, divisor_of = NA_character_, source = "Bonett & Price 2020",
    use = "outcomes with a true zero, when effects act in proportion", intervals = NULL
  ),
  standardized_entry(
    code = "d_change", design = "paired", size_words = FALSE, sd_of = "change", audited = "paired",
    label = "d (changes)", symbol = "d", standardizer = "SD of the changes", divisor_of = "of the changes",
    source = "Cohen 1988",
    use = "how consistent the changes are; planning of paired studies; not a distance between the means"
  ),
  standardized_entry(
    code = "g_change", design = "paired", size_words = FALSE, sd_of = NA_character_, audited = "paired",
    label = "g (changes)", symbol = "g", standardizer = "SD of the changes, corrected for small samples",
    divisor_of = "of the changes", source = "Hedges 1981",
    use = "as d (changes), without its upward bias in small samples"
  ),
  standardized_entry(
    code = "d_pooled", design = "independent", size_words = TRUE, sd_of = "pooled", audited = "independent",
    label = "d (pooled)", symbol = "d", standardizer = "pooled SD", divisor_of = "within a group",
    source = "Cohen 1988", use = "groups with about equal spread; comparison with studies that report d"
  ),
  standardized_entry(
    code = "g", design = "independent", size_words = TRUE, sd_of = NA_character_, audited = "independent",
    label = "g", symbol = "g", standardizer = "pooled SD, corrected for small samples",
    divisor_of = "within a group", source = "Hedges 1981",
    use = "as d (pooled), without its upward bias in small samples; for combining studies"
  ),
  standardized_entry(
    code = "d_average", design = c("independent", "paired"), size_words = TRUE, sd_of = "average",
    audited = c("independent", "paired"), label = "d (average)", symbol = "d",
    standardizer = function(groups, paired) paste("average SD of both", if (paired) "measurements" else "groups"),
    divisor_of = "within a group", source = "Bonett 2008",
    use = function(groups, paired) {
      if (paired) return("distance between the two measurements, comparable with studies of independent groups")
      "groups whose variances differ or are not known to be equal; goes with Welch's test"
    }
  ),
  standardized_entry(
    code = "g_average", design = c("independent", "paired"), size_words = TRUE, sd_of = NA_character_,
    audited = character(), label = "g (average)", symbol = "g",
    standardizer = function(groups, paired) {
      sprintf("average SD of both %s, corrected for small samples", if (paired) "measurements" else "groups")
    },
    divisor_of = "within a group", source = "Hedges 1981",
    use = function(groups, paired) {
      paste0(
        "as d (average), without its upward bias in small samples; the usual choice ",
        if (paired) "for pairs" else "beside Welch's test"
      )
    }
  ),
  standardized_entry(
    code = "d_repeated", design = "paired", size_words = TRUE, sd_of = NA_character_, audited = "paired",
    label = "d (repeated)", symbol = "d", standardizer = "SD of the changes over sqrt(2 (1 - r))",
    divisor_of = "within a group", source = "Morris & DeShon 2002",
    use = "as d (average), when both measurements spread equally"
  ),
  standardized_entry(
    code = "g_repeated", design = "paired", size_words = TRUE, sd_of = NA_character_, audited = character(),
    label = "g (repeated)", symbol = "g",
    standardizer = "SD of the changes over sqrt(2 (1 - r)), corrected for small samples",
    divisor_of = "within a group", source = "Hedges 1981",
    use = "as d (repeated), without its upward bias in small samples"
  ),
  one_sd_entry("d_by_first", "first", 1, 2), one_sd_entry("g_by_first", "first", 1, 2, TRUE),
  one_sd_entry("d_by_second", "second", 2, 1), one_sd_entry("g_by_second", "second", 2, 1, TRUE),
  estimand_entry(
    code = "shift", design = c("independent", "paired"), family = "ranks", offered = TRUE, scale = "outcome",
    values = TRUE, size_words = FALSE, sd_of = NA_character_, audited = character(),
    label = function(groups, paired) if (paired) "centre of changes" else "shift", symbol = "shift",
    name = function(groups, paired) if (paired) "centre of the changes" else "Hodges-Lehmann shift",
    lead = "", plain_lead = "On average", centre = "a shift", interval_of = "the shift", test_of = "of the shift",
    short = "shift", entry = function(groups, paired) if (paired) "Centre" else "Shift",
    standardizer = NA_character_, divisor_of = NA_character_, source = "Hodges & Lehmann 1963",
    use = function(groups, paired) {
      what <- if (paired) "centre of the changes" else "distance between two distributions of one shape"
      extreme <- if (paired) "outlying changes" else "outliers"
      sprintf("%s, in the outcome's unit, where %s should count little", what, extreme)
    },
    intervals = function(paired, database) c(if (paired) "signed_ranks" else "ranks", "bootstrap")
  ),
  estimand_entry(
    code = "superiority", design = "independent", family = "ranks", offered = TRUE, scale = "chance",
    values = FALSE, size_words = FALSE, sd_of = NA_character_, audited = character(), label = "superiority",
    symbol = "superiority", name = "probability of a higher value (ties counted half)", lead = "",
    plain_lead = "On average", centre = "a chance", interval_of = "superiority", test_of = "of superiority",
    short = "superiority", entry = "Superiority", standardizer = NA_character_, divisor_of = NA_character_,
    source = "Mann & Whitney 1947",
    use = function(groups, paired) {
      sprintf(
        "probability that a random value from %s is higher than one from %s (ties counted half); assumes no shape",
        groups[[1]], groups[[2]]
      )
    },
    intervals = function(paired, database) c("relative", if (!database) "bootstrap")
  ),
  estimand_entry(
    code = "rank_biserial", design = c("independent", "paired"), family = "ranks", offered = TRUE,
    scale = "balance", values = FALSE, size_words = FALSE, sd_of = NA_character_, audited = character(),
    label = "rank-biserial", symbol = "rank-biserial", name = "rank-biserial correlation", lead = "",
    plain_lead = "On average", centre = "a balance", interval_of = "the balance", test_of = "of the balance",
    short = "balance", entry = "Balance", standardizer = NA_character_, divisor_of = NA_character_,
    source = function(groups, paired) if (paired) "Kerby 2014" else "Cliff 1993",
    use = function(groups, paired) {
      if (paired) return("ranks of the changes upwards less those downwards, as a share of all: -1 to 1, 0 balanced")
      "Cliff's delta, superiority on a scale from -1 to 1: 2 superiority - 1"
    },
    intervals = function(paired, database) {
      if (paired) return(if (database) "none" else "bootstrap")
      c("relative", if (!database) "bootstrap")
    }
  ),
  estimand_entry(
    code = "r_rank", design = c("independent", "paired"), family = "ranks", offered = TRUE, scale = "balance",
    values = FALSE, size_words = FALSE, sd_of = NA_character_, audited = character(), label = "r (ranks)",
    symbol = "r", name = "r = z over {standardizer},", lead = "", plain_lead = "On average",
    centre = "a correlation", interval_of = "r", test_of = "of r", short = "r", entry = "r (ranks)",
    standardizer = NA_character_, divisor_of = NA_character_, source = "Rosenthal 1991",
    use = "studies that report r = z / sqrt(N); depends on sizes, so not comparable between designs",
    intervals = function(paired, database) if (database) "none" else "bootstrap"
  ),
  estimand_entry(
    code = "trimmed_difference", design = c("independent", "paired"), family = "robust", offered = FALSE,
    scale = "outcome", values = TRUE, size_words = FALSE, sd_of = NA_character_, audited = character(),
    label = "difference of trimmed means", symbol = "difference", name = "difference",
    lead = function(groups, paired) if (paired) "by the trimmed mean of changes " else "the trimmed mean of ",
    plain_lead = "By means without the outermost fifth at either end", centre = "a trimmed mean",
    interval_of = "the difference of trimmed means", test_of = "of the trimmed means", short = "trimmed means",
    entry = "Difference", standardizer = NA_character_, divisor_of = NA_character_, source = "", use = "",
    intervals = NULL
  ),
  estimand_entry(
    code = "median_difference", design = c("independent", "paired"), family = "robust", offered = FALSE,
    scale = "outcome", values = TRUE, size_words = FALSE, sd_of = NA_character_, audited = character(),
    label = "difference of medians", symbol = "difference", name = "difference",
    lead = function(groups, paired) if (paired) "by the median of changes " else "the median of ",
    plain_lead = "By the medians", centre = "a median", interval_of = "the difference of medians",
    test_of = "of the medians", short = "medians", entry = "Difference", standardizer = NA_character_,
    divisor_of = NA_character_, source = "", use = "", intervals = NULL
  )
)

scale_entries <- catalogue(
  scale_entry(code = "sd", none = 0, unit = "SD", decimals = 2, axis = "Effect size in SD units"),
  scale_entry(code = "balance", none = 0, unit = "-1 to 1", decimals = 3, axis = "Rank correlation, -1 to 1"),
  scale_entry(
    code = "chance", none = 0.5, unit = "chance", decimals = 3,
    axis = "Probability of a higher value (ties counted half)"
  ),
  scale_entry(code = "outcome", none = 0, unit = NA_character_, decimals = NA_real_, axis = NA_character_),
  scale_entry(code = "ratio", none = 1, unit = "times", decimals = 2, axis = "Ratio of means")
)

# --- reading ----------------------------------------------------------------------------------------

estimands_where <- function(...) entries_where(estimand_entries, ...)

estimand_fact <- function(estimand, field, study = NULL) entry_field(estimand_entries, estimand, field, study)
estimand_facts <- function(estimands, field, study = NULL) entry_column(estimand_entries, estimands, field, study)

# Effect sizes that gauge_effect() can be asked for.
offered_estimands <- function(study) estimands_where(design = study$design, offered = TRUE)

# Whether estimands (codes, or rows of a table) belong to one of these families.
estimand_is <- function(estimands, ...) {
  if (is.list(estimands)) estimands <- estimands$estimand
  unname(estimand_families[estimands]) %in% c(...)
}

estimand_families <- vapply(estimand_entries, `[[`, "", "family")
estimand_scales <- vapply(estimand_entries, `[[`, "", "scale")

estimand_scale <- function(estimands) {
  if (is.list(estimands)) estimands <- estimands$estimand
  unname(estimand_scales[estimands])
}

# Whether estimates are in the outcome's own unit.
in_outcome_unit <- function(estimands) estimand_scale(estimands) == "outcome"

scale_facts <- function(scales, field) entry_column(scale_entries, scales, field)

# Short names for tables; "d (SD of peat)" where the standardizer is one group's.
effect_names <- function(estimands, study) estimand_facts(estimands, "label", study)

# The value of each row's estimate where nothing differs, and under the null hypothesis.
no_effect <- function(rows) scale_facts(estimand_scale(rows), "none")
null_of <- function(rows) ifelse(in_outcome_unit(rows), rows$beyond, no_effect(rows))

# Those that the source of the study allows: in a database there are no single values.
offered_here <- function(study) {
  setdiff(offered_estimands(study), if (identical(study$source, "database")) estimands_where(values = TRUE))
}

# The effect sizes that the numbers of the study suffice for. A study of changes alone has no SD of either measurement.
known_here <- function(codes, study) {
  halves <- any(!is.na(vapply(study$outcomes, function(outcome) outcome$moments[[1]]$sd, 0)))
  if (study$design != "paired" || halves) return(codes)
  codes[!estimand_facts(codes, "divisor_of") %in% "within a group"]
}

# The short set of effect sizes that goes with a method.
usual_set <- function(method, study) intersect(method_fact(method, "effects", study), offered_here(study))

# Every choice of `sd_of`, of either design.
sd_names <- function() estimand_facts(setdiff(names(estimand_entries), estimands_where(sd_of = NA)), "sd_of")

# The effect size that each choice of `sd_of` belongs to; the default of the design first.
sd_choices <- function(study) {
  usual <- estimands_where(sd_of = method_fact(mean_method(study), "sd_of"))
  known <- setdiff(estimands_where(design = study$design), estimands_where(sd_of = NA))
  codes <- union(usual, known)
  stats::setNames(codes, estimand_facts(codes, "sd_of"))
}
