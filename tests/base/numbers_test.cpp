// SPDX-License-Identifier: MIT
// Arithmetic that is the same on every machine, against the system's own.
#include "base/numbers.hpp"

#include <catch2/catch.hpp>

using namespace grafema::detail;

TEST_CASE("sine and cosine agree with libm and are exact at quarter turns", "[numbers][property]") {
  for (double degrees = -1080; degrees <= 1080; degrees += 7.3) {
    const SineCosine sc = sine_cosine(degrees);
    CHECK(sc.sine == Approx(std::sin(degrees * 3.14159265358979323846 / 180)).margin(1e-12));
    CHECK(sc.cosine == Approx(std::cos(degrees * 3.14159265358979323846 / 180)).margin(1e-12));
  }
  CHECK(sine_cosine(90).sine == 1);
  CHECK(sine_cosine(90).cosine == 0);
  CHECK(sine_cosine(-90).sine == -1);
  CHECK(sine_cosine(180).cosine == -1);
  CHECK(sine_cosine(360).sine == 0);
}

TEST_CASE("roots agree with libm", "[numbers]") {
  for (int i = 0; i <= 100; ++i) {
    const double x = i / 100.0;
    CHECK(root(x, 3) == Approx(std::cbrt(x)).margin(1e-12));
    CHECK(root(x, 5) == Approx(std::pow(x, 0.2)).margin(1e-12));
  }
}

TEST_CASE("a number is all of its text, finite and decimal", "[numbers]") {
  CHECK(find_number("-2.5e1") == -25);
  CHECK(find_number("7") == 7);
  for (const char* text : {"", " 1", "1 ", "nan", "inf", "0x10", "1e999", "1,5", "--1", "1.2.3"}) {
    CHECK_FALSE(find_number(text).has_value());
  }
}

TEST_CASE("the shortest text of a float reads back to it", "[numbers][property]") {
  for (const float v : {0.1F, 1.0F / 3, 16777216.0F, 1e-20F, -12.5F, 29.703125F}) {
    CHECK(static_cast<float>(*find_number(shortest(v))) == v);
  }
  CHECK(shortest(0.1F) == "0.1");
}
