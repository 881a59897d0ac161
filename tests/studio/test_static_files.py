"""Scripts, styles and sounds carry their content in their address, and are kept for ever."""

import os
import re
import tempfile
from pathlib import Path

from django.templatetags.static import static
from django.urls import reverse

from tests.studio.base import StudioTest
from wren_ladder.studio.static_files import file_version, kept_for_ever
from wren_ladder.studio.templatetags.wren_tags import samples


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
            ("a/kick.flac", True),
            ("a/font.woff2", False),
        ):
            headers = {}
            kept_for_ever(headers, path, path)
            self.assertEqual("immutable" in headers.get("Cache-Control", ""), kept, path)
