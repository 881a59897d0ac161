"""The commands behind ./wren: the core without the web, and the web started."""

import argparse
import json
import os
import socket
import sys
from dataclasses import replace
from datetime import datetime
from pathlib import Path
from typing import NoReturn

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.climb import LadderRule, LadderSchool, ladder_by
from wren_ladder.drumming.files import read_file, write_file
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.performance import clock
from wren_ladder.drumming.study import Study, study, study_to_json
from wren_ladder.drumming.style import HOUSE

HERE = Path(__file__).resolve().parent.parent
PORT = 8765
PORTS_TRIED, LAST_PORT = 20, 65_535
WORKERS = 2


class OneLineParser(argparse.ArgumentParser):
    """Says what is wrong in one line; the commands stand in ./wren --help."""

    def error(self, message: str) -> NoReturn:
        self.exit(2, f"wren: {message}\n")


def main(arguments: list[str] | None = None) -> int:
    """Run one command; 0 if it went well, 2 if the input was wrong, told in one line."""
    options = _parser().parse_args(arguments)
    try:
        return options.run(options) or 0
    except ChartError as error:
        print(f"wren: {error}", file=sys.stderr)
        return 2
    except OSError as error:
        print(f"wren: {error.filename or 'input'}: {error.strerror or error}", file=sys.stderr)
        return 2
    except Exception as error:
        if options.run not in OF_STRANGERS:
            raise
        said = f"{type(error).__name__}: {error}".splitlines()[0]
        print(f"wren: the file makes the reader fail ({said:.100})", file=sys.stderr)
        return 2


def _parser() -> argparse.ArgumentParser:
    parser = OneLineParser(prog="wren")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    studying = commands.add_parser("study", help="what the core knows of a chart")
    studying.add_argument("file", type=Path)
    studying.add_argument("--json", action="store_true")
    studying.add_argument("--part", default="", help="a part's name, if there are several")
    studying.add_argument(
        "--repeats-after-jump",
        action="store_true",
        help="take repeats again after D.C. or D.S. where the page is silent",
    )
    studying.set_defaults(run=run_study)

    converting = commands.add_parser("convert", help="a chart from one file into another")
    converting.add_argument("source", type=Path)
    converting.add_argument("target", type=Path)
    converting.add_argument("--part", default="", help="a part's name, if there are several")
    converting.add_argument("--count-in", action="store_true", help="a bar of clicks (MIDI)")
    converting.set_defaults(run=run_convert)

    climb = commands.add_parser("ladder", help="the rungs between two tempos")
    climb.add_argument("start", type=int)
    climb.add_argument("target", type=int)
    climb.add_argument("--school", choices=["step", "percent", "marks"], default="step")
    climb.add_argument("--step", type=int, default=5, help="BPM or per cent, by the school")
    climb.set_defaults(run=run_ladder)

    demo = commands.add_parser("demo", help="a made-up drum room to try")
    demo.add_argument("--fresh", action="store_true", help="start the demo anew")
    demo.add_argument("--port", type=_port, default=PORT)
    demo.set_defaults(run=run_demo)

    serve = commands.add_parser("serve", help="the real thing")
    serve.add_argument("--port", type=_port, default=PORT)
    serve.add_argument("--host", default="127.0.0.1")
    serve.add_argument(
        "--workers", type=_one_or_more, default=WORKERS, help="processes that answer"
    )
    serve.add_argument(
        "--new", action="store_true", help="begin a new studio where WREN_DATA is empty"
    )
    serve.set_defaults(run=run_serve)

    teacher = commands.add_parser("teacher", help="a log-in for a teacher")
    teacher.add_argument("name")
    teacher.set_defaults(run=run_teacher)

    backing_up = commands.add_parser("backup", help="the whole studio in one file")
    backing_up.add_argument("to", type=Path, help="the folder that backups lie in")
    backing_up.add_argument("--keep", type=_one_or_more, help="only so many, the newest")
    backing_up.set_defaults(run=run_backup)

    restoring = commands.add_parser("restore", help="a backup in place of the studio")
    restoring.add_argument("file", type=Path)
    restoring.set_defaults(run=run_restore)

    catching_up = commands.add_parser("catch-up", help="what a new version wants worked out")
    catching_up.set_defaults(run=run_catch_up)

    sweeping = commands.add_parser("sweep", help="what was deleted out of the files too")
    sweeping.add_argument("--name", default="", help="and look for this name in every file")
    sweeping.set_defaults(run=run_sweep)

    checking = commands.add_parser("check", help="is everything in order?")
    checking.set_defaults(run=run_check)

    testing = commands.add_parser("test", help="every test, or those named")
    testing.add_argument("names", nargs="*")
    testing.set_defaults(run=run_tests)

    bench = commands.add_parser("bench", help="how long things take")
    bench.set_defaults(run=run_bench)

    fuzz = commands.add_parser("fuzz", help="damaged files before every reader")
    fuzz.add_argument("count", type=_one_or_more, nargs="?", default=10_000)
    fuzz.set_defaults(run=run_fuzz)
    return parser


