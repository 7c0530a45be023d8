"""What a tuner does on the pages, by the words on them."""

import re

from playwright.sync_api import expect

from writer import Writer


class Tuner:
    """Somebody at one page."""

    def __init__(self, page, server):
        self.page, self.server, self.address = page, server, server.address

    def job(self):
        """The job on the page, read and written beside the screen."""
        return Writer(self.server.client, f"/api/jobs/{self.page.url.split('/job/')[1].split('/')[0]}")

    def tab(self, name):
        link = self.page.get_by_role("navigation").get_by_role("link", name=name, exact=True)
        link.click()
        expect(link).to_have_class(re.compile("router-link-active"))
        return self

    def field(self, name):
        return self.page.get_by_label(name, exact=True)

    def enter(self, name, text, unit=None):
        if unit:
            self.field(f"{name}: unit").select_option(unit)
        self.field(name).click()
        self.page.keyboard.type(text)
        self.page.keyboard.press("Enter")

    def type_readings(self, *texts):
        """Type into the field that waits, each with Enter, once the one before was taken."""
        for kept, text in enumerate(texts):
            expect(self.page.locator("input:focus")).to_have_value("" if kept else re.compile(".*"))
            if kept:
                expect(self.page.locator(".field:focus-within .turn")).to_contain_text(f"reading {kept + 1}")
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")

    def saved(self):
        self.page.get_by_text("All saved").wait_for()

    def press(self, name, within=None):
        (within or self.page).get_by_role("button", name=name, exact=True).click()

    def move(self, words):
        button = self.page.get_by_label("Move the car").last.get_by_role("button", name=words)
        button.click()
        expect(button).to_have_attribute("aria-pressed", "true")  # the page no longer shifts under the next tap

    def board(self, name):
        return self.page.get_by_role("region", name=name, exact=True)

    def bring(self, name, *actions):
        for action in actions:
            self.board(name).get_by_role("button", name=re.compile(f"^{action}")).click()

    def torque(self, name, reading):
        self.board(name).get_by_label(f"{name}: torque reading").fill(reading)
        self.bring(name, "Torqued")
        expect(self.board(name).get_by_text("✓ torqued")).to_be_visible()

    def done(self, title):
        expect(self.page.get_by_role("heading", level=2, name=title)).to_be_visible()
        self.press("✓ Done")
        expect(self.page.get_by_role("heading", level=2, name=title)).to_have_count(0)
