// Welch's test with its interval for many outcomes of the same rows at once.
#ifndef VANDRO_OUTCOMES_HPP
#define VANDRO_OUTCOMES_HPP

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <functional>
#include <limits>
#include <vector>

#include "chebyshev.hpp"
#include "student_t.hpp"

namespace vandro {

// `sides`: 0 both, 1 higher, -1 lower.
struct Question {
  int sides = 0;
  double beyond = 0.0;
  double level = 0.95;
};

// One entry per outcome; NaN where a group has fewer than two values or nothing varies.
struct WelchMany {
  std::vector<double> n_first, n_second, sd_first, sd_second, estimate, se, df, statistic, log_p,
      reach;
};

namespace detail {

struct GroupSums {
  double n = 0.0;
  double mean = 0.0;  // relative to `base`
  double sd = std::numeric_limits<double>::quiet_NaN();
};

// Sum of term(0) .. term(n - 1) in four lanes, which do not wait for each other.
template <class Term>
double sum_of(std::size_t n, const Term& term) {
  double lane[4] = {0.0, 0.0, 0.0, 0.0};
  const std::size_t whole = n - n % 4;
  for (std::size_t i = 0; i < whole; i += 4) {
    for (std::size_t l = 0; l < 4; ++l) lane[l] += term(i + l);
  }
  for (std::size_t i = whole; i < n; ++i) lane[i - whole] += term(i);
  return (lane[0] + lane[1]) + (lane[2] + lane[3]);
}

// Two passes over values that lie in the first-level cache.
inline GroupSums group_sums(const std::vector<double>& values, std::size_t n, double base) {
  GroupSums out;
  out.n = static_cast<double>(n);
  if (n == 0) return out;
  out.mean = sum_of(n, [&](std::size_t i) { return values[i] - base; }) / out.n;
  if (n < 2) return out;
  const double centre = out.mean;
  double scale = 1.0;
  const auto squares = [&](std::size_t i) {
    const double d = (values[i] - base - centre) * scale;
    return d * d;
  };
  double m2 = sum_of(n, squares);
  if (!(m2 > 0x1p-900 && m2 < 0x1p900)) {  // squares may have left the range: once more, scaled
    double largest = 0.0;
    for (std::size_t i = 0; i < n; ++i) {
      largest = std::max(largest, std::fabs(values[i] - base - centre));
    }
    if (largest > 0.0)
      scale = std::ldexp(1.0, std::max(-1000, std::min(1000, -std::ilogb(largest))));
    m2 = sum_of(n, squares);
  }
  out.sd = std::sqrt(m2 / (out.n - 1.0)) / scale;
  return out;
}

// Quantiles of t for one tail and many degrees of freedom: smooth in 1 / df.
inline void t_quantiles(const std::vector<double>& df, double tail, std::vector<double>& out) {
  double low = std::numeric_limits<double>::infinity(), high = 0.0;
  for (double one : df) {
    if (!(one > 0.0)) continue;
    low = std::min(low, 1.0 / one);
    high = std::max(high, 1.0 / one);
  }
  out.assign(df.size(), std::numeric_limits<double>::quiet_NaN());
  Chebyshev<1> curve;
  const bool smooth =
      df.size() > 64 && high <= 0.5 &&
      curve.fit(
          [&](double u) { return std::array<double, 1>{StudentT(1.0 / u).upper_quantile(tail)}; },
          low, high, 24, 1e-14);
  for (std::size_t i = 0; i < df.size(); ++i) {
    if (df[i] > 0.0) out[i] = smooth ? curve(1.0 / df[i])[0] : StudentT(df[i]).upper_quantile(tail);
  }
}

// As core_welch_error() does it: shares of the larger part, so that no square leaves the range.
inline void welch_one(const GroupSums& a, const GroupSums& b, const Question& question,
                      std::size_t at, WelchMany& out) {
  constexpr double none = std::numeric_limits<double>::quiet_NaN();
  out.n_first[at] = a.n;
  out.n_second[at] = b.n;
  out.sd_first[at] = a.sd;
  out.sd_second[at] = b.sd;
  out.estimate[at] = a.n > 0.0 && b.n > 0.0 ? a.mean - b.mean : none;
  out.se[at] = out.df[at] = out.statistic[at] = out.log_p[at] = none;
  if (a.n < 2.0 || b.n < 2.0) return;
  const double part_a = a.sd / std::sqrt(a.n), part_b = b.sd / std::sqrt(b.n);
  const double size = std::max(part_a, part_b);
  if (!(size > 0.0)) return;
  const double share_a = (part_a / size) * (part_a / size);
  const double share_b = (part_b / size) * (part_b / size);
  const double total = share_a + share_b;
  out.se[at] = size * std::sqrt(total);
  const double wa = share_a / total, wb = share_b / total;
  out.df[at] = 1.0 / (wa * wa / (a.n - 1.0) + wb * wb / (b.n - 1.0));
  const double t = (out.estimate[at] - question.beyond) / out.se[at];
  out.statistic[at] = t;
  const StudentT student(out.df[at]);
  out.log_p[at] = question.sides == 0  ? student.log_both(t)
                  : question.sides > 0 ? student.log_upper(t)
                                       : student.log_upper(-t);
}

}  // namespace detail

// `x`: `columns` outcomes of `rows` values each, one after the other; missing values are NaN.
inline bool welch_many(const double* x, std::size_t rows, std::size_t columns, const int* codes,
                       int first, int second, const Question& question, WelchMany& out,
                       const std::function<bool()>& keep_going = {}) {
  for (std::vector<double>* part : {&out.n_first, &out.n_second, &out.sd_first, &out.sd_second,
                                    &out.estimate, &out.se, &out.df, &out.statistic, &out.log_p}) {
    part->resize(columns);
  }
  // Which rows belong to which group is the same for every outcome.
  std::vector<std::size_t> rows_first, rows_second;
  for (std::size_t i = 0; i < rows; ++i) {
    if (codes[i] == first) rows_first.push_back(i);
    if (codes[i] == second) rows_second.push_back(i);
  }
  std::vector<double> a(rows_first.size()), b(rows_second.size());
  const auto gather = [](const double* column, const std::vector<std::size_t>& at,
                         std::vector<double>& to) {
    std::size_t kept = 0;
    for (std::size_t i : at) {
      to[kept] = column[i];
      kept += static_cast<std::size_t>(!std::isnan(column[i]));
    }
    return kept;
  };
  for (std::size_t j = 0; j < columns; ++j) {
    const double* column = x + j * rows;
    const std::size_t na = gather(column, rows_first, a), nb = gather(column, rows_second, b);
    const double base =
        na > 0 ? a[0] : 0.0;  // differences of means never pass through rounded means
    detail::welch_one(detail::group_sums(a, na, base), detail::group_sums(b, nb, base), question, j,
                      out);
    if (j % 1024 == 1023 && keep_going && !keep_going()) return false;
  }
  detail::t_quantiles(out.df, 0.5 * (1.0 - question.level), out.reach);
  for (std::size_t j = 0; j < columns; ++j) out.reach[j] *= out.se[j];
  return true;
}

}  // namespace vandro

#endif
