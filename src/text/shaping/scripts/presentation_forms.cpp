// SPDX-License-Identifier: MIT
// Turns the decompositions of presentation forms around.
#include "text/shaping/scripts/presentation_forms.hpp"

#include <unicode/uchar.h>
#include <unicode/unorm2.h>

#include <algorithm>
#include <array>
#include <optional>
#include <tuple>
#include <vector>

namespace grafema::detail {
namespace {

struct KnownForm {
  char32_t letter = 0, second = 0;
  LetterForm form{};
  char32_t character = 0;

  auto key() const { return std::tuple(letter, second, form); }
};

std::optional<LetterForm> form_of(char32_t character) {
  switch (u_getIntPropertyValue(static_cast<UChar32>(character), UCHAR_DECOMPOSITION_TYPE)) {
    case U_DT_ISOLATED:
      return LetterForm::isolated;
    case U_DT_FINAL:
      return LetterForm::final;
    case U_DT_INITIAL:
      return LetterForm::initial;
    case U_DT_MEDIAL:
      return LetterForm::medial;
    default:
      return std::nullopt;
  }
}

std::vector<KnownForm> read_forms() {
  std::vector<KnownForm> forms;
  UErrorCode status = U_ZERO_ERROR;
  const UNormalizer2* normal = unorm2_getNFKCInstance(&status);
  if (normal == nullptr || U_FAILURE(status)) return forms;
  const auto add = [&](char32_t first, char32_t last) {
    for (char32_t c = first; c <= last; ++c) {
      const std::optional<LetterForm> form = form_of(c);
      std::array<UChar, 8> parts = {};
      const int32_t length =
          form ? unorm2_getRawDecomposition(normal, static_cast<UChar32>(c), parts.data(), 8, &status) : 0;
      if (length == 1 || length == 2) forms.push_back({parts[0], length == 2 ? parts[1] : U'\0', *form, c});
    }
  };
  add(0xFE70, 0xFEFC), add(0xFB50, 0xFDFF);
  std::stable_sort(forms.begin(), forms.end(),
                   [](const KnownForm& a, const KnownForm& b) { return a.key() < b.key(); });
  return forms;
}

}  // namespace

char32_t presentation_form(char32_t letter, char32_t second, LetterForm form) {
  static const std::vector<KnownForm> forms = read_forms();
  const KnownForm wanted{letter, second, form};
  const auto at = std::lower_bound(forms.begin(), forms.end(), wanted,
                                   [](const KnownForm& a, const KnownForm& b) { return a.key() < b.key(); });
  return at != forms.end() && at->key() == wanted.key() ? at->character : 0;
}

}  // namespace grafema::detail
