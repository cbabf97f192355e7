# SPDX-License-Identifier: MIT
"""Outputs onto every kind of target, and commands killed at any moment."""
import os
import pathlib
import signal
import socket
import stat
import subprocess
import time

import options

WRITERS = {
    'draw': (['draw', '--text', 'Oak', '--size', '14', '-o'], 'out.png'),
    'frames': (['draw', '--text', 'Oak', '--size', '14', '--frames', '3', '--motion', 'sway', '-o'], 'out%d.png'),
    'bake': (['bake', 'dot.ttf', '--chars', 'OakLeaf', '--size', '20', '--again', '-o'], 'out'),
    'subset': (['subset', 'dot.ttf', '--chars', 'Oak', '-o'], 'out.ttf'),
    'make-font': (['make-font', 's.png', '--proof', 'proof.png', '-o'], 'out.ttf'),
    'extrude': (['extrude', '--text', 'Oak', '-o'], 'out.obj'),
    'contours': (['contours', '--text', 'Oak', '--svg'], 'out.svg'),
    'specimen': (['specimen', '--text', 'Oak', '--sizes', '12', '-o'], 'out.png'),
    'looks': (['looks', 'looks.json', '-o'], 'out.png'),
    'repaint': (['repaint', 'atlas.json', '-o'], 'out'),
}
# What each of them reads.
READ = {
    'bake': ['dot.ttf'], 'subset': ['dot.ttf'], 'make-font': ['s.png', 's.json'], 'looks': ['looks.json'], 'repaint': ['atlas.json', 'atlas-0.png'],
}
INPUTS = ['dot.ttf', 's.png', 's.json', 'looks.json', 'atlas.json', 'atlas-0.png']


def make_target(random, folder):
    """A name and what is there."""
    path = folder / 'target'
    kind = random.choice(['folder', 'link', 'loop', 'dangling', 'pipe', 'socket', 'full', 'null', 'input', 'input link', 'input hard link', 'long', 'newline',
                          'empty', 'below a file', 'below nothing', 'dash', 'dots', 'file'])
    name = 'target'
    if kind == 'folder':
        path.mkdir()
    elif kind == 'file':
        path.write_bytes(b'old')
    elif kind == 'link':
        (folder / 'there').write_bytes(b'old')
        path.symlink_to('there')
    elif kind == 'loop':
        path.symlink_to('target')
    elif kind == 'dangling':
        path.symlink_to('nothing')
    elif kind == 'pipe':
        os.mkfifo(path)
    elif kind == 'socket':
        here = os.getcwd()
        with socket.socket(socket.AF_UNIX) as bound:
            bound.bind(f'/proc/self/fd/{os.open(folder, os.O_RDONLY)}/target')
        os.chdir(here)
    elif kind in ('full', 'null'):
        os.mknod(path, stat.S_IFCHR | 0o666, os.makedev(1, 7 if kind == 'full' else 3))
    elif kind == 'input':
        name = random.choice(INPUTS)
    elif kind == 'input link':
        path.symlink_to(random.choice(INPUTS))
    elif kind == 'input hard link':
        os.link(folder / random.choice(INPUTS), path)
    else:
        (folder / 'plain').write_bytes(b'old')
        name = {'long': 'a' * 300, 'newline': 'a\nb', 'empty': '', 'below a file': 'plain/out', 'below nothing': 'x/y/out', 'dash': '-', 'dots': '..'}[kind]
    return name, kind


def attack(random, samples, folder, _):
    """A writer and its target. What was read and what is no file must be as it was."""
    options.put_files(samples, folder)
    writer = random.choice(list(WRITERS))
    line, usual = WRITERS[writer]
    before = {name: (folder / name).read_bytes() for name in READ.get(writer, [])}
    try:
        name, kind = make_target(random, folder)
    except PermissionError:  # devices are made by root alone
        name, kind = 'target', 'nothing'
    mode = os.lstat(folder / 'target').st_mode if os.path.lexists(folder / 'target') else None
    if kind in ('file', 'link', 'nothing'):
        name += pathlib.Path(usual).suffix if random.random() < 0.5 else ''

    def check(exit_code):
        changed = [name for name, data in before.items() if (folder / name).read_bytes() != data]
        if changed:
            return f'an input was overwritten ({kind}): {changed}'
        if mode is not None and stat.S_IFMT(os.lstat(folder / 'target').st_mode) != stat.S_IFMT(mode) and not stat.S_ISREG(mode):
            return f'a {kind} became something else'
        if kind == 'full' and exit_code == 0 and name == 'target' and usual in ('out.png', 'out.ttf', 'out.svg'):
            return 'a full device was not noticed'
        return None

    return [*line, name], check


def contents(folder):
    return {path.name: path.read_bytes() for path in folder.iterdir() if path.is_file() and path.name not in INPUTS}


def kill(random, samples, folder, grafema, environment):
    """Writes something, then something else over it, killed at any moment. Gives a complaint, or nothing."""
    options.put_files(samples, folder)
    line, name = WRITERS[random.choice(['frames', 'bake', 'subset', 'make-font', 'extrude', 'draw'])]
    other = {'dot.ttf': 'quillmere_signs.ttf', 's.png': None}

    def run(limit):
        started = time.monotonic()
        with subprocess.Popen([grafema, *line, name], cwd=folder, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL) as process:
            try:
                process.wait(limit)
            except subprocess.TimeoutExpired:
                process.send_signal(signal.SIGKILL)
                process.wait()
        return time.monotonic() - started

    run(None)
    old = contents(folder)
    if 'Oak' in line:
        line = ['Elm' if word == 'Oak' else word for word in line]
    elif 'OakLeaf' in line:
        line = ['ElmTwigs' if word == 'OakLeaf' else word for word in line]
    else:
        (folder / 's.png').write_bytes(samples.sheet[0])
        line = [*line[:1], *line[1:]]
    del other
    took = run(None)
    new = contents(folder)
    run(None)
    for path in list(folder.iterdir()):
        if path.name not in INPUTS:
            path.unlink()
    for file, data in old.items():
        (folder / file).write_bytes(data)
    run(random.random() * took)
    now = contents(folder)
    for file in set(old) | set(new):
        if now.get(file) not in (old.get(file), new.get(file)):
            return f'{line}: {file} is neither the old nor the new one'
    if 'bake' in line:
        loaded = subprocess.run([grafema, 'measure', '--atlas', 'out.json', '--text', 'a'], cwd=folder, env=environment, capture_output=True, check=False)
        if loaded.returncode != 0:
            return f'the atlas is lost: {loaded.stderr.decode(errors="replace")}'
    run(None)
    if contents(folder) != new:
        return f'{line}: the next run does not end with the new files: {sorted(contents(folder))}'
    return None
