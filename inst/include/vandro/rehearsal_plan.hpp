// What is asked of made-up studies, and what is counted over them.
#ifndef VANDRO_REHEARSAL_PLAN_HPP
#define VANDRO_REHEARSAL_PLAN_HPP

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <iterator>
#include <limits>
#include <stdexcept>
#include <string>

namespace vandro {

enum class Method { welch, student, paired, ranks, signed_ranks, relative, permutation };

inline Method method_named(const std::string& name) {
  const char* const names[] = {"welch",        "student",  "paired",     "ranks",
                               "signed_ranks", "relative", "permutation"};
  const auto at = std::find(std::begin(names), std::end(names), name);
  if (at == std::end(names)) throw std::invalid_argument("no rehearsal of method " + name);
  return static_cast<Method>(at - std::begin(names));
}

// Which one-sided tests decide: that the difference is above `up_at`, below `down_at`, each at
// `tail`; one of them suffices, or both are needed.
struct Sides {
  bool up = true, down = true, both = false;
  double up_at = 0.0, down_at = 0.0, tail = 0.025;
  // The null values whose distributions give the lower and the upper limit of an interval.
  double lower_at() const { return up ? up_at : down_at; }
  double upper_at() const { return down ? down_at : up_at; }
};

struct RehearsalPlan {
  Sides sides;
  double width_tail = 0.025;     // to either side of the interval
  std::size_t width_every = 10;  // intervals that take long are found in every so-many-th study
  bool exact_ties = true;        // distribution of ranks given the ties, or the normal one
  bool exact_ranks = true;
  std::size_t assignments = 999;  // of a permutation test, where there are more
  bool studentized = true;        // its statistic
  // Bounds in SD units, for tests of means: critical values of Student's or the paired t, and for
  // Welch's test the bounds with a normal quantile.
  bool standardized = false;
  double sd_low = 0.0, sd_high = 0.0, t_low = 0.0, t_high = 0.0, z = 0.0;
  std::uint64_t seed = 0;
};

struct Rates {
  double studies = 0.0, rejected = 0.0, undefined = 0.0, widths = 0.0, width_sum = 0.0,
         width_squares = 0.0;
  void add(const Rates& other) {
    studies += other.studies;
    rejected += other.rejected;
    undefined += other.undefined;
    widths += other.widths;
    width_sum += other.width_sum;
    width_squares += other.width_squares;
  }
};

namespace detail {

struct Finding {
  bool defined = true, up = false, down = false;
  double half_width = std::numeric_limits<double>::quiet_NaN();
};

}  // namespace detail

}  // namespace vandro

#endif
