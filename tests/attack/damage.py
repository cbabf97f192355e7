# SPDX-License-Identifier: MIT
"""Damage: fonts by their structure, documents by their grammar, anything by its bytes. All from one random source."""
import json
import re
import struct
import zlib

NOTHING = False  # leaves everything as it is: undamaged files must be read

NUMBERS_16 = [0, 1, 2, 0x7FFF, 0x8000, 0xFFFE, 0xFFFF]
NUMBERS_32 = [0, 1, 0x10000, 0x7FFFFFFF, 0x80000000, 0xFFFFFFFC, 0xFFFFFFFF]


def bytes_anywhere(random, data):
    """Bytes changed, cut off, put in, taken out or repeated."""
    if NOTHING:
        return data
    data = bytearray(data)
    for _ in range(random.randint(1, 6)):
        at = random.randrange(len(data) + 1)
        kind = random.randrange(6)
        if kind == 0 and at < len(data):
            data[at] = random.choice([0, 0x7F, 0x80, 0xFF, random.randrange(256)])
        elif kind == 1:
            del data[at:]
        elif kind == 2:
            data[at:at] = random.randbytes(random.randint(1, 40))
        elif kind == 3:
            del data[at:at + random.randint(1, 40)]
        elif kind == 4:
            data[at:at] = data[at:at + random.randint(1, 200)] * random.randint(1, 4)
        else:
            data[at:at + 4] = struct.pack('>I', random.choice(NUMBERS_32))
    return bytes(data)


def directory(data):
    """Tag, offset and length of each table of a plain font file; empty for everything else."""
    if data[:4] not in (b'\0\1\0\0', b'OTTO', b'true'):
        return []
    rows = []
    for i in range(struct.unpack_from('>H', data, 4)[0]):
        if len(data) < 28 + 16 * i:
            break
        tag, _, offset, length = struct.unpack_from('>4sIII', data, 12 + 16 * i)
        if offset + length <= len(data):
            rows.append((tag, offset, length, 12 + 16 * i))
    return rows


def web_font(data):
    """The same tables as WOFF 1.0."""
    rows = directory(data)
    header = 44 + 20 * len(rows)
    out, entries = bytearray(header), []
    for tag, offset, length, _ in rows:
        plain = data[offset:offset + length]
        packed = zlib.compress(plain)
        packed = packed if len(packed) < length else plain
        entries.append(struct.pack('>4sIIII', tag, len(out), len(packed), length, 0))
        out += packed + bytes(-len(packed) % 4)
    size = 12 + 16 * len(rows) + sum((length + 3) & ~3 for _, _, length, _ in rows)
    out[:header] = struct.pack('>4s4sIHHIHHIIIII', b'wOFF', data[:4], len(out), len(rows), 0, size, 1, 0, 0, 0, 0, 0,
                               0) + b''.join(entries)
    return bytes(out)


def collection(fonts):
    """Font files as a collection; offsets of tables count from the beginning of the file."""
    out = bytearray(12 + 4 * len(fonts))
    struct.pack_into('>4sHHI', out, 0, b'ttcf', 1, 0, len(fonts))
    for i, font in enumerate(fonts):
        start = len(out)
        struct.pack_into('>I', out, 12 + 4 * i, start)
        moved = bytearray(font)
        for _, offset, _, at in directory(font):
            struct.pack_into('>I', moved, at + 8, offset + start)
        out += moved + bytes(-len(moved) % 4)
    return bytes(out)


