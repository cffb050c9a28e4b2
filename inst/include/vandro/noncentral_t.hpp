// Noncentral t distribution: both tails, and the noncentrality at which a tail has a given size.
//
// T = (Z + delta) / S with S = chi_df / sqrt(df), so that
//   P(T <= t) = integral over s > 0 of f(s) Phi(t s - delta) ds.
// Where |t s - delta| is large Phi is 0 or 1 to far beyond double precision and the rest of the
// integral is a chi-square tail in closed form; between, both factors are smooth at the spacing of
// a Gauss-Legendre rule whatever t and df are. Every result is a sum of positive terms: each tail
// keeps its relative accuracy.
#ifndef VANDRO_NONCENTRAL_T_HPP
#define VANDRO_NONCENTRAL_T_HPP

#include <algorithm>
#include <array>
#include <boost/math/quadrature/gauss.hpp>
#include <boost/math/special_functions/gamma.hpp>
#include <cmath>
#include <cstddef>
#include <functional>
#include <limits>
#include <vector>

#include "chebyshev.hpp"
#include "normal.hpp"
#include "parallel.hpp"

namespace vandro {

struct NoncentralT {
  double lower = 0.0;    // P(T <= t)
  double upper = 0.0;    // P(T > t)
  double density = 0.0;  // -d lower / d ncp
};

struct NcpLimits {
  double lower = 0.0;
  double upper = 0.0;
  bool converged = false;
};

namespace detail {

// Boost would compute in long double: several times slower, and no wider on some machines.
using InDouble = boost::math::policies::policy<boost::math::policies::promote_double<false>>;

constexpr double phi_reach = 9.2;   // Phi(-9.2) = 1.8e-20
constexpr double chi_reach = 10.0;  // support of S in its standard deviations

// Density of S = chi_df / sqrt(df), written around s = 1 so that no large logarithms cancel.
class ChiScale {
 public:
  explicit ChiScale(double df)
      : df_(df),
        constant_(std::sqrt(df / 3.14159265358979323846) *
                  std::exp(-stirling_remainder(0.5 * df))) {}
  double df() const { return df_; }
  double density(double s) const {
    if (s <= 0.0) return 0.0;
    // Rounding of log1p costs sqrt(df) ulp at most where the density matters: 1e-12 at df = 1e7.
    const double e = s - 1.0;
    return constant_ * std::exp(df_ * (std::log1p(e) - e - 0.5 * e * e)) / s;
  }
  double below(double s) const {
    return s <= 0.0 ? 0.0 : boost::math::gamma_p(0.5 * df_, 0.5 * df_ * s * s, InDouble());
  }
  double above(double s) const {
    return s <= 0.0 ? 1.0 : boost::math::gamma_q(0.5 * df_, 0.5 * df_ * s * s, InDouble());
  }
  double support_low() const { return std::max(0.0, 1.0 - chi_reach / std::sqrt(2.0 * df_)); }
  double support_high() const { return 1.0 + chi_reach / std::sqrt(2.0 * df_) + 4.0 / df_; }

 private:
  double df_;
  double constant_;
};

// Places s and weights f(s) ds of the integral over the part of S where the transition lies. They
// depend on df, t and that part only: where it is the whole support of S, as for all but large t,
// one set serves every noncentrality that is tried.
class Nodes {
 public:
  void cover(const ChiScale& chi, double t, double low, double high) {
    if (count_ > 0 && low == low_ && high == high_) return;
    low_ = low;
    high_ = high;
    count_ = 0;
    // From 20 degrees of freedom the density is smooth at 0 and one panel serves. Below, the panel
    // at 0 is short enough that Phi hardly turns in it.
    const double near_zero = std::min({0.25, 1.0 / t, high});
    const double split = chi.df() >= 20.0 ? low : std::max(low, near_zero);
    add_panel(chi, low, split, true);
    add_panel(chi, split, high, false);
  }
  // Adds the integral of f(s) times Phi, its complement and its density.
  void integrate(double t, double delta, NoncentralT& out) const {
    for (std::size_t i = 0; i < count_; ++i) {
      const double f = weight_[i];
      const double x = t * s_[i] - delta;
      const double tail = normal_cdf(-std::fabs(x));
      out.lower += f * (x < 0.0 ? tail : 1.0 - tail);
      out.upper += f * (x < 0.0 ? 1.0 - tail : tail);
      out.density += f * normal_density(x);
    }
  }

