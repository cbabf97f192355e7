// SPDX-License-Identifier: MIT
// Four floats that are worked on at once; g++, clang and emscripten all know these vectors.
#pragma once

#include <cmath>
#include <cstdint>
#include <cstring>
#if defined(__SSE4_1__)
#include <smmintrin.h>
#elif defined(__SSE2__)
#include <emmintrin.h>
#endif

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
#if defined(__SSE2__)  // one instruction each, which compilers may not choose by themselves
inline Four smaller(Four a, Four b) { return _mm_min_ps(a, b); }
inline Four larger(Four a, Four b) { return _mm_max_ps(a, b); }
inline Four root(Four v) { return _mm_sqrt_ps(v); }
/// Whether all of a mask is set.
inline bool all_set(FourInts mask) { return _mm_movemask_ps(reinterpret_cast<__m128>(mask)) == 15; }
#else
inline bool all_set(FourInts mask) { return (mask[0] & mask[1] & mask[2] & mask[3]) != 0; }
inline Four smaller(Four a, Four b) { return select(a < b, a, b); }
inline Four larger(Four a, Four b) { return select(a > b, a, b); }
inline Four root(Four v) { return Four{std::sqrt(v[0]), std::sqrt(v[1]), std::sqrt(v[2]), std::sqrt(v[3])}; }
#endif

/// Four whole numbers as floats.
inline Four to_floats(const std::int16_t* from) {
#if defined(__SSE4_1__)
  return _mm_cvtepi32_ps(_mm_cvtepi16_epi32(_mm_loadl_epi64(reinterpret_cast<const __m128i*>(from))));
#else
  return Four{static_cast<float>(from[0]), static_cast<float>(from[1]), static_cast<float>(from[2]),
              static_cast<float>(from[3])};
#endif
}

/// Turns four rows into four columns.
inline void transpose(Four (&v)[4]) {
  const Four a = __builtin_shufflevector(v[0], v[1], 0, 4, 1, 5),
             b = __builtin_shufflevector(v[2], v[3], 0, 4, 1, 5);
  const Four c = __builtin_shufflevector(v[0], v[1], 2, 6, 3, 7),
             d = __builtin_shufflevector(v[2], v[3], 2, 6, 3, 7);
  v[0] = __builtin_shufflevector(a, b, 0, 1, 4, 5), v[1] = __builtin_shufflevector(a, b, 2, 3, 6, 7);
  v[2] = __builtin_shufflevector(c, d, 0, 1, 4, 5), v[3] = __builtin_shufflevector(c, d, 2, 3, 6, 7);
}

}  // namespace grafema::detail
