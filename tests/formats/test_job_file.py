"""Job files and the record: out and in without loss, and nothing taken that does not hold."""

import io
import json

import pypdf
import pytest
from reportlab.pdfbase import pdfmetrics

from fair_spindle.formats.pdf_pages import DINGBATS, PLAIN, signs
from opened import opened


def export(client, job):
    return client.get(f"/api/jobs/{job}/job.json").content


def bring_in(client, content, apply="true"):
    return client.post(f"/api/jobs/import?apply={apply}", content=content)


@pytest.mark.identity
@pytest.mark.parametrize("which", ["measuring", "measured", "aligned", "hanging", "finished"])
def test_export_import_export_is_the_same_to_the_byte(client, jobs, which, tmp_path):
    content = export(client, jobs[which])
    with opened(tmp_path / "other.sqlite") as other:
        assert bring_in(other, content, "false").json()["said"].startswith("The job would be added. “")
        assert other.get("/api/jobs").json() == other.get("/api/cars").json() == []
        assert bring_in(other, content).json()["applied"]
        assert export(other, jobs[which]) == content
        assert other.get(f"/api/jobs/{jobs[which]}").json() == client.get(f"/api/jobs/{jobs[which]}").json()
        assert bring_in(other, content).json()["outcome"] == "same"


def spoil_window(file):
    line = next(line for line in file["log"] if line["act"].get("clamp"))
    line["act"]["clamp"]["low_mm"] = 350.0


def spoil_order(file):
    file["log"][4]["seq"] = 9


def spoil_field(file):
    next(line for line in file["log"] if line["act"].get("choice"))["act"]["choice"] = "sideways"


def spoil_shape(file):
    file["log"][0]["act"]["kind"] = "guessed"


def spoil_undo(file):
    undone = {"kind": "undone", "event": "nobody-0001"}
    file["log"] = [{"id": "undo-0001", "seq": 1, "at": file["log"][0]["at"], "act": undone}]


def spoil_date(file):
    file["log"][0]["at"] = "2026-02-30T08:00:00.000Z"


def spoil_length(file):
    line = {"at": file["log"][0]["at"], "act": {"kind": "noted", "text": "x", "step": ""}}
    file["log"] = [{"id": f"line-{n:06}", "seq": n + 1, **line} for n in range(20_001)]


@pytest.mark.parametrize(
    ("spoil", "where"),
    [
        (spoil_window, "clamp window"),
        (spoil_order, "numbered 9"),
        (spoil_field, "choose one of"),
        (spoil_shape, "log/0/act"),
        (spoil_undo, "Line 1 of the log does not hold: It undoes an entry that does not stand before it"),
        (spoil_date, "log/0/at"),
        (spoil_length, "at most 20000 items"),
    ],
)
def test_a_damaged_file_says_where_and_changes_nothing(client, jobs, spoil, where):
    file = json.loads(export(client, jobs["finished"]))
    spoil(file)
    file["job"]["id"] = "damaged-0001"
    answer = bring_in(client, json.dumps(file).encode())
    assert answer.status_code == 422
    assert where in answer.json()["message"]
    assert len(client.get("/api/jobs").json()) == 8


@pytest.mark.parametrize("content", [b"", b"{}", b"[1]", b"\xff\xfe\x00", b"[" * 100_000, b'{"format": "other"}'])
def test_a_foreign_file_is_refused(client, content):
    assert bring_in(client, content).status_code == 422
    assert len(client.get("/api/jobs").json()) == 8


def test_a_cut_file_names_line_and_column_and_a_different_version_is_a_conflict(client, jobs):
    content = export(client, jobs["hanging"])
    assert "line" in bring_in(client, content[:5000]).json()["message"]
    other = json.loads(content)
    other["job"]["title"] = "Another title"
    assert bring_in(client, json.dumps(other).encode()).json()["code"] == "conflict"


def test_pdf_carries_the_record(client, jobs):
    content = client.get(f"/api/jobs/{jobs['finished']}/record.pdf").content
    text = " ".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(content)).pages)
    words = " ".join(text.split())
    for piece in (
        "Tarvane Ossel 1.6",
        "Signed by R. Sample",
        "70 lb·ft",
        "at 344 mm",
        "23 turns 3 flats",
        "344.3 mm ± 2.5",
    ):
        assert piece in words


def test_a_printed_page_has_letters_for_every_sign_and_says_which_of_how_many_it_is(client, jobs):
    content = client.get(f"/api/jobs/{jobs['finished']}/record.pdf").content
    reader = pypdf.PdfReader(io.BytesIO(content))
    count = len(reader.pages)
    assert count > 1
    for number, page in enumerate(reader.pages, start=1):
        assert f"page {number} of {count}" in page.extract_text()
    letters = set(pdfmetrics.getFont("Sheet").face.charToGlyph)
    said = json.dumps(client.get(f"/api/jobs/{jobs['finished']}").json(), ensure_ascii=False)
    said += json.dumps(client.get(f"/api/jobs/{jobs['finished']}/record").json(), ensure_ascii=False)
    lacking = {sign for sign in said if ord(sign) > 126 and ord(sign) not in letters}
    assert lacking <= set(DINGBATS) | set(PLAIN), "a sign that would print as an empty box"
    assert signs("☐ 5 × <nut>") == '<font name="ZapfDingbats">❏</font> 5 × &lt;nut&gt;'
    assert signs("3′ 4‑5") == "3′ 4-5"
    for sign in DINGBATS.values():
        sign.encode("zapfdingbats")


def test_the_customer_s_sheet_is_one_page_with_what_was_fitted_before_and_after_and_when_to_come_back(client, jobs):
    content = client.get(f"/api/jobs/{jobs['finished']}/customer.pdf").content
    reader = pypdf.PdfReader(io.BytesIO(content))
    assert len(reader.pages) == 1
    text = " ".join(reader.pages[0].extract_text().split())
    record = client.get(f"/api/jobs/{jobs['finished']}/record").json()
    assert f"{len(record['rechecks'])} joints checked again" in text
    for piece in ("Tarvane Ossel", record["fitted"][0], "Before and after", "Signed by R. Sample"):
        assert piece in text
    assert "Overrides" not in text, "what the workshop keeps for itself stays on its own sheet"
