// SPDX-License-Identifier: MIT
// What a license says about games, in words that a person can act on.
#include "grafema/font/license.hpp"

#include <catch2/catch.hpp>

#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

LicenseReading read(const std::string& license, const FaceFacts& facts = {},
                    std::vector<std::string> texts = {}) {
  FaceNames names;
  names.license = license;
  return read_license(names, facts, texts);
}

bool says(const LicenseReading& reading, const std::string& words) {
  return std::any_of(reading.sentences.begin(), reading.sentences.end(),
                     [&](const std::string& s) { return s.find(words) != std::string::npos; });
}

}  // namespace

TEST_CASE("a known license allows with its conditions, whatever its line breaks", "[license]") {
  const LicenseReading own =
      read("This Font Software is licensed under the SIL\nOpen Font   License, Version 1.1.");
  CHECK(own.ship_file == Allowed::with_conditions);
  CHECK((own.credit_needed && own.license_needed));
  const LicenseReading beside =
      read("", {}, {"SIL OPEN FONT LICENSE Version 1.1 - 26 February 2007 ... may not be sold by itself"});
  CHECK(beside.known_as == own.known_as);
  CHECK(beside.sell == Allowed::with_conditions);
}

TEST_CASE("phrases that forbid what a game does are reported with the words that say so", "[license]") {
  const LicenseReading personal = read("Free for personal use only. Commercial licenses on request.");
  CHECK(personal.sell == Allowed::no);
  CHECK(says(personal, "personal use only"));
  const LicenseReading closed = read("This font may not be redistributed in any form.");
  CHECK(closed.ship_file == Allowed::no);
  CHECK(closed.ship_pictures == Allowed::unsaid);
  CHECK(read("You must credit the author.").credit_needed);
  CHECK(read("Use in mobile titles: games require a separate license.").ship_pictures == Allowed::no);
}

TEST_CASE("permission bits forbid beside any text", "[license]") {
  FaceFacts facts;
  facts.embedding = Embedding::restricted;
  CHECK(read("SIL Open Font License", facts).ship_file == Allowed::no);
  CHECK(says(read("", facts), "fsType"));
  facts.embedding = Embedding::preview;
  CHECK(read("", facts).ship_file == Allowed::no);
  CHECK(read("", facts).ship_pictures == Allowed::unsaid);
  facts = {};
  facts.bitmap_only = true;
  facts.subsetting = false;
  CHECK(read("", facts).ship_file == Allowed::no);
  CHECK(read("", facts).subset == Allowed::no);
}

TEST_CASE("where nothing is said, that is said", "[license]") {
  CHECK(says(read(""), "no license text"));
  CHECK(says(read("All manner of things shall be well."), "read it before shipping"));
  CHECK(read("").ship_file == Allowed::unsaid);
}

TEST_CASE("the license of a real face is known", "[license]") {
  const auto face = test::dejavu();
  const LicenseReading reading = read_license(face->names(), face->facts());
  CHECK_FALSE(reading.sentences.empty());
}

TEST_CASE("the sentence that counts is quoted as it is written, and two licenses are both named",
          "[license]") {
  const LicenseReading readme =
      read("", {}, {"Hello!\n* Free for PERSONAL use only, 10 dollars for a game.\nBye."});
  CHECK(readme.sell == Allowed::no);
  CHECK(says(readme, "\"Free for PERSONAL use only, 10 dollars for a game\""));
  const LicenseReading both =
      read("GNU General Public License with font exception, and SIL Open Font License 1.1");
  CHECK(both.known_as == "SIL Open Font License and GNU General Public License");
  CHECK(says(both, "reserved name"));
  CHECK(says(both, "font exception"));
}
