# Which methods a design knows.

check_methods <- function(method, study, call) {
  fitting <- methods_where(design = study$design)
  if (is.null(method)) return(fitting[[1]])
  if (!is.character(method) || length(method) == 0) check_choice(method, fitting, arg = "method", call = call)
  method <- method_codes(method)
  for (one in method) {
    if (one %in% setdiff(names(method_entries), fitting)) abort_method_design(one, study, call)
    check_choice(one, fitting, arg = "method", call = call)
  }
  unique(method)
}

# Codes as they are; a label as it is printed stands for its code. `labels`: named by their codes.
codes_of <- function(x, labels) {
  if (!is.character(x)) return(x)
  at <- match(plain_word(x), plain_word(labels))
  ifelse(x %in% names(labels) | is.na(at), x, names(labels)[at])
}

method_codes <- function(methods) {
  known <- names(method_entries)
  codes_of(methods, stats::setNames(method_label(known), known))
}

# Who chose the method: "default", "call", or "plan" (set where a plan is run).
method_origin <- function(method) if (is.null(method)) "default" else "call"

abort_method_design <- function(method, study, call) {
  fitting <- methods_where(design = study$design)
  design <- if (is_paired(study)) "paired measurements" else "independent groups"
  other <- if (is_paired(study)) "versus" else "versus_paired"
  abort_vandro(
    c(
      "Method {.val {method}} does not fit {design}.",
      "i" = "For this study: {.val {fitting}}. If the design is the other one, declare it with
        {.fn {other}}."
    ),
    "method_design",
    method = method, call = call
  )
}

check_reason <- function(reason, expect, call) {
  reason <- check_text(reason, arg = "reason", call = call)
  if (is.null(reason) || expect != "either") return(reason)
  abort_vandro(
    c(
      "{.arg reason} belongs to a directional question.",
      "x" = "{.arg expect} is {.val either}: both directions are of interest.",
      "i" = "Say {.code expect = \"higher\"} or {.code \"lower\"}, or leave the reason out."
    ),
    "contradiction",
    call = call
  )
}
