"""What tests write and read beside the screen, as any other device does."""

import itertools
import json
import urllib.request

IDS = (f"beside-{n:06}" for n in itertools.count())


def ask(address, path, body=None):
    """Read something; with a body, post it."""
    content = json.dumps(body).encode() if body else None
    request = urllib.request.Request(f"{address}{path}", content, {"Content-Type": "application/json"})
    with urllib.request.urlopen(request, timeout=60) as answer:
        return json.load(answer)


def write(address, book, **act):
    """Write an act into a job or car, on top of what is there."""
    seen = ask(address, f"{book}/version")["version"]
    return ask(address, f"{book}/events", {"id": next(IDS), "seen": seen, "act": act})


def plan(address, book, *fittings):
    """Plan a job by the keys of its procedures, each with its axle."""
    brief = {"fittings": [{"procedure": key, "axle": axle} for key, axle in fittings]}
    seen = ask(address, f"{book}/version")["version"]
    return ask(address, f"{book}/plan", {"id": next(IDS), "seen": seen, "brief": brief})


def job_of(page):
    """Where the job on a page is read and written."""
    return f"/api/jobs/{page.url.split('/job/')[1].split('/')[0]}"


def typed(key, text, unit="mm"):
    value = {"value": {"text": text, "unit": unit}}
    return {"kind": "entered", "key": key, "method": "typed", "typed": value}


def chosen(key, word):
    return {"kind": "entered", "key": key, "choice": word}
