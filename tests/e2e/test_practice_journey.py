"""A round from the recipe's page to a phone's answer and the screen at the front, as somebody would who has never seen
it."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from bulwark.groups.models import Group, Member
from bulwark.practice.models import Answer, Round
from tests.e2e.conftest import axe
from tests.e2e.test_journey import Opener, sign_in
from tests.web.conftest import Hostel

pytestmark = [pytest.mark.e2e, pytest.mark.django_db(transaction=True)]


def test_made_from_a_recipe_played_on_the_screen_and_answered_on_a_phone(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    group = Group.objects.create(organisation=hostel.organisation, name="Skerry crew")
    Member.objects.create(group=group, initials="AK")
    front = sign_in(open_context(1280, 800), address, hostel)
    front.click("nav >> text=Recipes")
    front.click("text=Turkey koftas")
    front.click("text=Practise")
    front.select_option("#group", label="Skerry crew")
    front.fill("#count", "3")
    assert axe(front) == []
    front.click("text=Make it")
    code = front.locator(".pr-letters").inner_text()
    assert axe(front) == []

    phone = open_context(390, 844).new_page()
    phone.goto(f"{address}/p/")
    phone.fill("[name=code]", code.lower())
    phone.click("text=Go")
    phone.click("button:has-text('AK')")
    for n in range(1, 4):
        expect(phone.locator(".pr-count")).to_contain_text(f"{n}/3")
        assert axe(phone) == []
        wide = phone.evaluate("document.documentElement.scrollWidth")
        assert wide <= 390, "nothing is wider than the phone"
        phone.locator("button[name=choice]:visible").first.click()
        expect(phone.locator(".pr-why")).to_be_visible()
        assert axe(phone) == []
        if n < 3:
            phone.click("a.button:text-is('Next')")  # an explanation may say "next" too
    assert Answer.objects.filter(learner="AK").count() == 3

    front.click("text=Onto the screen")
    front.keyboard.press("Tab")
    front.locator("button[name=choice]:visible").first.focus()
    front.keyboard.press("Enter")
    expect(front.locator(".pr-why")).to_be_visible()
    expect(front.locator(".pr-source")).to_have_text(re.compile("of 2 answers right"))
    assert axe(front) == []
    assert Round.objects.get().answers.count() == 4


def test_hands_are_practised_and_what_was_missed_glows(address: str, open_context: Opener) -> None:
    front = sign_in(open_context(1180, 820), address, Hostel())
    front.clock.install()
    front.goto(f"{address}/practice/hands/")
    assert axe(front) == []
    front.click("[data-start]")
    for place in ("Palms", "Backs", "Between fingers", "Thumbs"):
        front.click(f'[data-place="{place}"]')
        front.clock.run_for(4_200)
    front.clock.run_for(5_000)
    told = front.locator("[data-told]")
    expect(told).to_contain_text("Nails 4.0 s")
    expect(told).not_to_contain_text("Palms")
    front.click("text=Once more")
    expect(told).to_have_text("")
