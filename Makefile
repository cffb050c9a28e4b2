# A newcomer needs two: make demo, make test.
.PHONY: demo test install extras check bench lint docs site sanitize fuzz validate coverage mutate clean

SOURCES := $(shell find R src inst data exec -type f -not -name '*.o' -not -name '*.so') \
  DESCRIPTION NAMESPACE

demo: .build/installed  ## the whole job on the shipped data
	@vandro=$$(Rscript --vanilla -e 'cat(system.file("exec/vandro", package = "vandro"))'); \
	  "$$vandro" demo --output demo --force

test: .build/installed  ## kernels with sanitizers and the package's tests (FILES=rank: only files of that name)
	@bash tools/setup.sh test
	@Rscript --vanilla tools/run-tests.R $(FILES)

# On a fresh machine the kernels compile while the rest is installed.
.build/installed: $(SOURCES) tools/install.sh tools/Makevars
	@bash tools/setup.sh compile
	@bash tools/setup.sh demo --meanwhile tools/compile.sh
	@bash tools/install.sh

install: .build/installed-whole  ## the package with its vignettes, and the command

.build/installed-whole: $(SOURCES) $(wildcard vignettes/* README.md man/*) tools/install.sh tools/Makevars
	@bash tools/setup.sh compile demo test
	@bash tools/install.sh with-vignettes

extras:  ## optional: Parquet, spreadsheets, PostgreSQL, and a browser for the tests
	@bash tools/setup.sh extras

sanitize: .build/installed  ## kernels under the sanitizers of addresses, undefined behaviour and threads, and valgrind
	@bash tools/setup.sh test
	@$(MAKE) --no-print-directory -j2 -f tests/cpp/Makefile
	@$(MAKE) --no-print-directory -j2 -f tests/cpp/Makefile SANITIZE=thread
	@$(MAKE) --no-print-directory -j2 -f tests/cpp/Makefile SANITIZE=none
	@$(MAKE) --no-print-directory -f tests/cpp/Makefile SANITIZE=none memcheck

CASES := 100000
fuzz: .build/installed  ## random cases at the public interface, the same ones every time (CASES=1000 for a taste)
	@bash tools/setup.sh test
	@Rscript --vanilla validation/fuzz/run.R $(CASES)

validate: .build/installed  ## proof anew: digits, error rates, invariances; hours (see CONTRIBUTING.md for the parts)
	@Rscript --vanilla validation/accuracy.R
	@Rscript --vanilla validation/invariances.R
	@for file in error_rates equivalence_rates interval_coverage permutation_rates rank_coverage corner_rates; do \
	  echo "== $$file"; Rscript --vanilla validation/$$file.R || exit 1; done

coverage: .build/installed  ## lines that the tests reach
	@bash tools/setup.sh test coverage
	@bash tools/coverage.sh

mutate: .build/installed  ## formulas and kernels disturbed one by one: do tests notice?
	@bash tools/setup.sh test
	@Rscript --vanilla validation/mutation_core.R
	@Rscript --vanilla validation/mutation_kernels.R

check:  ## R CMD check of the built package
	@bash tools/setup.sh compile demo test
	@bash tools/check.sh $(CHECK)

bench: .build/installed  ## timings as ratios, side by side in one run
	@rm -f bench/results.csv
	@for file in bench/bench-*.R; do echo "== $$file"; \
	  BENCH_RESULTS=bench/results.csv Rscript --vanilla $$file || exit 1; done
	@Rscript --vanilla bench/growth.R

lint:  ## style, spelling, layout of C++
	@bash tools/setup.sh test lint
	@Rscript --vanilla tools/spelling.R
	@Rscript --vanilla tools/prose.R
	@Rscript --vanilla -e 'found <- lintr::lint_package(); print(found); quit(status = length(found) > 0)'
	@clang-format --dry-run --Werror inst/include/vandro/*.hpp src/glue*.cpp src/glue.h tests/cpp/*.cpp

docs: .build/installed  ## help pages and exports of the kernels (pictures: tools/screenshots.R)
	@bash tools/setup.sh test docs
	@Rscript --vanilla -e 'Rcpp::compileAttributes(getwd())'
	@Rscript --vanilla -e 'suppressMessages(roxygen2::roxygenise(load_code = "installed"))'

site: .build/installed  ## the documentation as pages, in site/, without a network
	@bash tools/setup.sh test docs site
	@Rscript --vanilla tools/site.R

clean:
	rm -rf .build demo src/*.o src/*.so vandro.Rcheck vandro_*.tar.gz
