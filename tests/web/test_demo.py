"""The demo is built step by step: one that was cut short goes on, and what somebody put away stays
away."""

from typing import Any

import pytest
from flask.testing import FlaskClient

from yonderstat import cli
from yonderstat.demo import build_demo_sites, club
from yonderstat.records import Archive


def names_of(client: FlaskClient) -> dict[str, int]:
    return {site["name"]: len(site["designs"]) for site in client.get("/api/sites").get_json()}


WHOLE = {name: len(documents) for name, documents in club.DESIGNS.items()}


@pytest.mark.parametrize("cut_after", [1, 3, 5, 9, 14])
def test_a_demo_that_was_cut_short_goes_on_from_what_is_missing(
    client: FlaskClient, monkeypatch: pytest.MonkeyPatch, cut_after: int
) -> None:
    steps = 0
    asked = club._asked

    def cut(*words: Any, **more: Any) -> Any:
        nonlocal steps
        steps += 1
        if steps > cut_after:
            raise KeyboardInterrupt
        return asked(*words, **more)

    monkeypatch.setattr(club, "_asked", cut)
    with pytest.raises(KeyboardInterrupt):
        build_demo_sites(client.application, with_record=False, standin_port=40_000)
    monkeypatch.undo()
    build_demo_sites(client.application, with_record=False, standin_port=40_000)
    assert names_of(client) == WHOLE
    build_demo_sites(client.application, with_record=False, standin_port=40_000)
    assert names_of(client) == WHOLE
    assert len(client.get("/api/shelf").get_json()["document"]["parts"]) == len(club.SHELF)
    beech = next(
        site for site in client.get("/api/sites").get_json() if site["name"].startswith("Beech")
    )
    assert len(client.get(f"/api/designs/{beech['design_id']}/live").get_json()["endpoints"]) == 1


def test_a_site_that_was_put_away_stays_away(client: FlaskClient) -> None:
    build_demo_sites(client.application, with_record=False)
    ridge = client.get("/api/sites").get_json()[0]
    client.delete(f"/api/sites/{ridge['id']}", json={})
    build_demo_sites(client.application, with_record=False)
    assert ridge["name"] not in names_of(client)
    assert len(names_of(client)) == len(WHOLE) - 1


def test_the_mark_tells_a_cut_demo_from_sites_of_ones_own(
    url: str, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("YONDERSTAT_DATABASE_URL", url)
    monkeypatch.setattr(cli, "create_app", lambda: url)
    built: list[object] = []

    def build(app: object, standin_port: int | None) -> int:
        built.append(app)
        return 6

    monkeypatch.setattr(cli, "build_demo_sites", build)
    archive = Archive(cli.open_engine(url))
    archive.mark(cli.DEMO, cli.BEGUN)
    archive.add_site("half", club_design())
    cli.build_demo(False)
    assert built == [url]
    cli.build_demo(False)
    assert built == [url]
    assert capsys.readouterr().out.endswith("so nothing was added.\n")


def club_design() -> Any:
    from yonderstat.core import propose

    return propose("home", "standby", None)
