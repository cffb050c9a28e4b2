# The report of a run: that of its studies, with what was planned in front and marks on what was not.

write_run_report <- function(run, file) {
  plan <- run$plan
  chapters <- run$answers
  names(chapters) <- chapter_headings(run)
  page <- list(title = plan$fields$title %||% chapters_title(chapters), author = plan$fields$author, date = run$date)
  own <- if (!is.null(plan$fields$text)) check_own_text(plan$fields$text, chapters) else list()
  look <- list(style = NULL, house = plan$house)
  with_conventions(plan$house, NULL, {
    page$blocks <- number_blocks(report_blocks(
      chapters, own, look, plan$outputs$parts, again_planned(run),
      planned = list(
        front = list(answers_section(chapters, standing_by_chapter(run)), plan_section(run)), marks = run_marks(run),
        back = doc_section("Log of runs", tried_blocks(run))
      )
    ))
    write_page(page, file, TRUE)
  })
}

chapter_headings <- function(run) {
  headings <- vapply(names(run$studies), function(name) {
    run$plan$fields$comparisons[[name]]$heading %||% study_title(run$studies[[name]])
  }, "")
  make.unique(unname(headings), " ")
}

# What goes with a part of a report in the words of a plan.
question_parts <- c(
  description = "description", assumptions = "checks", effect = "size", difference = "test",
  equivalence = "equivalence", evidence = "evidence", cross_check = "agreement",
  subgroups = "subgroups"
)

mark_words <- c(
  planned = "Planned; ", departed = "Departs from the plan: ", "in addition" = "Exploratory, in addition to the plan: "
)

# By chapter and part: what stands in front of what was not planned, or not so.
run_marks <- function(run) {
  marks <- lapply(names(run$studies), function(name) {
    rows <- run$standing[run$standing$study == name & run$standing$question %in% names(question_parts), ]
    rows <- rows[rows$standing %in% names(mark_words) & rows$what != "as declared", ]
    texts <- paste0(mark_words[rows$standing], rows$what, ".")
    stats::setNames(as.list(texts), question_parts[rows$question])
  })
  stats::setNames(marks, chapter_headings(run))
}

plan_section <- function(run) {
  rows <- run$standing[run$standing$standing != "as a rule", ]
  headings <- stats::setNames(chapter_headings(run), names(run$studies))
  named <- ifelse(rows$study %in% names(headings), headings[rows$study], rows$study)
  doc_section(
    "Plan", doc_paragraph(declaration_sentence(run)), doc_paragraphs(standing_words(rows)),
    doc_table(
      list(
        comparison = named, question = ifelse(
          rows$question %in% names(question_words), question_words[rows$question], rows$question
        ),
        standing = ifelse(rows$what == "as declared", rows$standing, paste0(rows$standing, ": ", rows$what)),
        asked = question_cells(run, rows)
      ),
      "What was planned, asked in addition, and departed from"
    )
  )
}

# Gives each question of a chapter its word: planned, departed or exploratory.
standing_by_chapter <- function(run) {
  words <- c(planned = "planned", departed = "departed", "in addition" = "exploratory")
  headings <- chapter_headings(run)
  standing <- lapply(names(run$studies), function(name) {
    rows <- run$standing[run$standing$study == name, ]
    known <- rows[rows$standing %in% names(words), ]
    as.list(stats::setNames(words[known$standing], known$question))
  })
  stats::setNames(standing, headings)
}

question_words <- c(
  description = "description", assumptions = "checks of assumptions", effect = "size of the difference",
  difference = "difference", equivalence = "equivalence", evidence = "weight of evidence",
  cross_check = "agreement of the methods", subgroups = "differences between subgroups"
)

# The fields of a question in one cell: "primary welch; expect higher; reason compost holds more nitrogen".
question_cells <- function(run, rows) {
  vapply(seq_len(nrow(rows)), function(i) {
    if (rows$standing[[i]] == "not run" || !rows$question[[i]] %in% names(question_words)) return("")
    own <- question_record(run$plan, rows$study[[i]], rows$question[[i]])
    if (length(own)) paste(names(own), gsub("^[\\[\"]|[]\"]$", "", own), collapse = "; ") else "defaults"
  }, "")
}

