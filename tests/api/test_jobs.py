"""Jobs over HTTP: a kind of document that has all its routes from one place."""

from fastapi.testclient import TestClient

from isotact.store import KINDS

FERRY = {
    "format": "isotact/job",
    "version": 2,
    "id": "job",
    "name": "Night ferry",
    "days": [{"date": "2026-05-04"}],
    "places": [{"name": "Pier 4", "note": "power at the crane"}],
    "people": [{"name": "Ines", "does": "focus"}],
}


def add(client: TestClient, **other: object):
    return client.post("/api/jobs", json={"document": {**FERRY, **other}})


def test_a_job_is_begun_by_its_name_changed_undone_and_removed(client: TestClient):
    saved = add(client).json()
    assert saved["document"]["id"] == "night-ferry"
    assert add(client).json()["document"]["id"] == "night-ferry-2"
    job = {**saved["document"], "days": [{"date": "2026-05-04"}, {"date": "2026-05-05"}]}
    assert client.put("/api/jobs/night-ferry", json={"made_on": 1, "document": job}).json()["revision"] == 2
    assert (
        client.post("/api/jobs/night-ferry/undo", json={"made_on": 2}).json()["document"]["days"]
        == saved["document"]["days"]
    )
    assert client.delete("/api/jobs/night-ferry").status_code == 204
    assert [one["document"]["id"] for one in client.get("/api/jobs").json()] == ["night-ferry-2"]
    assert client.post("/api/jobs/night-ferry/restore").json()["document"]["name"] == "Night ferry"


def test_of_two_versions_of_a_job_both_are_kept(client: TestClient):
    job = add(client).json()["document"]
    path = f"/api/jobs/{job['id']}"
    client.put(path, json={"made_on": 1, "document": {**job, "note": "theirs"}})
    late = {"made_on": 1, "document": {**job, "note": "mine"}}
    assert client.put(path, json=late).status_code == 409
    assert client.put(f"{path}/aside", json={**late, "newest": 2}).json()["document"]["note"] == "theirs"
    assert {line["number"] for line in client.get(f"{path}/history").json()} >= {1, 2, 3}


def test_a_job_that_names_somebody_twice_is_refused_at_its_place(client: TestClient):
    answer = add(client, people=[{"name": "Ines"}, {"name": "Ines"}])
    assert answer.status_code == 422
    assert "found Ines twice" in answer.text
    assert client.get("/api/jobs").json() == []


def test_every_kind_of_document_is_listed_opened_and_removed_by_the_same_routes(client: TestClient):
    """One place gives them (`add_routes`); recipes are listed with their tallies, in their own way."""
    paths = client.app.openapi()["paths"]
    for kind in KINDS:
        base = next(f"/api/{at}{kind.folder}" for at in ("", "own/") if f"/api/{at}{kind.folder}" in paths)
        assert {"get", "delete"} <= {*paths[base], *paths[f"{base}/{{key}}"]}
        for move in ("undo", "redo", "back-to", "restore"):
            assert "post" in paths[f"{base}/{{key}}/{move}"]
    assert "/api/jobs" in paths
