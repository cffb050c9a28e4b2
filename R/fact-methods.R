# A method of means: all three work wherever n, mean and SD are known.
means_entry <- function(code, design, errors, gap, p_kind, sd_of, effects, scaled, closing, label, phrase, possessive,
                        df_text, text, source, interval_label, colour, shape, line) {
  method_entry(
    code = code, design = design, family = "means", estimands = "mean_difference", errors = errors, gap = gap,
    p_kind = p_kind, draws = FALSE, joint = TRUE, subgroups = TRUE, summaries = TRUE, databases = TRUE, bounds = TRUE,
    database_bounds = TRUE, formula = TRUE, rehearsal = code, sd_of = sd_of, effects = effects, closing = closing,
    scaled = scaled, label = label, phrase = phrase, possessive = possessive, test_label = label, df_text = df_text,
    null_curve = "t", text = text, source = source, interval_label = interval_label, interval_source = source,
    colour = colour, shape = shape, line = line
  )
}

# Every method of testing a difference; the first of each design is the default.
method_entries <- catalogue(
  means_entry(
    code = "welch", design = "independent",
    errors = function(m) core_welch_errors(m[[1]], m[[2]]), gap = function(m) core_mean_gap(m[[1]], m[[2]]),
    p_kind = "asymptotic", sd_of = "average",
    effects = c("mean_difference", "g_average", "d_average", "d_pooled", "g"), closing = "g_average",
    scaled = "g_average",
    label = "Welch", phrase = "Welch's test", possessive = "Welch's",
    df_text = "{df}, by Satterthwaite's formula from both variances and sizes",
    text = paste(
      "The difference of the two means was tested by Welch's test, which does not assume equal spread (Welch 1947;",
      "degrees of freedom after Satterthwaite 1946), with the interval from the same standard error and t distribution."
    ),
    source = "Welch 1947", interval_label = "Welch",
    colour = "#3F4788", shape = 16, line = "solid"
  ),
  means_entry(
    code = "student", design = "independent",
    errors = function(m) core_student_errors(m[[1]], m[[2]]), gap = function(m) core_mean_gap(m[[1]], m[[2]]),
    p_kind = "exact", sd_of = "pooled",
    effects = c("mean_difference", "d_pooled", "g"), closing = "g", scaled = "g",
    label = "Student", phrase = "Student's test", possessive = "Student's",
    df_text = "{df} = {n_first} + {n_second} - 2, both sizes less the two means",
    text = paste(
      "The difference of the two means was tested by Student's test with the pooled variance (Student 1908; Fisher",
      "1925), which assumes equal spread, with the interval from the same standard error and t distribution."
    ),
    source = "Student 1908", interval_label = "Student",
    colour = "#C9679B", shape = 17, line = "42"
  ),
  means_entry(
    code = "paired", design = "paired",
    errors = function(m) core_paired_errors(m[[3]]), gap = function(m) m[[3]]$mean,
    p_kind = "exact", sd_of = "change",
    effects = c("mean_difference", "g_average", "d_average", "d_change", "g_change"), closing = "g_average",
    scaled = "g_average",
    label = "paired", phrase = "the paired t test", possessive = "paired",
    df_text = "{df} = {n_first} - 1, pairs less one",
    text = paste(
      "The mean of the changes was tested by the paired t test (Student 1908), with the interval from the same",
      "standard error and t distribution on one degree of freedom less than there are pairs."
    ),
    source = "Student 1908", interval_label = "t of the changes",
    colour = "#3F4788", shape = 16, line = "solid"
  ),
  method_entry(
    code = "ranks", design = "independent", family = "ranks", estimands = c("shift", "superiority"),
    errors = NULL, gap = NULL,
    p_kind = NA_character_, draws = FALSE, joint = FALSE, subgroups = FALSE, summaries = FALSE, databases = TRUE,
    bounds = TRUE, database_bounds = FALSE, formula = FALSE, rehearsal = "ranks", sd_of = "average",
    effects = c("shift", "superiority", "rank_biserial"), closing = "rank_biserial", scaled = "rank_biserial",
    label = "Mann-Whitney", phrase = "the Mann-Whitney test", possessive = "Mann-Whitney", test_label = "Mann-Whitney",
    df_text = NA_character_, null_curve = "counts",
    text = paste(
      "The two distributions were compared by ranks (Mann & Whitney 1947), p from {distribution}; the shift was",
      "estimated by the middle of all pairwise differences (Hodges & Lehmann 1963) with an interval from the same",
      "distribution (Lehmann 1975)."
    ),
    source = "Mann & Whitney 1947", interval_label = "ordered differences", interval_source = "Lehmann 1975",
    colour = "#2F7D4F", shape = 15, line = "22"
  ),
  method_entry(
    code = "relative", design = "independent", family = "ranks", estimands = "superiority",
    errors = NULL, gap = NULL,
    p_kind = NA_character_, draws = TRUE, joint = FALSE, subgroups = FALSE, summaries = FALSE, databases = TRUE,
    bounds = FALSE, database_bounds = FALSE, formula = FALSE, rehearsal = "relative", sd_of = "average",
    effects = c("superiority", "rank_biserial", "shift"), closing = "shift", scaled = NA_character_,
    label = "Brunner-Munzel", phrase = "the Brunner-Munzel test", possessive = "Brunner-Munzel",
    test_label = "Brunner-Munzel", df_text = NA_character_, null_curve = "t",
    text = function(row, paired) {
      sprintf(
        "The probability of a higher value was tested with separate variances in the groups (Brunner & Munzel 2000)%s.",
        if (row$p_kind == "asymptotic") {
          ", with the interval on the logit scale"
        } else {
          paste(
            ", p from assignments of the values to the groups (Neubert & Brunner 2007), with the interval from the",
            "same assignments (Pauly et al. 2016)"
          )
        }
      )
    },
    source = "Brunner & Munzel 2000", interval_label = "Brunner-Munzel, on the logit scale",
    interval_source = "Brunner & Munzel 2000",
    colour = "#9A8432", shape = 18, line = "6222"
  ),
  method_entry(
    code = "signed_ranks", design = "paired", family = "ranks", estimands = c("shift", "rank_biserial"),
    errors = NULL, gap = NULL,
    p_kind = NA_character_, draws = FALSE, joint = FALSE, subgroups = FALSE, summaries = FALSE, databases = TRUE,
    bounds = TRUE, database_bounds = FALSE, formula = FALSE, rehearsal = "signed_ranks", sd_of = "change",
    effects = c("shift", "rank_biserial"), closing = "rank_biserial", scaled = NA_character_,
    label = "signed-rank test", phrase = "the signed-rank test", possessive = "signed ranks",
    test_label = "signed-rank", df_text = NA_character_, null_curve = "counts",
    text = paste(
      "The centre of the changes was tested by their signed ranks (Wilcoxon 1945), p from {distribution}; it was",
      "estimated by the middle of all means of two changes (Hodges & Lehmann 1963) with an interval from the same",
      "distribution (Lehmann 1975)."
    ),
    source = "Wilcoxon 1945", interval_label = "ordered means of two changes", interval_source = "Lehmann 1975",
    colour = "#2F7D4F", shape = 15, line = "22"
  ),
  method_entry(
    code = "permutation", design = c("independent", "paired"), family = "reassignment",
    estimands = c("mean_difference", "trimmed_difference", "median_difference"),
    errors = NULL, gap = NULL,
    p_kind = NA_character_, draws = TRUE, joint = FALSE, subgroups = FALSE, summaries = FALSE, databases = FALSE,
    bounds = TRUE, database_bounds = FALSE, formula = FALSE, rehearsal = "permutation",
    sd_of = function(groups, paired) if (paired) "change" else "average",
    # Its interval of the difference is its own.
    effects = function(groups, paired) {
      c("g_average", "d_average", if (paired) c("d_change", "g_change") else c("d_pooled", "g"))
    },
    closing = "g_average", scaled = NA_character_,
    label = "permutation test", phrase = "the permutation test", possessive = "permutation", test_label = "permutation",
    df_text = NA_character_, null_curve = "reassignment",
    text = function(row, paired) {
      how <- switch(row$p_kind,
        simulated = "at random (simulated p: Phipson & Smyth 2010)", bracketed = "in every way, p within a bracket",
        "in every way"
      )
      paste0(
        sprintf(
          paste(
            "The difference was tested by permutation (Fisher 1935; Pitman 1937): what chance could have assigned",
            "otherwise was reassigned %s, with the interval from the same reassignments."
          ), how
        ),
        if (row$statistic_name == "t" && !paired) {
          paste(
            " Under reassignment, Welch's t keeps its level in large samples whatever the variances (Janssen 1997;",
            "Chung & Romano 2013)."
          )
        }
      )
    },
    source = "Fisher 1935", interval_label = "from the permutation test", interval_source = "",
    colour = "#444444", shape = 4, line = "13"
  )
)