 private:
  using Rule = boost::math::quadrature::gauss<double, 64>;
  // For small df the density of S may be singular at 0: s = b v^q smooths it.
  void add_panel(const ChiScale& chi, double a, double b, bool from_zero) {
    if (!(b > a)) return;
    const double q = from_zero ? std::ceil(14.0 / chi.df()) : 1.0;
    const double v_low = a <= 0.0 ? 0.0 : std::pow(a / b, 1.0 / q);
    const double half = from_zero ? 0.5 * (1.0 - v_low) : 0.5 * (b - a);
    const double middle = from_zero ? 0.5 * (1.0 + v_low) : 0.5 * (a + b);
    const auto add = [&](double node, double weight) {
      double s = middle + half * node;
      double jacobian = half;
      if (from_zero) {
        const double power = std::pow(s, q - 1.0);
        jacobian *= b * q * power;
        s *= b * power;
      }
      const double f = weight * jacobian * chi.density(s);
      if (f < negligible) return;
      s_[count_] = s;
      weight_[count_++] = f;
    };
    for (std::size_t i = 0; i < Rule::abscissa().size(); ++i) {
      add(Rule::abscissa()[i], Rule::weights()[i]);
      add(-Rule::abscissa()[i], Rule::weights()[i]);
    }
  }

