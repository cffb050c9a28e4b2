# What was planned, what was asked in addition, what departed.

# One row per question of every comparison, then departures that belong to none.
plan_standing <- function(plan, chapters, data) {
  first <- declared_plan(plan)
  check_departures(plan, first)
  asked <- unlist(lapply(names(chapters), function(name) {
    planned <- names(plan$fields$comparisons[[name]]$ask)
    lapply(told_questions(chapters[[name]]), function(question) {
      standing_row(name, question, planned, first, plan)
    })
  }), recursive = FALSE)
  rows <- c(
    asked, left_rows(first, plan), general_rows(first, plan), house_rows(first, plan), seal_rows(plan, first),
    data_rows(plan, data)
  )
  do.call(rbind, rows)
}

declared_plan <- function(plan) {
  file <- plan$fields$departs_from
  # What was changed in a call departs from the file.
  if (is.null(file)) file <- plan$base
  if (inherits(file, "vandro_plan")) return(file)
  if (is.null(file)) return(NULL)
  at_plan(plan, "departs_from", "the plan it departs from cannot be used", read_plan(beside_plan(file, plan$file)))
}

# A reason for something that does not depart would be lost unsaid.
check_departures <- function(plan, first) {
  given <- names(plan$fields$departures)
  if (length(given) == 0) return(invisible())
  if (is.null(first)) {
    abort_plan(plan_source(plan), "departures", c(
      "departures need the plan that was declared.",
      "i" = "Name its file: {.code departs_from: plan.yaml}."
    ))
  }
  changed <- record_differences(deciding(first$record), deciding(plan$record))$field
  lost <- setdiff(given, changed)
  if (length(lost) == 0) return(invisible())
  hint <- suggestion(lost[[1]], changed, "What departs")
  abort_plan(plan_source(plan), c("departures", lost[[1]]), c("nothing departs in {.val {lost[[1]]}}.", "i" = "{hint}"))
}

standing_of <- function(study, question, standing, what) {
  data.frame(study = study, question = question, standing = standing, what = what)
}

# The words of a plan for the places of a report.
told_questions <- function(answers) {
  names <- names(keep_given(answers))
  names[names == "agreement"] <- "cross_check"
  intersect(names(plan_verbs), names)
}

standing_row <- function(name, question, planned, first, plan) {
  if (!question %in% planned) return(unplanned_row(name, question, planned))
  if (is.null(first)) return(standing_of(name, question, "planned", "as declared"))
  before <- first$fields$comparisons[[name]]
  if (is.null(before)) return(standing_of(name, question, "in addition", "the comparison was not declared"))
  if (is.null(before$ask[[question]])) {
    return(standing_of(name, question, "in addition", "the question was not declared"))
  }
  changed <- record_differences(deciding(first$record), deciding(plan$record))
  own <- startsWith(changed$field, paste0(name, ".", question, ".")) | changed$field == paste0(name, ".", question)
  # How the comparison itself is declared concerns all of its questions.
  questions <- paste0(name, ".", names(plan_verbs))
  shared <- startsWith(changed$field, paste0(name, ".")) &
    !vapply(changed$field, function(field) any(field == questions | startsWith(field, paste0(questions, "."))), NA)
  changed <- changed[own | shared, ]
  # A question that got its first own field: "yes" before, keys now.
  changed <- changed[!(changed$field == paste0(name, ".", question)), ]
  more <- added_methods(changed)
  rows <- changed[!changed$field %in% more$field, ]
  # The reason of a direction goes with it.
  if (nrow(rows) > 1) rows <- rows[!grepl("[.]reason$", rows$field), ]
  if (nrow(rows)) return(standing_of(name, question, "departed", change_words(rows, name, plan)))
  if (follows_departed(name, question, first, plan)) {
    return(standing_of(name, question, "departed", "asks what the difference asks, which departs"))
  }
  if (nrow(more)) {
    reason <- plan$fields$departures[[more$field[[1]]]]
    return(standing_of(name, question, "planned", sprintf(
      "in addition, exploratory: method %s%s", toString(more$method),
      if (is.null(reason)) "" else sprintf(" (reason: %s)", reason)
    )))
  }
  standing_of(name, question, "planned", "as declared")
}

# A cross-check without fields of its own takes its question from the difference.
follows_departed <- function(name, question, first, plan) {
  if (question != "cross_check" || length(plan$fields$comparisons[[name]]$ask$cross_check)) return(FALSE)
  asked <- function(plan) {
    own <- question_record(plan, name, "difference")
    own[setdiff(names(own), c("secondary", "reason"))]
  }
  nrow(record_differences(asked(first), asked(plan))) > 0
}

