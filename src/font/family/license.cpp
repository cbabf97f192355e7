// SPDX-License-Identifier: MIT
// Finds known licenses and telling phrases in the texts of a face.
#include "grafema/font/license.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace grafema {
namespace {

/// Small letters, every run of other bytes one space: line breaks and typographic quotes don't matter.
std::string plain_words(std::string_view text) {
  std::string out;
  for (const char c : text) {
    const char lower = c >= 'A' && c <= 'Z' ? static_cast<char>(c + 32) : c;
    const bool word = (lower >= 'a' && lower <= 'z') || (lower >= '0' && lower <= '9') || lower == '.';
    if (word) {
      out += lower;
    } else if (!out.empty() && out.back() != ' ') {
      out += ' ';
    }
  }
  return out;
}

struct KnownLicense {
  std::string_view phrase;  ///< in plain letters
  const char* name;
  Allowed use;
  bool credit, license;
  const char* sentence;
};

// The first that occurs decides; longer names stand before those that they contain.
constexpr KnownLicense kLicenses[] = {
    {"sil open font license", "SIL Open Font License", Allowed::with_conditions, true, true,
     "may be shipped and sold as part of a game; copyright notice and license text must come along; a "
     "changed file must not use a reserved name"},
    {"scripts.sil.org ofl", "SIL Open Font License", Allowed::with_conditions, true, true,
     "may be shipped and sold as part of a game; copyright notice and license text must come along; a "
     "changed file must not use a reserved name"},
    {"openfontlicense.org", "SIL Open Font License", Allowed::with_conditions, true, true,
     "may be shipped and sold as part of a game; copyright notice and license text must come along; a "
     "changed file must not use a reserved name"},
    {"apache license", "Apache License", Allowed::with_conditions, true, true,
     "may be shipped; license text and notices must come along"},
    {"ubuntu font licence", "Ubuntu Font Licence", Allowed::with_conditions, true, true,
     "may be shipped; copyright notice and license text must come along"},
    {"ipa font license", "IPA Font License", Allowed::with_conditions, true, true,
     "may be shipped; a changed file must be renamed and the original made available; the license text must "
     "come along"},
    {"gust font license", "GUST Font License", Allowed::with_conditions, true, true,
     "may be shipped under the terms of the LaTeX Project Public License"},
    {"gnu general public license", "GNU General Public License", Allowed::with_conditions, true, true,
     "shipping the file puts the license's duties on what it is part of, unless the face grants a font "
     "exception: read the text"},
    {"gnu gpl", "GNU General Public License", Allowed::with_conditions, true, true,
     "shipping the file puts the license's duties on what it is part of, unless the face grants a font "
     "exception: read the text"},
    {"gnu lesser general public license", "GNU Lesser General Public License", Allowed::with_conditions, true,
     true, "may be shipped; the license's duties hold for the file"},
    {"permission is hereby granted free of charge to any person obtaining a copy",
     "a permissive license of the MIT kind", Allowed::with_conditions, true, true,
     "may be shipped; copyright notice and permission notice must come along"},
    {"mit license", "MIT License", Allowed::with_conditions, true, true,
     "may be shipped; copyright notice and license text must come along"},
    {"creative commons zero", "CC0", Allowed::yes, false, false, "no conditions"},
    {"cc0", "CC0", Allowed::yes, false, false, "no conditions"},
    {"attribution sharealike", "a Creative Commons license", Allowed::with_conditions, true, false,
     "credit is demanded, and what is made from it falls under the same license"},
    {"creative commons attribution", "a Creative Commons license", Allowed::with_conditions, true, false,
     "credit is demanded"},
    {"public domain", "public domain", Allowed::yes, false, false, "no conditions"},
};

enum class Forbids : std::uint8_t { selling, shipping, pictures, changing, without_credit };

struct Phrase {
  std::string_view words;
  Forbids what;
};

constexpr Phrase kPhrases[] = {
    {"personal use only", Forbids::selling},
    {"for personal use", Forbids::selling},
    {"non commercial", Forbids::selling},
    {"noncommercial", Forbids::selling},
    {"not for commercial", Forbids::selling},
    {"commercial use requires", Forbids::selling},
    {"no commercial use", Forbids::selling},
    {"may not be redistributed", Forbids::shipping},
    {"not be redistributed", Forbids::shipping},
    {"may not redistribute", Forbids::shipping},
    {"may not distribute", Forbids::shipping},
    {"may not be distributed", Forbids::shipping},
    {"do not redistribute", Forbids::shipping},
    {"do not distribute", Forbids::shipping},
    {"no redistribution", Forbids::shipping},
    {"redistribution is prohibited", Forbids::shipping},
    {"distribution is prohibited", Forbids::shipping},
    {"may not embed", Forbids::shipping},
    {"may not be embedded", Forbids::shipping},
    {"embedding is not permitted", Forbids::shipping},
    {"embedding is prohibited", Forbids::shipping},
    {"not in games", Forbids::pictures},
    {"may not be used in games", Forbids::pictures},
    {"not be used in video games", Forbids::pictures},
    {"bitmap images of", Forbids::pictures},
    {"may not be rasterized", Forbids::pictures},
    {"game license is required", Forbids::pictures},
    {"games require a separate license", Forbids::pictures},
    {"may not be modified", Forbids::changing},
    {"may not modify", Forbids::changing},
    {"do not modify", Forbids::changing},
    {"must be credited", Forbids::without_credit},
    {"must credit", Forbids::without_credit},
    {"credit is required", Forbids::without_credit},
    {"give credit", Forbids::without_credit},
    {"attribution is required", Forbids::without_credit},
    {"attribution required", Forbids::without_credit},
    {"please credit", Forbids::without_credit},
};

const char* sentence_for(Forbids what) {
  switch (what) {
    case Forbids::selling:
      return "must not be part of a game that is sold, as it stands";
    case Forbids::shipping:
      return "the font file must not be shipped with the game";
    case Forbids::pictures:
      return "pictures of its glyphs in a game need a permission of their own";
    case Forbids::changing:
      return "must not be changed, so neither subset";
    case Forbids::without_credit:
      return "must not be used without credit";
  }
  return "";
}

void apply(Forbids what, LicenseReading& out) {
  switch (what) {
    case Forbids::selling:
      out.sell = Allowed::no;
      break;
    case Forbids::shipping:
      out.ship_file = Allowed::no;
      break;
    case Forbids::pictures:
      out.ship_pictures = Allowed::no;
      break;
    case Forbids::changing:
      out.subset = Allowed::no;
      break;
    case Forbids::without_credit:
      out.credit_needed = true;
      break;
  }
}

void read_known(const std::string& text, LicenseReading& out) {
  for (const KnownLicense& known : kLicenses) {
    if (text.find(known.phrase) == std::string::npos) continue;
    out.known_as = known.name;
    out.ship_file = out.ship_pictures = out.subset = out.sell = known.use;
    out.credit_needed = known.credit;
    out.license_needed = known.license;
    out.sentences.push_back(fmt::format("{}: {}", known.name, known.sentence));
    return;
  }
}

/// Other licenses that the same words offer beside the first: a face under two may be used by either, and
/// both are named.
void read_others(const std::string& text, LicenseReading& out) {
  for (const KnownLicense& known : kLicenses) {
    const bool new_one = known.use == Allowed::with_conditions &&
                         out.known_as.find(known.name) == std::string::npos &&
                         text.find(known.phrase) != std::string::npos;
    if (!new_one) continue;
    out.known_as += fmt::format(" and {}", known.name);
    out.sentences.push_back(fmt::format("{}: {}", known.name, known.sentence));
  }
}

/// The sentence of the texts that has the words, as it is written; the words alone if none has them in one
/// sentence.
std::string sentence_with(std::span<const std::string> texts, std::string_view words) {
  constexpr std::size_t kMaxQuoted = 160;
  for (const std::string& text : texts) {
    for (std::size_t begin = 0; begin < text.size();) {
      const std::size_t end = std::min(text.find_first_of(".!?\n", begin), text.size());
      const std::string_view sentence(text.data() + begin, end - begin);
      begin = end + 1;
      if (plain_words(sentence).find(words) == std::string::npos || sentence.size() > kMaxQuoted) continue;
      const std::size_t first = sentence.find_first_not_of(" \t\r*#-"),
                        last = sentence.find_last_not_of(" \t\r");
      return std::string(sentence.substr(first, last - first + 1));
    }
  }
  return std::string(words);
}

/// A license that is known grants what single phrases in its text seem to take away ("may not be sold by
/// itself").
void read_phrases(const std::string& text, std::span<const std::string> texts, LicenseReading& out) {
  for (const Phrase& phrase : kPhrases) {
    if (text.find(phrase.words) == std::string::npos) continue;
    apply(phrase.what, out);
    std::string sentence = fmt::format("{} (the text says \"{}\")", sentence_for(phrase.what),
                                       sentence_with(texts, phrase.words));
    const bool said = std::any_of(out.sentences.begin(), out.sentences.end(), [&](const std::string& s) {
      return s.starts_with(sentence_for(phrase.what));
    });
    if (!said) out.sentences.push_back(std::move(sentence));
  }
}

void read_bits(const FaceFacts& facts, LicenseReading& out) {
  constexpr const char* kField = "(OS/2 fsType)";
  if (facts.embedding == Embedding::restricted) {
    out.ship_file = out.ship_pictures = Allowed::no;
    out.sentences.push_back(
        fmt::format("embedding is restricted: neither the file nor an atlas may be shipped without the "
                    "owner's permission {}",
                    kField));
  } else if (facts.embedding == Embedding::preview) {
    out.ship_file = Allowed::no;
    out.sentences.push_back(
        fmt::format("may be embedded for preview and print only: a game must not ship the file {}", kField));
  } else if (facts.embedding == Embedding::editable && out.known_as.empty()) {
    out.sentences.push_back(fmt::format(
        "may be embedded in documents that can be edited; whether a game is one is for its license to say {}",
        kField));
  }
  if (facts.bitmap_only) {
    out.ship_file = Allowed::no;
    out.sentences.push_back(
        fmt::format("only bitmaps may be embedded: ship an atlas, not the file {}", kField));
  }
  if (!facts.subsetting) {
    out.subset = Allowed::no;
    out.sentences.push_back(fmt::format("must not be subset before it is embedded {}", kField));
  }
}

}  // namespace