def font(random, data):
    """Numbers of a table, of its head or of the directory become extreme; or bytes anywhere change."""
    if NOTHING:
        return data
    rows = directory(data)
    if not rows or random.random() < 0.15:
        return bytes_anywhere(random, data)
    data = bytearray(data)
    for _ in range(random.randint(1, 8)):
        _, offset, length, at = random.choice(rows)
        if random.random() < 0.1:
            struct.pack_into('>I', data, at + random.choice([8, 12]), random.choice(NUMBERS_32 + [offset + 2, length // 2]))
            continue
        near = min(length, 64) if random.random() < 0.5 else length
        if near < 4:
            continue
        place = offset + random.randrange(near - 3) // 2 * 2
        if random.random() < 0.7:
            struct.pack_into('>H', data, place, random.choice(NUMBERS_16 + [random.randrange(0x10000)]))
        else:
            struct.pack_into('>I', data, place, random.choice(NUMBERS_32 + [random.randrange(1 << 32)]))
    damaged = bytes(data)
    return web_font(damaged) if random.random() < 0.2 else damaged


def places(value, path=()):
    """Every place in a JSON document."""
    yield path
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, inner in items:
        yield from places(inner, path + (key,))


def odd_value(random):
    return random.choice([
        None, True, False, 0, -1, 1, 0.5, 1e-320, 1e308, -1e308, 2**31, 2**63, 2**64, -2**63, '', 'a', '\0', '#', '\ud800',
        '../../etc/passwd', '/dev/zero', 'a' * 70000, [], {}, [[]], [0] * 5000, [None], {'': {}}, {'a': 'a'}, '1e999', '-1', 'NaN',
        '#ff0', 'linear-gradient()', '\u202e\u0301', json.loads('[' * 70 + ']' * 70), json.loads('{"a":' * 70 + '1' + '}' * 70)
    ])


def like(random, value):
    """Another value of the same kind, so that readers go on to what it means."""
    if isinstance(value, bool):
        return not value
    if isinstance(value, (int, float)):
        return random.choice([0, 1, -1, 2, 0.5, -value, value * 2, value + 1, value * 1000, 255, 256, 65535, 65536, 2**31, 1e9, 1e30])
    if isinstance(value, str):
        return random.choice(['', value + 'x', value[:-1], value[::-1], value.upper(), value * 50, '#1234', '{' + value, value + '}', '<b>' + value])
    if isinstance(value, list) and value:
        return random.choice([value[:-1], value[1:], value + value, value[::-1], value * 20, [value[0]]])
    return value


def document(random, text):
    """Values of a JSON document become others of their kind or odd, fields come twice or are gone; or its bytes change."""
    if NOTHING:
        return text
    try:
        value = json.loads(text)
    except ValueError:
        return bytes_anywhere(random, text)
    if random.random() < 0.1:
        return bytes_anywhere(random, text)
    mild = random.random() < 0.6
    for _ in range(random.choice([1, 1, 2, 4])):
        path = random.choice(list(places(value)))
        if not path:
            continue
        inner = value
        for key in path[:-1]:
            inner = inner[key]
        kind = random.random()
        if mild:
            inner[path[-1]] = like(random, inner[path[-1]])
        elif kind < 0.7:
            inner[path[-1]] = odd_value(random)
        elif kind < 0.85 and isinstance(inner, dict):
            inner[random.choice(['', 'x', str(path[-1]) + 's', 'a' * 300])] = inner.pop(path[-1])
        else:
            del inner[path[-1]]
    out = json.dumps(value, ensure_ascii=random.random() < 0.5).encode('utf-8', 'surrogatepass')
    return out.replace(b'"1e999"', b'1e999') if random.random() < 0.5 else out


def png(random, data):
    """Chunks change, are gone or come twice, with checksums that are right; or bytes anywhere change."""
    if NOTHING:
        return data
    if random.random() < 0.2:
        return bytes_anywhere(random, data)
    chunks, at = [], 8
    while at + 12 <= len(data):
        length = struct.unpack_from('>I', data, at)[0]
        chunks.append((data[at + 4:at + 8], data[at + 8:at + 8 + length]))
        at += 12 + length
    i = random.randrange(len(chunks))
    tag, body = chunks[i]
    what = random.random()
    if what < 0.3 and tag == b'IDAT' or what < 0.2:
        pixels = b''.join(body for tag, body in chunks if tag == b'IDAT')
        try:
            plain = bytearray(zlib.decompress(pixels))
        except zlib.error:
            plain = bytearray(pixels)
        for _ in range(random.randint(1, 9)):
            plain[random.randrange(len(plain))] = random.randrange(256)
        plain = plain[:random.choice([len(plain), len(plain) // 2, 1])]
        rest = [chunk for chunk in chunks if chunk[0] != b'IDAT']
        chunks = [*rest[:-1], (b'IDAT', zlib.compress(bytes(plain))), rest[-1]]
    elif what < 0.7 and body:
        changed = bytearray(body)
        changed[random.randrange(len(changed))] = random.choice([0, 1, 2, 3, 4, 6, 8, 16, 0x7F, 0xFF])
        chunks[i] = (tag, bytes(changed))
    elif what < 0.8:
        del chunks[i]
    elif what < 0.9:
        chunks.insert(i, (tag, body))
    else:
        chunks.insert(i, (random.choice([b'tRNS', b'PLTE', b'gAMA', b'zTXt', b'acTL', b'fcTL', b'iCCP']), random.randbytes(random.randint(0, 40))))
    out = bytearray(data[:8])
    for tag, body in chunks:
        out += struct.pack('>I', len(body)) + tag + body + struct.pack('>I', zlib.crc32(tag + body))
    return bytes(out)


WORDS = {
    'markup': ['<b>', '</b>', '<span class="c">', '</span>', '<span lang="tr">', '<a href="x">', '</a>', '<br/>', '<img src="bell"/>',
               '<wait s="1e9"/>', '<span motion="swell(period=0)">', '<var name="n"/>', '&amp;', '&#0;', '&#x110000;', '&', '<', '>', '"',
               '<!--', '-->', '<![CDATA[', ']]>', '<!DOCTYPE x [<!ENTITY a "aa">]>', '<sup>', '</sup>', 'Lantern', '\u0628', '\u0301', '\t', '\n', '\0'],
    'svg': ['<g id="a">', '</g>', '<path d="M0 0h1e39v1z"/>', '<path d="M0 0a1 1 0 0 0 1e9 1e-9z"/>', '<circle r="1e38"/>', '<use href="#a"/>',
            '<rect width="-1" height="nan"/>', ' transform="scale(0)"', ' transform="rotate(1e300)"', ' stroke-width="1e20"', ' viewBox="0 0 0 0"',
            ' data-characters="&#x110000;"', ' data-advance="1e300"', ' style="fill:none;stroke:#000"', '<polygon points="0,0 1"/>', '&lt;'],
    'po': ['msgid ""', 'msgstr ""', 'msgctxt "a"', 'msgid_plural "b"', 'msgstr[0] "c"', 'msgstr[99999999999] "d"', '"\\', '"\\x"', '#, fuzzy', '#| msgid "e"',
           '"Plural-Forms: nplurals=1e9; plural=n;\\n"', '"Language: \\n"', '{n, plural, other {#}}', '{', '}', '\'', '{a, select, ', '{n, number, ::', '\0'],
}
WORDS['message'] = WORDS['po'] + ['{n, spellout}', '{n, duration, long}', '{t, date, yyyy}', '{l, list}', '{n, plural, =1e99 {a} other {b}}', '{{', "''"]


def words(random, text, kind):
    """Pieces of a language are put where they do not belong, taken out or repeated."""
    if NOTHING:
        return text
    text = text.decode('utf-8', 'replace')
    numbers = list(re.finditer(r'-?[0-9]+', text))
    if numbers and random.random() < 0.5:
        for number in sorted(random.sample(numbers, min(len(numbers), random.randint(1, 4))), key=lambda found: -found.start()):
            text = text[:number.start()] + random.choice(['0', '-1', '1e9', '1e38', '99999999999', '0.001', '', 'nan', number.group() * 3]) + text[number.end():]
        return text.encode()
    for _ in range(random.choice([1, 1, 1, 2, 5])):
        at = random.choice([random.randrange(len(text) + 1), text.find('\n', random.randrange(len(text) + 1)) + 1])
        piece = random.choice(WORDS[kind])
        what = random.random()
        if what < 0.6:
            text = text[:at] + piece * random.choice([1, 1, 1, 2, 300]) + text[at:]
        elif what < 0.8:
            text = text[:at] + text[at + random.randint(1, 60):]
        else:
            text = text[:at] + text[at:at + 80] * random.randint(2, 30) + text[at:]
    return text.encode('utf-8', 'surrogatepass')
