#!/usr/bin/env python3
"""Starts Wren Ladder: makes its environment where there is none, then runs a command.

This file runs on whatever Python is there, so it keeps to old syntax.
"""

import hashlib
import os
import shutil
import subprocess
import sys

HERE = os.path.dirname(os.path.abspath(__file__))
VENV = os.path.join(HERE, ".venv")
PYTHON = os.path.join(VENV, "bin", "python")
OLDEST = (3, 11)
PDF_PACKAGES = ["libpango-1.0-0", "libpangoft2-1.0-0", "libharfbuzz-subset0"]
USAGE = """usage: ./wren COMMAND

  demo [--fresh] [--port N]    try it: a made-up drum room, served on this machine
  serve [--port N] [--workers N] [--new]  the real thing; settings come from the environment
  teacher NAME                 make a log-in for a teacher, or give it a new password
  study FILE [--json]          what the core knows of a chart
  convert IN OUT               between .wren, .musicxml, .mxl, .mid and .mei
  ladder START TARGET          the rungs between two tempos
  backup FOLDER [--keep N]     the whole studio in one file, while it runs
  restore FILE                 a backup in place of the studio
  check                        is everything in order?
  sweep [--name NAME]          what was deleted out of the database's files too
  catch-up                     what a new version wants worked out, now
  test [NAME ...]              every test, or those named
  bench                        how long things take
  fuzz [COUNT]                 damaged files before every reader
"""


def say(text):
    print("wren: " + text, flush=True)


def stop(text):
    sys.stderr.write("wren: " + text + "\n")
    sys.exit(2)


def main():
    if len(sys.argv) < 2 or sys.argv[1] in ("-h", "--help", "help"):
        print(USAGE)
        return
    if sys.version_info < OLDEST:
        stop(
            "Python %d.%d is too old; %d.%d or newer is needed. "
            "If one is installed, start it by name: python3.11 wren %s"
            % (sys.version_info[:2] + OLDEST + (" ".join(sys.argv[1:]),))
        )
    command = sys.argv[1]
    make_environment("requirements.lock")
    if command in ("test", "bench", "fuzz"):
        make_environment("requirements-test.lock")
    if command in ("demo", "serve", "test"):
        need_pdf_libraries()
    if command == "test":
        need_chromium()
    os.chdir(HERE)
    os.environ["PYTHONPATH"] = HERE
    # Each thread would keep free memory of its own, a third of what a process holds.
    os.environ.setdefault("MALLOC_ARENA_MAX", "2")
    arguments = [PYTHON, "-m", "wren_ladder.cli"] + sys.argv[1:]
    os.execv(PYTHON, arguments)


def make_environment(lock):
    """Install what the lock file pins, once for each version of it."""
    path = os.path.join(HERE, lock)
    with open(path, "rb") as file:
        wanted = hashlib.sha256(file.read()).hexdigest()
    stamp = os.path.join(VENV, lock + ".sha256")
    if os.path.exists(stamp) and os.path.exists(PYTHON):
        with open(stamp) as file:
            if file.read() == wanted:
                return
    if not os.path.exists(PYTHON):
        say("making a virtual environment in .venv")
        made = subprocess.call([sys.executable, "-m", "venv", VENV])
        if made != 0:
            stop("no virtual environment could be made; is Python's venv module installed?")
    say("installing what %s pins (a minute or two the first time)" % lock)
    install = [PYTHON, "-m", "pip", "install", "--disable-pip-version-check"]
    install += ["--progress-bar", "off", "-r", path]
    process = subprocess.Popen(
        install, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, universal_newlines=True
    )
    lines = []
    for line in process.stdout:
        lines.append(line)
        if line.startswith(("Collecting", "Installing", "Successfully")):
            text = line.strip()
            say("  " + (text if len(text) < 90 else text[:87] + "..."))
    if process.wait() != 0:
        sys.stderr.write("".join(lines[-12:]))
        stop(
            "the packages could not be installed. Is there a network connection? "
            "Nothing is lost: run the same command again when there is."
        )
    with open(stamp, "w") as file:
        file.write(wanted)


def need_pdf_libraries():
    """WeasyPrint draws with Pango, which pip cannot bring."""
    found = subprocess.call(
        [PYTHON, "-c", "import weasyprint"],
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )
    if found != 0 and not apt(PDF_PACKAGES):
        say("printing lesson sheets needs Pango; install " + " ".join(PDF_PACKAGES))


def need_chromium():
    if shutil.which("chromium") or os.environ.get("WREN_CHROMIUM"):
        return
    if not apt(["chromium"]):
        stop("the browser tests need Chromium: apt-get install chromium")


def apt(packages):
    """Install Debian packages where that is possible; True if it was done."""
    if not shutil.which("apt-get") or os.geteuid() != 0:
        return False
    say("installing " + " ".join(packages) + " with apt-get")
    environment = dict(os.environ, DEBIAN_FRONTEND="noninteractive")
    for command in (["update", "-qq"], ["install", "-y", "-qq"] + packages):
        quiet = subprocess.DEVNULL
        if subprocess.call(["apt-get"] + command, env=environment, stdout=quiet) != 0:
            return False
    return True


if __name__ == "__main__":
    main()
