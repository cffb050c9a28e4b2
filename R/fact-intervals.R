# Kinds of interval that are not named after a method of testing.
interval_entries <- catalogue(
  interval_entry(
    code = "noncentral_t", label = "noncentral t",
    source = function(estimand, paired) {
      average <- estimand %in% c("d_average", "g_average")
      if (paired && (average || estimand %in% c("d_repeated", "g_repeated"))) return("Algina & Keselman 2003")
      if (average) "Delacre et al. 2021" else "Steiger & Fouladi 1997"
    }
  ),
  interval_entry(
    code = "bonett", label = "normal, with Bonett's variance", source = function(estimand, paired) "Bonett 2008"
  ),
  interval_entry(
    code = "log_delta", label = "t on the log scale", source = function(estimand, paired) "Bonett & Price 2020"
  ),
  interval_entry(
    code = "bootstrap", label = "bootstrap (bias-corrected and accelerated)",
    source = function(estimand, paired) "Efron 1987"
  ),
  interval_entry(
    code = "one_way", label = "the chance that all go one way",
    source = function(estimand, paired) "Clopper & Pearson 1934"
  ),
  interval_entry(
    code = "assignments", label = "Brunner-Munzel by assignment of the values, on the logit scale",
    source = function(estimand, paired) "Neubert & Brunner 2007; Pauly et al. 2016"
  ),
  interval_entry(
    code = "none", label = "none, which needs single values", source = function(estimand, paired) ""
  )
)

# Kinds that can be asked for by name.
asked_intervals <- c("noncentral_t", "bonett", "bootstrap")

interval_label <- function(way) {
  if (way %in% names(method_entries)) return(method_fact(way, "interval_label"))
  entry_field(interval_entries, way, "label")
}

interval_source <- function(way, estimand, study) {
  if (way %in% names(method_entries)) return(method_fact(way, "interval_source"))
  entry_field(interval_entries, way, "source")(estimand, study$design == "paired")
}