  // All weights sum to 1; what 128 of these leave out is below 1e-20.
  static constexpr double negligible = 1e-22;
  std::array<double, 128> s_;
  std::array<double, 128> weight_;
  std::size_t count_ = 0;
  double low_ = 0.0;
  double high_ = 0.0;
};

// t > 0.
inline NoncentralT positive_t(const ChiScale& chi, double t, double delta, Nodes& nodes) {
  NoncentralT out;
  double low = std::max(chi.support_low(), (delta - phi_reach) / t);
  double high = std::min(chi.support_high(), (delta + phi_reach) / t);
  // A part nearly as wide as the support is widened to it, so that its nodes can be used again.
  if (1.5 * (high - low) > chi.support_high() - chi.support_low()) {
    low = chi.support_low();
    high = chi.support_high();
  }
  if (high <= low) {  // the whole distribution of S lies on one side of the transition
    const double s = std::max(0.0, delta / t);
    out.lower = chi.above(s);
    out.upper = chi.below(s);
    return out;
  }
  nodes.cover(chi, t, low, high);
  nodes.integrate(t, delta, out);
  if (high < chi.support_high()) out.lower += chi.above(high);
  if (low > chi.support_low()) out.upper += chi.below(low);
  return out;
}

}  // namespace detail

// Distribution of the noncentral t with `df` > 0 degrees of freedom and noncentrality `ncp` at a
// finite `t`. Tails below about 1e-13 lose relative accuracy.
inline NoncentralT noncentral_t(double t, double df, double ncp) {
  if (t == 0.0) {
    return {detail::normal_cdf(-ncp), detail::normal_cdf(ncp), detail::normal_density(ncp)};
  }
  const detail::ChiScale chi(df);
  detail::Nodes nodes;
  if (t > 0.0) return detail::positive_t(chi, t, ncp, nodes);
  const NoncentralT mirrored = detail::positive_t(chi, -t, -ncp, nodes);
  return {mirrored.upper, mirrored.lower, mirrored.density};
}

namespace detail {

// The noncentrality at which P(T <= t) has the probit `target`; decreasing in ncp and almost linear
// on this scale, so a safeguarded Newton iteration needs two or three steps.
inline bool solve_ncp(const ChiScale& chi, Nodes& nodes, double t, double target, double& ncp) {
  double low = -std::numeric_limits<double>::infinity();
  double high = std::numeric_limits<double>::infinity();
  double stride = 1.0 + std::fabs(t) / std::sqrt(chi.df());
  for (int step = 0; step < 200; ++step) {
    const NoncentralT at =
        t == 0.0 ? noncentral_t(0.0, chi.df(), ncp) : positive_t(chi, t, ncp, nodes);
    const bool usable = at.lower > 1e-300 && at.upper > 1e-300 && at.density > 0.0;
    const double value = usable ? probit(at.lower, at.upper) : 0.0;
    const bool too_high = usable ? value < target : at.lower <= at.upper;
    (too_high ? high : low) = ncp;
    double next = ncp;
    if (usable) {
      next = ncp + (value - target) * normal_density(value) / at.density;
      // Newton squares the error: what is left after a step this small is below rounding. Tested
      // before the bracket, which rounding may put the step outside of.
      if (std::fabs(next - ncp) <= 1e-8 * std::max(1.0, std::fabs(ncp))) {
        ncp = next;
        return true;
      }
    }
    if (!usable || !(next > low && next < high)) {
      const bool bracketed = std::isfinite(low) && std::isfinite(high);
      next = bracketed ? 0.5 * (low + high) : ncp + (too_high ? -stride : stride);
      stride *= 2.0;
      if (bracketed && high - low <= 4e-15 * std::max(1.0, std::fabs(ncp))) {
        ncp = next;
        return true;
      }
    }
    ncp = next;
  }
  return false;
}

// The last step, which settles the digits: one Newton step from the next point of a grid fine
// enough that the step's error is below rounding. However `ncp` was found, the result is the same,
// unless it lies so near the middle between two points that its own error decides which is next:
// then false, where it was not `solved` for this t alone.
inline bool settle_ncp(const ChiScale& chi, Nodes& nodes, double t, double target, bool solved,
                       double& ncp) {
  constexpr double open_share = 0.01;
  const double step = std::ldexp(1.0, std::ilogb(std::max(1.0, std::fabs(ncp))) - 30);
  const double place = std::nearbyint(ncp / step);
  if (!solved && std::fabs(std::fabs(ncp / step - place) - 0.5) < open_share) return false;
  const double from = place * step;
  const NoncentralT at =
      t == 0.0 ? noncentral_t(0.0, chi.df(), from) : positive_t(chi, t, from, nodes);
  if (!(at.lower > 1e-300 && at.upper > 1e-300 && at.density > 0.0)) return solved;
  const double value = probit(at.lower, at.upper);
  ncp = from + (value - target) * normal_density(value) / at.density;
  return true;
}

}  // namespace detail

// Interval for the noncentrality given an observed `t`: at its lower limit the tail above t, at its
// upper limit the tail below t has probability (1 - level) / 2.
inline NcpLimits ncp_limits(double t, double df, double level) {
  const detail::ChiScale chi(df);
  detail::Nodes nodes;
  const double tail = 0.5 * (1.0 - level);
  const double z = -detail::probit(tail, 1.0 - tail);
  const double size = std::fabs(t);
  // Start: T is about normal with mean ncp (1 + 1 / 4 df) and variance 1 + t^2 / 2 df.
  const double centre = size * (1.0 - 1.0 / (4.0 * df + 1.0));
  const double spread = z * std::sqrt(1.0 + 0.5 * size * size / df);
  NcpLimits out{centre - spread, centre + spread, false};
  const bool low = detail::solve_ncp(chi, nodes, size, z, out.lower) &&
                   detail::settle_ncp(chi, nodes, size, z, true, out.lower);
  const bool high = detail::solve_ncp(chi, nodes, size, -z, out.upper) &&
                    detail::settle_ncp(chi, nodes, size, -z, true, out.upper);
  if (t < 0.0) {
    const double mirrored = -out.lower;
    out.lower = -out.upper;
    out.upper = mirrored;
  }
  out.converged = low && high;
  return out;
}

namespace detail {

constexpr std::size_t panel_nodes = 48;

// Limits for sorted |t| with equal df. Enough of them share one interpolant, from which each is
// settled to the digits it has alone; where that is not accurate the range is halved; few are
// solved one by one.
inline void limits_of_range(const std::vector<double>& size, std::size_t from, std::size_t to,
                            double df, double level, std::vector<NcpLimits>& out) {
  const auto solve_each = [&] {
    for (std::size_t i = from; i < to; ++i) out[i] = ncp_limits(size[i], df, level);
  };
  if (to - from < 2 * panel_nodes) return solve_each();
  const double low = size[from], high = size[to - 1];
  // The interpolant's error is in proportion to the largest limit: it must not dwarf the smallest.
  const bool alike = high <= 50.0 || low >= 0.25 * high;
  Chebyshev<2> curve;
  const auto solve = [&](double t) {
    const NcpLimits at = ncp_limits(t, df, level);
    constexpr double none = std::numeric_limits<double>::quiet_NaN();
    return at.converged ? std::array<double, 2>{at.lower, at.upper}
                        : std::array<double, 2>{none, none};
  };
  if (alike && curve.fit(solve, low, high, panel_nodes, 1e-13)) {
    const ChiScale chi(df);
    const double tail = 0.5 * (1.0 - level), z = -probit(tail, 1.0 - tail);
    Nodes nodes;
    for (std::size_t i = from; i < to; ++i) {
      // With few degrees of freedom the nodes depend on t.
      if (df < 20.0) nodes = Nodes();
      const auto limits = curve(size[i]);
      out[i] = {limits[0], limits[1], true};
      if (!settle_ncp(chi, nodes, size[i], z, false, out[i].lower) ||
          !settle_ncp(chi, nodes, size[i], -z, false, out[i].upper)) {
        out[i] = ncp_limits(size[i], df, level);
      }
    }
    return;
  }
  const auto begin = size.begin();
  const auto middle = std::upper_bound(begin + static_cast<std::ptrdiff_t>(from),
                                       begin + static_cast<std::ptrdiff_t>(to), 0.5 * (low + high));
  const auto split = static_cast<std::size_t>(middle - begin);
  if (split == from || split == to) return solve_each();
  limits_of_range(size, from, split, df, level, out);
  limits_of_range(size, split, to, df, level, out);
}

}  // namespace detail

// The same for many t. Those with equal df share their work. Returns false when `keep_going` asked
// to stop. NaN where t or df is.
inline bool ncp_limits(const std::vector<double>& t, const std::vector<double>& df, double level,
                       std::vector<NcpLimits>& out, int threads = 1,
                       const std::function<bool()>& keep_going = {}) {
  constexpr double none = std::numeric_limits<double>::quiet_NaN();
  out.assign(t.size(), NcpLimits{none, none, false});
  std::vector<std::size_t> order;
  for (std::size_t i = 0; i < t.size(); ++i) {
    if (std::isfinite(t[i]) && df[i] > 0.0) order.push_back(i);
  }
  std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
    return df[a] != df[b] ? df[a] < df[b] : std::fabs(t[a]) < std::fabs(t[b]);
  });
  // Ranges of equal df, each long enough to be worth its interpolant.
  const std::size_t share = order.size() / static_cast<std::size_t>(std::max(threads, 1)) + 1;
  const std::size_t at_once = std::min<std::size_t>(20000, std::max<std::size_t>(1000, share));
  std::vector<std::size_t> starts;
  for (std::size_t i = 0; i < order.size(); ++i) {
    if (i == 0 || i - starts.back() == at_once || df[order[i]] != df[order[i - 1]]) {
      starts.push_back(i);
    }
  }
  starts.push_back(order.size());
  const auto limits_of = [&](std::size_t piece) {
    const std::size_t start = starts[piece];
    std::vector<double> size(starts[piece + 1] - start);
    for (std::size_t i = 0; i < size.size(); ++i) size[i] = std::fabs(t[order[start + i]]);
    std::vector<NcpLimits> found(size.size());
    detail::limits_of_range(size, 0, size.size(), df[order[start]], level, found);
    for (std::size_t i = 0; i < size.size(); ++i) {
      const std::size_t at = order[start + i];
      out[at] =
          t[at] < 0.0 ? NcpLimits{-found[i].upper, -found[i].lower, found[i].converged} : found[i];
    }
  };
  return in_pieces(starts.size() - 1, threads, limits_of, keep_going) &&
         (!keep_going || keep_going());
}

}  // namespace vandro

#endif
