// SPDX-License-Identifier: MIT
// Four floats that are worked on at once; g++, clang and emscripten all know these vectors.
#pragma once

#include <cstring>

namespace grafema::detail {

using Four = float __attribute__((vector_size(16)));
using FourInts = int __attribute__((vector_size(16)));

inline Four all(float v) { return Four{v, v, v, v}; }

inline Four load(const float* from) {
  Four v;
  std::memcpy(&v, from, sizeof v);
  return v;
}
inline void store(float* to, Four v) { std::memcpy(to, &v, sizeof v); }

/// `a` where the mask is set, else `b`.
inline Four select(FourInts mask, Four a, Four b) { return mask ? a : b; }
inline Four smaller(Four a, Four b) { return select(a < b, a, b); }
inline Four larger(Four a, Four b) { return select(a > b, a, b); }

}  // namespace grafema::detail
