"""What somebody does who follows a plan on the screen to its end, and how often the screen is touched for it."""

import re

from playwright.sync_api import expect

COUNT_TOUCHES = """
addEventListener('click', (e) => e.isTrusted && e.detail && bump(), true)
addEventListener('change', (e) => e.target.matches('input:not([type=checkbox]):not([type=radio])') && bump(), true)
const bump = () => sessionStorage.setItem('touches', String(Number(sessionStorage.getItem('touches') ?? 0) + 1))
"""
# A card that has just come is deaf for half a second, lest a second tap finish it; here nobody taps twice.
HURRY = "const wait = setTimeout; window.setTimeout = (then, ms, ...rest) => wait(then, ms / 20, ...rest)"
# What a card shows, asked at once.
SHOWN = """(card) => ({
  move: Boolean(card.querySelector('[aria-label="Move the car"]')),
  own: Boolean(card.querySelector('[aria-label="Read at this step"]')),
  fasteners: Boolean(card.querySelector('[aria-label="Fasteners of this step"]')),
})"""
NAMES = "(part) => [...part.querySelectorAll('button')].map((one) => one.ariaLabel ?? one.innerText.trim())"
WALKED = {"Ride height": "360", "Toe": "6'", "Camber": "-0.6", "Caster": "4"}


def pick(choice, words):
    """Choose from a list that opens, by the words on one of its lines."""
    shown(choice).click()
    found = choice.page.get_by_role("option", name=words, exact=isinstance(words, str)).filter(visible=True)
    found.first.click()
    expect(found).to_have_count(0)


def shown(choice):
    """What a list that opens shows of its choice."""
    return choice.locator("xpath=ancestor::div[contains(@class, 'el-select__wrapper')]")


def file_of(page, label):
    """Where a file is put by its label."""
    return page.get_by_role("group", name=label).locator("input[type=file]")


def button_of(part, words):
    """The first button of a part of the page that shows the words, a regular expression from its beginning."""
    return part.locator("button").filter(has_text=re.compile(rf"^\s*({words})")).first


