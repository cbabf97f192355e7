# SPDX-License-Identifier: MIT
"""Undamaged files of every kind that a command reads, and the command lines that read them."""
import json
import pathlib
import subprocess
import zipfile

import damage

ROOT = pathlib.Path(__file__).resolve().parents[2]
FACES = ROOT / 'data' / 'faces'
DEMO = ROOT / 'data' / 'demo'
TEXT = 'Lantern 42\u00e9'


class Samples:
    """Reads what is in the repository and bakes what is not."""

    def __init__(self, grafema, folder):
        self.fonts = {path.name: path.read_bytes() for path in sorted(FACES.glob('quillmere_*.ttf')) if 'sans_bold' not in path.name}
        for path in sorted((ROOT / 'fuzz' / 'seeds' / 'subset').iterdir()):
            self.fonts[f'{path.name}.otf'] = path.read_bytes()
        self.fonts['web.woff2'] = (ROOT / 'fuzz' / 'seeds' / 'font' / 'woff2').read_bytes()
        dot = self.fonts['quillmere_dot.ttf']
        self.fonts['web.woff'] = damage.web_font(dot)
        self.fonts['both.ttc'] = damage.collection([dot, self.fonts['quillmere_signs.ttf']])
        self.looks = (DEMO / 'effects.json').read_bytes()
        self.pictures = {path.name: path.read_bytes() for path in sorted(DEMO.glob('*.png'))}
        self.styles = (DEMO / 'styles.json').read_bytes()
        self.picture = (DEMO / 'frame.png').read_bytes()
        self.catalogs = [path.read_bytes() for path in sorted((DEMO / 'messages').glob('*.json'))]
        self.sheet = (FACES / 'quillmere_dot.png').read_bytes(), (FACES / 'quillmere_dot.json').read_bytes()
        self.path = b'<svg xmlns="http://www.w3.org/2000/svg"><path id="tracks" d="M0 60h20q20-50 60-20t90 5c3 4 5 6 7 8S190 40 240 20a30 40 10 0 1 9 9z"/></svg>'
        self.drawings = (FACES / 'quillmere_signs.svg').read_bytes(), (FACES / 'quillmere_signs.json').read_bytes()
        self.family = json.dumps({
            'format': 'grafema-family', 'version': 1, 'fallback': ['A', 'B'],
            'families': {'A': {'styles': {'Regular': {'file': 'a.ttf'}, 'Bold': {'file': 'a.ttf', 'weight': 700, 'axes': {'wght': 700}}}},
                         'B': {'styles': {'Regular': {'built_in': True}}}}
        }).encode()
        self.po = b'msgid ""\nmsgstr ""\n"Language: de\\n"\n"Plural-Forms: nplurals=2; plural=n != 1;\\n"\n\n' + b''.join(
            b'msgid "stop.%d"\nmsgstr "{n, plural, one {# Halt} other {# Halte}} %d"\n\n' % (i, i) for i in range(8))
        self.source = json.dumps({f'stop.{i}': '{n, plural, one {# stop} other {# stops}}' for i in range(8)}).encode()
        self.markup = 'Line <b>4</b> to <span class="late">Pale <i>Orchard</i></span><br/><wait s="0.5"/>&#x41;'.encode()
        self.values = json.dumps({'n': 3, 'name': 'Ninth Lantern', 'when': {'clock': True}, 'list': ['a', 'b'], 'big': 1e20}).encode()
        self.pattern = b'{n, plural, one {# stop} other {# stops}} {name} {big, spellout} {list, list}'
        subprocess.run([grafema, 'bake', '-o', folder / 'atlas', '--chars', TEXT, '--kind', 'coverage', '--size', '12', '--quiet'], check=True)
        self.atlas = (folder / 'atlas.json').read_bytes(), (folder / 'atlas-0.png').read_bytes()


def read_font(random, name):
    """A command line that reads the font `name`."""
    chars = ['--chars', random.choice([TEXT, 'ABCabc', 'A\u0301\u0628'])]
    return random.choice([
        ['inspect', name, '--json'],
        ['missing', name, '--text', TEXT, '--json'],
        ['measure', name, '--text', TEXT, '--json', '--wrap', '90'],
        ['draw', name, '--text', TEXT, '--size', '20', '-o', 'out.png', '--outline', '1,#123'],
        ['draw', name, '--text', 'lamp', '--writing', 'vertical-rl', '--size', '24', '-o', 'out.png', '--guides'],
        ['bake', name, '-o', 'out', '--size', '14', '--kind', random.choice(['coverage', 'distance', 'distance_rgba', 'color']), '--page', '512x512', *chars],
        ['contours', name, '--text', TEXT, '--json'],
        ['contours', name, '--text', TEXT, '--svg', 'out.svg', '--points', '40'],
        ['extrude', name, '--text', 'Oak', '--depth', '0.2', '-o', random.choice(['out.glb', 'out.obj'])],
        ['subset', name, '--permit', '-o', random.choice(['out.ttf', 'out.woff2']), *random.choice([chars, ['--all'], [*chars, '--lean'], [*chars, *(['--axes', 'wght=500'] if 'variable' in name else [])]])],
        ['specimen', name, '--text', 'Weir', '--sizes', '12,20', '-o', 'out.png'],
    ])


def font(random, samples, folder):
    name, data = random.choice(list(samples.fonts.items()))
    (folder / name).write_bytes(damage.font(random, data))
    return read_font(random, name)