# Every report describes, looks at the assumptions, and tells the size of what was asked: nothing is claimed from these.
# Tests are another matter.
unplanned_row <- function(name, question, planned) {
  goes_with <- c(
    "description", "assumptions", if (any(c("difference", "equivalence") %in% planned)) "effect",
    if ("equivalence" %in% planned) "difference"
  )
  if (question %in% goes_with) {
    standing_of(name, question, "as a rule", "goes with what was planned in every report")
  } else {
    standing_of(name, question, "in addition", "reported although the plan does not ask for it")
  }
}

# Secondary methods that came to those declared change nothing of these.
added_methods <- function(changed) {
  at <- grep("[.]secondary$", changed$field)
  methods_of <- function(text) if (is.na(text)) character() else strsplit(gsub("[][]", "", text), ", ")[[1]]
  found <- lapply(at, function(i) {
    before <- methods_of(changed$first[[i]])
    after <- methods_of(changed$second[[i]])
    if (all(before %in% after)) data.frame(field = changed$field[[i]], method = toString(setdiff(after, before)))
  })
  do.call(rbind, c(list(data.frame(field = character(), method = character())), found))
}

# "alpha: declared 0.05, now 0.01 (reason: ...)".
change_words <- function(rows, name, plan) {
  words <- vapply(seq_len(nrow(rows)), function(i) {
    field <- rows$field[[i]]
    # Inside a question its own key is enough.
    key <- if (is.null(name)) field else sub("^.*[.]", "", field)
    before <- rows$first[[i]]
    after <- rows$second[[i]]
    reason <- plan$fields$departures[[field]]
    sprintf(
      "%s: %s, %s (%s)", key, if (is.na(before)) "not declared" else paste("declared", before),
      if (is.na(after)) "now left out" else paste("now", after),
      if (is.null(reason)) "no reason on record" else paste("reason:", reason)
    )
  }, "")
  paste(words, collapse = "; ")
}

# Declared, and not in the plan any more.
left_rows <- function(first, plan) {
  unlist(lapply(names(first$fields$comparisons), function(name) {
    now <- names(plan$fields$comparisons[[name]]$ask)
    lapply(setdiff(names(first$fields$comparisons[[name]]$ask), now), function(question) {
      standing_of(name, question, "not run", "declared, and not in this plan")
    })
  }), recursive = FALSE)
}

general_rows <- function(first, plan) {
  if (is.null(first)) return(NULL)
  changed <- record_differences(deciding(first$record), deciding(plan$record))
  names <- union(names(first$fields$comparisons), names(plan$fields$comparisons))
  changed <- changed[!sub("[.].*$", "", changed$field) %in% names, ]
  lapply(seq_len(nrow(changed)), function(i) {
    standing_of("whole plan", changed$field[[i]], "departed", change_words(changed[i, ], NULL, plan))
  })
}

# Conventions by what they decide: those of the call against the plan's, or the plan's against those first declared.
house_rows <- function(first, plan) {
  row <- function(declared, now) {
    if (identical(house_record(declared), house_record(now))) return(NULL)
    name <- function(house) if (is.null(house)) "none" else house$name
    list(standing_of("whole plan", "conventions", "departed", sprintf(
      "declared %s, now %s, which decide otherwise", name(declared), name(now)
    )))
  }
  # What both plans hold themselves is told field by field.
  by_field <- is.list(plan$fields$conventions) && is.list(first$fields$conventions)
  c(if (!is.null(first) && !by_field) row(first$house, plan$declared_house), row(plan$declared_house, plan$house))
}

# The fingerprint that was declared, and the one the plan has.
seal_rows <- function(plan, first) {
  sealed <- plan$fields$declared$fingerprint
  if (is.null(sealed) || sealed == plan$fingerprint || identical(sealed, first$fingerprint)) return(NULL)
  list(standing_of("whole plan", "fingerprint", "departed", sprintf(
    "declared %s, now %s: the plan was changed after it was declared; %s", sealed, plan$fingerprint,
    if (is.null(first)) {
      "what was changed can be told where departs_from names the declared file"
    } else {
      "the file that departs_from names is not the declared one"
    }
  )))
}

data_rows <- function(plan, data) {
  unlist(lapply(names(data), function(name) {
    declared <- plan$fields$data[[name]]$fingerprint
    if (is.null(declared) || declared == data[[name]]$fingerprint) return(NULL)
    list(standing_of("whole plan", paste0("data.", name), "departed", sprintf(
      "the file has other bytes than the one declared (declared %s, now %s)", declared, data[[name]]$fingerprint
    )))
  }), recursive = FALSE)
}
