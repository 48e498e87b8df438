"""Sites that web tests start from."""

from flask.testing import FlaskClient


def new_design(client: FlaskClient, document: dict[str, object]) -> str:
    """A new site with this design; the design's id."""
    site = client.post("/api/sites", json={"name": "Here", "document": document}).get_json()
    return str(site["designs"][0]["id"])
