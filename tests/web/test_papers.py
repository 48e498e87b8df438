"""Papers and lists to take away over the API."""

from flask.testing import FlaskClient

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


def test_a_paper_nobody_makes_is_refused(client: FlaskClient) -> None:
    key = new_design(client, PACKHORSE)
    for kind in ("card", "report"):
        assert client.get(f"/api/designs/{key}/{kind}?paper=a99").status_code == 400


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