LicenseReading read_license(const FaceNames& names, const FaceFacts& facts,
                            std::span<const std::string> texts) {
  LicenseReading out;
  std::string own = plain_words(names.license) + " " + plain_words(names.license_url) + " " +
                    plain_words(names.copyright) + " " + plain_words(names.description);
  read_known(own, out);
  if (!out.known_as.empty()) read_others(own, out);
  for (const std::string& text : texts) {
    if (out.known_as.empty()) read_known(plain_words(text), out);
  }
  if (out.known_as.empty()) {
    std::vector<std::string> all = {names.license, names.copyright, names.description};
    all.insert(all.end(), texts.begin(), texts.end());
    for (const std::string& text : texts) own += " " + plain_words(text);
    read_phrases(own, all, out);
  }
  read_bits(facts, out);
  if (out.known_as.empty() && out.sentences.empty()) {
    out.sentences.emplace_back(
        names.license.empty() && texts.empty()
            ? "no license text: ask its maker before it is shipped"
            : "the license text is not one that is known here: read it before shipping");
  }
  return out;
}

const char* to_words(Allowed allowed) {
  switch (allowed) {
    case Allowed::yes:
      return "yes";
    case Allowed::with_conditions:
      return "yes, with conditions";
    case Allowed::no:
      return "no";
    case Allowed::unsaid:
      return "not said";
  }
  return "";
}

}  // namespace grafema
