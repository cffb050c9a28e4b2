// Weight of evidence about a standardized effect: the likelihood of a t statistic against a prior.
//
// Given the effect delta a t statistic on df degrees of freedom is noncentral t with noncentrality
// mu = sqrt(size) delta. With T = (Z + mu) / S and y = sqrt(df + t^2) s its density is
//   C(t) exp(-df mu^2 / (2 (df + t^2))) I(x), I(x) = integral over y > 0 of y^df exp(-(y - x)^2 /
//   2),
// x = mu t / sqrt(df + t^2). Only its ratio to that of mu = 0 is ever needed; it is computed on the
// logarithmic scale around the mode of the integrand, so that nothing overflows or cancels.
#ifndef VANDRO_EVIDENCE_HPP
#define VANDRO_EVIDENCE_HPP

#include <algorithm>
#include <array>
#include <boost/math/quadrature/gauss_kronrod.hpp>
#include <boost/math/special_functions/gamma.hpp>
#include <cmath>
#include <cstddef>
#include <limits>
#include <vector>

namespace vandro {

// log of the likelihood of an effect over that of no effect.
class EffectLikelihood {
 public:
  // `size`: n1 n2 / (n1 + n2) of two groups, n of pairs.
  EffectLikelihood(double t, double df, double size)
      : t_(t),
        df_(df),
        root_size_(std::sqrt(size)),
        whole_(std::hypot(t, std::sqrt(df))),
        base_(log_spread(df)) {}

  double log_ratio(double delta) const {
    const double mu = root_size_ * delta, x = mu * (t_ / whole_);
    // The mode of the integrand is sqrt(df) e^a.
    const double a = std::asinh(0.5 * x / std::sqrt(df_));
    const double shrunk = mu / whole_;
    return -0.5 * df_ * shrunk * shrunk + df_ * (a - 0.5 * std::expm1(-2.0 * a)) + a +
           log_spread(df_ * std::exp(2.0 * a)) - base_;
  }

  // About where it is largest, and how wide it is there, on the scale of delta.
  double centre() const { return t_ / root_size_; }
  double width() const { return std::sqrt(1.0 + 0.5 * t_ * t_ / df_) / root_size_; }
  // The effect that moves t by about 1.
  double unit() const { return 1.0 / root_size_; }

 private:
  // log of the integral over s of exp(s - df (e^s - 1 - s) - y0^2 (e^s - 1)^2 / 2), y0 the mode: by
  // the trapezoidal rule, which is exact to rounding for integrands that fade this fast.
  double log_spread(double mode_squared) const {
    const double sd = 1.0 / std::sqrt(df_ + mode_squared);
    const double step = std::min(0.55 * sd, 0.12);
    const auto value = [&](double s) {
      const double grown = std::expm1(s);
      return std::exp(s - df_ * (grown - s) - 0.5 * mode_squared * grown * grown);
    };
    double sum = value(0.0);
    for (int side : {-1, 1}) {
      for (int k = 1; k < 100000; ++k) {
        const double add = value(side * k * step);
        sum += add;
        if (add < 1e-17 * sum) break;
      }
    }
    return std::log(sum * step);
  }

  double t_, df_, root_size_, whole_, base_;
};

// A t distribution for the effect; df 1 is Cauchy's.
class EffectPrior {
 public:
  EffectPrior(double location, double scale, double df)
      : location_(location),
        scale_(scale),
        df_(df),
        constant_(-std::log(boost::math::tgamma_delta_ratio(0.5 * df, 0.5)) -
                  0.5 * std::log(df * 3.14159265358979323846) - std::log(scale)) {}

  double log_density(double delta) const {
    const double z = (delta - location_) / scale_;
    return constant_ - 0.5 * (df_ + 1.0) * std::log1p(z * z / df_);
  }
  double location() const { return location_; }
  double scale() const { return scale_; }

 private:
  double location_, scale_, df_, constant_;
};

// log of an integral of likelihood ratio times prior density, with the relative error of the
// integral.
struct LogMass {
  double log = -std::numeric_limits<double>::infinity();
  double error = 0.0;
};

// The likelihood at the nodes of a Gauss-Kronrod rule on panels that grow from the centres of
// likelihood and prior: evaluated once, it serves every prior width and every stretch.
class EvidenceGrid {
 public:
  // `scales`: smallest and largest prior scale that will be asked; `marks`: ends of stretches.
  EvidenceGrid(const EffectLikelihood& likelihood, double location, std::array<double, 2> scales,
               const std::vector<double>& marks)
      : likelihood_(likelihood) {
    const std::vector<double> cuts = cut_points(location, scales, marks);
    for (std::size_t i = 1; i < cuts.size(); ++i) panels_.push_back(panel(cuts[i - 1], cuts[i]));
  }

