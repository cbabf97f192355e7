#!/usr/bin/env python3
# SPDX-License-Identifier: MIT
# Prints src/font/characters/text_encodings.inc: the upper halves of the one-byte character sets that names of old fonts use.
SETS = [("roman", "mac_roman"), ("central_european", "mac_latin2"), ("cyrillic", "mac_cyrillic"), ("greek", "mac_greek"),
        ("turkish", "mac_turkish"), ("croatian", "mac_croatian"), ("icelandic", "mac_iceland"), ("romanian", "mac_romanian"),
        ("arabic", "mac_arabic"), ("thai", "tis_620")]
print("// SPDX-License-Identifier: MIT")
print("// Code points of the bytes 80 to FF in one-byte character sets; made by tools/unicode/make_encodings.py.")
for name, codec in SETS:
    cells = []
    for byte in range(0x80, 0x100):
        try:
            cells.append(f"0x{ord(bytes([byte]).decode(codec)):04X}")
        except UnicodeDecodeError:
            cells.append("0xFFFD")
    constant = "k" + "".join(word.capitalize() for word in name.split("_"))
    print(f"constexpr char16_t {constant}[128] = {{")
    for i in range(0, 128, 16):
        print("    " + ", ".join(cells[i:i + 16]) + ",")
    print("};")
