"""Scripts, styles and sounds carry their content in their address, and are kept for ever."""

import os
import re
import tempfile
from pathlib import Path

from django.contrib.staticfiles import finders
from django.templatetags.static import static
from django.urls import reverse

from tests.studio.base import StudioTest
from wren_ladder import studio
from wren_ladder.studio.static_files import file_version, kept_for_ever
from wren_ladder.studio.templatetags.wren_tags import samples

TEMPLATES = Path(studio.__file__).parent / "templates"
CLASS = re.compile(r"\.([A-Za-z][\w-]*)")
BOOTSTRAPS = re.compile(
    r"[mp][tbsexy]?-(\d|auto)|(col|row-cols|g|d|align|justify|flex|order|text|fs|fw|bg|border|"
    r"rounded|position|float|overflow|opacity|shadow|btn|form|input|table|list|visually)-[\w-]+"
    r"|[wh]-\d+|gap-\d|row|btn|table|card|alert|badge|nav|modal|container"
)


class Versions(StudioTest):
    def test_every_script_and_style_of_a_page_has_one(self):
        page = self.client.get(reverse("workshop")).content.decode()
        found = re.findall(r'(?:src|href)="(/static/[^"]+\.(?:js|css)[^"]*)"', page)
        self.assertGreater(len(found), 5)
        for address in found:
            self.assertRegex(address, r"\?v=[0-9a-f]{10}$")

    def test_it_changes_with_the_content_and_only_with_it(self):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "one.js"
            path.write_text("1")
            first = file_version(path)
            os.utime(path, (1, 1))
            self.assertEqual(file_version(path), first)
            path.write_text("2")
            os.utime(path, (2, 2))
            self.assertNotEqual(file_version(path), first)

    def test_samples_have_that_of_their_folder(self):
        self.assertRegex(samples("wren/sounds"), r"/wren/sounds/NAME\.ENDING\?v=[0-9a-f]{10}$")
        self.assertNotEqual(samples("wren/sounds")[-10:], samples("wren/words")[-10:])
        self.assertIn("?v=", static("wren/wren.css"))

    def test_they_are_kept_for_ever_but_what_has_no_version_is_not(self):
        for path, kept in (
            ("a/player.js", True),
            ("a/kick.ogg", True),
            ("a/font.woff2", True),
        ):
            headers = {}
            kept_for_ever(headers, path, path)
            self.assertEqual("immutable" in headers.get("Cache-Control", ""), kept, path)


class Travelling(StudioTest):
    """What is sent is packed, and no style sheet holds what no page asks for."""

    def encoding(self, address: str, accepted: str = "gzip, deflate, br, zstd") -> str:
        answer = self.client.get(address, headers={"accept-encoding": accepted})
        return answer.get("Content-Encoding", "")

    def test_pages_and_style_sheets_are_packed(self):
        for address in (reverse("desk"), "/static/wren/wren.css", "/static/wren/wren.js"):
            with self.subTest(address):
                self.assertEqual(self.encoding(address), "gzip")
                self.assertEqual(self.encoding(address, "identity"), "")

    def test_what_is_packed_already_is_not_packed_again(self):
        font = "/static/vendor/fonts/fraunces-latin-600-normal.woff2"
        sounds = [f"/static/wren/sounds/kick.{ending}" for ending in ("ogg", "flac")]
        for address in (font, *sounds):
            with self.subTest(address):
                self.assertEqual(self.client.get(address).status_code, 200)
                self.assertEqual(self.encoding(address), "")

    def test_what_pages_wear_of_bootstrap_is_in_its_parts(self):
        """By the templates: names as Bootstrap makes them are in its file or in our own."""
        sheets = (
            finders.find(f"{one}.css") for one in ("vendor/bootstrap/bootstrap", "wren/wren")
        )
        styled = set(CLASS.findall(" ".join(Path(one).read_text() for one in sheets)))
        worn = {
            one
            for path in TEMPLATES.rglob("*.html")
            for names in re.findall(r'class="([^"]*)"', path.read_text())
            for one in re.sub(r"{[{%].*?[%}]}", " ", names).split()
            if BOOTSTRAPS.fullmatch(one)
        }
        self.assertGreater(len(worn), 30)
        self.assertEqual(worn - styled, set(), "name it in bootstrap.scss, and make it anew")

    def test_fonts_of_the_first_screen_come_with_the_page(self):
        page = self.client.get(reverse("desk")).content.decode()
        style = Path(finders.find("wren/wren.css")).read_text()
        sent = re.findall(r'rel="preload" href="([^"]+)"', page)
        self.assertEqual(len(sent), 3)
        for address in sent:
            self.assertIn(address.removeprefix("/static/"), style)  # one address, one download
