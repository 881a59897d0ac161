"""A real studio served to a real browser: Debian's Chromium, driven by Playwright."""

import os
import shutil
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import User
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.test import Client
from playwright.sync_api import Page, expect, sync_playwright

AXE = Path(__file__).parent / "vendor/axe.min.js"
CHROMIUM = os.environ.get("WREN_CHROMIUM") or shutil.which("chromium")
expect.set_options(timeout=20_000)  # a busy machine is no fault
QUIET = ["--no-sandbox", "--disable-background-networking", "--disable-component-update"]


class BrowserTest(StaticLiveServerTestCase):
    """One browser for the class, one fresh profile a test; console errors fail the test."""

    width, height = 1280, 800
    by_touch = False
    # The driver switches the browser's memory of pages off, which people have.
    page_memory = False

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.playwright = sync_playwright().start()
        switched_off = [] if not cls.page_memory else ["--disable-back-forward-cache"]
        cls.browser = cls.playwright.chromium.launch(
            executable_path=CHROMIUM, args=QUIET, ignore_default_args=switched_off
        )

    @classmethod
    def tearDownClass(cls):
        cls.browser.close()
        cls.playwright.stop()
        super().tearDownClass()

    def setUp(self):
        self.context = self.browser.new_context(
            # axe-core is put into the page by the test; the policy itself is tested apart.
            bypass_csp=self.bypass_csp,
            viewport={"width": self.width, "height": self.height},
            has_touch=self.by_touch,
        )
        self.page = self.context.new_page()
        self.page.set_default_timeout(20_000)
        self.complaints: list[str] = []
        self.page.on("pageerror", lambda error: self.complaints.append(str(error)))
        self.page.on("console", self._hear)
        self.addCleanup(self.context.close)

    bypass_csp = False

    def _hear(self, message):
        # A request that gave way to a newer one is no fault; a failed one is told otherwise.
        given_way = message.text.startswith(("htmx:afterRequest", "htmx:sendAbort"))
        if message.type == "error" and "status of 4" not in message.text and not given_way:
            self.complaints.append(message.text)

    def tearDown(self):
        self.assertEqual(self.complaints, [])

    def until(self, true, seconds: int = 20) -> None:
        """Waits for what the studio shall have done, which no page shows."""
        for _ in range(seconds * 10):
            if true():
                return
            self.page.wait_for_timeout(100)
        self.fail(f"not so after {seconds} s")

    def go(self, address: str) -> Page:
        self.page.goto(self.live_server_url + address)
        return self.page

    def log_in(self, name: str = "ada") -> None:
        """As after the form, which costs a second; tests/browser/test_back.py fills it in."""
        asked = Client()
        asked.force_login(User.objects.get(username=name))
        session = {"name": settings.SESSION_COOKIE_NAME, "url": self.live_server_url}
        self.context.add_cookies(
            [{**session, "value": asked.cookies[settings.SESSION_COOKIE_NAME].value}]
        )
        self.go("/").locator(".desk-head h1").wait_for()
