"""What a device has under way when it may do more or less from now on, and when it is let go."""

import asyncio
from pathlib import Path

import httpx
import pytest
from starlette.types import Receive, Scope, Send

from finebatch.web.network.codes import Codes
from finebatch.web.network.door import COOKIE, Door
from finebatch.web.network.paired import Paired, Role
from tests.web.test_wire import run


@pytest.mark.parametrize(("let_go", "status"), [(False, 200), (True, 401)])
def test_what_is_asked_while_its_role_changes_is_answered(
    tmp_path: Path, let_go: bool, status: int
) -> None:
    paired = Paired(tmp_path / "devices.json")
    device, token = paired.let_in("Tablet by the oven", Role.KITCHEN, 0)

    async def scene() -> int:
        asked, go_on = asyncio.Event(), asyncio.Event()

        async def slow(_scope: Scope, _receive: Receive, send: Send) -> None:
            asked.set()
            await go_on.wait()
            await send({"type": "http.response.start", "status": 200, "headers": []})
            await send({"type": "http.response.body", "body": b"{}"})

        door = Door(slow, paired, Codes(), lambda: 0, lambda: None)
        door.names = frozenset({"kitchen"})
        async with httpx.AsyncClient(
            transport=httpx.ASGITransport(door),
            base_url="https://kitchen",
            cookies={COOKIE: token},
        ) as tablet:
            answer = asyncio.ensure_future(tablet.get("/api/about"))
            await asyncio.wait_for(asked.wait(), 5)
            if let_go:
                paired.let_go(device.id)
            else:
                paired.change(device.id, device.name, Role.ALL)
            await asyncio.sleep(0)
            go_on.set()
            return (await asyncio.wait_for(answer, 5)).status_code

    assert run(scene()) == status