# Pairs of methods that one assumption parts: what a disagreement depends on. Those of `otherwise` take the place of the
# first where one of its methods has no answer.
method_contrasts <- list(
  first = list(
    c("student", "welch", "spread"), c("welch", "permutation", "shape"), c("paired", "permutation", "shape"),
    c("welch", "relative", "order"), c("student", "ranks", "order"), c("paired", "signed_ranks", "order"),
    c("ranks", "relative", "same shape")
  ),
  otherwise = list(
    c("welch", "ranks", "order"), c("permutation", "ranks", "order"), c("permutation", "signed_ranks", "order"),
    c("student", "permutation", "shape")
  )
)

# --- reading ----------------------------------------------------------------------------------------

# Codes with these values, in the order of the catalogue: methods_where(design = "paired", family = "means").
methods_where <- function(...) entries_where(method_entries, ...)

method_fact <- function(method, field, study = NULL) entry_field(method_entries, method, field, study)
method_facts <- function(methods, field, study = NULL) entry_column(method_entries, methods, field, study)

# Whether the first thing that each method estimates is in the outcome's unit.
in_unit_by <- function(methods) {
  in_outcome_unit(vapply(methods, function(method) method_fact(method, "estimands")[[1]], "", USE.NAMES = FALSE))
}

# Whether methods (codes, or rows of a table) belong to one of these families; NA counts as no.
method_is <- function(methods, ...) {
  if (is.list(methods)) methods <- methods$method
  unname(method_families[methods]) %in% c(...)
}

method_families <- vapply(method_entries, `[[`, "", "family")

# Methods that take single values, one outcome after the other.
counts_values <- function(methods) method_is(methods, "ranks", "reassignment")

# The method itself if it is one of means, else the default one of the design.
mean_method <- function(study, method = NULL) {
  if (!is.null(method) && method_is(method, "means")) return(method)
  methods_where(design = study$design, family = "means")[[1]]
}

# The method of means in which all observations share one variance: of groups Student's, of pairs t of the changes.
pooled_method <- function(study) if (study$design == "paired") "paired" else "student"

method_label <- function(methods) method_facts(methods, "label")
method_phrase <- function(methods) method_facts(methods, "phrase")

# The difference of means and its standard error, by a method of means; `m`: moments of both groups and of the changes.
mean_errors <- function(method, m) method_fact(method, "errors")(m)
mean_gap <- function(method, m) method_fact(method, "gap")(m)

mean_error <- function(method, m) core_one_error(mean_errors(method, m))
