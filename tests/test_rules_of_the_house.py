"""The rules of the house that a program can check."""

import os
import re
import subprocess
import sys
import unittest
from pathlib import Path

HERE = Path(__file__).resolve().parent.parent
BIN = Path(sys.executable).parent
MOST_COLUMNS = 120


def run(*command: str) -> subprocess.CompletedProcess:
    return subprocess.run(
        [str(BIN / command[0]), *command[1:]], cwd=HERE, capture_output=True, text=True
    )


class RulesOfTheHouse(unittest.TestCase):
    def test_the_layers_import_downward_only(self):
        done = run("lint-imports", "--no-cache")
        self.assertEqual(done.returncode, 0, done.stdout)

    def test_the_code_is_lint_free_and_formatted(self):
        checked = run("ruff", "check", "--no-cache", ".")
        self.assertEqual(checked.returncode, 0, checked.stdout)
        formatted = run("ruff", "format", "--no-cache", "--check", ".")
        self.assertEqual(formatted.returncode, 0, formatted.stdout)

    def test_the_cores_types_are_right(self):
        done = run("mypy", "--cache-dir", os.devnull, "wren_ladder/drumming")
        self.assertEqual(done.returncode, 0, done.stdout)

    def test_no_model_has_changed_without_a_migration(self):
        """A new ladder school is a new choice of a field, which nobody sees."""
        environment = {**os.environ, "DJANGO_SETTINGS_MODULE": "tests.settings"}
        done = subprocess.run(
            [sys.executable, "-m", "django", "makemigrations", "--check", "--dry-run"],
            cwd=HERE, capture_output=True, text=True, env=environment,
        )  # fmt: skip
        self.assertEqual(done.returncode, 0, done.stdout)

    def test_templates_load_nothing_from_outside_and_hold_no_inline_code(self):
        for path in (HERE / "wren_ladder/studio/templates").rglob("*.html"):
            text = path.read_text()
            with self.subTest(path.name):
                self.assertNotRegex(text, r'(src|href)="(https?:)?//')
                self.assertNotRegex(text, r"<style|\sstyle=|\son[a-z]+=")
                self.assertNotRegex(text, r"<script(?![^>]*src=)")

    def test_templates_styles_and_scripts_can_be_read_without_scrolling_sideways(self):
        studio = HERE / "wren_ladder/studio"
        paths = [*studio.rglob("*.html"), *studio.rglob("*.css"), *studio.rglob("*.js")]
        for path in (path for path in paths if "vendor" not in path.parts):
            for number, line in enumerate(path.read_text().splitlines(), 1):
                self.assertLessEqual(len(line), MOST_COLUMNS, f"{path.name}:{number}")

    def test_the_files_that_the_documents_name_are_there(self):
        rooms = ("", "wren_ladder", "wren_ladder/drumming", "wren_ladder/studio")
        for name in ("docs/sources.md", "docs/architecture.md"):
            for path in re.findall(r"`([a-z_/]+(?:\.py|/))`", (HERE / name).read_text()):
                there = any((HERE / room / path).exists() for room in rooms)
                self.assertTrue(there, f"{name}: {path}")

    def test_every_vendored_folder_has_its_licence(self):
        vendor = HERE / "wren_ladder/studio/static/vendor"
        for folder in vendor.iterdir():
            self.assertTrue(list(folder.glob("LICENSE*")), folder.name)


if __name__ == "__main__":
    unittest.main()
