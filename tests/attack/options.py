# SPDX-License-Identifier: MIT
"""Every option of every command, with values at its limits and beyond."""
import re
import subprocess

COMMANDS = ['inspect', 'missing', 'specimen', 'bake', 'measure', 'draw', 'looks', 'contours', 'extrude', 'messages', 'make-font', 'subset', 'repaint']
VALUES = [
    '0', '-1', '1', '2', '0.25', '0.0001', '8192', '8193', '16384', '32769', '65536', '99999999999999999999', '1e38', '1e39', '1e308', '-1e308', '1e999',
    'nan', 'inf', '-inf', '0x10', '1e-320', '', ' ', ',', ',,,,', '1,1', '1,1,1', '1,1,1,1', '1,1,1,1,1', '1x1', '0x0', '-1x5', '99999x99999', '16384x16384',
    '#fff', '#ff', 'red', 'rgb(1e9,0,0)', 'hsl(nan,1,1)', 'linear-gradient()', 'linear-gradient(red)', 'linear-gradient(1e99deg,red,blue)', 'radial-gradient(red,blue)',
    '2,#000', '-2,#000', '1e9,#000', 'nan,#000', '1,1,1,#000', '1e9,1e9,1e9,#000', 'wght=1e9', 'wght=nan', 'wght=', '=1', 'liga=0', 'liga=99999999999', 'lig', 'kern',
    'arc:0,0,0,0,0', 'arc:0,0,1e9,0,1e9', 'line:0,0,0,0', 'line:nan,0,1,1', 'left', 'center', 'top-left', 'ltr', 'vertical-rl', 'whole sway+rattle', 'swell(period=0)',
    'swell(period=nan)', 'a' * 9000, '\u0661', '\u0301', '\u202e', 'U+110000', '110000-FFFFFFFF', '0-10FFFF', '20-', 'FF-20', '%d', '%s%n', '../x', '/dev/zero', '/dev/null', '#', '##',
    'x#y', '2026-10-02T21:40:00Z', '9999999-99-99T99:99:99Z', 'coverage', 'color', 'smaller', 'ellipsis', 'anywhere', 'justify', 'tr', 'zh-Hant-x-' + 'a' * 60,
]
BASE = {
    'inspect': [], 'missing': ['--chars', 'ab'], 'specimen': ['--text', 'Oak', '-o', 'out.png'], 'bake': ['--chars', 'Oa', '-o', 'out'],
    'measure': ['--text', 'Oak leaf', '--json'], 'draw': ['--text', 'Oak', '-o', 'out.png'], 'looks': ['looks.json', '-o', 'out.png'],
    'contours': ['--text', 'O', '--json'], 'extrude': ['--text', 'O', '-o', 'out.glb'], 'messages': ['en.json', 'de.json', '--json'],
    'make-font': ['s.png', '-o', 'out.ttf'], 'subset': ['dot.ttf', '--chars', 'Oa', '-o', 'out.ttf'], 'repaint': ['atlas.json', '-o', 'out'],
}
# These wait, or write where they are told.
LEFT_OUT = {'--help', '--output', '--threads', '--header', '--depfile', '--svg'}


class Options:
    """What `--help` lists: name, and whether a value follows."""

    def __init__(self, grafema):
        self.known = {}
        for command in COMMANDS:
            text = subprocess.run([grafema, command, '--help'], capture_output=True, text=True, check=True).stdout
            found = re.findall(r'^  (?:-\w, )?(--[\w-]+)( +[^ \n]\S*)?', text, re.M)
            self.known[command] = [(name, len(value) > 0 and not value.startswith('   ')) for name, value in found if name not in LEFT_OUT]


def put_files(samples, folder):
    """The files that BASE names."""
    for name, data in (('looks.json', samples.looks), ('en.json', samples.catalogs[0]), ('de.json', samples.catalogs[-1]), ('s.png', samples.sheet[0]),
                       ('s.json', samples.sheet[1]), ('dot.ttf', samples.fonts['quillmere_dot.ttf']), ('atlas.json', samples.atlas[0]), ('atlas-0.png', samples.atlas[1])):
        (folder / name).write_bytes(data)
    for name, data in samples.pictures.items():
        (folder / name).write_bytes(data)


def attack(random, samples, folder, options):
    put_files(samples, folder)
    command = random.choice(COMMANDS)
    line = [command, *BASE[command]]
    for name, has_value in random.sample(options.known[command], min(random.choice([1, 1, 2, 4]), len(options.known[command]))):
        line += [name, random.choice(VALUES)] if has_value else [name]
    if command == 'draw' and random.random() < 0.2:
        line += ['--at', random.choice(VALUES), '--scale', random.choice(VALUES)]
    return line
