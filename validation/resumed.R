# What is done is kept, so that a run that was cut short goes on; removing the folder in .build starts anew.
resumed <- function(folder, name, make) {
  file <- file.path(".build", folder, paste0(name, ".rds"))
  if (file.exists(file)) return(readRDS(file))
  found <- make()
  dir.create(dirname(file), recursive = TRUE, showWarnings = FALSE)
  # Whole or not at all.
  part <- paste0(file, ".part")
  saveRDS(found, part)
  file.rename(part, file)
  found
}