class Worker:
    """Follows the plan of a new job: moves the car, reads what is asked, brings every bolt, says done."""

    def __init__(self, tuner, counts=None):
        self.tuner, self.page = tuner, tuner.page
        self.counts = counts or {"Turns off": "24", "Turns on": "24"}
        self.values = {}
        self.page.add_init_script(COUNT_TOUCHES)
        self.page.add_init_script(HURRY)
        self.page.reload()

    @property
    def touches(self):
        return int(self.page.evaluate("sessionStorage.getItem('touches') ?? 0"))

    def start(self, car, *parts, ways=(), answers=(), sides=()):
        """A job on a new car; parts by the words on their buttons, questions and schools by their labels."""
        page = self.page
        self.tuner.field("Car").fill(car)
        self.tuner.press("Start the job")
        for part in parts:
            page.get_by_role("button", name=part, exact=True).click()
            expect(page.get_by_role("button", name=part, exact=True)).to_be_disabled()
        for label, value in (*answers, *ways):
            pick(page.get_by_role("combobox", name=re.compile(f"^{label}")).first, value)
        for part, side in sides:
            page.get_by_role("article", name=part).get_by_role("button", name=side).click()
        with page.expect_response(lambda answer: answer.url.endswith("/plan") and answer.request.method == "POST"):
            self.tuner.press("Take this plan")
        expect(page.get_by_text("This is the job's plan.")).to_be_visible()

    @property
    def title(self):
        return self.page.locator("h2").first.inner_text()

    def card(self):
        return self.page.locator("article.card").first

    def place(self):
        """Number of the step that stands first, and of all."""
        found = re.search(r"Step (\d+) of (\d+)", self.card().inner_text())
        return int(found[1]), int(found[2])

    def until(self, words):
        while words not in self.title:
            self.step()

    def to_the_end(self):
        if not self.page.url.endswith("/floor"):
            self.tuner.tab("Floor")
        at, total = self.place()
        while at < total:
            self.step()
            at, total = self.place()
        self.card().get_by_role("button", name="✓ Done").click()
        expect(self.card()).to_contain_text("✓ done")

    def sign(self, name="A. Tester"):
        self.tuner.tab("Record")
        self.tuner.field("Your name").fill(name)
        self.page.get_by_role("button", name=re.compile("^Sign")).click()
        expect(self.page.get_by_text("The log is as it was signed.")).to_be_visible()

    def step(self):
        """Do the step that stands first."""
        title, card = self.title, self.card()
        shown = card.evaluate(SHOWN)
        if shown["move"]:
            card.locator("button.wanted").click()
        else:
            if shown["own"]:
                self.read_own(card)
            if title in ("Take the baseline", "Measure again beside the plan"):
                expect(card.get_by_text(re.compile("still to be read|all read"))).to_be_visible()
            if "still to be read" in card.inner_text():
                self.walk(card)
            finish = button_of(card, r"✓ .*[dD]one\s*$")
            if shown["fasteners"] and "," not in finish.inner_text():
                self.bring(card)
            finish.click()
        self.page.locator("h2").first.filter(has_not_text=title).wait_for()

    def read_own(self, card):
        for label, text in self.counts.items():
            field = card.get_by_label(label, exact=True)
            if field.count():
                field.fill(text)
                field.press("Enter")
                self.tuner.saved()
        for fresh in card.get_by_role("radio", name="new", exact=True).all():
            with self.page.expect_response(lambda answer: answer.url.endswith("/events")):
                fresh.click()
            expect(fresh).to_be_checked()

    def walk(self, card):
        """Everything the walk asks, one thing after the other."""
        left = card.get_by_role("status").filter(has_text=re.compile("still to read"))
        expect(left).to_be_visible()
        while left.count():
            asked, before = card.locator("section.ask"), left.inner_text()
            heading = asked.get_by_role("heading", level=3).inner_text()
            if asked.locator("input[inputmode], input.figure, input[type=text]").count():
                what = next(text for name, text in WALKED.items() if name in heading)
                way = asked.get_by_label(re.compile("how it is measured"))
                if "Caster" in heading:
                    way.select_option("angle")
                field = asked.get_by_role("textbox").first
                field.fill(what)
                field.press("Enter")
                if "Ride height" in heading:
                    expect(asked.get_by_text("reading 2 of 3")).to_be_visible()
                    field.press("Enter")
            else:
                asked.get_by_role("button", name="Straight").click()
            expect(card.get_by_text(before, exact=True)).to_have_count(0)

    def bring(self, card):
        """Every joint of a step to where the step wants it; as specified where it is, by feel where nobody told."""
        work = card.get_by_role("region", name="Work on it")
        joints = card.get_by_role("group", name="Fasteners of this step").get_by_role("button")
        joints.first.wait_for()
        self.as_the_log_has_it()
        for joint in joints.all():
            if "✓" not in joint.inner_text() and joint.get_attribute("aria-pressed") != "true":
                joint.click()
            for _ in range(60):
                if "✓" in (text := joint.inner_text()):
                    break
                self.work_once(work, text)
            expect(joint).to_contain_text("✓")

    def work_once(self, work, joint):
        value = next((value for words, value in self.values.items() if words in joint), None)
        names = work.evaluate(NAMES)
        ready = r"Rolled and bounced: it is settled|As specified|All \d+ (by hand|snug)"
        if any(re.match(ready, name) for name in names):
            button = button_of(work, ready)
        elif "Torqued" in names:
            button = self.torqued(work, value)
        elif work.get_by_label("Degrees turned on").count():
            if "Turned on by its angle" in names:
                work.get_by_label("Degrees turned on").fill("90")
            button = button_of(work, "Locked|Turned on")
        else:
            button = work.get_by_role("button").first
        with self.page.expect_response(lambda answer: self.wrote(answer.request)):
            button.click()
        self.page.get_by_role("button", name="Save the change", disabled=True).wait_for(state="detached")
        self.as_the_log_has_it()

    def torqued(self, work, value):
        """The button that torques a place without a value: by its value where one is told, else by feel."""
        if value:
            form = work.page.get_by_role("form", name="Change places")
            form.get_by_label("Torque of the place", exact=True).fill(value)
            if not form.get_by_label("Source").input_value():
                form.get_by_label("Source").fill("Sheet 4, invented")
            return form.get_by_role("button", name="Save the change")
        button = work.get_by_role("button", name=re.compile("by feel")).last
        if not button.is_visible():
            work.get_by_text("No wrench fits").click()
        work.get_by_label("By feel, because").fill("No value at hand for this sample car")
        return button

    @staticmethod
    def wrote(request):
        return request.method == "POST" and "/api/jobs/" in request.url

    def as_the_log_has_it(self):
        """The joints on the screen are those of the newest line; a page that lags is not looked at."""
        self.page.locator("div[aria-busy=true]").wait_for(state="detached")
