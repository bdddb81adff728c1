"""Which of the open screens rings: every one, or the one that was chosen while it is open."""

from typing import Any

from fastapi.testclient import TestClient

from finebatch.web.ringing import HERE_S, MOST, OpenScreen, Ringing

DESK, PHONE = "desk-0001", "phone-0001"


def here(client: TestClient, screen: str, name: str) -> Any:
    answer = client.post("/api/ringing/here", json={"screen": screen, "name": name})
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_every_screen_rings_until_one_is_chosen(client: TestClient) -> None:
    assert here(client, DESK, "Desk")["chosen"] is None
    told = here(client, PHONE, "Phone")
    assert [one["name"] for one in told["screens"]] == ["Desk", "Phone"]
    assert client.put("/api/ringing", json={"screen": PHONE}).json()["chosen"] == PHONE
    assert here(client, DESK, "Desk")["chosen"] == PHONE
    assert client.put("/api/ringing", json={"screen": None}).json()["chosen"] is None


def test_a_mark_that_is_none_is_refused(client: TestClient) -> None:
    for screen in ("", "short", "with a space", "x" * 65):
        answer = client.post("/api/ringing/here", json={"screen": screen, "name": "Desk"})
        assert answer.status_code == 422


def test_while_the_chosen_one_is_closed_every_one_rings() -> None:
    now = 0.0
    ringing = Ringing(lambda: now)
    for screen in (DESK, PHONE):
        ringing.here(OpenScreen(screen, screen))
    ringing.choose(PHONE)
    now = HERE_S - 1
    assert ringing.chosen == PHONE
    ringing.here(OpenScreen(DESK, "Desk"))
    now = HERE_S
    assert ringing.chosen is None
    assert [one.id for one in ringing.open_screens()] == [DESK]
    # It is heard of again: it rings alone, as was chosen.
    ringing.here(OpenScreen(PHONE, "Phone"))
    assert ringing.chosen == PHONE


def test_so_many_screens_are_told_apart_and_no_more() -> None:
    ringing = Ringing(lambda: 0.0)
    for number in range(MOST + 5):
        ringing.here(OpenScreen(f"screen-{number:03}", "Desk"))
    assert len(ringing.open_screens()) == MOST
