"""A session that is kept for another time, and all of it in one print."""

from io import BytesIO

from playwright.sync_api import Locator, Page, expect
from pypdf import PdfReader

from tests.ui.conftest import Served


def titled(page: Page, session: str) -> Locator:
    return page.get_by_role("heading", name=f"The session: {session}")


def test_a_session_is_kept_and_planned_again_in_place_of_another(
    page: Page, served: Served
) -> None:
    page.goto(f"{served.address}/plan/1")
    field = page.get_by_label("How many pieces of Rye, date & tahini drops; empty for all")
    field.fill("8")
    field.press("Enter")
    page.get_by_text("To plan again", exact=True).click()
    page.get_by_label("Keep Rye, date & tahini drops for next time, as").fill("Eight on a Sunday")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Kept as Eight on a Sunday.")).to_be_visible()

    page.get_by_role("button", name="Take Rye, date & tahini drops out of the session").click()
    expect(page.get_by_text("Nothing is planned yet")).to_be_visible()
    page.goto(f"{served.address}/plan/3")
    expect(
        page.get_by_role("heading", name="The session: Black-sesame shortbread")
    ).to_be_attached()
    page.get_by_text("To plan again", exact=True).click()
    row = page.get_by_role("list", name="Sessions to plan again").get_by_role("listitem")
    expect(row).to_contain_text("Rye, date & tahini drops; from now on")
    row.get_by_role("button", name="Plan it again").click()
    expect(titled(page, "Eight on a Sunday")).to_be_attached()
    expect(field).to_have_value("8")

    page.get_by_role("button", name="Take that back").click()
    expect(
        page.get_by_role("heading", name="The session: Black-sesame shortbread")
    ).to_be_attached()
    page.get_by_role("button", name="Keep Eight on a Sunday no longer").click()
    expect(row).to_have_count(0)


def printed(page: Page) -> list[str]:
    """The words of each page; a machine that stands still may print before it has drawn any."""
    pages: list[str] = []
    for _ in range(5):
        read = PdfReader(BytesIO(page.pdf(format="A4")))
        pages = [sheet.extract_text() for sheet in read.pages]
        if pages[0]:
            break
        page.wait_for_timeout(500)
    return pages


def test_everything_of_a_session_is_one_print(page: Page, served: Served) -> None:
    wish = {"items": [{"dough_id": 1}, {"dough_id": 2, "times": 2}], "sheets": 3, "shelves": 2}
    planned = page.request.put(f"{served.address}/api/plan", data=wish).json()
    page.goto(f"{served.address}/plan")
    page.get_by_role("link", name="Print all of the session").click()
    for heading in ("Rye, date & tahini drops: the tray", "Cardamom-orange leaves: the tray"):
        expect(page.get_by_role("heading", name=heading)).to_be_visible()
    pages = printed(page)
    whole = "\n".join(pages)
    first = planned["activities"][0]["what"]
    assert planned["name"] in pages[0] and first[:20] in pages[0]
    for said in ("To buy", "To weigh", "Made 2 times in this session", "In this session: A1 with"):
        assert said in whole, said
    # Each card and each tray begins a page of its own, and has no other.
    begin = ["Rye, date", "Rye, date", "Cardamom-orange", "Cardamom-orange"]
    assert [page.startswith(name) for page, name in zip(pages[-4:], begin, strict=True)] == [
        True
    ] * 4
    page.get_by_role("link", name="Back to the plan").click()
    expect(page).to_have_url(f"{served.address}/plan")
    page.goto(f"{served.address}/print/session/999")
    expect(page.get_by_text("neither planned nor baked any more")).to_be_visible()
