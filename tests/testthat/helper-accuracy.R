# Numbers of the public verbs beside references in 50 digits (validation/accuracy_reference.py).

accuracy_study <- function(case, data) {
  spelled <- strsplit(c(data$first[data$case == case], data$second[data$case == case]), " ", fixed = TRUE)
  values <- lapply(spelled, as.numeric)
  if (startsWith(case, "groups")) return(versus(first = values[[1]], second = values[[2]]))
  versus_paired(data.frame(first = values[[1]], second = values[[2]]), first, second)
}

# The row of a verb's table that `key` names; verbs with options are told by more words.
accuracy_row <- function(study, verb, key) {
  words <- strsplit(verb, " ", fixed = TRUE)[[1]]
  method <- strsplit(key, " ", fixed = TRUE)[[1]]
  if (verb == "describe") return(describe_study(study)$table[as.integer(key), ])
  if (verb == "difference") {
    statistic <- if (length(method) > 1) method[[2]]
    return(test_difference(study, method[[1]], options = how(statistic = statistic))$table)
  }
  if (verb == "higher") return(test_difference(study, key, expect = "higher")$table)
  if (words[[1]] == "equivalence") return(test_equivalence(study, as.numeric(words[[2]]), key)$table)
  if (verb == "effect") return(gauge_effect(study, key)$table)
  if (verb == "evidence") return(weigh_evidence(study)$table)
  checks <- vet_assumptions(study, centre = if (verb == "assumptions") "median" else "mean")$table
  if (method[[1]] == "Shapiro-Wilk") return(checks[checks$check == "normality", ][as.integer(method[[2]]), ])
  checks[checks$check == key, ]
}

accuracy_subgroups <- function(data) {
  cases <- paste("groups:", c("plain", "small", "unequal sizes and spreads"))
  long <- do.call(rbind, lapply(cases, function(case) {
    spelled <- strsplit(unlist(data[data$case == case, c("first", "second")]), " ", fixed = TRUE)
    data.frame(
      value = as.numeric(unlist(spelled)), group = rep(c("first", "second"), lengths(spelled)), part = case
    )
  }))
  compare_subgroups(versus(long, value, group, groups = c("first", "second"), each = part))$table[1, ]
}

accuracy_power <- function(case) {
  with <- as.numeric(strsplit(sub("power ", "", case, fixed = TRUE), " ", fixed = TRUE)[[1]])
  world <- suppose_world(with[[3]], sd = with[[4]])
  rehearse_study(world, n = with[1:2], method = "student")$table
}

correct_digits <- function(x, reference) {
  if (is.na(x)) return(0)
  if (x == reference) return(16)
  # Where the number is 0 but for rounding, its size counts.
  if (abs(reference) < 1e-12 && abs(x) < 1e-12) return(min(16, -log10(abs(x - reference))))
  max(0, min(16, -log10(abs(x / reference - 1))))
}

accuracy_digits <- function(folder) {
  data <- utils::read.csv(file.path(folder, "accuracy_data.csv"))
  references <- utils::read.csv(file.path(folder, "accuracy.csv"))
  asked <- paste(references$case, references$verb, references$key, sep = "\r")
  parts <- lapply(split(references, factor(asked, unique(asked))), function(part) {
    one <- part[1, ]
    row <- suppressWarnings(suppressMessages(switch(sub(" .*", "", one$case),
      subgroups = accuracy_subgroups(data), power = accuracy_power(one$case),
      accuracy_row(accuracy_study(one$case, data), one$verb, one$key)
    )))
    part$found <- vapply(part$column, function(column) row[[column]], 0)
    part
  })
  found <- do.call(rbind, unname(parts))
  found$digits <- mapply(correct_digits, found$found, found$value)
  # Options and places are no methods of their own.
  found$method <- sub(" [0-9]$", "", sub("^[0-9]$", "moments", found$key))
  found$verb <- sub("^equivalence.*", "equivalence", found$verb)
  found
}