  // Halves panels until the mass over (from, to) is known to `error`: where a prior, or a side,
  // lies far out in the tail of the likelihood, the product is steep in places that neither
  // tells.
  void refine(const EffectPrior& prior, double from, double to, double error = 1e-11) {
    for (int round = 0; round < 80 && panels_.size() < 2000; ++round) {
      const Stretch found = stretch(prior, from, to);
      std::vector<double> weights;
      double sum = 0.0;
      for (const Part& one : found.parts) {
        weights.push_back(std::exp(one.top - found.top));
        sum += one.kronrod * weights.back();
      }
      std::vector<Panel> halved;
      std::size_t next = 0;
      for (std::size_t i = 0; i < panels_.size(); ++i) {
        const Panel& whole = panels_[i];
        const double middle = 0.5 * (whole.from + whole.to);
        if (next == found.used.size() || found.used[next] != i) {
          halved.push_back(whole);
          continue;
        }
        const bool coarse = weights[next] * part_error(found.parts[next]) > 0.1 * error * sum;
        ++next;
        if (!coarse || middle <= whole.from || middle >= whole.to) {
          halved.push_back(whole);
          continue;
        }
        halved.push_back(panel(whole.from, middle));
        halved.push_back(panel(middle, whole.to));
      }
      if (halved.size() == panels_.size()) return;
      panels_.swap(halved);
    }
  }

  // Over (from, to), whose ends are marks, cuts of other panels, or infinite.
  LogMass mass(const EffectPrior& prior, double from, double to) const {
    return together(stretch(prior, from, to));
  }

  // Below which a share p of the mass over (from, to) lies.
  double quantile(const EffectPrior& prior, double from, double to, double p) const {
    const Stretch found = stretch(prior, from, to);
    double all = 0.0;
    for (const Part& one : found.parts) all += one.kronrod * std::exp(one.top - found.top);
    double wanted = p * all;
    for (std::size_t i = 0; i < found.parts.size(); ++i) {
      const double here = found.parts[i].kronrod * std::exp(found.parts[i].top - found.top);
      if (wanted <= here || i + 1 == found.parts.size()) {
        return inside(panels_[found.used[i]], prior, found.top, wanted);
      }
      wanted -= here;
    }
    return std::numeric_limits<double>::quiet_NaN();
  }

 private:
  static constexpr std::size_t nodes_ = 21;
  struct Panel {
    double from = 0.0, to = 0.0;
    std::array<double, nodes_> log_ratio{};
  };
  struct Part {
    double top = 0.0, kronrod = 0.0, gauss = 0.0;
  };
  // The panels of a stretch, their integrals, and the largest of their logs.
  struct Stretch {
    std::vector<std::size_t> used;
    std::vector<Part> parts;
    double top = -std::numeric_limits<double>::infinity();
  };

  Stretch stretch(const EffectPrior& prior, double from, double to) const {
    Stretch out;
    for (std::size_t i = 0; i < panels_.size(); ++i) {
      if (panels_[i].from < from || panels_[i].to > to) continue;
      out.used.push_back(i);
      out.parts.push_back(part(panels_[i], prior));
      out.top = std::max(out.top, out.parts.back().top);
    }
    return out;
  }

  // Node k of -1 .. 1 with its weights in both rules; Boost keeps one half of each.
  struct Rule {
    std::array<double, nodes_> at{}, kronrod{}, gauss{}, weight{};
    Rule() {
      using Kronrod = boost::math::quadrature::gauss_kronrod<double, nodes_>;
      using Gauss = boost::math::quadrature::gauss<double, 10>;
      const auto& x = Kronrod::abscissa();
      const auto& w = Kronrod::weights();
      for (std::size_t k = 0; k < x.size(); ++k) {
        // The places of Gauss's ten nodes among them: every second one.
        const double inner = k % 2 == 1 ? Gauss::weights()[k / 2] : 0.0;
        at[10 + k] = x[k];
        at[10 - k] = -x[k];
        kronrod[10 + k] = kronrod[10 - k] = w[k];
        gauss[10 + k] = gauss[10 - k] = inner;
      }
      for (std::size_t k = 0; k < nodes_; ++k) {
        // Scaled so that the products stay near 1: the nodes fill an interval of capacity 1 / 2.
        weight[k] = 1.0;
        for (std::size_t j = 0; j < nodes_; ++j) {
          if (j != k) weight[k] /= 2.0 * (at[k] - at[j]);
        }
      }
    }
  };
  static const Rule& rule() {
    static const Rule made;
    return made;
  }