def _one_or_more(text: str) -> int:
    number = read_whole(text, 1)
    if number is None:
        raise argparse.ArgumentTypeError("a number from 1 on is wanted")
    return number


def _port(text: str) -> int:
    number = read_whole(text, 1, LAST_PORT)
    if number is None:
        raise argparse.ArgumentTypeError(f"a port is a number from 1 to {LAST_PORT}")
    return number


def run_study(options: argparse.Namespace) -> None:
    chart, problems = read_file(options.file.name, options.file.read_bytes(), options.part)
    style = replace(HOUSE, repeats_after_jump=options.repeats_after_jump)
    studied = study(chart, style, problems)
    if options.json:
        print(json.dumps(study_to_json(studied), ensure_ascii=False, indent=1))
    else:
        _print_study(studied)


def _print_study(studied: Study) -> None:
    bars = studied.chart.bars
    played = len(studied.visits)
    print(f"{studied.chart.title}: {len(bars)} bars, {played} played, {clock(studied.seconds)}")
    for bar in studied.bars:
        number = f"bar {bar.bar.number}"
        if bar.twin_of is not None:
            print(f"{number}: is {bars[bar.twin_of].number} again")
            continue
        count = " ".join(f"({c.say})" if c.silent else c.say for c in bar.counts)
        print(f"{number}: {count}")
        if bar.trouble:
            print(f"    watch: {'; '.join(bar.trouble)}")
    for problem in studied.warnings:
        print(f"! {problem}")


def run_convert(options: argparse.Namespace) -> None:
    chart, problems = read_file(options.source.name, options.source.read_bytes(), options.part)
    options.target.write_bytes(write_file(options.target.name, chart, options.count_in))
    for problem in problems:
        print(f"! {problem}", file=sys.stderr)


def run_ladder(options: argparse.Namespace) -> None:
    rule = LadderRule(LadderSchool(options.school), options.step)
    print(*ladder_by(options.start, options.target, rule))


def run_demo(options: argparse.Namespace) -> None:
    os.environ |= {"WREN_DEMO": "1", "WREN_DATABASE": "demo.sqlite3"}
    _start_django()
    from wren_ladder.demo import studio

    print("wren: preparing the demo studio", flush=True)
    studio.prepare(fresh=options.fresh)
    print(f"wren: log in as {studio.USER}, password {studio.PASSWORD}", flush=True)
    _serve("127.0.0.1", _free_port(options.port))


def run_serve(options: argparse.Namespace) -> int | None:
    _start_django()
    from wren_ladder.studio.keeping.starting import StartError, made_ready

    try:
        made_ready(_say, options.new)
    except StartError as error:
        print(f"wren: {error}", file=sys.stderr)
        return 1
    from wren_ladder.studio.accounts.start_up import start_up_code

    if code := start_up_code():
        _say(f"nobody has a log-in yet; the start-up code of the first one is {code}")
    _serve(options.host, _free_port(options.port), options.workers)
    return None


