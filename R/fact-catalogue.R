# The catalogue: everything that any surface needs to know about a method, an effect size or a kind of interval
# stands in one entry (fact-methods.R, fact-estimands.R, fact-intervals.R). Every field is an argument without a
# default, so that an entry that lacks one stops the package from loading.
#
# Fields are of three kinds:
#   plain      a value that holds for every study
#   by study   function(groups, paired): `groups` are the two labels, `paired` whether the study has pairs
#   template   text with slots in braces, filled by fill_slots()

# --- constructors -----------------------------------------------------------------------------------

# A method of testing a difference.
#   code, design          its name in calls; "independent", "paired" or both
#   family                "means", "ranks" or "reassignment": which inference computes it (verb-cases.R)
#   estimands             what it estimates, the usual one first
#   errors, gap           functions of the moments (NULL unless family "means"): standard error and degrees of freedom;
#                         the difference
#   p_kind                "exact", "asymptotic"; NA where the answer decides
#   draws, joint          may it draw at random; can max-t adjust it
#   subgroups, summaries, databases, bounds, database_bounds, formula
#                         does it compare subgroups; work from n, mean and SD; work in a database; test against bounds
#                         in the outcome's unit, there too; have rates by formula
#   rehearsal             its name in the kernel of simulated studies
#   sd_of                 the SD that equivalence bounds are multiples of, unless asked otherwise
#   effects, closing, scaled
#                         by study: the short set of effect sizes; the one that closes a sentence; the one that puts
#                         outcomes of different units on one axis (NA: none)
#   label, phrase, possessive, test_label
#                         in tables; inside a sentence; before "t(45) = 4.4"; before the name of the statistic
#   df_text               template (df, n_first, n_second): where the degrees of freedom come from; NA
#   null_curve            what view "null" draws: "t", "counts" or "reassignment"
#   text                  the sentence of a methods section: template (distribution), or function(row, paired)
#   source, interval_label, interval_source
#                         references
#   colour, shape, line   in figures with several methods
method_entry <- function(code, design, family, estimands, errors, gap, p_kind, draws, joint, subgroups, summaries,
                         databases, bounds, database_bounds, formula, rehearsal, sd_of, effects, closing, scaled, label,
                         phrase, possessive, test_label, df_text, null_curve, text, source, interval_label,
                         interval_source, colour, shape, line) {
  whole_entry()
}

# An effect size, or what a method estimates.
#   code, design      as of a method
#   family            "means" (from means and SDs), "ranks", "robust" (trimmed means, medians)
#   offered           can gauge_effect() be asked for it
#   scale             the scale it is on, see scale_entry()
#   values            does it need single values even where a database counts ranks
#   size_words        do thresholds made for differences in within-group SDs apply
#   sd_of, audited    its name in `sd_of =` (NA: none); the designs in which an audit tries it
#   label             by study: in tables
#   symbol, name      in sentences: before "= 1.30"; by study: before a number without "="
#   lead, plain_lead  by study: before the outcome's name where not means are compared; the same in plain language
#   centre            "a mean", "a median": what differs between the groups
#   interval_of       after "interval of"
#   test_of           what a permutation test of it tests
#   short, entry      in the table of a cross-check; by study: label of a printed line
#   standardizer      by study: what the difference is divided by; NA
#   divisor_of        whose SD that is, in plain words; NA
#   source, use       by study
#   intervals         function(paired, database): kinds of interval, the default first; NULL where the core decides
estimand_entry <- function(code, design, family, offered, scale, values, size_words, sd_of, audited, label, symbol,
                           name, lead, plain_lead, centre, interval_of, test_of, short, entry, standardizer, divisor_of,
                           source, use, intervals) {
  whole_entry()
}

# A scale on which estimates are given.
#   code       "outcome" (the outcome's own unit), "sd", "balance", "chance", "ratio"; in the order in which a figure of
#              effect sizes prefers them for its axis
#   none       the value where nothing differs
#   unit       in tables
#   decimals   of an estimate beside a test; NA: those of the outcome
#   axis       title of an axis; NA: that of the outcome
scale_entry <- function(code, none, unit, decimals, axis) whole_entry()

# A way to an interval that is not named after a method.
#   code, label
#   source   function(estimand, paired)
interval_entry <- function(code, label, source) whole_entry()

# The arguments of the constructor that called, each of them given.
whole_entry <- function() {
  frame <- parent.frame()
  fields <- names(formals(sys.function(sys.parent())))
  given <- vapply(fields, function(name) !eval(call("missing", as.name(name)), frame), NA)
  if (!all(given)) {
    entry <- if (given[["code"]]) frame$code else "?"
    stop(sprintf("Catalogue entry %s lacks %s.", entry, toString(fields[!given])), call. = FALSE)
  }
  mget(fields, envir = frame)
}

catalogue <- function(...) {
  entries_given <- list(...)
  codes <- vapply(entries_given, `[[`, "", "code")
  if (anyDuplicated(codes)) stop(sprintf("Two catalogue entries are called %s.", codes[[anyDuplicated(codes)]]))
  stats::setNames(entries_given, codes)
}

# --- reading ----------------------------------------------------------------------------------------

# A field of one entry; functions by study are applied to it.
entry_field <- function(known, code, field, study = NULL) {
  entry <- known[[code]]
  if (is.null(entry)) stop(sprintf("The catalogue has no entry %s.", code), call. = FALSE)
  value <- entry[[field]]
  if (is.function(value) && !is.null(study)) value(study$groups, study$design == "paired") else value
}

# A field of many codes that is one value each.
entry_column <- function(known, codes, field, study = NULL) {
  each <- unique(codes)
  found <- lapply(each, function(code) entry_field(known, code, field, study))
  unname(unlist(found)[match(codes, each)])
}

# Codes whose entries have all of these values; a field of several values matches by any of them.
entries_where <- function(known, ...) {
  asked <- list(...)
  fits <- function(entry) all(mapply(function(field, value) any(entry[[field]] %in% value), names(asked), asked))
  names(Filter(fits, known))
}

# "{n_first} + {n_second} - 2" with the values of its slots.
fill_slots <- function(template, ...) {
  slots <- list(...)
  for (name in names(slots)) template <- gsub(sprintf("{%s}", name), slots[[name]], template, fixed = TRUE)
  template
}
