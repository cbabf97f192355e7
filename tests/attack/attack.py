#!/usr/bin/env python3
# SPDX-License-Identifier: MIT
"""attack.py GRAFEMA MINUTES [--seed N] [--jobs N] [--findings FOLDER]: damaged files, odd options, odd outputs and kills against the command.

Every run has limits of processor time and memory. A run holds (exit code 0 or 1), refuses (2, 3 or 4, with a reason), or is broken; what broke is
kept below FOLDER with its command line. Ends with 1 where anything did. The same seed attacks the same way.
"""
import argparse
import collections
import concurrent.futures
import json
import os
import pathlib
import random
import resource
import shutil
import signal
import subprocess
import sys
import tempfile
import time

import damage
import options
import outputs
import samples

SECONDS = 60  # of processor time, sanitizers included
MEGABYTES = 2500
FILE_BYTES = 1 << 28
WORDS_OF_A_CRASH = (b'AddressSanitizer', b'runtime error:', b'terminate called', b'LeakSanitizer', b'Assertion')


def limits():
    resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS + 2))
    resource.setrlimit(resource.RLIMIT_FSIZE, (FILE_BYTES, FILE_BYTES))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


class Run:
    """One run of the command: exit code, what it printed and what it took."""

    def __init__(self, grafema, line, folder, environment):
        try:
            with tempfile.TemporaryFile() as out, tempfile.TemporaryFile() as err:
                process = subprocess.Popen([grafema, *line], cwd=folder, env=environment, stdin=subprocess.DEVNULL, stdout=out, stderr=err,
                                           preexec_fn=limits)
                timer = time.monotonic() + 10 * SECONDS  # a run that waits; a busy machine is no fault
                while True:
                    pid, status, usage = os.wait4(process.pid, os.WNOHANG)
                    if pid != 0:
                        break
                    if time.monotonic() > timer:
                        process.send_signal(signal.SIGKILL)
                    time.sleep(0.005)
                process.returncode = self.exit = os.waitstatus_to_exitcode(status)
                self.seconds, self.megabytes = usage.ru_utime + usage.ru_stime, usage.ru_maxrss / 1024
                out.seek(0), err.seek(0)
                self.out, self.err = out.read(), err.read()
        except ValueError:  # a zero byte in an argument: no program can be given one
            self.exit, self.seconds, self.megabytes, self.out, self.err = 2, 0, 0, b'', b'no such argument'

    def complaint(self, line):
        if self.exit < 0:
            return f'ended by signal {-self.exit} after {self.seconds:.1f} s'
        if any(word in self.err for word in WORDS_OF_A_CRASH) or self.exit > 4:
            return f'exit code {self.exit}'
        if self.seconds > SECONDS or self.megabytes > MEGABYTES:
            return f'{self.seconds:.1f} s, {self.megabytes:.0f} MB'
        if self.exit >= 2 and not self.err.strip():
            return f'exit code {self.exit} without a word'
        if '--json' in line and self.exit <= 1 and '--credits' not in line and '--help' not in line:
            try:
                json.loads(self.out)
            except ValueError as error:
                return f'no JSON: {error}'
        return None


def listing(folder):
    return {str(path.relative_to(folder)): path.lstat().st_mtime_ns for path in folder.rglob('*') if not path.is_dir()}


