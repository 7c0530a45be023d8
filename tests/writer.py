"""Whoever writes in a job or car over HTTP, as a page does: on top of what is there."""

import itertools

IDS = (f"written-{n:06}" for n in itertools.count())


def typed(key, text, unit="mm", method="typed", part="value"):
    """A reading or fact as it is typed."""
    return {"kind": "entered", "key": key, "method": method, "typed": {part: {"text": text, "unit": unit}}}


def chosen(key, word):
    """A fact that is one of several words."""
    return {"kind": "entered", "key": key, "choice": word}


class Writer:
    """One job or car, read and written by a client of the API."""

    def __init__(self, client, path):
        self.client, self.path = client, path

    def get(self, part=""):
        return self.client.get(f"{self.path}{part}").json()

    def view(self):
        return self.get()

    def version(self):
        return self.get("/version")["version"]

    def joint(self, key):
        return next(one for one in self.get("/joints")["joints"] if one["key"] == key)

    def post(self, part, body, seen=None, id=None):
        """Post something that says what it was made on."""
        seen = self.version() if seen is None else seen
        return self.client.post(f"{self.path}{part}", json={"id": id or next(IDS), "seen": seen, **body})

    def send(self, kind, seen=None, id=None, **act):
        """Write an act; the answer, whatever it is."""
        return self.post("/events", {"act": {"kind": kind, **act}}, seen, id)

    def write(self, kind, **act):
        """Write an act that is taken."""
        return taken(self.send(kind, **act))

    def order(self, brief, seen=None):
        """Plan a job by a brief; the answer, whatever it is."""
        return self.post("/plan", {"brief": brief}, seen)

    def plan(self, brief):
        """Plan a job by a brief that is taken."""
        return taken(self.order(brief))

    def change(self, joint, places, **more):
        """Change some places of a joint."""
        return taken(self.post("/joints/change", {"joint": joint, "places": places, **more}))


def taken(answer):
    """What stands in an answer that says that something was written."""
    assert answer.status_code == 201, answer.text
    return answer.json()


def fitted(key, *axles):
    """The brief of one procedure, at each of these axles."""
    return {"fittings": [{"procedure": key, "axle": axle} for axle in axles]}
