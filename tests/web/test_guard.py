"""Any web page can reach loopback: what it may not do there."""

import pytest
from flask.testing import FlaskClient

JSON = {"Content-Type": "application/json"}


@pytest.mark.parametrize(
    "host", ["evil.example", "127.0.0.1.evil.example:8470", "", "localhost.evil", "[::2]"]
)
def test_unknown_hosts_are_refused(client: FlaskClient, host: str) -> None:
    assert client.get("/api/sites", headers={"Host": host}).status_code == 421
    assert client.get("/", headers={"Host": host}).status_code == 421


@pytest.mark.parametrize("host", ["127.0.0.1:8470", "localhost", "LOCALHOST:1", "[::1]:8470"])
def test_loopback_names_are_known(client: FlaskClient, host: str) -> None:
    assert client.get("/api/sites", headers={"Host": host}).status_code == 200


@pytest.mark.parametrize(
    "headers",
    [
        {"Sec-Fetch-Site": "cross-site"},
        {"Sec-Fetch-Site": "same-site"},
        {"Origin": "http://evil.example"},
        {"Origin": "null"},
        {"Origin": "http://127.0.0.1:9999"},
    ],
)
def test_other_origins_are_refused(client: FlaskClient, headers: dict[str, str]) -> None:
    words = {"Host": "127.0.0.1:8470", **headers}
    assert client.post("/api/sites", json={"name": "x"}, headers=words).status_code == 403
    assert client.get("/api/sites", headers=words).status_code == 403


def test_our_own_page_is_let_through(client: FlaskClient) -> None:
    words = {
        "Host": "127.0.0.1:8470",
        "Sec-Fetch-Site": "same-origin",
        "Origin": "http://127.0.0.1:8470",
    }
    assert client.post("/api/sites", json={"name": "x"}, headers=words).status_code == 201


@pytest.mark.parametrize(
    "kind", ["text/plain", "application/x-www-form-urlencoded", "multipart/form-data", None]
)
def test_writes_must_be_json(client: FlaskClient, kind: str | None) -> None:
    answer = client.post("/api/sites", data='{"name": "x"}', content_type=kind)
    assert answer.status_code == 415
    assert client.get("/api/sites").get_json() == []


@pytest.mark.parametrize("path", ["/", "/api/sites", "/api/nothing", "/designs/x/draw"])
def test_every_answer_carries_the_policy(client: FlaskClient, path: str) -> None:
    headers = client.get(path).headers
    policy = headers["Content-Security-Policy"]
    assert "default-src 'none'" in policy
    assert "unsafe" not in policy
    assert headers["X-Content-Type-Options"] == "nosniff"


def test_files_outside_the_interface_stay_there(client: FlaskClient) -> None:
    for path in (
        "/assets/../../pyproject.toml",
        "/assets/%2e%2e/%2e%2e/pyproject.toml",
        "/assets/none.js",
    ):
        answer = client.get(path)
        assert answer.status_code == 404 or b"[project]" not in answer.data
