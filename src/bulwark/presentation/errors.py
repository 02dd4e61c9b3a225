"""What a person is told when something cannot be used: a sentence for every id of the core's errors.

The core's errors carry an id and facts; no text of the core reaches a page. A test finds every id
that is raised and asks for its sentence here.
"""

import re
from collections.abc import Mapping

from django.db import DataError
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l

from bulwark.presentation.phrases import Text, capital
from foodsafety.quantities import CoreError

SENTENCES: Mapping[str, Text] = {
    "fewer_than_benches": _l("%(learners)s in the group for %(benches)s benches."),
    "too_many_learners": _l("%(count)s in the group; at most %(most)s are split."),
    "above": _l("%(value)s is above %(high)s."),
    "bands_do_not_meet": _l("The bands must meet."),
    "below": _l("%(value)s is below %(low)s."),
    "broken_json": _l("This begins like JSON and is not."),
    "broken_utf16": _l("This is marked as UTF-16 but broken."),
    "cannot_be_kept_free": _l("The %(food)s cannot be kept free of %(allergen)s with these tools."),
    "cannot_be_washed": _l("What is to be washed before “%(step)s” cannot be."),
    "category_needed": _l("The name of a storage category is needed."),
    "control_character": _l("There is a control character here: this is no plain text."),
    "cooks_too_long": _l("%(hours)s h: a recipe of more than 10 h is not converted."),
    "damaged_process": _l("The stored process at the end is damaged; take the comment out to read the words alone."),
    "date_out_of_range": _l("The date is out of range."),
    "dates_needed": _l("Dates are needed: 2026-06-13 14:05."),
    "density_needed": _l("%(unit)s to %(to)s needs the food’s density."),
    "does_not_fit_container": _l("%(litres)s l do not fit into one %(name)s."),
    "does_not_fit_cooker": _l("%(volume_l)s l do not fit into %(size_l)s l."),
    "empty_file": _l("The file is empty: a heading and one reading per line are needed."),
    "empty_page": _l("This page holds no text and no recipe data."),
    "empty_process": _l("An empty process cannot be judged: give at least one step."),
    "figure_needed": _l("Give a figure, or tick “back to the base”."),
    "file_too_large": _l("%(count)s bytes; a recipe may have %(most)s."),
    "finding_gone": _l("This finding is no longer there: the steps have changed."),
    "findings_open": _l("%(count)s findings are neither put right nor answered for."),
    "food_unknown": _l("Say what this food is, or what is on it: an unknown food is not a safe one."),
    "food_unnamed": _l("The food needs a name."),
    "no_such_sentence": _l("That sentence has been answered already."),
    "questions_open": _l("%(count)s questions are open."),
    "reason_needed": _l("Say why it cannot happen here."),
    "sentence_has_steps": _l("Steps were read from this sentence already."),
    "sentences_unread": _l("Say first what this is: “%(text)s”. It may order work on raw food."),
    "foods_unplaced": _l("It is raw, and nobody has said where it goes: %(foods)s."),
    "foods_unknown": _l("Say first what this is: %(foods)s."),
    "fractions_do_not_add_up": _l("The fractions make %(total)s; they must make 1, or 100 %%."),
    "freezer_not_cold_enough": _l("A freezer at %(around_c)s °C never brings it to %(target_c)s °C."),
    "freezing_needs_a_freezer": _l("Freezing needs a freezer, thawing a place that is not one."),
    "freezing_needs_composition": _l("Freezing needs the composition: how much water there is to freeze."),
    "freezing_point_outside": _l("%(value)s °C: food begins to freeze between −20 and 0 °C."),
    "frozen": _l("%(start_c)s °C is frozen: thaw it in the fridge first, all through."),
    "has_account": _l("%(email)s has an account already."),
    "last_owner": _l("Nobody else is an owner: make somebody one first."),
    "link_used": _l("The link was used already."),
    "high_below_low": _l("The higher amount is below the lower one."),
    "id_names_two": _l("“%(id)s” also names something else."),
    "id_needed": _l("An id is needed."),
    "nobody_in_group": _l("Nobody could be read: write at least one line with initials."),
    "name_taken": _l("There is a group called “%(name)s” already."),
    "kitchen_unnamed": _l("A kitchen needs a name."),
    "too_many_ovens": _l("At most %(most)s ovens."),
    "too_many_kitchens": _l("At most %(most)s kitchens."),
    "not_a_count_of": _l("“%(value)s” is no count: write “4 small, 4 large”."),
    "menu_of_one_measure": _l("“%(title)s” is written in another country's measures: copy it in this one's first."),
    "menu_of_dishes": _l("A menu has two to %(most)s dishes."),
    "menu_of_confirmed": _l("“%(title)s” has steps that nobody has confirmed: confirm them first."),
    "rules_cannot_be_kept": _l("The group's rules cannot all be kept with so many benches."),
    "may_not_do": _l(
        "%(who)s is not at this bench, or has not been shown what this step asks, or is too young for it."
    ),
    "no_brick": _l("“%(value)s” is no brick of this board: the plan has changed since. Choose it again."),
    "too_many_brought": _l("At most %(most)s dishes are brought to one lesson."),
    "too_many_pins": _l("At most %(most)s bricks can be put by hand: let some go first."),
    "lesson_begun": _l("The lesson has begun: what is cooked stays as it is."),
    "lesson_over": _l("This lesson is over: its plan stays as it was."),
    "id_used_twice": _l("“%(id)s” is used twice."),
    "in_the_future": _l("This is in the future: set the logger’s clock."),
    "ingredient_not_chosen": _l("Choose the ingredient you have."),
    "initials_needed": _l("The initials of a learner are needed."),
    "instrument_unnamed": _l("Give it a name: where it stands."),
    "kind_needed": _l("The name of a food kind is needed."),
    "kitchen_unit_needed": _l("A unit like %(allowed)s or a count noun is needed."),
    "lethality_overflow": _l("The lethality is beyond what can be represented: check its temperatures."),
    "line_not_chosen": _l("Choose a line."),
    "log_too_large": _l("%(size)s MB; at most %(most)s MB are read at once."),
    "mixed_times": _l("Some times are minutes and some are of the clock: use one sort."),
    "names_two": _l("“%(word)s” names two things."),
    "nested_too_deeply": _l("It is nested too deeply."),
    "never_cold_enough": _l("At %(around_c)s °C it never comes down to %(last_c)s °C."),
    "never_reached": _l("%(target_c)s °C is never reached between %(lowest)s and %(highest)s °C."),
    "no_amount": _l("This ingredient has no amount to compare with."),
    "no_cooking_limit": _l("%(name)s has no cooking limit here: it is eaten raw or held hot."),
    "no_core_reading": _l("None of these can be the core of a food."),
    "no_end": _l("Say until when."),
    "no_food_on_line": _l("No food of the confirmed steps is on this line."),
    "no_food_reading": _l("None of these can be a temperature of food."),
    "no_limit_given": _l("A temperature or an observation is needed."),
    "no_log_file": _l("Choose the logger’s file first."),
    "instrument_gone": _l("The store is not there any more."),
    "no_piece_fits": _l("At least one piece must fit."),
    "no_points": _l("At least one point is needed."),
    "no_portion": _l("At least one portion is needed."),
    "no_readable_time": _l("No line has a time that can be read: 2026-06-13 14:05, 14:05 or seconds."),
    "no_reading_below": _l("There is a heading and no reading below it."),
    "no_readings": _l("At least one reading is needed."),
    "no_recipe_in_json": _l("This JSON holds no schema.org Recipe."),
    "no_step_after": _l("There is no step after this one to join."),
    "no_such_allergen_here": _l("No food here brings “%(allergen)s”."),
    "no_such_column": _l("The heading has no column for it: %(allowed)s."),
    "no_such_food": _l("There is no food “%(food)s”."),
    "no_such_line": _l("There is no such line."),
    "no_such_person": _l("There is nobody called “%(person)s”."),
    "no_such_step": _l("There is no step “%(step)s”."),
    "no_such_swap": _l("There is no swap “%(swap)s”."),
    "no_such_timer": _l("There is no such timer."),
    "no_such_tool": _l("There is no tool “%(tool)s”."),
    "no_temperature_now": _l("The temperature now is needed."),
    "none_given": _l("At least one is needed."),
    "not_a_clock_time": _l("“%(value)s” is no time of the clock: 18:30."),
    "not_a_composition": _l("Water, protein, fat, carbohydrate, fibre and ash are needed."),
    "not_a_device_reading": _l("An object with channel, celsius and at is needed."),
    "not_a_fault": _l("“%(what)s” is no fault a store can have."),
    "not_a_life": _l("A low and a high figure with d, wk or mo, or no, is needed."),
    "not_a_limit": _l("This is no limit of the profile that a kitchen may set."),
    "not_a_list": _l("A list is needed."),
    "not_a_measure": _l("“%(value)s” is not a unit of mass or volume."),
    "not_a_moment": _l("A date and time is needed: 2026-06-13T14:05."),
    "not_a_number": _l("A number is needed, not “%(value)s”."),
    "not_a_triple": _l("A piece, seconds and a temperature are needed."),
    "not_true_or_false": _l("%(value)s is neither true nor false."),
    "not_a_pair": _l("A pair of seconds and temperature is needed."),
    "not_a_probing": _l("“%(line)s”: piece, minutes:seconds, temperature."),
    "not_a_reading": _l("“%(line)s”: a time and a temperature are needed."),
    "not_a_text": _l("A text is needed, not “%(value)s”."),
    "not_a_text_file": _l("This is no text: save the recipe as text, Markdown, JSON-LD or a web page."),
    "not_a_time": _l("“%(value)s” is no time: minutes, or hours:minutes."),
    "not_a_uuid": _l("A UUID is needed."),
    "not_above_0": _l("%(value)s is not above 0."),
    "not_an_allergen": _l("“%(tag)s” is not an allergen here."),
    "not_an_edit": _l("“%(what)s” is no edit of a step."),
    "not_an_entry": _l("An object with id, kind and data is needed."),
    "not_an_instrument": _l("“%(kind)s” is no kind of instrument."),
    "not_an_object": _l("An object is needed."),
    "not_at_this_bench": _l("“%(learner)s” is not at this bench."),
    "not_in_the_lesson": _l("That is not within the lesson."),
    "not_finite": _l("The number must be finite."),
    "not_frozen": _l("At %(start_c)s °C it is not frozen; there is nothing to thaw."),
    "not_json": _l("This is not JSON: line %(line)s."),
    "not_json_at_all": _l("This is not JSON."),
    "not_json_number": _l("%(name)s is not a number."),
    "not_minutes_seconds": _l("“%(value)s” is no time: minutes:seconds."),
    "not_whole": _l("A whole number is needed."),
    "not_one_of": _l("“%(value)s” is not one of %(allowed)s."),
    "not_percentages": _l("Six percentages that make 100 are needed, not “%(text)s”."),
    "not_reached_in_time": _l("The centre does not reach %(target_c)s °C in %(most)s days."),
    "not_served": _l("“%(food)s” is not served."),
    "not_signed_in": _l("Sign in first."),
    "not_utf8": _l("This is not UTF-8 text."),
    "not_utf8_at": _l("This is not UTF-8: save the file as UTF-8 or correct the line below."),
    "not_warmer_outside": _l("%(ambient_c)s °C outside is no warmer than the %(keep_c)s °C to keep."),
    "nothing_done_yet": _l("Nothing has been done at this bench yet."),
    "nothing_given": _l("There is nothing here: paste a recipe or choose a file."),
    "nothing_left_to_do": _l("“%(step)s” would have nothing to work on."),
    "nothing_served": _l("No step serves anything: say what is eaten."),
    "nothing_presumed": _l("Nothing is asked about this any more: the step has changed."),
    "nothing_to_undo": _l("There is nothing to undo."),
    "number_missing": _l("A number is needed."),
    "number_too_large": _l("The number is too large."),
    "one_food_needed": _l("The name of one food is needed."),
    "only_simulated": _l("Only a simulated store can be disturbed."),
    "order_incomplete": _l("The order must name every step once."),
    "order_unreadable": _l("This order cannot be read: look for it again."),
    "outside": _l("%(value)s is outside %(low)s to %(high)s."),
    "piece_needed": _l("The piece probed is needed."),
    "portion_larger_than_batch": _l("One portion of %(portion_g)s g is more than the batch of %(batch_g)s g."),
    "price_below_0": _l("A price cannot be below 0."),
    "price_outside": _l("A price from 0 to 999,999 is needed."),
    "profile_needed": _l("The id of a rule profile is needed."),
    "said": _l("%(text)s"),
    "servings_unknown": _l("The recipe does not say for how many; set that first."),
    "step_too_early": _l("Step “%(step)s” would come before what it needs."),
    "steps_changed": _l("The steps have changed since: look for the order again."),
    "steps_changed_since_read": _l("The steps were changed since you read them. Read them again, then confirm."),
    "steps_changed_by_another": _l("Somebody changed the steps meanwhile: look again, then choose."),
    "steps_in_a_ring": _l("These steps wait for each other: %(steps)s."),
    "still_needed": _l("“%(food)s” is still needed by itself later."),
    "stopped": _l("Stopped."),
    "swap_not_for_food": _l("This swap is not for this food."),
    "temperature_needed": _l("A temperature is needed."),
    "frozen_before_made": _l("It was frozen before it was made."),
    "times_out_of_order": _l("This time is before the one above it. Put the lines in the order of reading."),
    "thawed_before_frozen": _l("It was thawed before it was frozen."),
    "thawed_before_made": _l("It was thawed before it was made."),
    "time_below_0": _l("Time out cannot be below 0."),
    "too_cold_to_thaw": _l("At %(around_c)s °C it does not thaw."),
    "too_large": _l("That is more than %(most)s bytes."),
    "too_long": _l("%(count)s characters; at most %(most)s."),
    "too_many": _l("%(count)s; at most %(most)s are read at once."),
    "too_many_ingredients": _l("%(count)s ingredient lines; at most %(most)s are read."),
    "too_many_instructions": _l("%(count)s instructions; at most %(most)s are read."),
    "too_many_instruments": _l("There are %(most)s instruments already."),
    "too_many_lines": _l("More than %(most)s lines: bring it as a log."),
    "too_many_rows": _l("More than %(most)s rows: cut it into parts."),
    "too_many_sentences": _l("More than %(most)s sentences: bring it as several recipes."),
    "too_many_sheets": _l("%(most)s sheets are attached already: take one off first."),
    "too_many_steps": _l("%(count)s steps; at most %(most)s are read."),
    "too_many_text_lines": _l("%(count)s lines; a recipe may have %(most)s."),
    "too_thin_for_so_long": _l("This is too thin a body for so long a time: ask for less."),
    "tool_kind_needed": _l("The name of a kind of tool is needed."),
    "unit_needed": _l("C or F is needed."),
    "unknown_category": _l("“%(value)s” is not a storage category; there are %(allowed)s."),
    "unknown_entry": _l("“%(kind)s” is not an entry a bench can make."),
    "unknown_entry_here": _l("“%(kind)s” is not an entry that may be made here."),
    "unknown_group": _l("There is no group “%(value)s”."),
    "unknown_kind": _l("Nothing here is called “%(name)s”: name the main food, or say what is on it."),
    "unknown_profile": _l("“%(value)s” is not a rule profile here; there are %(allowed)s."),
    "unknown_soil": _l("There is no soil %(value)s."),
    "unsigned_limit": _l("Say who sets this limit and why."),
    "used_before_made": _l("“%(food)s” is used before any step makes it."),
    "usual_price_first": _l("Write down the usual price first."),
    "waits_longer_than_it_takes": _l("The waiting time is part of the whole time and cannot be longer."),
    "way_gone": _l("This way no longer applies: look again, then choose."),
    "weight_unknown": _l("Nobody has said what one %(food)s weighs."),
    "words_needed": _l("A few words are needed."),
    "wrong_sizes": _l("A %(shape)s needs %(wanted)s sizes, not %(count)s."),
    "zone_missing": _l("The time needs its zone: 2026-06-13T11:26:04+01:00."),
    "zoned_time_needed": _l("An ISO 8601 time with a zone is needed."),
    "zones_differ": _l("Give both times with a zone, or both without."),
}
# What stands before a sentence that by itself would not say of what it speaks.
_GENERAL = frozenset(
    {"above", "below", "none_given", "not_a_number", "not_above_0", "not_finite", "not_one_of", "number_too_large"}
    | {"number_missing", "outside", "said", "too_long", "words_needed"}
)
_FIELDS: Mapping[str, Text] = {
    "allergens": _l("allergens"),
    "amount": _l("price"),
    "benches": _l("benches"),
    "celsius": _l("temperature"),
    "channel": _l("channel"),
    "code": _l("rules"),
    "control": _l("control point"),
    "core_c": _l("temperature"),
    "core_min": _l("core"),
    "count": _l("count"),
    "do": _l("what is done"),
    "eaters": _l("eaters"),
    "factor": _l("factor"),
    "food": _l("food"),
    "foods": _l("foods"),
    "email": _l("email"),
    "role": _l("role"),
    "at": _l("time"),
    "link": _l("link"),
    "high": _l("higher amount"),
    "hands": _l("hands"),
    "house": _l("house rule"),
    "how": _l("how"),
    "learner": _l("learner"),
    "length_min": _l("minutes"),
    "low": _l("amount"),
    "low_min": _l("least minutes"),
    "minutes": _l("minutes"),
    "name": _l("name"),
    "oven_c": _l("oven"),
    "pace": _l("speed"),
    "pack": _l("pack"),
    "pack_price": _l("price of the pack"),
    "per": _l("per"),
    "pieces": _l("pieces"),
    "place": _l("place"),
    "profile": _l("rules"),
    "reason": _l("reason"),
    "scrub_s": _l("scrubbing"),
    "serves": _l("serves"),
    "servings": _l("servings"),
    "step": _l("step"),
    "title": _l("title"),
    "tools": _l("tools"),
    "unit": _l("unit"),
    "value": _l("figure"),
    "waiting_min": _l("waiting"),
    "wanted": _l("how many"),
    "what": _l("what"),
}
_LINE = re.compile(r"\bline (\d+)$")


