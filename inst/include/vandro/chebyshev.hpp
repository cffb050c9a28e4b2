// Smooth functions that are asked for thousands of values: interpolated at Chebyshev nodes.
#ifndef VANDRO_CHEBYSHEV_HPP
#define VANDRO_CHEBYSHEV_HPP

#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>
#include <vector>

namespace vandro {

// `Parts` functions of one variable on [low, high], found together. `fit` says whether the last
// coefficients have died away; where they have not, the interval is too long for this degree.
template <std::size_t Parts>
class Chebyshev {
 public:
  using Values = std::array<double, Parts>;

  template <class Function>
  bool fit(Function&& function, double low, double high, std::size_t count, double tolerance) {
    middle_ = 0.5 * (low + high);
    half_ = 0.5 * (high - low);
    const double pi = std::acos(-1.0);
    std::vector<Values> at(count);
    for (std::size_t i = 0; i < count; ++i) {
      const double angle = pi * (static_cast<double>(i) + 0.5) / static_cast<double>(count);
      at[i] = function(middle_ + half_ * std::cos(angle));
    }
    coefficients_.assign(count, Values{});
    for (std::size_t k = 0; k < count; ++k) {
      for (std::size_t i = 0; i < count; ++i) {
        const double angle = pi * static_cast<double>(k) * (static_cast<double>(i) + 0.5) /
                             static_cast<double>(count);
        for (std::size_t p = 0; p < Parts; ++p) coefficients_[k][p] += at[i][p] * std::cos(angle);
      }
      for (std::size_t p = 0; p < Parts; ++p) {
        coefficients_[k][p] *= (k == 0 ? 1.0 : 2.0) / static_cast<double>(count);
      }
    }
    return settled(tolerance);
  }

  // Clenshaw's recurrence.
  Values operator()(double x) const {
    const double u = half_ > 0.0 ? (x - middle_) / half_ : 0.0;
    Values out{};
    for (std::size_t p = 0; p < Parts; ++p) {
      double b1 = 0.0, b2 = 0.0;
      for (std::size_t k = coefficients_.size() - 1; k > 0; --k) {
        const double b0 = coefficients_[k][p] + 2.0 * u * b1 - b2;
        b2 = b1;
        b1 = b0;
      }
      out[p] = coefficients_[0][p] + u * b1 - b2;
    }
    return out;
  }

 private:
  bool settled(double tolerance) const {
    for (std::size_t p = 0; p < Parts; ++p) {
      double largest = 0.0, last = 0.0;
      for (std::size_t k = 0; k < coefficients_.size(); ++k) {
        const double size = std::fabs(coefficients_[k][p]);
        if (!std::isfinite(size)) return false;
        largest = std::max(largest, size);
        if (k + 3 >= coefficients_.size()) last = std::max(last, size);
      }
      if (last > tolerance * largest) return false;
    }
    return true;
  }
  double middle_ = 0.0;
  double half_ = 0.0;
  std::vector<Values> coefficients_;
};

}  // namespace vandro

#endif