class Attack:
    def __init__(self, arguments):
        self.grafema = str(pathlib.Path(arguments.grafema).resolve())
        self.findings = pathlib.Path(arguments.findings).resolve()
        self.seed = arguments.seed
        self.jobs = arguments.jobs
        self.environment = {**os.environ, 'ASAN_OPTIONS': 'detect_leaks=0:quarantine_size_mb=16:allocator_may_return_null=1',
                            'UBSAN_OPTIONS': 'halt_on_error=1', 'LC_ALL': 'C.UTF-8'}
        self.home = pathlib.Path(tempfile.mkdtemp(prefix='attack-'))
        self.samples = samples.Samples(self.grafema, self.home)
        self.options = options.Options(self.grafema)
        self.counts = collections.defaultdict(collections.Counter)
        self.check_samples()
        self.end = time.monotonic() + 60 * arguments.minutes
        self.kinds = [*samples.KINDS, options.attack, options.attack, outputs.attack, outputs.kill]

    def check_samples(self):
        """Undamaged samples are read: else nothing behind their readers' first lines would be attacked."""
        damage.NOTHING = True
        for number in range(2 * len(samples.KINDS)):
            source, kind = random.Random(number), samples.KINDS[number % len(samples.KINDS)]
            folder = self.home / f'sample-{number}'
            folder.mkdir()
            line = kind(source, self.samples, folder)
            run = Run(self.grafema, line, folder, self.environment)
            if run.exit > 1 or run.exit < 0:
                sys.exit(f'an undamaged {kind.__name__} is refused: {line}: {run.err.decode(errors="replace")}')
            shutil.rmtree(folder)
        damage.NOTHING = False

    def name_of(self, kind):
        return {options.attack: 'option', outputs.attack: 'output', outputs.kill: 'kill'}.get(kind, kind.__name__)

    def one(self, number):
        """Attack `number`; its kind and how it ended."""
        source = random.Random(f'{self.seed}/{number}')
        kind = self.kinds[number % len(self.kinds)]
        name = self.name_of(kind)
        folder = self.home / f'{number}'
        folder.mkdir()
        line, complaint, verdict = [], None, 'held'
        try:
            if kind is outputs.kill:
                complaint = outputs.kill(source, self.samples, folder, self.grafema, self.environment)
            else:
                check = None
                if kind is outputs.attack:
                    line, check = kind(source, self.samples, folder, None)
                elif kind is options.attack:
                    line = kind(source, self.samples, folder, self.options)
                else:
                    line = kind(source, self.samples, folder)
                before = listing(folder)
                run = Run(self.grafema, line, folder, self.environment)
                complaint = run.complaint(line) or (check(run.exit) if check else None)
                verdict = 'held' if run.exit <= 1 else 'refused'
                if complaint is None and verdict == 'refused' and listing(folder) != before:
                    complaint = f'refused, but wrote {sorted(set(listing(folder).items()) - set(before.items()))}'
                if complaint is not None:
                    complaint += '\n' + run.err.decode(errors='replace')[-4000:]
            if complaint is not None:
                self.keep(name, number, line, complaint, folder)
                verdict = 'broken'
        finally:
            shutil.rmtree(folder, ignore_errors=True)
        return name, verdict

    def keep(self, name, number, line, complaint, folder):
        kept = self.findings / f'{name}-{self.seed}-{number}'
        shutil.rmtree(kept, ignore_errors=True)
        kept.parent.mkdir(parents=True, exist_ok=True)
        kept.mkdir()
        for path in folder.iterdir():
            if path.is_file() and not path.is_symlink() and path.stat().st_size < 1 << 22:
                shutil.copy(path, kept)
        (kept / 'what').write_text(f'grafema {" ".join(map(repr, line))}\n{complaint}\n', encoding='utf-8', errors='replace')
        print(f'BROKEN {kept}: {complaint.splitlines()[0]}', flush=True)

    def all(self):
        jobs = self.jobs
        with concurrent.futures.ThreadPoolExecutor(jobs) as pool:
            running, number = set(), 0
            while running or time.monotonic() < self.end:
                while len(running) < 2 * jobs and time.monotonic() < self.end:
                    running.add(pool.submit(self.one, number))
                    number += 1
                done, running = concurrent.futures.wait(running, return_when=concurrent.futures.FIRST_COMPLETED)
                for future in done:
                    name, verdict = future.result()
                    self.counts[name][verdict] += 1
        shutil.rmtree(self.home, ignore_errors=True)
        print(f'| {"kind":9} | {"tried":>7} | {"held":>7} | {"refused":>7} | {"broken":>7} |\n|---|---|---|---|---|')
        for name, counts in sorted(self.counts.items()):
            print(f'| {name:9} | {sum(counts.values()):7} | {counts["held"]:7} | {counts["refused"]:7} | {counts["broken"]:7} |')
        return 1 if any(counts['broken'] for counts in self.counts.values()) else 0


if __name__ == '__main__':
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument('grafema')
    parser.add_argument('minutes', type=float)
    parser.add_argument('--seed', default='20261202')
    parser.add_argument('--jobs', type=int, default=os.cpu_count() or 1)
    parser.add_argument('--findings', default='out/attack')
    sys.exit(Attack(parser.parse_args()).all())