def run_backup(options: argparse.Namespace) -> int:
    """Another program runs it every night: what went wrong is a line and a number."""
    _start_django()
    from wren_ladder.studio.keeping.backup import BackupError, back_up, remember
    from wren_ladder.studio.keeping.starting import this_place

    place, now = this_place(), datetime.now().astimezone()
    try:
        made = back_up(place, options.to, now, options.keep)
    except BackupError as error:
        print(f"wren: no backup: {error}", file=sys.stderr)
        return 1
    remember(place, made, now)
    _say(f"{made}, {made.stat().st_size >> 10} KB, looked over")
    return 0


def run_restore(options: argparse.Namespace) -> int:
    _start_django()
    from wren_ladder.studio.keeping.backup import BackupError, bring_back
    from wren_ladder.studio.keeping.starting import StartError, alone, made_ready, this_place

    try:
        with alone():
            aside = bring_back(this_place(), options.file, datetime.now().astimezone())
        made_ready(_say)
    except (BackupError, StartError) as error:
        print(f"wren: nothing is restored: {error}", file=sys.stderr)
        return 1
    _say(f"restored from {options.file}" + (f"; what was there: {aside}" if aside else ""))
    return 0


def run_check(options: argparse.Namespace) -> int:
    _start_django()
    from django.utils import timezone

    from wren_ladder.studio.keeping.look_over import looked_over
    from wren_ladder.studio.keeping.starting import this_place

    wrong = 0
    for finding in looked_over(this_place(), timezone.localdate()):
        wrong += finding.is_wrong
        print(f"{'WRONG' if finding.is_wrong else 'good '} {finding.what}", flush=True)
    return 1 if wrong else 0


def run_catch_up(options: argparse.Namespace) -> None:
    _start_django()
    from django.conf import settings

    from wren_ladder.studio.keeping.catching_up import work_out

    _say(f"{work_out(settings.DATA)} plans are worked out")


def run_sweep(options: argparse.Namespace) -> int:
    _start_django()
    from django.utils import timezone

    from wren_ladder.studio.kept_on_disk import forget
    from wren_ladder.studio.privacy.erasing import files_with, sweep
    from wren_ladder.studio.privacy.expiry import expire

    gone = expire(timezone.now())
    forget("prints", "engravings")
    swept = sweep()
    _say(f"{gone} rows had come to their end; the database is written anew")
    if not swept:
        print("wren: somebody was reading, so the log stays: stop the studio first")
    if not options.name:
        return 0 if swept else 1
    left = files_with(options.name)
    _say(f"{options.name} is in no file of the studio" if not left else "the name is still in")
    for path in left:
        print(f"  {path}")
    return 0 if swept and not left else 1


def _say(line: str) -> None:
    print(f"wren: {line}", flush=True)


def run_teacher(options: argparse.Namespace) -> int:
    _start_django()
    _migrate()
    from wren_ladder.studio.accounts.teachers import ask_for_teacher

    return ask_for_teacher(options.name)


def run_tests(options: argparse.Namespace) -> int:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "tests.settings")
    from tests.runner import run

    return run(options.names)


def run_fuzz(options: argparse.Namespace) -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "tests.settings")
    from tests.fuzz import main as fuzz

    fuzz(options.count)


def run_bench(options: argparse.Namespace) -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "tests.settings")
    from bench.run import run

    run()


# Commands that read what anybody may have written.
OF_STRANGERS = (run_study, run_convert)


def _start_django() -> None:
    os.umask(0o077)  # what the studio writes is for nobody else's eyes
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "wren_ladder.studio.settings")
    import django

    django.setup()


def _migrate() -> None:
    from django.core.management import call_command

    call_command("migrate", verbosity=0)


def _free_port(wanted: int) -> int:
    """The port asked for, or the next one that nobody listens on."""
    last = min(wanted + PORTS_TRIED - 1, LAST_PORT)
    for port in range(wanted, last + 1):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", port))
            except OSError:
                print(f"wren: port {port} is taken, trying the next", flush=True)
                continue
            return port
    raise OSError(0, f"no free port from {wanted} to {last}")


def _serve(host: str, port: int, workers: int = WORKERS) -> None:
    from django.db import connections

    from wren_ladder.studio.serving import serve

    connections.close_all()  # none is shared by processes
    print(f"wren: open http://{host}:{port}/  (Ctrl-C stops)", flush=True)
    serve(host, port, workers)


if __name__ == "__main__":
    sys.exit(main())
