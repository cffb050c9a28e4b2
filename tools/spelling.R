# Words of help pages, vignettes and the files for developers that no dictionary knows and tools/words.txt does not list.
known <- readLines("tools/words.txt", encoding = "UTF-8")
files <- c(
  list.files("vignettes", "[.]Rmd$", full.names = TRUE), list.files("man", "[.]Rd$", full.names = TRUE),
  "README.md", "NEWS.md", "ARCHITECTURE.md", "CONTRIBUTING.md"
)
found <- spelling::spell_check_files(files, ignore = known, lang = "en_GB")
print(found)
quit(save = "no", status = nrow(found) > 0)
