"""Papers and lists to take away over the API."""

import io
import re

import pytest
from flask.testing import FlaskClient
from pypdf import PdfReader

from tests.web.sites import new_design
from yonderstat.demo.packhorse import PACKHORSE


def test_the_card_and_the_parts_list_are_files(client: FlaskClient) -> None:
    key = new_design(client, PACKHORSE)
    card = client.get(f"/api/designs/{key}/card?paper=a4")
    assert card.status_code == 200
    assert card.mimetype == "application/pdf"
    assert card.get_data()[:5] == b"%PDF-"
    report = client.get(f"/api/designs/{key}/report?paper=letter")
    assert report.get_data()[:5] == b"%PDF-"
    parts = client.get(f"/api/designs/{key}/parts.csv")
    assert parts.status_code == 200
    assert "Battery AGM" in parts.get_data(as_text=True)


@pytest.mark.parametrize(
    "asked",
    [
        "card?paper=a99",
        "report?paper=a99",
        "card?paper=a4&length=cubits",
        "report?paper=a4&degrees=K",
        "report?paper=a4&formulas=some",
        "sheet?paper=a4&kind=poem",
    ],
)
def test_a_paper_nobody_makes_is_refused(client: FlaskClient, asked: str) -> None:
    key = new_design(client, PACKHORSE)
    answer = client.get(f"/api/designs/{key}/{asked}")
    assert answer.status_code == 400
    assert answer.get_json()["title"].startswith("“")


def test_a_paper_says_what_it_is_of_and_in_the_readers_units(client: FlaskClient) -> None:
    """Site, design, revision and day stand on every sheet, the site in the file's name too."""
    key = new_design(client, PACKHORSE)
    answer = client.get(
        f"/api/designs/{key}/sheet?kind=schedule&paper=letter&length=feet&degrees=F"
    )
    sheets = PdfReader(io.BytesIO(answer.get_data())).pages
    for sheet in sheets:
        assert re.search(r"revision 1, saved \d{4}-\d\d-\d\d", sheet.extract_text())
    assert "16.4 ft" in sheets[0].extract_text()
    site = client.get(f"/api/designs/{key}").get_json()["site_name"]
    assert site.split()[0].lower() in answer.headers["Content-Disposition"]


def test_what_is_ticked_is_kept_and_can_be_undone(client: FlaskClient) -> None:
    key = new_design(client, PACKHORSE)
    tick = {"id": "buy.weigh", "by": "QY", "at": "today"}
    operations = [{"op": "add", "path": "/build/ticks/-", "value": tick}]
    done = client.patch(
        f"/api/designs/{key}", json=operations, headers={"If-Match": "1"}
    ).get_json()
    assert done["report"]["build"]["done"] == 1
    match = {"If-Match": str(done["revision"]), "Content-Type": "application/json"}
    undone = client.post(f"/api/designs/{key}/undo", headers=match).get_json()
    assert undone["report"]["build"]["done"] == 0
