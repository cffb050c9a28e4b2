# What was meant: words that the whole trade uses, and the argument or value of this package that stands for them.

# Case, blanks and signs do not matter.
plain_word <- function(x) tolower(gsub("[^[:alnum:]]+", "", x))

# By what they mean here.
trade_words <- list(
  # Directions.
  either = c("two-sided", "two-tailed", "two", "both", "different", "unequal", "nondirectional"),
  higher = c("greater", "larger", "more", "above", "bigger", "upper", "right", "increase"),
  lower = c("less", "smaller", "below", "fewer", "left", "decrease"),
  # Methods.
  welch = c("t", "t test", "Welch test", "unequal variances", "independent t", "two-sample t"),
  student = c("t", "t test", "pooled", "equal variances", "independent t", "two-sample t"),
  ranks = c(
    "rank sum", "Mann-Whitney", "Mann-Whitney U", "U", "U test", "Wilcoxon", "Wilcoxon rank sum", "nonparametric"
  ),
  relative = c("Brunner-Munzel", "stochastic superiority"),
  paired = c("t", "t test", "paired t", "dependent t", "repeated measures t"),
  signed_ranks = c("signed rank", "Wilcoxon", "Wilcoxon signed rank", "nonparametric"),
  permutation = c("randomization", "randomisation", "randomization test", "permutation test", "exact", "resampling"),
  # Effect sizes.
  d_pooled = c("d", "Cohen's d", "Cohen d", "standardized mean difference", "SMD"),
  d_average = c("d", "Cohen's d", "Cohen d", "standardized mean difference", "SMD"),
  d_change = c("d", "d z", "standardized mean change"), d_repeated = c("repeated measures d"),
  g = c("Hedges' g", "Hedges g", "bias-corrected d"), d_by_second = c("Glass delta", "Glass's delta"),
  rank_biserial = c("Cliff's delta", "Cliff delta", "rank-biserial correlation"),
  r_rank = c("r", "r rank", "effect size r"),
  superiority = c(
    "AUC", "probability of superiority", "common language effect size", "stochastic superiority", "c statistic"
  ),
  shift = c("Hodges-Lehmann", "location shift", "median difference"),
  mean_difference = c("difference", "raw difference", "MD"),
  mean_ratio = c("ratio", "ratio of means", "response ratio"),
  # Adjustments.
  benjamini_hochberg = c("BH", "FDR", "false discovery rate"), bonferroni = c("Bonf", "Dunn"),
  max_t = c("Westfall-Young", "step-down max t"),
  # Arguments.
  expect = c(
    "alternative", "alternative hypothesis", "sides", "tails", "direction", "hypothesis", "one-sided", "two-sided"
  ),
  beyond = c("null", "null value", "null hypothesis", "hypothesized value", "margin"),
  level = c("confidence", "confidence level", "CI", "CI level"),
  alpha = c("significance", "significance level", "type I error"),
  within = c("bounds", "limits", "margin", "equivalence bounds"),
  method = c("test", "equal variances", "unequal variances", "paired", "nonparametric"),
  by = c("group", "group by", "grouping", "factor", "treatment", "formula"),
  outcome = c("dependent variable", "DV", "response", "y", "value", "values", "formula"),
  adjust = c("correction", "p-value adjustment", "multiplicity"),
  draws = c("resamples", "replicates", "simulations", "iterations"),
  estimands = c("estimand", "effect size", "effect sizes"), decimals = c("digits", "round"),
  decimal_mark = c("decimal", "decimal mark"), prior_half = c("scale", "width", "prior scale"),
  width = c("size"), power = c("target power", "1 - beta"), difference = c("effect", "true difference"),
  sd = c("sigma", "SDs")
)

# Names among `known` that a word of the trade stands for; `word` as plain_word() makes it.
meant_names <- function(word, known) {
  meant <- vapply(trade_words, function(words) word %in% plain_word(words), NA)
  intersect(names(trade_words)[meant], known)
}
