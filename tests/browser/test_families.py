"""Families as a teacher arranges them: by hand, in order, by rule, split, compared; and the sounds."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import finger

pytestmark = pytest.mark.browser


def letters_of(page: Page, family: str) -> list[str]:
    region = page.get_by_role("region", name=family, exact=True)
    region.wait_for()
    names = region.get_by_role("listitem").evaluate_all(
        "all => all.map((one) => one.firstElementChild.getAttribute('aria-label'))"
    )
    return [re.sub(r"^Move ", "", name)[0] for name in names]


def test_a_letter_is_dragged_to_another_family_and_the_step_is_taken_back(page: Page, group: int):
    page.goto("/families")
    page.get_by_role("button", name="Arrange").click()
    box = page.get_by_role("button", name=re.compile("^Move y")).bounding_box()
    goal = page.get_by_role("region", name="Slopes").bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(goal["x"] + 500, goal["y"] + 40, steps=8)
    page.mouse.up()
    moved = page.get_by_role("region", name="Slopes").get_by_role("button", name=re.compile("^Move y"))
    expect(moved).to_have_accessible_name(re.compile("By rule in Scoops: y begins with a cup"))
    assert "y" not in letters_of(page, "Scoops")
    page.get_by_role("button", name="Undo").click()
    expect(moved).to_have_count(0)
    assert "y" in letters_of(page, "Scoops")


def test_letters_are_moved_by_keys_and_sent_back_to_their_rule(page: Page, group: int):
    page.goto("/families")
    page.get_by_role("button", name="Arrange").click()
    page.get_by_role("button", name=re.compile("^Move e")).focus()
    page.keyboard.press("ArrowUp")
    e = page.get_by_role("region", name="Slopes").get_by_role("button", name=re.compile("^Move e"))
    expect(e).to_be_focused()  # it keeps the focus, and can be moved on
    page.keyboard.press("Delete")
    expect(e).to_have_count(0)
    assert "e" in letters_of(page, "One-offs")


def test_letters_and_families_are_put_in_order_by_keys_and_by_dragging(page: Page, api, group: int):
    page.goto("/families")
    page.get_by_role("button", name="Arrange").click()
    assert letters_of(page, "Rounds")[:3] == ["c", "o", "a"]
    page.get_by_role("button", name=re.compile("^Move c")).focus()
    page.keyboard.press("ArrowRight")
    c = page.get_by_role("region", name="Rounds").get_by_role("listitem").nth(1).get_by_role("button")
    expect(c).to_have_accessible_name(re.compile("^Move c"))
    expect(c).to_be_focused()
    box = page.get_by_role("button", name=re.compile("^Move a")).bounding_box()
    goal = page.get_by_role("button", name=re.compile("^Move o")).bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(goal["x"] + 4, goal["y"] + 40, steps=6)
    page.mouse.up()
    first = page.get_by_role("region", name="Rounds").get_by_role("listitem").first.get_by_role("button")
    expect(first).to_have_accessible_name(re.compile("^Move a"))
    page.get_by_role("button", name="Scoops", exact=True).focus()
    page.keyboard.press("ArrowUp")
    expect(page.get_by_role("heading", level=2).nth(1)).to_have_text("Scoops")
    expect(page.get_by_role("button", name="Scoops", exact=True)).to_be_focused()
    page.goto("/letters/l")  # and so they stand wherever letters are chosen
    page.get_by_role("link", name="l", exact=True).wait_for()
    order = page.get_by_role("navigation", name="Letters").get_by_role("link")
    names = order.evaluate_all("all => all.map((one) => one.getAttribute('aria-label')).join('')")
    assert names.index("u") < names.index("n")
    assert "aoc" in names


def test_a_rule_is_made_by_pointing_and_its_letters_are_seen_before_it_is_used(page: Page, group: int):
    page.goto("/families")
    page.get_by_role("button", name="Arrange").click()
    page.get_by_role("button", name="New family").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name").fill("Like i")
    dialog.get_by_role("button", name="Like i", exact=True).click()
    dialog.get_by_label("1, down").select_option("must come first")
    does = dialog.get_by_role("region", name="What the rule does")
    expect(does.get_by_role("img", name="n", exact=True)).to_be_visible()
    dialog.get_by_label("2, dot").select_option("must be there")
    expect(does).to_contain_text("Come: i, j.")
    expect(dialog.get_by_label(re.compile("^Rule"))).to_have_value("begins with: down; has: dot")
    dialog.get_by_role("button", name="Add the family").click()
    expect(dialog).to_have_count(0)
    assert letters_of(page, "Like i") == ["i", "j"]


def test_a_family_by_rule_is_added_renamed_and_a_wrong_rule_is_explained(page: Page, group: int):
    page.goto("/families")
    page.get_by_role("button", name="Arrange").click()
    page.get_by_role("button", name="New family").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name").fill("With a dot")
    dialog.get_by_label(re.compile("^Rule")).fill("has: spot")
    dialog.get_by_role("button", name="Add the family").click()
    expect(dialog.get_by_role("alert")).to_contain_text("“spot” is not a move")
    dialog.get_by_label(re.compile("^Rule")).fill("has: dot")
    dialog.get_by_role("button", name="Add the family").click()
    expect(dialog).to_have_count(0)
    assert letters_of(page, "With a dot") == ["i", "j"]
    page.get_by_role("button", name="Change With a dot").click()
    dialog.get_by_label("Name").fill("Dotted")
    dialog.get_by_role("button", name="Rename").click()
    expect(page.get_by_role("region", name="Dotted")).to_be_visible()


def test_a_large_family_is_split_with_reasons_and_a_swap(page: Page, group: int):
    page.goto("/families")
    page.get_by_role("button", name="Arrange").click()
    page.get_by_role("button", name="Change Up-and-overs").click()
    split = page.get_by_role("dialog").get_by_role("region", name="Split")
    expect(split).to_contain_text("Kept apart")
    pair = re.search(r"Kept apart: (\w)", split.inner_text()).group(1)
    split.get_by_role("button", name=f"{pair}: to the next part").click()
    expect(split).to_contain_text("As you put them.")
    expect(split).not_to_contain_text("Made most alike")
    split.get_by_role("button", name=f"{pair}: to the next part").click()
    split.get_by_role("button", name="r: to the next part").click()
    split.get_by_role("button", name="Split like this").click()
    expect(page.get_by_role("region", name="Up-and-overs 2")).to_be_visible()
    first, second = letters_of(page, "Up-and-overs"), letters_of(page, "Up-and-overs 2")
    assert (len(first), len(second)) == (2, 4)
    assert "r" in second
    assert sorted(first + second) == sorted("rnhbpm")


def test_schemes_are_compared_and_other_alphabets_grouped(page: Page, group: int):
    page.goto("/families")
    page.get_by_role("button", name="Compare").click()
    dialog = page.get_by_role("dialog")
    g = dialog.get_by_role("button", name="g", exact=True)
    before = g.bounding_box()
    dialog.get_by_label("Against").select_option("by-height")
    expect(dialog.get_by_text("Middle and drop")).to_be_visible()
    page.wait_for_function(
        """(y) => {
            const g = document.querySelector('[role=dialog] [aria-label=g]');
            return Math.abs(g.getBoundingClientRect().y - y) > 40;
        }""",
        arg=before["y"],
    )
    g.hover()
    expect(dialog.get_by_text("Rounds, then Middle and drop.")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_text("Capitals", exact=True).click()
    expect(page.get_by_role("region", name="Stems with rounds")).to_be_visible()
    assert sorted(letters_of(page, "Stems with rounds")) == sorted("DPRB")


def test_the_schools_own_order_of_sounds_is_typed(page: Page, group: int):
    page.goto("/families?scheme=by-sound")
    page.get_by_label(re.compile("One set a line")).fill("n e t\nck sh n")
    page.get_by_role("button", name="Keep this order").click()
    expect(page.get_by_role("alert")).to_contain_text("line 2")
    page.get_by_label(re.compile("One set a line")).fill("n e t\nck sh")
    page.get_by_role("button", name="Keep this order").click()
    expect(page.get_by_role("img", name="ck, sh")).to_be_visible()


def test_a_letter_is_carried_by_a_finger(browser, server: str, api):
    made = api.post("/api/classes", json={"name": "Turnstone group of a finger"}).json()
    context = browser.new_context(base_url=server, viewport={"width": 1024, "height": 768}, has_touch=True)
    context.add_init_script(f"localStorage.setItem('first-loop.class', '{made['id']}')")
    page = context.new_page()
    page.goto("/families")
    page.get_by_role("button", name="Arrange").tap()
    s = page.get_by_role("button", name=re.compile("^Move s")).bounding_box()
    goal = page.get_by_role("region", name="Rounds").bounding_box()
    x, y = s["x"] + s["width"] / 2, s["y"] + s["height"] / 2
    finger(page, [(x + 6 * i, y + (goal["y"] + 40 - y) * i / 8) for i in range(9)])
    rounds = page.get_by_role("region", name="Rounds")
    expect(rounds.get_by_role("button", name=re.compile("^Move s"))).to_be_visible()
    context.close()
