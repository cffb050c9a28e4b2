// Made-up measurements: two groups, or pairs through their changes, with given means and spreads
// and a given shape.
#ifndef VANDRO_MADE_UP_HPP
#define VANDRO_MADE_UP_HPP

#include <cmath>
#include <cstddef>
#include <vector>

#include "random.hpp"

namespace vandro {

// Shapes with mean 0 and SD 1.
enum class Shape {
  normal,
  uniform,
  skewed,           // exponential: skewness 2
  strongly_skewed,  // lognormal, SD of the logarithm 1: skewness 6.2
  heavy_tailed      // Student's t on 5 degrees of freedom: excess kurtosis 6
};

inline double standard_value(Shape shape, Random& random) {
  switch (shape) {
    case Shape::uniform:
      return (random.uniform() - 0.5) * 3.4641016151377545871;
    case Shape::skewed:
      return -std::log(random.uniform()) - 1.0;
    case Shape::strongly_skewed:
      return (std::exp(random.normal()) - 1.6487212707001281468) / 2.1611974158950878;
    case Shape::heavy_tailed: {
      const double z = random.normal();
      return z / std::sqrt(2.0 / 3.0 * random.gamma(2.5));
    }
    default:
      return random.normal();
  }
}

// Of one group; of pairs `first` describes the changes.
struct MadeUpGroup {
  double mean = 0.0, sd = 1.0;
  Shape shape = Shape::normal;
};

struct MadeUpWorld {
  MadeUpGroup first, second;
  bool paired = false;
  // Of pairs the second measurement is slope (change - its mean) plus a normal part with this SD,
  // so that both measurements get their spreads and correlation.
  double slope = 0.0, rest = 0.0;
  bool whole = false;  // values are rounded to whole numbers
  double doubt = 0.0;  // SD of the true difference around the assumed one
};

// One sample; of pairs `first` gets the changes and `second` the second measurements.
inline void make_up(const MadeUpWorld& world, Random& random, std::vector<double>& first,
                    std::vector<double>& second) {
  for (double& x : first)
    x = world.first.mean + world.first.sd * standard_value(world.first.shape, random);
  if (world.paired) {
    for (std::size_t i = 0; i < second.size(); ++i) {
      second[i] = world.second.mean + world.slope * (first[i] - world.first.mean) +
                  world.rest * random.normal();
    }
  } else {
    for (double& y : second)
      y = world.second.mean + world.second.sd * standard_value(world.second.shape, random);
  }
  if (world.doubt > 0.0) {
    const double shift = world.doubt * random.normal();
    for (double& x : first) x += shift;
  }
  if (!world.whole) return;
  if (world.paired) {
    for (std::size_t i = 0; i < second.size(); ++i) {
      const double rounded = std::nearbyint(second[i]);
      first[i] = std::nearbyint(second[i] + first[i]) - rounded;
      second[i] = rounded;
    }
    return;
  }
  for (double& x : first) x = std::nearbyint(x);
  for (double& y : second) y = std::nearbyint(y);
}

}  // namespace vandro

#endif
