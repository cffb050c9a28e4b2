// Blocks of values as the kernels of reassignment take them.
#ifndef VANDRO_GLUE_BLOCKS_H
#define VANDRO_GLUE_BLOCKS_H

#include <vandro/reassign.hpp>

#include "glue.h"

namespace glue {

inline std::vector<vandro::Block> as_blocks(const std::vector<double>& sizes,
                                            const std::vector<double>& chosen) {
  std::vector<vandro::Block> out;
  for (std::size_t b = 0; b < sizes.size(); ++b) {
    out.push_back({static_cast<std::uint32_t>(sizes[b]), static_cast<std::uint32_t>(chosen.at(b))});
  }
  return out;
}

}  // namespace glue

#endif
