"""A child writes words; a teacher sees how the room between letters comes along."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page, expect

from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.letterforms.words import word
from tests.browser.conftest import draw, teacher_opens

pytestmark = pytest.mark.browser


def begin(page: Page, child: str, text: str) -> None:
    page.goto("/write")
    page.get_by_role("group", name="What").get_by_text("Words").click()
    page.get_by_role("radio", name=child).click()
    page.get_by_label("A word or a line of your own").fill(text)
    expect(page.get_by_role("img", name=f"{text} as the class writes it")).to_be_visible()
    page.get_by_role("button", name="Start writing").click()
    page.get_by_label(f"Write {text} here").wait_for()


def write(page: Page, text: str, closer_xh: float = 0.0, without: int | None = None) -> None:
    """Write the word's model on the lines, each letter so much nearer to the one before; one left out."""
    model = word(text, DEFAULT_STYLE)
    for s, sampled in enumerate(model.sampled):
        letter = next(span.index for span in model.spans if span.stroke == s)
        if letter != without:
            draw(page, "Lines for", [sampled.points], 1.0 - closer_xh * letter, 30)


def look_together(page: Page) -> None:
    """The teacher opens what the checker says of the word."""
    page.get_by_role("button", name="Write it again").wait_for()
    teacher_opens(page)
    page.get_by_role("button", name="Look at it together").click()


def test_a_word_is_written_looked_at_and_kept_with_the_child(page: Page, api, kittiwake):
    begin(page, "Gus L", "tin")
    write(page, "tin")
    page.get_by_role("button", name="Done").click()
    strip = page.get_by_role("img", name="tin as Gus wrote it", exact=True)  # no beads for a child
    expect(strip).to_be_visible()
    expect(page.get_by_text("Every letter can be read.")).to_be_visible()
    look_together(page)
    strip = page.get_by_role("img", name="tin as Gus wrote it: t secure, i secure, n secure")
    expect(strip).to_be_visible()
    expect(page.get_by_text("Every letter is secure")).to_be_visible()
    bead = strip.locator("circle").last.bounding_box()
    assert bead is not None
    assert bead["width"] == pytest.approx(9, abs=2), "a bead is as large as those of a row"
    page.get_by_role("button", name="Write it again").click()
    page.get_by_label("Write tin here").wait_for()
    write(page, "tin", closer_xh=0.45)
    page.keyboard.press("Enter")
    expect(page.get_by_text("Next time")).to_be_visible()
    expect(page.get_by_role("list", name="What to say of tin")).to_have_count(0)
    look_together(page)
    expect(page.get_by_role("list", name="What to say of tin")).to_contain_text("closer than the model")
    page.get_by_role("button", name="Cross it out").click()
    expect(page.get_by_role("button", name="Not crossed out")).to_be_visible()
    page.get_by_role("link", name="All words of Gus").click()
    expect(page.get_by_role("heading", name="Gus L: words")).to_be_visible()
    expect(page.get_by_role("listitem").filter(has=page.get_by_role("heading", name="tin"))).to_have_count(2)
    page.get_by_role("button", name="Count tin of").click()
    expect(page.get_by_role("button", name="Cross out tin of")).to_have_count(2)
    kept = api.get(f"/api/children/{kittiwake.children['Gus L']}/written").json()
    assert [one["crossed_out"] for one in kept] == [False, False]


@pytest.mark.parametrize(("ruling", "boxes"), [("three-blocks", 3 * 3), ("word-boxes", 1)])
def test_a_ruling_draws_around_the_letters_or_the_word(page: Page, api, kittiwake, ruling, boxes):
    api.patch(f"/api/classes/{kittiwake.id}", json={"ruling": ruling}).raise_for_status()
    begin(page, "Gus L", "sat")
    expect(page.get_by_role("img", name="Lines for sat").locator("rect")).to_have_count(boxes)
    expect(page.get_by_role("img", name="sat, the model").locator("rect")).to_have_count(boxes)
    write(page, "sat")
    page.get_by_role("button", name="Done").click()
    expect(page.get_by_role("img", name="sat as Gus wrote it").locator("rect")).to_have_count(boxes)


def test_a_word_begun_again_leaves_nothing_of_the_first(page: Page, api, kittiwake):
    begin(page, "Edie W", "lit")
    write(page, "lit", closer_xh=0.5)
    page.get_by_role("button", name="Begin again").click()
    expect(page.get_by_role("button", name="Done")).to_be_disabled()
    write(page, "lit")
    page.get_by_role("button", name="Done").click()
    expect(page.get_by_text("Every letter can be read.")).to_be_visible()
    kept = api.get(f"/api/children/{kittiwake.children['Edie W']}/written").json()
    assert len(kept[0]["strokes"]) == len(word("lit", DEFAULT_STYLE).sampled)


def test_a_word_survives_a_server_that_does_not_answer(page: Page, api, kittiwake):
    begin(page, "Edie W", "mint")
    page.route("**/api/written/*/ink", lambda route: route.abort())
    write(page, "mint")
    page.get_by_role("button", name="Done").click()
    expect(page.get_by_role("status")).to_contain_text("kept on this device")
    page.unroute("**/api/written/*/ink")
    page.reload()
    expect(page.get_by_role("img", name="mint as Edie wrote it")).to_be_visible()
    assert api.get(f"/api/children/{kittiwake.children['Edie W']}/written").json()[0]["text"] == "mint"


def test_a_word_written_on_two_screens_is_kept_twice(page: Page, api, kittiwake):
    begin(page, "Cleo M", "nit")
    other = page.context.new_page()
    other.goto(page.url)
    other.get_by_label("Write nit here").wait_for()
    for screen, closer in ((page, 0.0), (other, 0.2)):
        screen.bring_to_front()
        write(screen, "nit", closer)
        screen.get_by_role("button", name="Done").click()
        expect(screen.get_by_role("img", name="nit as Cleo wrote it")).to_be_visible()
    kept = api.get(f"/api/children/{kittiwake.children['Cleo M']}/written").json()
    assert [one["text"] for one in kept] == ["nit", "nit"]
    assert kept[0]["strokes"] != kept[1]["strokes"]


def test_a_letter_that_is_left_out_is_said_to_be_missing(page: Page):
    begin(page, "Cleo M", "lit")
    write(page, "lit", without=2)
    page.get_by_role("button", name="Done").click()
    look_together(page)
    expect(page.get_by_role("list", name="What to say of lit")).to_contain_text("There is no ink for t.")


def test_a_word_the_house_cannot_write_is_refused_with_a_reason(page: Page):
    page.goto("/write?what=words")
    page.get_by_role("radio", name="Edie W").click()
    page.get_by_label("A word or a line of your own").fill("né")
    page.get_by_role("button", name="Start writing").click()
    expect(page.get_by_role("alert")).to_contain_text("é")
