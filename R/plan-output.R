# The folder of a run: everything in it comes from one run, and it replaces an earlier one whole.

check_run_folder <- function(folder, overwrite, call = rlang::caller_env()) {
  folder <- check_text(folder, arg = "output", call = call, null = FALSE)
  folder <- sub("(?<=.)/+$", "", folder, perl = TRUE)
  if (dir.exists(folder)) folder <- normalizePath(folder)
  recover_folder(folder)
  if (file.exists(folder) && !dir.exists(folder)) {
    abort_vandro(
      c("{.arg output} must be a folder.", "x" = "{.file {folder}} is a file."), "output",
      file = folder, call = call
    )
  }
  parent <- dirname(folder)
  if (!dir.exists(parent) || file.access(parent, 2) != 0) {
    abort_vandro(
      c("The folder {.file {folder}} cannot be made.", "x" = "{.file {parent}} {if (dir.exists(parent)) 'may not be
        written to' else 'is not there'}."),
      "output",
      file = folder, call = call
    )
  }
  refuse_held_files(folder, overwrite, call)
  folder
}

# What is there already stays, but for an earlier run that may be written over.
refuse_held_files <- function(folder, overwrite, call) {
  top <- list.files(folder, all.files = TRUE, no.. = TRUE)
  if (length(top) == 0) return(invisible())
  own <- files_of_run(folder)
  foreign <- setdiff(top, sub("/.*", "", own))
  # The folders within are looked through only where a run has made all of them.
  if (length(foreign) == 0) foreign <- setdiff(list.files(folder, all.files = TRUE, recursive = TRUE, no.. = TRUE), own)
  if (length(foreign)) {
    abort_vandro(
      c(
        "The folder {.file {folder}} holds something that no run has written.",
        "x" = "There is {.file {foreign[[1]]}}.",
        "i" = "Choose another folder, or move that away."
      ),
      "file_exists",
      file = folder, call = call
    )
  }
  if (!overwrite) {
    abort_vandro(
      c(
        "The folder {.file {folder}} holds an earlier run and was left as it is.",
        "i" = "Choose another one, or say {.code overwrite = TRUE} (command line: {.code --force})."
      ),
      "file_exists",
      file = folder, call = call
    )
  }
}

# Names of what an earlier run wrote, by its own list.
files_of_run <- function(folder) {
  file <- file.path(folder, "results.json")
  if (!file.exists(file)) return(character())
  found <- tryCatch(jsonlite::fromJSON(file, simplifyVector = TRUE), error = function(e) NULL)
  if (identical(found$layout, "vandro-run")) as.character(found$files) else character()
}

# Writes everything into a folder beside `output`, which then takes its place.
write_run <- function(run, output, outputs, tell, overwrite, call = rlang::caller_env()) {
  tell(basename(output), "report, tables, figures")
  written <- character()
  write_whole_folder(output, function(draft) {
    with_conventions(run$plan$house, NULL, {
      write_run_tables(run, draft, outputs$tables)
      write_run_figures(run, draft, outputs)
    })
    for (ending in outputs$report) write_run_report(run, file.path(draft, paste0("report.", ending)))
    write_whole_text(file.path(draft, "record.txt"), record_lines(run))
    write_whole_text(file.path(draft, "runs.csv"), table_csv(run$runs))
    if (!file.copy(run$plan$file, file.path(draft, "plan.yaml"))) check_readable(run$plan$file)
    written <<- sorted_text(c(list.files(draft, recursive = TRUE), "results.json"))
    write_whole_text(file.path(draft, "results.json"), run_json(run, written))
  }, call, function() refuse_held_files(output, overwrite, call))
  written
}

# One CSV for each question over all comparisons; one table for papers for each comparison.
write_run_tables <- function(run, folder, endings) {
  if (length(endings) == 0) return(invisible())
  folder <- file.path(folder, "tables")
  dir.create(folder)
  if ("csv" %in% endings) {
    for (question in names(plan_verbs)) {
      table <- run_table(run, question)
      if (!is.null(table)) write_whole_text(file.path(folder, paste0(question, ".csv")), table_csv(table))
    }
  }
  for (name in names(run$studies)) {
    for (ending in setdiff(endings, "csv")) {
      file <- file.path(folder, paste0(name, ".", ending))
      quietly(results_table(run$answers[[name]]$difference, file = file))
    }
  }
}

place_in_report <- function(question) if (question == "cross_check") "agreement" else question

# The rows of one question of all comparisons.
run_table <- function(run, question) {
  tables <- lapply(names(run$answers), function(name) {
    answer <- run$answers[[name]][[place_in_report(question)]]
    if (is.null(answer)) return(NULL)
    at <- run$standing$study == name & run$standing$question == question
    cbind(study = name, standing = run$standing$standing[at], answer$table)
  })
  tables <- keep_given(tables)
  if (length(tables)) stack_tables(tables)
}

write_run_figures <- function(run, folder, outputs) {
  if (length(outputs$figures) == 0) return(invisible())
  folder <- file.path(folder, "figures")
  dir.create(folder)
  jobs <- unlist(lapply(names(run$answers), function(name) {
    answers <- run$answers[[name]]
    asked <- intersect(c("difference", "equivalence", "evidence"), names(run$plan$fields$comparisons[[name]]$ask))
    job <- function(answer, what, ...) {
      list(answer = answer, path = file.path(folder, sprintf("%s-%s", name, what)), look = list(...))
    }
    of_question <- function(question, outcome) {
      several <- length(run$studies[[name]]$outcomes) > 1
      at <- record_place(run$studies[[name]], outcome)
      job(answers[[question]], paste0(question, if (several) paste0("-", at)), outcome = outcome)
    }
    c(
      list(job(answers$difference, "paper", view = "paper")),
      unlist(lapply(asked, function(question) {
        lapply(run$studies[[name]]$outcomes, function(outcome) of_question(question, outcome))
      }), recursive = FALSE)
    )
  }), recursive = FALSE)
  on_two_cores(jobs, function(job) {
    for (ending in outputs$figures) {
      file <- paste0(job$path, ".", ending)
      quietly(rlang::inject(
        save_figure(job$answer, file, columns = outputs$columns, dpi = outputs$dpi, overwrite = TRUE, !!!job$look)
      ))
    }
    TRUE
  })
}

# The set-up, one field per line. A changed field is one changed line.
record_lines <- function(run) {
  c(
    sprintf("vandro: %s", run$version), sprintf("%s: %s", names(run$plan$record), run$plan$record),
    if (nrow(run$data)) sprintf("bytes of %s: %s", run$data$name, run$data$fingerprint),
    if (!is.null(run$plan$house)) {
      words <- convention_words(run$plan$house)
      c(sprintf("house: %s", run$plan$house$name), sprintf("house %s: %s", names(words), words))
    }
  )
}

# --- What was run into this folder ----------------------------------------------------------------------------------

run_columns <- c("date", "plan", "study", "outcome", "question", "asked", "data", "version")

# Every different set-up once, oldest first: those of the earlier runs, and this one where it is new.
runs_so_far <- function(run, output) {
  before <- earlier_runs(output)
  now <- do.call(rbind, unlist(lapply(names(run$studies), function(name) {
    lapply(names(run$plan$fields$comparisons[[name]]$ask), function(question) run_rows(run, name, question))
  }), recursive = FALSE))
  key <- function(rows) do.call(paste, c(rows[c("study", "outcome", "question", "asked", "data")], sep = "\r"))
  rbind(before, now[!key(now) %in% key(before), ])
}

# A reason, or a seed, is no other way of asking.
run_rows <- function(run, name, question) {
  own <- question_record(run$plan, name, question)
  own <- own[setdiff(names(own), c("reason", "seed"))]
  method <- run$answers[[name]][[place_in_report(question)]]$settings$method
  if (!is.null(method) && !"primary" %in% names(own)) own <- c(primary = method[[1]], own)
  study <- run$studies[[name]]
  data.frame(
    date = run$date, plan = run$plan$fingerprint, study = name,
    outcome = vapply(study$outcomes, `[[`, "", "name"), question = question,
    asked = if (length(own)) paste(names(own), own, collapse = "; ") else "defaults", data = study_fingerprint(study),
    version = run$version
  )
}

earlier_runs <- function(output) {
  none <- as.data.frame(stats::setNames(rep(list(character()), length(run_columns)), run_columns))
  file <- if (!is.null(output)) file.path(output, "runs.csv")
  if (is.null(file) || !file.exists(file)) return(none)
  found <- read_measurements(file, as_written = TRUE, quiet = TRUE)
  if (!identical(names(found), run_columns)) {
    abort_vandro(
      c(
        "The log of earlier runs was changed and cannot be carried on.", "x" = "{.file {file}} has other columns.",
        "i" = "Choose another folder, or move this one away."
      ),
      "file",
      file = file, call = NULL
    )
  }
  found[] <- lapply(found, function(column) sub("^'(?=[\t\r\n ]*[-=+@])", "", as.character(column), perl = TRUE))
  found
}

# --- JSON -----------------------------------------------------------------------------------------------------------

run_json <- function(run, files = run$files) {
  need_package("jsonlite", "to write JSON")
  fields <- run$plan$fields
  answers <- unlist(lapply(names(run$answers), function(name) {
    lapply(told_questions(run$answers[[name]]), function(question) {
      at <- run$standing$study == name & run$standing$question == question
      list(
        study = name, question = question, standing = run$standing$standing[at],
        answer = answer_layout(run$answers[[name]][[place_in_report(question)]])
      )
    })
  }), recursive = FALSE)
  json_lines(list(
    layout = "vandro-run", layout_version = 1L, date = run$date, version = run$version,
    plan = list(
      title = fields$title, fingerprint = run$plan$fingerprint, declared = fields$declared,
      departs_from = fields$departs_from, record = as.list(run$plan$record)
    ),
    conventions = run$plan$house$name, data = json_rows(run$data), standing = json_rows(run$standing),
    runs = json_rows(run$runs), files = I(as.character(files)), answers = answers
  ))
}