def archive(random, samples, folder):
    with zipfile.ZipFile(folder / 'fonts.zip', 'w', zipfile.ZIP_DEFLATED) as out:
        for name in ('quillmere_dot.ttf', 'quillmere_signs.ttf', 'web.woff2'):
            data = samples.fonts[name]
            out.writestr(random.choice([name, name, '../' + name, 'a/' * 40 + name]), damage.font(random, data) if random.random() < 0.3 else data)
        out.writestr('OFL.txt', 'free to use' * random.choice([1, 100000]))
    if random.random() < 0.4:
        data = (folder / 'fonts.zip').read_bytes()
        (folder / 'fonts.zip').write_bytes(damage.bytes_anywhere(random, data))
    return random.choice([['inspect', 'fonts.zip', '--json'], ['measure', 'fonts.zip', '--text', TEXT, '--json'],
                          ['specimen', 'fonts.zip', '--rows', '-o', 'out.png'], ['missing', 'fonts.zip', '--chars', TEXT, '--json']])


def looks(random, samples, folder):
    for name, data in samples.pictures.items():
        (folder / name).write_bytes(damage.png(random, data) if random.random() < 0.1 else data)
    (folder / 'looks.json').write_bytes(damage.document(random, samples.looks))
    name = random.choice(list(json.loads(samples.looks)['looks']))
    return random.choice([['looks', 'looks.json', '-o', 'out.png'],
                          ['draw', '--text', 'Weir', '--size', '24', '--canvas', '300x120', '--look', f'looks.json#{name}', '-o', 'out.png']])


def styles(random, samples, folder):
    (folder / 'styles.json').write_bytes(damage.document(random, samples.styles))
    name = random.choice(list(json.loads(samples.styles)['styles']))
    return ['measure', '--text', TEXT, '--style', f'styles.json#{name}', '--json']


def family(random, samples, folder):
    (folder / 'a.ttf').write_bytes(samples.fonts['quillmere_sans_variable.ttf'])
    (folder / 'family.json').write_bytes(damage.document(random, samples.family))
    return random.choice([['measure', 'family.json#bold', '--text', TEXT, '--json'], ['inspect', 'family.json', '--json'],
                          ['specimen', 'family.json', '--text', 'Oak', '--sizes', '12', '-o', 'out.png']])


def catalog(random, samples, folder):
    (folder / 'en.json').write_bytes(samples.catalogs[0])
    (folder / 'de.json').write_bytes(damage.document(random, random.choice(samples.catalogs)))
    return ['messages', 'en.json', 'de.json', '--json']


def po(random, samples, folder):
    (folder / 'en.json').write_bytes(samples.source)
    (folder / 'de.po').write_bytes(damage.words(random, samples.po, 'po'))
    return ['messages', 'en.json', 'de.po', '--json']


def message(random, samples, folder):
    (folder / 'pattern.txt').write_bytes(damage.words(random, samples.pattern, 'message'))
    (folder / 'values.json').write_bytes(random.choice([samples.values, damage.document(random, samples.values)]))
    return ['measure', '--text-from', 'pattern.txt', '--values', 'values.json', '--lang', random.choice(['en', 'ar', 'ja', 'x-y', '']), '--json']


def markup(random, samples, folder):
    (folder / 'text.txt').write_bytes(damage.words(random, samples.markup, 'markup'))
    return random.choice([['measure', '--markup', '--text-from', 'text.txt', '--json', '--wrap', '120'],
                          ['draw', '--markup', '--text-from', 'text.txt', '--wrap', '200', '-o', 'out.png']])


def drawings(random, samples, folder):
    svg, description = samples.drawings
    if random.random() < 0.7:
        svg = damage.words(random, svg, 'svg') if random.random() < 0.7 else damage.bytes_anywhere(random, svg)
    else:
        description = damage.document(random, description)
    (folder / 's.svg').write_bytes(svg)
    (folder / 's.json').write_bytes(description)
    return ['make-font', 's.svg', '-o', random.choice(['out.ttf', 'out.otf'])]


def path(random, samples, folder):
    (folder / 'p.svg').write_bytes(damage.words(random, samples.path, 'svg'))
    return ['draw', '--text', 'Weir', '--path', 'p.svg#tracks', '-o', 'out.png']


def sheet(random, samples, folder):
    png, description = samples.sheet
    if random.random() < 0.5:
        png = damage.png(random, png)
    else:
        description = damage.document(random, description)
    (folder / 's.png').write_bytes(png)
    (folder / 's.json').write_bytes(description)
    return ['make-font', 's.png', '-o', 'out.ttf', *random.choice([[], ['--proof', 'out.png']])]


def picture(random, samples, folder):
    (folder / 'p.png').write_bytes(damage.png(random, samples.picture))
    return ['draw', '--text', 'Weir', '--canvas', '64x40', '--backdrop', 'p.png', '-o', 'out.png']


def atlas(random, samples, folder):
    descriptor, page = samples.atlas
    if random.random() < 0.8:
        descriptor = damage.document(random, descriptor)
    else:
        page = damage.png(random, page)
    (folder / 'atlas.json').write_bytes(descriptor)
    (folder / 'atlas-0.png').write_bytes(page)
    return random.choice([['measure', '--atlas', 'atlas.json', '--text', TEXT, '--json'],
                          ['draw', '--atlas', 'atlas.json', '--text', TEXT, '-o', 'out.png'],
                          ['repaint', 'atlas.json', '-o', 'out', '--enlarge', '2']])


KINDS = [font, font, font, archive, looks, styles, family, catalog, po, message, markup, drawings, path, sheet, picture, atlas]
