# `vandro demo`: the whole job on the shipped data, by the same commands a reader would type.

cli_demo <- function(parsed) {
  if (length(parsed$files)) abort_usage("{.code vandro demo} takes no FILE.")
  folder <- parsed$options$output %||% "vandro-demo"
  if (dir.exists(folder) && length(list.files(folder)) && !parsed$options$force) {
    abort_vandro(
      c(
        "The folder {.file {folder}} is not empty; nothing was written.",
        "i" = "Choose another with {.code --output}, or say {.code --force} to replace the demo's files."
      ),
      "file_exists",
      call = NULL
    )
  }
  if (!dir.exists(folder) && !dir.create(folder, recursive = TRUE, showWarnings = FALSE)) {
    abort_vandro("The folder {.file {folder}} could not be created.", "output", call = NULL)
  }
  data <- vapply(c("seedlings.csv", "root_damage.csv", "leaching.csv", "moisture.csv"), demo_data, "", folder)
  written <- unlist(lapply(demo_commands(data, folder), demo_step, parsed$dispatch))
  put_out(c("", "Files written:", paste0("  ", c(data, written))))
  invisible(written)
}

demo_data <- function(name, folder) {
  file <- file.path(folder, name)
  if (!file.copy(system.file("extdata", name, package = "vandro"), file, overwrite = TRUE)) {
    abort_vandro("{.file {file}} could not be written.", "output", call = NULL)
  }
  file
}

demo_commands <- function(data, folder) {
  question <- c(
    data[[1]], "--outcome", "height", "--by", "substrate", "--groups", "compost,peat", "--unit", "cm",
    "--label", "Stem height"
  )
  scores <- c(
    data[[2]], "--outcome", "score", "--by", "substrate", "--counts", "plants", "--groups", "compost,peat",
    "--label", "Root damage", "--method", "ranks"
  )
  plots <- c(
    data[[3]], "--outcome", "nitrate", "--by", "cover", "--groups", "bare,sown", "--unit", "mg/l", "--label", "Nitrate"
  )
  permuted <- c(plots, "--method", "permutation")
  probes <- c(
    data[[4]], "--paired", "--first", "probe_a", "--second", "probe_b", "--unit", "%", "--label", "Soil moisture",
    "--within", "0.5", "--reason", "the valve opens in steps of 0.5 %"
  )
  colour <- c(
    data[[1]], "--outcome", "chlorophyll", "--by", "substrate", "--groups", "compost,peat", "--label", "Chlorophyll"
  )
  published <- c(
    "--n", "18,20", "--mean", "22.1,19.8", "--sd", "3.9,3.2", "--groups", "compost,peat", "--unit", "cm", "--label",
    "Stem height, Hillside"
  )
  supposed <- c(
    "--difference", "2.5", "--sd", "3,4", "--groups", "compost,peat", "--unit", "cm", "--label", "Stem height"
  )
  into <- function(name) c("--output", file.path(folder, name), "--force")
  list(
    c("describe", question), c("assumptions", question), c("difference", question), c("effect", question),
    c("narrate", question), c("plot", question, into("figure.png")), c("table", question, into("table.docx")),
    c("report", question, into("report.html"), "--title", "Seedlings on two substrates"),
    c("difference", question, "--format", "json", into("difference.json")),
    c("difference", scores), c("difference", permuted), c("cross-check", plots),
    c("equivalence", probes), c("plot", probes, into("equivalence.png")), c("narrate", probes),
    c("evidence", colour), c("difference", published), c("rehearse", supposed, "--power", "0.8"),
    c("plan", question, into("plan.yaml")), c("run", file.path(folder, "plan.yaml"), into("results"))
  )
}

# Shows the command as it would be typed, runs it, and returns the file it wrote, if any.
demo_step <- function(args, dispatch) {
  plain <- grepl("^[-A-Za-z0-9_.,=/]+$", args)
  typed <- ifelse(plain, args, encodeString(args, quote = "\""))
  put_out(c("", paste("$ vandro", paste(typed, collapse = " "))))
  dispatch(args)
  at <- match("--output", args)
  if (!is.na(at)) args[[at + 1]]
}
