// SPDX-License-Identifier: MIT
// JSON documents read with their lines, numbers written short.
#include "files/json.hpp"

#include <catch2/catch.hpp>

using namespace grafema;
using namespace grafema::detail;

TEST_CASE("a fault in a document names its line", "[json]") {
  const auto read = read_json("{\n \"a\": 1,\n \"b\": oops\n}");
  REQUIRE_FALSE(read.has_value());
  CHECK_THAT(describe(read.error()), Catch::Contains("line 3"));
  for (const char* bad : {"", "{", "[1,]", "{\"a\":\xFF}", "nul"}) CHECK_FALSE(read_json(bad).has_value());
  CHECK_FALSE(read_json(std::string(200, '[')).has_value());
}

TEST_CASE("floats are written as the shortest number that reads back", "[json][property]") {
  CHECK(number(0.1F).dump() == "0.1");
  CHECK(number(29.703125F).dump() == "29.703125");
  CHECK(number(-2.0F).dump() == "-2.0");
  std::uint32_t bits = 12345;
  for (int i = 0; i < 2000; ++i) {
    bits = bits * 1664525U + 1013904223U;
    const float v = static_cast<float>(static_cast<std::int32_t>(bits)) / 65536;
    REQUIRE(number(v).get<float>() == v);
  }
}

TEST_CASE("wrong fields keep the first failure", "[json]") {
  const Json document = {{"text", 1}, {"whole", 1.5}, {"pair", {1, 2, 3}}, {"list", "no"}};
  for (const auto& use : {+[](Fields& f) { f.text("text"); }, +[](Fields& f) { f.whole("whole", 0); },
                          +[](Fields& f) {
                            f.pair("pair", {0, 0});
                          },
                          +[](Fields& f) { f.array("list"); }, +[](Fields& f) { f.object("list"); },
                          +[](Fields& f) { f.require("none"); }}) {
    Fields fields(document);
    use(fields);
    fields.fail_at("later", "something else");
    REQUIRE(fields.error().has_value());
    CHECK_THAT(describe(*fields.error()), !Catch::Contains("later"));
  }
  Fields good(document);
  CHECK(good.decimal("whole", 0) == 1.5);
  CHECK(good.whole("absent", 7) == 7);
  CHECK_FALSE(good.error().has_value());
}

TEST_CASE("documents nested without end are damage, whatever stands in their texts", "[json]") {
  for (const char open : {'[', '{'}) {
    std::string text;
    for (int i = 0; i < 100000; ++i) text += open == '[' ? "[" : R"({"a":)";
    const auto read = detail::read_json(text);
    REQUIRE_FALSE(read.has_value());
    CHECK_THAT(describe(read.error()), Catch::Contains("64 deep"));
  }
  const std::string brackets(200, '[');
  CHECK(detail::read_json(R"({"a": ")" + brackets + R"(\"[[\\"})").has_value());
}

TEST_CASE("a document that is cut off ends too early", "[json]") {
  const std::string whole = R"({"name": "Marrow Hill", "stops": [1, 2, {"late": true}]})";
  for (std::size_t length = 1; length < whole.size(); ++length) {
    INFO(length);
    const auto read = detail::read_json(std::string_view(whole).substr(0, length));
    REQUIRE_FALSE(read.has_value());
    CHECK_THAT(describe(read.error()), Catch::Contains("it ends too early"));
    CHECK(read.error().offset == length);
  }
}

TEST_CASE("fields keep their order and are found, however many there are", "[json]") {
  Json document = Json::object();
  for (int i = 0; i < 100000; ++i) document["k" + std::to_string(99999 - i)] = i;
  document["k5"] = "changed";
  const Json read = *read_json(document.dump());
  REQUIRE(read.size() == 100000);
  CHECK(read.begin().key() == "k99999");
  CHECK(read["k0"] == 99999);
  CHECK(read["k5"] == "changed");
  CHECK_FALSE(read.contains("k100000"));
  CHECK(read == document);
  Json moved = std::move(document);
  document = Json::object();
  document["k7"] = 1;
  CHECK(document.size() == 1);
  CHECK(moved["k7"] == 99992);
  Json fewer = moved;
  fewer.erase(fewer.find("k99999"));
  CHECK(fewer.size() == 99999);
  CHECK(fewer.begin().key() == "k99998");
  CHECK(fewer["k0"] == 99999);
  CHECK(*read_json(R"({"a": 1, "a": 2})") == Json({{"a", 2}}));
}
