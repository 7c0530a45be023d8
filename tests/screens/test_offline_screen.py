"""The phone without a connection: the pages open, entries wait in order, and nothing disappears unasked."""

import pytest
from playwright.sync_api import expect
from tuner import Tuner

pytestmark = [pytest.mark.screen, pytest.mark.parametrize("server", ["demo"], indirect=True)]


class Phone:
    """A phone at the arch, whose pages are kept in its browser."""

    def __init__(self, page, server):
        self.page, self.server = page, server
        page.goto(server.address)
        page.get_by_role("link", name="Orrowby Halm").click()
        expect(page.get_by_role("heading", level=2)).to_contain_text("Lower arm bolt")
        self._until("navigator.serviceWorker.controller !== null")
        urls = "caches.open('last-seen').then((one) => one.keys()).then((all) => all.map((one) => one.url).join())"
        self._until(f"{urls}.then((all) => all.includes('/sheet') && all.includes('/joints'))")
        self.job = Tuner(page, server).job()

    def _until(self, holds):
        for _ in range(300):
            if self.page.evaluate(holds):
                return
            self.page.wait_for_timeout(100)
        raise AssertionError(holds)

    def cut(self):
        self.page.context.set_offline(True)
        expect(self.page.get_by_text("Connection lost")).to_be_visible()

    def back(self):
        self.page.context.set_offline(False)

    def note(self, words):
        self.page.get_by_label("Note for the record").fill(words)
        self.page.get_by_role("button", name="Add note").click()

    def move(self, words):
        self.page.get_by_label("Move the car").last.get_by_role("button", name=words).click()
        expect(self.page.get_by_label("Position of the car")).to_contain_text("waits to be sent")

    def log(self):
        return [line["said"] for line in self.job.get("/log")]


@pytest.fixture
def phone(keeping_page, server):
    return Phone(keeping_page, server)


def test_ten_entries_without_a_connection_and_the_car_moved_twice_arrive_in_order(phone):
    page = phone.page
    phone.cut()
    page.reload()
    expect(page.get_by_text("As read at")).to_be_visible()
    expect(page.get_by_role("heading", level=2)).to_contain_text("Lower arm bolt")
    panel = page.get_by_role("region", name="Work on it")
    phone.note("note 1")
    phone.move("Hanging on stands")
    expect(panel.get_by_role("status").first).to_contain_text("waits to be sent")
    expect(panel.get_by_role("button", name="As specified")).to_be_disabled()
    for number in range(2, 5):
        phone.note(f"note {number}")
    phone.move("Front left carried")
    for number in range(5, 9):
        phone.note(f"note {number}")
    expect(page.get_by_text("10 waiting")).to_be_visible()
    page.get_by_role("button", name="↶ Undo").click()
    expect(page.get_by_text("9 waiting")).to_be_visible()
    phone.note("note 8")
    before = phone.log()
    phone.job.write(kind="noted", text="the other device was here")
    phone.back()
    expect(page.get_by_text("All saved")).to_be_visible()
    ours = [said.removeprefix("Note: ") for said in phone.log()[len(before) + 1 :]]
    moved = ["Car hanging on stands", "Car carried at front left"]
    notes = [f"note {number}" for number in range(1, 9)]
    assert ours == [notes[0], moved[0], *notes[1:4], moved[1], *notes[4:]]


def test_a_refused_entry_stops_the_queue_and_a_person_says_what_becomes_of_each(phone):
    page = phone.page
    phone.cut()
    phone.note("before it")
    phone.move("Front right carried")
    phone.note("after it")
    phone.note("and this")
    phone.job.write(kind="moved", to="hanging")
    phone.back()
    waiting = page.get_by_role("region", name="Waiting to be sent")
    expect(waiting.get_by_role("alert")).to_contain_text("Somebody else changed this")
    expect(waiting.get_by_role("listitem")).to_have_count(3)
    expect(page.get_by_text("3 wait for you")).to_be_visible()
    assert phone.log()[-1] == "Note: before it"
    page.reload()
    expect(waiting.get_by_role("alert")).to_be_visible()
    waiting.get_by_role("listitem").nth(2).get_by_role("button", name="Leave this out too").click()
    expect(waiting.get_by_role("alert")).to_be_visible()
    waiting.get_by_role("button", name="Send it all the same").click()
    expect(page.get_by_text("All saved")).to_be_visible()
    assert phone.log()[-2:] == ["Car carried at front right", "Note: after it"]


def test_what_waits_for_a_job_that_was_taken_away_stays_until_a_person_leaves_it_out(phone):
    page = phone.page
    phone.cut()
    phone.note("too late")
    phone.server.client.delete(f"{phone.job.path}?seen={phone.job.version()}")
    phone.back()
    waiting = page.get_by_role("region", name="Waiting to be sent")
    expect(waiting.get_by_role("alert")).to_contain_text("There is no such job")
    page.reload()
    expect(page.get_by_text("There is no such job here. Go back to all jobs.")).to_be_visible()
    expect(waiting.get_by_role("listitem")).to_contain_text("too late")
    waiting.get_by_role("button", name="Leave it out").click()
    expect(waiting).to_have_count(0)


def test_whichever_page_opens_first_says_what_waits_and_sends_it(phone):
    page = phone.page
    phone.cut()
    phone.note("for later")
    page.goto(f"{phone.server.address}/cars")
    expect(page.get_by_text("Orrowby Halm 1.9, 2011: Front springs 27 mm lower: 1 entry waits")).to_be_visible()
    phone.back()
    expect(page.get_by_text("1 entry waits")).to_have_count(0)
    assert phone.log()[-1] == "Note: for later"


def test_two_tabs_keep_their_entries_apart(phone):
    page = phone.page
    second = page.context.new_page()
    second.goto(page.url)
    expect(second.get_by_role("heading", level=2)).to_contain_text("Lower arm bolt")
    phone.cut()
    other = Phone.__new__(Phone)
    other.page, other.server, other.job = second, phone.server, phone.job
    phone.note("tab one, first")
    other.note("tab two")
    phone.note("tab one, second")
    expect(page.get_by_text("3 waiting")).to_be_visible()
    expect(second.get_by_text("3 waiting")).to_be_visible()
    phone.back()
    expect(page.get_by_text("All saved")).to_be_visible()
    expect(second.get_by_text("All saved")).to_be_visible()
    assert phone.log()[-3:] == ["Note: tab one, first", "Note: tab two", "Note: tab one, second"]
    second.close()