# What a page overlooked in what it was sent: a value the core refuses, one the database cannot hold, letters that are
# none. A real fault of ours is none of these.
NOT_TAKEN = (CoreError, DataError, UnicodeEncodeError)


def why_not_taken(wrong: Exception) -> str:
    """One of ``NOT_TAKEN`` as a sentence."""
    return error_sentence(wrong) if isinstance(wrong, CoreError) else _("It holds letters that are none.")


def error_sentence(wrong: CoreError) -> str:
    """The error as a sentence, with its line or its field where it would not be plain without."""
    facts = {name: _fact(value) for name, value in wrong.facts.items()}
    text = str(SENTENCES.get(wrong.why, _l("This cannot be used as it is."))) % facts
    line = _LINE.search(wrong.field)
    if line:
        return _("Line %(line)s: %(text)s") % {"line": line[1], "text": text}
    field = field_name(wrong.field) if wrong.why in _GENERAL else ""
    return capital(_("%(field)s: %(text)s") % {"field": field, "text": text}) if field else text


def field_name(field: str) -> str:
    """What a person calls a field; nothing for one that has no name of that kind."""
    plain = re.sub(r"\[\d+\]|\(.*?\)", "", field).strip().split(".")
    return next((str(_FIELDS[part.strip()]) for part in reversed(plain) if part.strip() in _FIELDS), "")


def _fact(value: object) -> str:
    if isinstance(value, float):
        return f"{value:g}"
    if isinstance(value, int) and not isinstance(value, bool):
        return f"{value:,}"
    if isinstance(value, (tuple, list)):
        return ", ".join(str(one).replace("_", " ") for one in value)
    return str(value)