  std::vector<double> cut_points(double location, std::array<double, 2> scales,
                                 const std::vector<double>& marks) const {
    std::vector<double> cuts;
    const auto around = [&cuts](double centre, double least, double most) {
      cuts.push_back(centre);
      for (double step = least; step <= most; step *= 1.8) {
        cuts.push_back(centre - step);
        cuts.push_back(centre + step);
      }
    };
    const double far = std::fabs(likelihood_.centre() - location) + 60.0 * likelihood_.width();
    around(likelihood_.centre(), 0.5 * likelihood_.width(), far);
    around(location, std::min(0.5 * scales[0], 0.5 * far), std::max(far, 4.0 * scales[1]));
    // With few degrees of freedom and a large t the likelihood turns near no effect as well.
    if (likelihood_.width() > 3.0 * likelihood_.unit()) {
      around(0.0, 0.5 * likelihood_.unit(), std::fabs(likelihood_.centre()));
    }
    for (double mark : marks) {
      if (std::isfinite(mark)) cuts.push_back(mark);
    }
    std::sort(cuts.begin(), cuts.end());
    cuts.erase(std::unique(cuts.begin(), cuts.end()), cuts.end());
    return cuts;
  }

  Panel panel(double from, double to) const {
    Panel out{from, to, {}};
    for (std::size_t k = 0; k < nodes_; ++k) {
      out.log_ratio[k] = likelihood_.log_ratio(place(out, k));
    }
    return out;
  }

  static double place(const Panel& panel, std::size_t k) {
    return 0.5 * (panel.from + panel.to) + 0.5 * (panel.to - panel.from) * rule().at[k];
  }

  static Part part(const Panel& panel, const EffectPrior& prior) {
    std::array<double, nodes_> logs{};
    Part out{-std::numeric_limits<double>::infinity(), 0.0, 0.0};
    for (std::size_t k = 0; k < nodes_; ++k) {
      logs[k] = panel.log_ratio[k] + prior.log_density(place(panel, k));
      out.top = std::max(out.top, logs[k]);
    }
    const double half = 0.5 * (panel.to - panel.from);
    for (std::size_t k = 0; k < nodes_; ++k) {
      const double value = half * std::exp(logs[k] - out.top);
      out.kronrod += rule().kronrod[k] * value;
      out.gauss += rule().gauss[k] * value;
    }
    return out;
  }

  // The usual estimate: the higher rule is better than the difference of the two.
  static double part_error(const Part& one) {
    const double apart = std::fabs(one.kronrod - one.gauss) / one.kronrod;
    return one.kronrod * std::min(apart, std::pow(200.0 * apart, 1.5));
  }

  static LogMass together(const Stretch& found) {
    double sum = 0.0, error = 0.0;
    for (const Part& one : found.parts) {
      const double scale = std::exp(one.top - found.top);
      sum += one.kronrod * scale;
      error += part_error(one) * scale;
    }
    if (sum == 0.0) return {};
    return {found.top + std::log(sum), error / sum + 1e-15};
  }

  // Where the integral from the panel's lower end on reaches `wanted`, in units of e^top: by
  // Newton's method, kept between the ends. The likelihood inside is that of the polynomial through
  // its nodes.
  static double inside(const Panel& panel, const EffectPrior& prior, double top, double wanted) {
    const double width = panel.to - panel.from;
    double low = 0.0, high = 1.0, at = 0.5;
    for (int i = 0; i < 100 && high - low > 4e-16; ++i) {
      double below = 0.0;
      for (std::size_t k = 0; k < nodes_; ++k) {
        const double share = 0.5 * at * (1.0 + rule().at[k]);
        below += 0.5 * at * width * rule().kronrod[k] * value_at(panel, prior, top, share);
      }
      (below < wanted ? low : high) = at;
      const double slope = width * value_at(panel, prior, top, at);
      const double next = at - (below - wanted) / slope;
      const double before = at;
      at = next > low && next < high ? next : 0.5 * (low + high);
      if (std::fabs(at - before) < 1e-14) break;
    }
    return panel.from + at * width;
  }

  // Likelihood times prior at this share of the panel, in units of e^top (barycentric
  // interpolation).
  static double value_at(const Panel& panel, const EffectPrior& prior, double top, double share) {
    const double x = 2.0 * share - 1.0;
    double above = 0.0, below = 0.0;
    for (std::size_t k = 0; k < nodes_; ++k) {
      const double apart = x - rule().at[k];
      if (apart == 0.0) {
        above = panel.log_ratio[k];
        below = 1.0;
        break;
      }
      above += rule().weight[k] / apart * panel.log_ratio[k];
      below += rule().weight[k] / apart;
    }
    const double delta = panel.from + share * (panel.to - panel.from);
    return std::exp(above / below + prior.log_density(delta) - top);
  }

  EffectLikelihood likelihood_;
  std::vector<Panel> panels_;
};

}  // namespace vandro

#endif