declaration_sentence <- function(run) {
  declared <- run$plan$fields$declared
  when <- if (is.null(declared$date)) {
    "No date of declaration is on record."
  } else {
    sprintf("Declared on %s%s.", declared$date, if (is.null(declared$by)) "" else paste(" by", declared$by))
  }
  file <- basename(run$plan$file)
  seal <- if (is.null(declared$fingerprint)) {
    sprintf("The plan (%s) has the fingerprint %s.", file, run$plan$fingerprint)
  } else if (declared$fingerprint == run$plan$fingerprint) {
    sprintf("The plan (%s) has the fingerprint %s, as declared.", file, run$plan$fingerprint)
  } else {
    sprintf("The plan (%s) has the fingerprint %s; %s was declared.", file, run$plan$fingerprint, declared$fingerprint)
  }
  from <- run$plan$fields$departs_from
  paste(c(
    when, seal, if (!is.null(from)) sprintf("It departs from the plan in %s.", from),
    if (!is.null(run$plan$base)) "It was run with changes to what stands in its file."
  ), collapse = " ")
}

# "3 questions were planned and carried out as declared; ..."
standing_words <- function(rows) {
  count <- function(standing, one, several) {
    n <- sum(rows$standing == standing)
    if (n == 0) NULL else if (n == 1) paste("1", one) else paste(n, several)
  }
  said <- c(
    count("planned", "question was carried out as declared", "questions were carried out as declared"),
    count("in addition", "was asked in addition and is exploratory", "were asked in addition and are exploratory"),
    count("departed", "departs from the plan", "depart from the plan"),
    count("not run", "was declared and not carried out", "were declared and not carried out")
  )
  paste0(paste(said, collapse = "; "), ".")
}

# How many ways of asking were tried, of the questions that test something.
tried_blocks <- function(run) {
  runs <- run$runs[run$runs$question %in% c("difference", "equivalence", "evidence"), ]
  key <- paste(runs$study, runs$outcome, runs$question, sep = "\r")
  tried <- lapply(unique(key), function(one) {
    rows <- runs[key == one, ]
    # Fresh data are no other way of asking.
    ways <- unique(rows$asked)
    if (length(ways) > 1) {
      question <- capital(question_words[[rows$question[[1]]]])
      sprintf("%s of %s, %d ways: %s.", question, rows$outcome[[1]], length(ways), paste(ways, collapse = " / "))
    }
  })
  tried <- unlist(keep_given(tried))
  if (length(tried) == 0) {
    return(doc_paragraph(strong = "Runs on record: ", "every question was asked of every outcome in one way."))
  }
  list(
    doc_paragraph(strong = "Runs on record: ", "these questions were asked in several ways, oldest first."),
    doc_items(tried)
  )
}

# With what the call said itself.
again_planned <- function(run) {
  file <- basename(run$plan$file)
  instead <- run$plan$instead
  call <- c(
    encodeString(file, quote = "\""), "output = \"results\"",
    if (!is.null(instead)) paste("instead =", code_text(instead, "instead"))
  )
  typed <- paste(c(
    "vandro run", file, "--output results",
    if (!is.null(instead)) sprintf("--instead '%s'", paste(names(instead), instead, sep = "=", collapse = ";"))
  ), collapse = " ")
  list(
    doc_paragraph(
      "The plan repeats the whole analysis, in R or in a shell, if you run it in its own folder. ",
      "With the same data, only the date differs."
    ),
    doc_code(c(
      sprintf("# vandro %s; plan with fingerprint %s", run$version, run$plan$fingerprint),
      if (!identical(run$plan$house, run$plan$declared_house)) {
        sprintf("# conventions of the call: %s", run$plan$house$name)
      },
      "library(vandro)", sprintf("run_plan(%s)", paste(call, collapse = ", ")), "", paste("# or in a shell:", typed)
    ))
  )
}
