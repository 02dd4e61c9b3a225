"""Faults planted by hand, each in a copy of the source: a test must notice every one. Run by ``bin/mutants``.

A mutant is the rule it breaks, the file, what stands there, what is put instead, and the tests that
should notice. ``tests/test_mutants.py`` checks in every run that each still finds its place.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
SAFE = "tests/core/lesson/test_never_safe.py"
JUDGED = "tests/core/cli/test_judgements.py"
LESSON = "tests/core/lesson"
AGREE = "tests/core/lesson/test_agreement.py"
CASES = "tests/core/contamination"
STAND = "tests/web/test_rules_that_stand.py"
READ = "tests/core/recipes/test_reading.py"
ASK = "tests/core/recipes/test_asking.py"
NOTES = "tests/core/recipes/test_notes_in_a_hurry.py"
ROWS = "tests/core/recipes/test_rows_without_stops.py"
ELSE = "tests/core/recipes/test_said_of_something_else.py"
SAID = "tests/core/recipes/test_said.py"
TIMERS = "tests/core/lesson/test_timers.py"
TIMES = "tests/core/lesson/test_timing.py"
PLANNED = "tests/core/planning/test_whole_lesson.py"
SCHEDULED = "tests/core/planning/test_schedule.py"
OVENS = "tests/core/planning/test_ovens.py"
BOUNDS = "tests/core/lesson/test_bounds.py"
MENUS = "tests/core/recipes/test_combining.py"
BOUGHT = "tests/core/review/test_shopping.py"
GROUPS = "tests/web/test_group.py"
KITCHENS = "tests/web/test_kitchens.py"
FIELD = "tests/web/test_field.py"
KEYS = "tests/core/practice/test_keys.py"
HISTORIES = "tests/core/lesson/test_kept_histories.py"
BROUGHT = "tests/web/test_brought.py"


@dataclass(frozen=True, slots=True)
class Mutant:
    """One fault."""

    rule: str
    path: str
    old: str
    new: str
    tests: str


def core(rule: str, path: str, old: str, new: str, tests: str = SAFE) -> Mutant:
    return Mutant(rule, f"src/foodsafety/{path}", old, new, tests)


def web(rule: str, path: str, old: str, new: str, tests: str) -> Mutant:
    return Mutant(rule, f"src/bulwark/{path}", old, new, tests)


FOOD, STEPS, READINGS = "lesson/food_state.py", "lesson/entries/steps.py", "lesson/entries/readings.py"
KEEPING, PROVING, EVIDENCE = "lesson/entries/keeping.py", "lesson/proving.py", "lesson/evidence.py"
CONTACTS, VERDICT, CLOCKS, STORAGE = "lesson/contacts.py", "cooking/verdict.py", "shelf/clocks.py", "shelf/storage.py"
STORE, TRIPS, LIMITS, TRANSFER = (
    "cooling/cold_store.py",
    "cooling/trips.py",
    "cooking/limits.py",
    "contamination/transfer.py",
)
ANALYSIS, PLAN, CONTROLS = "contamination/analysis.py", "lesson/plan.py", "lesson/control_points.py"

MUTANTS: tuple[Mutant, ...] = (
    # --- clocks of food ---------------------------------------------------------------------------
    core("a running clock is not restarted by handling", FOOD, "handled_s=at_s, clock=self.clock.out(since_s))", "handled_s=at_s, clock=Clock(spent_s=self.clock.spent_s, since_s=since_s))"),
    core("what is made takes the longest clock", STEPS, "longest_s = max((food.out_s", "longest_s = min((food.out_s"),
    core("reheating gives no time back", FOOD, "return changed(self, on_heat_s=at_s, off_heat_s=None, clock=clock)", "return changed(self, on_heat_s=at_s, off_heat_s=None, clock=Clock())"),
    core("the hottest surroundings count", READINGS, "hottest = self.ambient_c if state.ambient_c is None else max(state.ambient_c, self.ambient_c)", "hottest = self.ambient_c", f"{LESSON}"),
    core("away is away when all is", EVIDENCE, "if all(state.food(food).settled for food in control.foods):", "if any(state.food(food).settled for food in control.foods):"),
    core("storing twice changes nothing", KEEPING, "if held.settled:\n            return state, ()", "if held.gone is not None:\n            return state, ()"),
    core("the surroundings' limit counts when known later", "lesson/standing.py", "state.plan.profile.clock_for(kind, state.ambient_c)", "state.plan.profile.clock_for(kind, None)"),
    core("raw time counts until the proof", FOOD, "if self.raw and self.proof is None else 0.0", "if False else 0.0", LESSON),
    core("the clock runs from off the heat", FOOD, "return changed(food, on_heat_s=None, off_heat_s=at_s)._out(at_s)", "return changed(food, on_heat_s=None, off_heat_s=at_s)"),
    core("a heat step that is done is off the heat", FOOD, "on_heat_s=None, heated_s=at_s)._out(at_s)", "on_heat_s=None, heated_s=at_s)", LESSON),
    core("stored too late is thrown away", "lesson/standing.py", "return late or clock_limit(state, food).no_return(kept.out_s)", "return late"),
    core("food out too long is thrown away before it is stored", "lesson/keeping.py", 'why.append("out-too-long")', "pass", LESSON),
    core("rice is in the fridge within the hour where the rules say so", "lesson/standing.py", "return replace(limit, warn_s=sooner_s,", "return replace(limit, warn_s=limit.warn_s,", "tests/core/lesson/test_parts.py"),
    core("one period out is one", "shelf/storage.py", "if food.trips > 1 and", "if food.trips > 9 and", "tests/core/lesson/test_kept_histories.py"),
    core("eaten though over is noted", "lesson/entries/shelf.py", 'over = row is not None and self.how not in ("discarded", "missing")', 'over = False and row is not None', "tests/core/lesson/test_parts.py"),
    core("read too warm after it was due is lost", "lesson/chilling.py", "if any(_read_above(readings, row) for row in broken):", "if False and broken:", "tests/core/lesson/test_chilling.py"),
    core("not measured is not cold", "lesson/chilling.py", "if broken or any(row.at_s < now_s for row in due):", "if broken:", "tests/core/lesson/test_chilling.py"),
    core("no signature helps what was read too warm", "lesson/keeping.py", 'if chilling.standing == "too-slow":', 'if chilling.standing == "too-slow" and part.signed is None:', "tests/core/lesson/test_chilling.py"),
    core("nothing keeps longer than what went into it", "lesson/keeping.py", "if own >= found.use_by:", "if own <= found.use_by:", "tests/web/test_kept_on.py"),
    core("made again begins anew", KEEPING, "foods={name: food for name, food in state.foods.items() if name not in foods},", "foods=state.foods,"),
    core("served or not, over is over", EVIDENCE, 'if standings[food].standing == "over" or stored_too_late(state, food)]', "if stored_too_late(state, food)]"),
    core("each raw food has its own clock", EVIDENCE, "return _worst([_raw_out_food(state, food, now_s) for food in control.foods])", "return _worst([_raw_out_food(state, food, now_s) for food in control.foods[:1]])"),
    core("of chilled foods the worst speaks", EVIDENCE, "return min(shown, key=lambda one: (_RANK", "return max(shown, key=lambda one: (_RANK"),
    core("unknown food needs control", PLAN, "if kind is None or kind.temperature_control:", "if kind is not None and kind.temperature_control:", LESSON),
    # --- proof ----------------------------------------------------------------------------------------
    core("a lower reading takes the proof back", PROVING, 'verdict.status in ("below", "too_few")', 'verdict.status in ("too_few",)'),
    core("more pieces than were shown take the proof back", PROVING, 'verdict.status in ("below", "too_few")', 'verdict.status in ("below",)', LESSON),
    core("served and then taken back is a breach", PROVING, "return record(state, findings, at_s)\n\n\ndef served(", "return state\n\n\ndef served("),
    core("what is made of it is unproven too", PROVING, "found |= _unproven(state, part, seen)", "pass", LESSON),
    core("heat ends what is owed a reading only by it", CONTACTS, "shown = not owed(state, step)", "shown = True"),
    core("the vessel stays raw until all in it is shown", PROVING, "if not owed(proven, step):", "if True:", LESSON),
    core("taken back is raw again on what it became", PROVING, "for name in caught:", "for name in ():", LESSON),
    core("a rest ends by the clock", PROVING, "resting = [n for n, held in state.foods.items() if held.rest_over_s is not None and held.rest_over_s <= now_s]", "resting = list[str]()"),
    core("reheated food must be shown hot", STEPS, "changed(food.unread(), reheating=True) if", "food if"),
    core("cooked again proves nothing of before", FOOD, "return changed(self, readings=(), shown=None, proof=None, rest_over_s=None)", "return self", LESSON),
    core("off the heat is forgotten on the heat again", FOOD, "return changed(self, on_heat_s=at_s, off_heat_s=None, clock=clock)", "return changed(self, on_heat_s=at_s, clock=clock)"),
    core("eaten and unproven is a breach", KEEPING, 'eating(state, self.food) if self.how == "eaten" else ()', 'eating(state, self.food) if self.how == "never" else ()'),
    core("every part-cooked food is finished", EVIDENCE, "return _worst([_finished(state, food) for food in ([step.makes] if step.makes else step.foods)])", "return _worst([_finished(state, food) for food in ([step.makes] if step.makes else step.foods[:1])])"),
    core("every measured food is proven", EVIDENCE, "return _worst([_core_food(state, food, now_s) for food in control.measured])", "return _worst([_core_food(state, food, now_s) for food in control.measured[:1]])"),
    core("not measured when its time has passed is missed", CONTROLS, "missed_after=self._missed_after(heat, names),", "missed_after=None,"),
    core("a failed limit is no pass for a waiver", EVIDENCE, 'return "breach"  # a reason given beforehand does not make a failed limit pass', "pass", LESSON),
    # --- the verdict ------------------------------------------------------------------------------------
    core("the probe's error is taken off", VERDICT, "return core_c - (error_c", "return core_c + (error_c", JUDGED),
    core("a poor probe's error is taken off", VERDICT, "else most_error_c()", "else 1000.0", JUDGED),
    core("standing time counts", VERDICT, "rest_s = limit.rest_s + limit.stand_s", "rest_s = limit.rest_s", SAFE),
    core("a rest is not counted from before the limit", VERDICT, "max(off_heat_s, held_s)", "off_heat_s", JUDGED),
    core("the lowest piece is told", VERDICT, "lowest = min(self.latest, key=lambda name", "lowest = max(self.latest, key=lambda name", "tests/core/cooking tests/core/cli"),
    core("exactly the longest gap is credited", VERDICT, "at_s - run.proved_s > longest_gap_s", "at_s - run.proved_s >= longest_gap_s", JUDGED),
    core("a longer gap is not credited", VERDICT, "since_s = at_s if unseen else run.since_s", "since_s = run.since_s", JUDGED),
    core("another piece proves nothing of the lowest", VERDICT, "if run is not None and probing.piece != by:", "if False:", "tests/core/cooking"),
    core("enough pieces are read", VERDICT, "whole=not low and len(latest) >= self.needed", "whole=not low", "tests/core/cooking tests/core/cli"),
    core("a reading below breaks the run", VERDICT, "                runs.append(None)\n                continue", "                runs.append(run)\n                continue", JUDGED),
    core("nobody said off: from the last reading", VERDICT, "end_s = (run.last_s if off_heat_s is None", "end_s = (run.shown_s if off_heat_s is None", JUDGED),
    core("the strictest row speaks", LIMITS, "rows = sorted(limits, key=_rank, reverse=True)", "rows = sorted(limits, key=_rank)", JUDGED),
    core("another hold only if every food may be cooked so", LIMITS, "return tuple(hold for hold in holds if all(meets(hold, row) for row in measured))", "return tuple(holds)", JUDGED),
    core("what was cooked is reheated", LIMITS, 'row = profile.cook["reheat"] if ready else', 'row = profile.cook["reheat"] if False else', JUDGED),
    # --- clocks, stores, dates ------------------------------------------------------------------------------
    core("six hours only below 70 F", CLOCKS, "if not all(highest.kept_by(core_c) for _, core_c in readings):", "if not any(highest.kept_by(core_c) for _, core_c in readings):", JUDGED),
    core("food that began warm has no time control", CLOCKS, 'if found.action == "discard" or (readings and hot.met_by(readings[0][1])):', "if True:", JUDGED),
    core("exactly at a limit is over where the source says or more", "rules/profile.py", "return out_s >= self.limit_s if self.or_more else out_s > self.limit_s", "return out_s > self.limit_s", JUDGED),
    core("two hours and no return", "rules/profile.py", "return out_s >= self.warn_s if self.or_more else out_s > self.warn_s", "return False", JUDGED),
    core("hot food follows the cooling stages", TRIPS, 'if self.began == "hot" and stages:', "if False:", JUDGED),
    core("made at room temperature four hours", TRIPS, 'if self.began == "ambient" and ambient:', "if False:", JUDGED),
    core("one period only", TRIPS, "return (self.clocks[\"cold\"].one_period and cold > 1)", "return (False and cold > 1)", JUDGED),
    core("one reading says nothing of how long", TRIPS, "alone = len(self.readings) == 1", "alone = len(self.readings) == 0", JUDGED),
    core("spells add up", STORE, "return sum(one for one in spells_s if one > _file()[\"grace_s\"])", "return max((one for one in spells_s if one > _file()[\"grace_s\"]), default=0.0)", JUDGED),
    core("a peak of exactly the grace is a peak", STORE, "if sum(warm_s) <= _file()[\"grace_s\"]:", "if sum(warm_s) < _file()[\"grace_s\"]:", "tests/core/cooling tests/core/cli"),
    core("an alarm comes after the grace", STORE, 'return "alarm" if now_s - spells.since_s > _file()["grace_s"] else "peak"', 'return "alarm" if now_s - spells.since_s >= _file()["grace_s"] else "peak"', "tests/core/cooling"),
    core("a freezer that thawed is in question", STORE, "    if _held_s(thawed):\n", "    if False:\n", JUDGED),
    core("days before freezing count", STORAGE, "left_s = life_s - _elapsed_s(food.made_at, food.frozen_at)", "left_s = life_s", JUDGED),
    core("thawed food has its own life", STORAGE, "    if kept.thawed:\n", "    if False:\n", JUDGED),
    core("vacuum packed food has its own end", "lesson/keeping.py", "if found.use_by <= own:", "if True:", HISTORIES),
    core("one answer is right", "practice/planted.py", "key=lambda row: (where[row.step], row.soil, row.food))", "key=lambda row: (-where[row.step], row.soil, row.food))", KEYS),
    core("the error in ice is taken off", "practice/heat_checks.py", "right_c = round(shows_c + offset_c, 1)\n    return Sketch(", "right_c = round(shows_c - offset_c, 1)\n    return Sketch(", KEYS),
    core("nothing raw above", "practice/time_checks.py", "elif raw_above:", "elif not raw_above:", KEYS),
    core("a day after the thaw in the UK", STORAGE, "if profile.dates.thawed_max_s is not None:", "if False:", JUDGED),
    core("out too long whatever its life", STORAGE, "if limit.no_return(food.out_s):", "if False:", JUDGED),
    core("hours are given as hours", "cli/store.py", "and not found.by_the_hour", "", JUDGED),
    core("elapsed time, not wall time", STORAGE, "return (start.astimezone(dt.UTC) + dt.timedelta(seconds=seconds)).astimezone(start.tzinfo)", "return start + dt.timedelta(seconds=seconds)", "tests/core/shelf"),
    core("30 C is asked about", "quantities.py", 'if unit == "C" and value >= 30.0:', 'if unit == "C" and value > 30.0:', "tests/core/test_quantities.py"),
    core("clock times run forward", "measuring/typed.py", "        clock_s += _DAY_S\n", "        break\n", "tests/core/measuring"),
    # --- contamination ------------------------------------------------------------------------------------
    core("hands that serve touch", CONTACTS, '_BY_HAND = frozenset({"serve", "garnish", "probe", "touch"})', '_BY_HAND = frozenset({"garnish", "probe", "touch"})'),
    core("hands that probe touch", CONTACTS, '_BY_HAND = frozenset({"serve", "garnish", "probe", "touch"})', '_BY_HAND = frozenset({"serve", "garnish", "touch"})'),
    core("raw food laid by hand soils it", CONTACTS, "touches = step.do in _BY_HAND or _moved_raw(state, step)", "touches = step.do in _BY_HAND"),
    core("nobody named is anybody", CONTACTS, "return replace(step, hands=by or state.present)", "return replace(step, hands=by)"),
    core("a stranger's hands are unwashed", STEPS, '{name: {"person": Trace((name,))} for name in names}', "{}"),
    core("a wash too short ends nothing", "lesson/entries/people.py", "if self.scrub_s < state.plan.scrub_s:", "if False:"),
    core("what an entry causes is not dropped", "lesson/folding.py", "    state = note(state, [f for f in findings if id(f) not in told], event.at_s)\n", ""),
    core("a washing step tapped past is told", STEPS, 'if step.do != "wash_hands":\n        return ()', "return ()", LESSON),
    core("unrinsed and eaten is a finding", ANALYSIS, 'rule = "produce-not-rinsed" if name == "unwashed_produce" else "no-kill-step"', 'rule = "no-kill-step"', f"{CASES} {SAFE}"),
    core("unwashed contact is advice", "contamination/findings.py", 'return soil(soil_name).practice and house.unwashed_contact == "advice"', "return False", f"{CASES} {SAFE}"),
    core("one board for both is seen", "contamination/house_rules.py", "if use.raw is not None and use.eaten and use != before.get(board):", "if False:", f"{CASES} {LESSON}"),
    core("gloves that met raw are told apart", CONTACTS, "fate, before, cooked, state.gloved)", "fate, before, cooked)", LESSON),
    core("nobody said who eats means anybody", "review/eaters.py", "groups if said else eater_groups()", "groups", "tests/web/test_care.py"),
    core("running water rinses the hands", TRANSFER, "under = (*step.foods, *step.hands)", "under = step.foods", f"{CASES} {SAFE}"),
    core("a runny yolk ends nothing", "recipes/process.py", 'underdone=data["do"] == "heat" and says_underdone(_cue(data, where)),', "underdone=False,", "tests/core/review"),
    core("nothing is washed with food in it", "ordering/compiled.py", "self.lying_in = self._lying_in() if food_stays else", "self.lying_in = self._lying_in() if False else", "tests/core/ordering/test_sensible.py"),
    core("what was sent besides is not kept", "lesson/entry.py", "for name, value in row.items() if value is not None}", "for name, value in row.items()} | {\"junk\": 1}", LESSON),
    # --- the web ---------------------------------------------------------------------------------------------
    web("nothing slips in after the end", "lessons/appending.py", "(closed_at IS NULL OR %s::boolean OR", "(TRUE OR %s::boolean OR", STAND),
    web("only what happened before the end comes late", "lessons/appending.py", "%s::timestamptz <= closed_at AND", "%s::timestamptz IS NOT NULL AND", "tests/web/test_devices_at_benches.py"),
    web("late is two days, not for ever", "lessons/appending.py", "now() < closed_at + %s::interval", "now() < closed_at + 99 * %s::interval", "tests/web/test_devices_at_benches.py"),
    web("who is sent away says nothing more", "lessons/appending.py", "WHERE id = %s::bigint AND sent_away_at IS NOT NULL", "WHERE id = %s::bigint AND sent_away_at IS NULL AND FALSE", "tests/web/test_devices_at_benches.py"),
    web("who is sent away sees nothing more", "lessons/selectors.py", "return here.exclude(devices__in=", "return here or here.exclude(devices__in=", "tests/web/test_devices_at_benches.py"),
    web("a lesson is taken up again within the day", "lessons/services.py", "> REOPEN_WITHIN", "> 99 * REOPEN_WITHIN", "tests/web/test_devices_at_benches.py"),
    web("nobody forges what the program writes", "../foodsafety/lesson/entries/__init__.py", "found is None or found.made_here", "found is None", "tests/web/test_devices_at_benches.py"),
    web("a log that was cut off is found", "lessons/log.py", "if len(hashes) < head.seq:", "if False:", "tests/web/test_log.py"),
    web("a log that was written again is found", "lessons/log.py", "or last != head.hash:", "or False:", "tests/web/test_log.py"),
    web("what was judged is what was there", "lessons/log.py", "if now not in (head.context, taken.contexts.get(head.bench_id)):", "if False:", "tests/web/test_log.py"),
    web("a purge hides no change after it", "lessons/log.py", "hashlib.sha256(data.encode()).hexdigest() == taken.entries.get((bench, seq))", "(bench, seq) in taken.entries", "tests/web/test_purging.py"),
    web("a purge must be signed", "lessons/purging.py", "counted = ours or rows", "counted = rows", "tests/web/test_purging.py"),
    web("a lesson's file proves each entry", "lessons/files.py", "if not _holds(bench, row):", "if False:", "tests/web/test_lesson_files.py"),
    web("fewer than five are told to nobody", "practice/programme.py", "part.hidden = len(part.learners) < FEWEST", "part.hidden = False", "tests/web/test_programme.py"),
    web("the first answer counts", "practice/selectors.py", "if row.learner and (row.number, row.learner) in seen:", "if False:", "tests/web/test_practice.py"),
    web("a bench that is gone is found", "lessons/log.py", "if bench is None or", "if bench is not None and", "tests/web/test_log.py"),
    web("a wrong code waits, the right one does not", "presentation/patience.py", "0.0 if tries < FREE_TRIES else", "0.0 if True else", "tests/web/test_bench.py"),
    web("a closed lesson is not joined", "bench/views.py", "    if bench.lesson.closed_at:\n        return _refused(request, \"closed\", 410)\n", "", STAND),
    web("a device's cookie ends", "bench/selectors.py", "return actor if time.time() - signed_s <= COOKIE_AGE_S else ANONYMOUS", "return actor", STAND),
    web("a stream is only for its own", "lessons/views.py", "    if not selectors.lessons_for(request.actor).filter(pk=lesson_id).exists():\n        return HttpResponse(status=404)\n    return event", "    return event", STAND),
    web("a lesson comes whole or not at all", "lessons/services.py", "@transaction.atomic\ndef create_lesson(", "def create_lesson(", STAND),
    web("a corrected line comes whole or not at all", "recipes/services.py", "@transaction.atomic\ndef correct_line(", "def correct_line(", STAND),
    web("two edits of steps wait for each other", "recipes/services.py", '    locked = Recipe.objects.select_for_update().get(pk=recipe.pk)\n    process = locked.process\n    if what == "undo":', '    locked = Recipe.objects.get(pk=recipe.pk)\n    process = locked.process\n    if what == "undo":', STAND),
    web("house rules stay once it has begun", "lessons/services.py", '    if lesson.opened_at:\n        raise LessonError("begun")\n    lesson.house =', "    lesson.house =", STAND),
    web("another's edit is not overwritten", "recipes/services.py", "    if locked.process != before:\n        raise CoreError(\"steps\", \"steps_changed_by_another\")\n", "", STAND),
    web("undo takes the confirmation back", "recipes/services.py", "    recipe.confirmed_at, recipe.confirmed_by = None, None\n    recipe.save()\n    last.delete()", "    recipe.save()\n    last.delete()", STAND),
    web("nothing served is not confirmed", "recipes/services.py", '    if held["nothing-served"]:\n        raise CoreError("serve", "nothing_served")\n', "", STAND),
    web("what was changed since is not confirmed", "recipes/services.py", "    if version != steps_version(recipe):\n        raise CoreError(\"steps\", \"steps_changed_since_read\")\n", "", STAND),
    web("a limit taken back is the base's", "kitchens/selectors.py", "        if row.value is not None\n", "", STAND),
    web("a compared profile has no local limits", "lessons/adapters.py", "limits = lesson.local_limits if asked == lesson.profile else []", "limits = lesson.local_limits", STAND),
    web("the workbench has the kitchen's limits", "workbench/selectors.py", "return lambda code: kitchens.rules_for(organisation_id, code)", "return rule_profile", STAND),
    web("no cell is a formula", "presentation/sheets.py", '("=", "+", "-", "@", "\\t", "\\r")', '("=", "+", "@", "\\t", "\\r")', STAND),
    web("a logger's body has a limit", "devices/views.py", "    if len(request.body) > MOST_BODY:\n", "    if False:\n", STAND),
    web("only the educator waives", "lessons/services.py", "if not may_send(kind, front=by.at_front, watches", "if not may_send(kind, front=True, watches", STAND),
    core("a step is early below four fifths", "lesson/entries/steps.py", "gone_s < _EARLY_SHARE * step.least_s", "gone_s <= _EARLY_SHARE * step.least_s", TIMES),
    core("a window counts from its least", "recipes/process.py", "least_s=min(planned_s, low_s or planned_s)", "least_s=planned_s", TIMES),
    core("counting more pieces asks for no more", "cooking/verdict.py", "counted is None or counted >= self.needed", "counted is None", TIMES),
    core("raw work of nobody is everybody's", "lesson/evidence.py", "(state.done_by.get(step.id) or state.present)", "state.done_by.get(step.id, ())", TIMES),
    core("nothing is due after the end", "lesson/evidence.py", '{"due": "missed", "todo": "not_done"}', '{"todo": "not_done"}', "tests/web/test_record.py"),
    core("of two heats of raw meat the last is measured", "recipes/proposer.py", 'step.do = "part_cook"', 'step.do = "heat"', READ),
    core("what raw meat lay in stays raw", "recipes/made_names.py", "if soaked is None or", "if True or", READ),
    core("hands are on raw food that nothing else moves", "recipes/reader.py", "return raw or order.do", "return order.do", READ),
    core("an answer about the spoon settles no bowl", "recipes/presumptions.py", "if any(is_presumed(process, steps[at], name) for name in others):", "if False:", NOTES),
    core("a sentence is never left out", "recipes/reading.py", 'yield row or SentenceRead(text=part, taken="unread")', "yield from ([row] if row else [])", NOTES),
    core("what goes in before the end counts its minutes once", "recipes/proposed_steps.py", "cook.waiting_min -= staged_min", "cook.waiting_min -= 0", NOTES),
    core("the core is measured at the end of the cook", "recipes/reader.py", "core_c=cook.core_c, oven_c", "core_c=None, oven_c", NOTES),
    core("what lay in the marinade is what is grilled", "recipes/meat_in_hand.py", "            return lifted[-1:]", "            return meant", NOTES),
    core("a food that no line has is not what is in hand", "recipes/sentence_reader.py", "if unlisted is not None and unlisted.sure:", "if False:", NOTES),
    core("what is kept hot is not cooked by it", "recipes/short_notes.py", "beside or (order.do == \"heat\" and _KEPT_HOT", "beside or (False and _KEPT_HOT", SAID),
    core("a guessed heat cooks nothing through", "recipes/sentence_reader.py", 'replace(order, do="part_cook") if order.do == "heat" else order', "order", SAID),
    core("what is turned in its marinade is not cooked", "recipes/short_notes.py", "and (was_off or not self._was_cooking(order))", "and was_off", SAID),
    core("heat on the plates cooks no chicken", "recipes/another_thing.py", '"heat", "part_cook", "chill"', '"chill"', ROWS),
    core("a rinse of the board is no wash", "recipes/instructions.py", "verb == \"rinse\" and not _WASHES_TOO.search(low) else \"clean\"", "False else \"clean\"", ELSE),
    core("what cooks among notes is asked about", "recipes/reading.py", "on_food or first.do in", "False and first.do in", ROWS),
    core("a look at the sauce cooks no meat", "recipes/reader.py", "and inferred and not told and", "and False and", SAID),
    core("carving is of the meat", "recipes/meat_in_hand.py", 'if order.do == "probe" or only_meat:', 'if False:', SAID),
    core("a timer rings until it is answered", "lesson/state.py", "if timer.answered_s is None)", "if False)", TIMERS),
    core("a timer that rang is moved from now on", "lesson/entries/timers.py", "max(timer.rings_s, at_s) if self.by_min > 0", "timer.rings_s if self.by_min > 0", TIMERS),
    core("a second tap sets no second timer", "lesson/entries/timers.py", "if self.timer in state.timers:", "if False:", TIMERS),
    web("a timer nobody answers is called out", "lessons/call_wording.py", "    if forgotten:\n        return forgotten", "    if False:\n        return None", "tests/web/test_wording.py"),
    core("an unread sentence may hide raw work", "recipes/reading.py", 'if _says("risky", text) or _says("tasting", text) or not raw.isdisjoint(stem_words(text)):', "if False:", READ),
    web("an unread sentence holds back confirming", "recipes/services.py", 'if unread := held["unread"]:', "if unread := held[\"none\"]:", "tests/web/test_first_visit.py"),
    web("a body that is too large is not taken", "pages_door.py", "if size > limits.most_bytes:", "if False:", "tests/web/test_pages_door.py"),
    core("raw food that only the method names gets a line", "recipes/unlisted.py", "matters = is_hazardous(item) or not item.kind or new", "matters = new", ASK),
    core("an allergen that only the method names gets a line", "recipes/unlisted.py", "or not item.kind or new", "or not item.kind", ASK),
    core("a food hidden behind another holds back", "recipes/questions.py", '{"food-unknown", "raw-hidden"}', '{"food-unknown"}', ASK),
    core("what is tasted raw is no tip", "recipes/reading.py", '    if _says("tasting", text):\n', "    if False:\n", ASK),
    core("what was cut and went nowhere is eaten", "recipes/proposer.py", "if forgotten:", "if False:", ASK),
    core("a cold dish is never what was raw", "recipes/made_names.py", "if not (kitchen.foods[name].raw or kitchen.foods[name].heated)]", "]", ASK),
    core("a finding is waved away for a reason only", "recipes/told.py", 'if how == "cannot" and not reason:', "if False:", ASK),
    web("a finding is put right or answered for", "recipes/services.py", "    if unanswered:", "    if False:", "tests/web/test_first_visit.py"),
    web("an answer is for a finding that is there", "recipes/services.py", "    if found is None:\n        raise CoreError(\"finding\"", "    if False:\n        raise CoreError(\"finding\"", "tests/web/test_first_visit.py"),
    web("a raw food in no step is not confirmed", "recipes/services.py", 'if astray := [*held["unplaced"], *held["goes-nowhere"]]:', "if astray := list[Question]():", "tests/web/test_first_visit.py"),
    core("who has raw hands does nothing else before a wash", "planning/step_order.py", "(not washes and other.raw != this.raw)", "False", PLANNED),
    core("a wash of hands comes after the raw food", "planning/step_order.py", "(washes and other.raw)", "False", PLANNED),
    core("hands wait for their wash", "planning/step_order.py", '(first.do == "wash_hands")', "False", PLANNED),
    core("part-cooked food goes back in time", "planning/model.py", "<= first_end + row.s // self.unit", "<= first_end + 9 * row.s // self.unit", SCHEDULED),
    core("durations are never rounded down", "planning/problem.py", "s=math.ceil(finite(", "s=math.floor(finite(", SCHEDULED),
    core("what is shared is held by one at a time", "planning/model.py", "            if sum(amount for _, amount in rows) <= capacity:", "            if True:", SCHEDULED),
    core("who had raw hands is who washes", "planning/doers.py", "yield from (_WASHES * _only_first(", "yield from (0 * _only_first(", PLANNED),
    core("raw work stays in one pair of hands", "planning/step_order.py", "    if this.raw and other.raw:", "    if False:", PLANNED),
    core("what was not shown is not taken for shown", "planning/lesson_tasks.py", "frozenset(skill_names()) if name.startswith", "frozenset(skill_names()) if True or name.startswith", PLANNED),
    core("who is too young may not", "planning/skills.py", "if name in shown and old_enough(age, name, ages)", "if name in shown", PLANNED),
    core("nothing raw is done before the lesson", "planning/step_order.py", 'return soil == "unknown" or is_raw(soil)', "return False", PLANNED),
    core("what is cut before the lesson is rinsed before it", "planning/step_order.py", "[other for other in before[name] if other in may - found]", "[]", PLANNED),
    core("a heat that nobody named asks for somebody who may", "planning/skills.py", 'found |= set(figures()["heat"]["unnamed"])', "pass", PLANNED),
    core("some of it in the fridge stops no clock for the rest", "lesson/bounds.py", "shared <= parts_of(step)", "shared & parts_of(step)", BOUNDS),
    core("a menu is free of what its dishes are to be free of", "recipes/combining.py", '"free_of": made.free_of,', '"free_of": {},', MENUS),
    core("two heats share no oven", "planning/ovens.py", "if one.oven_heat == other.oven_heat:", "if True:", OVENS),
    core("an oven has so many shelves", "planning/ovens.py", "[1] * len(rows), shelves)", "[0] * len(rows), shelves)", OVENS),
    core("raw food counts from the first hand on it", "lesson/bounds.py", "control.limit_s, since_begin=True)", "control.limit_s)", BOUNDS),
    core("the fridge stops the clock and nothing else", "lesson/bounds.py", '"marinate"})', '"marinate", "rest"})', BOUNDS),
    core("a plan that breaks a rule's time says so", "planning/lesson_tasks.py", "        if over_s > 0:", "        if over_s > 9999:", BOUNDS),
    core("a menu keeps what its dishes serve", "recipes/combining.py", 'for name in ("serve", "discarded"):', 'for name in ("discarded",):', MENUS),
    core("the larger amount is bought", "review/shopping.py", "most = replace(item, low=item.high)", "most = item", BOUGHT),
    core("packs are rounded up", "review/shopping.py", "math.ceil(amount / pack - 1e-9)", "math.floor(amount / pack)", BOUGHT),
    web("who says nuts is kept from peanuts too", "groups/rosters.py", '"nuts": ("tree_nuts", "peanut")', '"nuts": ("tree_nuts",)', GROUPS),
    web("what was said of no stranger is not known of them", "groups/selectors.py", "may_do(row.age, row.shown, ages) if row else frozenset()", "may_do(row.age, row.shown, ages) if row else frozenset({'hob', 'knife'})", GROUPS),
    web("an empty box is not a nought", "kitchens/services.py", "        if count is not None:", "        if True:", KITCHENS),
    web("no ice is promised that nobody could work out", "pack/field.py", "if len(known) == len(weights) else None", "if known else None", FIELD),
    core("hot food is not left to wait", "planning/model.py", "self.model.minimize(sum(sums))", "self.model.maximize(sum(sums))", SCHEDULED),
    web("a room is questioned too", "lessons/readings.py", '"ambient_read": (question_room, "ambient_c")', '"ambient_read": (lambda value, unit: None, "ambient_c")', "tests/web/test_timing.py"),
    core("a dish keeps what its steps borrow", "recipes/combining.py", 'or row.get("makes") in wanted', "or False", MENUS),
    core("a step that takes a dish's food along is the dish's", "recipes/combining.py", 'or not (ours | made).isdisjoint(row.get("foods") or ())', "or False", MENUS),
    core("hot food waits until it is eaten, not until it is served", "planning/lesson_tasks.py", "then = EAT if then in served else then", "then = str(then)", PLANNED),
    core("nobody works while all eat", "planning/problem.py", "        if task.everybody:", "        if False:", PLANNED),
    core("nobody stops with a cook that was begun", "planning/halves.py", 'if step.do == "part_cook" or step.underdone or raw & set(soils):', "if False:", "tests/core/planning/test_halves.py"),
    core("nobody stops where it must be heated again", "planning/halves.py", "if again and not melted:", "if False:", "tests/core/planning/test_halves.py"),
    core("nothing else lies about at a stop", "planning/halves.py", "_crossing(process, first) != {kept}", "kept not in _crossing(process, first)", "tests/core/planning/test_halves.py"),
    core("the second lesson knows what is still raw", "planning/halves.py", "process.foods[name].soils & stop.soils", "frozenset[str]()", "tests/core/planning/test_halves.py"),
    core("food stood out while its heat was off", "lesson/entries/pausing.py", "raw=replace(food.raw, spent_s=max(0.0, food.raw.spent_s + off_s))", "raw=food.raw", "tests/core/lesson/test_pausing.py"),
    core("a heat that nobody has spoken of counts as off", "lesson/entries/pausing.py", "after = _held(after, step, held[step])", "pass", "tests/core/lesson/test_pausing.py"),
    core("a second pause forgets no heat", "lesson/entries/pausing.py", "else (*state.pause.asks, *state.pause.off)", "else ()", "tests/core/lesson/test_pausing.py"),
    core("nobody goes on before the heat is spoken of", "lesson/entries/pausing.py", "or pause.ended_s is None or pause.asks:", "or pause.ended_s is None:", "tests/core/lesson/test_pausing.py"),
    core("a wash seen to go wrong leaves soil on the hands", "lesson/entries/watching.py", "held = {**person.off, **state.surfaces.get(self.learner, {})}", "held = state.surfaces.get(self.learner, {})", "tests/core/lesson/test_watching.py"),
    core("readings alone are not enough where hands stop it", "lesson/to_read.py", "if any(row.rule not in SERVED_UNPROVEN for row in found):", "if False:", "tests/core/lesson/test_to_read.py"),
    core("what was not on the heat cannot be read done", "lesson/to_read.py", "or not (held.on_since_s is not None or heats_of(state, food))", "", "tests/core/lesson/test_to_read.py"),
    core("a heat that nobody wrote is another one", "lesson/ovens.py", "step.oven_c is None or use.oven_c is None or ", "None not in (step.oven_c, use.oven_c) and ", "tests/core/lesson/test_ovens.py"),
    core("an oven carries no raw food to another bench", "lesson/sharing.py", ' or tools[tool].kind in carrier_kinds("ovens")', "", "tests/core/lesson/test_ovens.py"),
    core("the tablet knows which soil hands take", "lesson/contacts.py", "if step.id in plan.raw_steps else ()", "if False else ()", "tests/core/lesson/test_foreseen.py"),
    core("the tablet knows what they would harm", "lesson/contacts.py", "for name in raw if any(fate.of(name).get(food) for food in held)", "for name in raw if not held", "tests/core/lesson/test_foreseen.py"),
    web("an assistant says nothing of another bench", "pad/views.py", "if str(one.pk) == named), None)", "if one), None)", "tests/web/test_pad.py"),
    web("whoever was sent away writes no more", "pad/selectors.py", "rows.filter(pk=pk, sent_away_at=None, lesson__opened_at__isnull=False)", "rows.filter(pk=pk, lesson__opened_at__isnull=False)", "tests/web/test_pad.py"),
    web("who was hurt is read by educators alone", "people/roles.py", "return role in (\"owner\", \"educator\")", "return True", "tests/web/test_hurts.py"),
    web("what keeps too short for the second lesson is said", "lessons/pages.py", "if row.until < ends:", "if False:", "tests/web/test_two_lessons.py"),
    web("what nobody put away is not used", "lessons/pages.py", "return wording.not_kept(bench.name, food), False", "return wording.not_kept(bench.name, food), True", "tests/web/test_two_lessons.py"),
    web("slices bake no sooner", "board/pieces.py", 'not set(row["one"].split()) & cut_after', "True", "tests/web/test_board.py"),
    web("time out of the cold that nobody said is asked", "shelf/selectors.py", "if dish.out_min is None else []", "if False else []", BROUGHT),
    web("what is over before it is eaten may not be eaten", "shelf/selectors.py", "and eaten_at(lesson) <= until.use_by", "", BROUGHT),
    web("allergens that nobody said are asked", "shelf/selectors.py", "asked = [] if _words_in(dish) else", "asked = [] if True else", BROUGHT),
    web("an entry without its token goes no short way", "bench/express.py", 'and hmac.compare_digest(token.encode(), environ.get("HTTP_X_CSRFTOKEN", "").encode())', "", "tests/web/test_express.py"),
    web("an entry from elsewhere goes no short way", "bench/express.py", '(origin == f"{scheme}://{host}" or (not origin and scheme == "http"))', "True", "tests/web/test_express.py"),
    web("which dishes a bench cooked is in its chain", "lessons/context.py", '{"dishes": list(bench.dishes)} if bench.dishes else {}', "{}", "tests/web/test_menus.py"),
    web("what is kept is what was checked", "lessons/services.py", "append(bench, event_id, kind, entry.stored(), at", "append(bench, event_id, kind, data, at", STAND),
    web("what is shared is told to all", "lessons/services.py", "if lesson.shared:", "if False:", "tests/web/test_shared_kit.py"),
    web("a stand-in has one lesson", "lessons/selectors.py", "rows.filter(pk=actor.lesson_id or 0)", "rows", "tests/web/test_standing_in.py"),
    web("a log that does not fit its seal is found", "lessons/seals.py", "if seq and (len(found) < seq or found[seq - 1] != own):", "if False:", "tests/web/test_log.py"),
    core("nobody takes back what another has seen", "lesson/entry.py", "watched.get(target) == row.by", "target in watched", "tests/web/test_pad.py"),
    core("what is left out counts for nothing", "lesson/evidence.py", "if control.id in state.dropped:", "if False:", "tests/core/lesson/test_late.py"),
    core("what is not known is not done", "planning/rest.py", "if gone_s is None:\n        return task", "if gone_s is None:\n        return None", "tests/core/lesson/test_late.py"),
)  # fmt: skip
# ruff: noqa: E501 - a mutant is read beside what it replaces


# The source as it is: its tests pass, or nothing that a mutant shows means anything.
SOUND = Mutant("none", "", "", "", f"{SAFE} {JUDGED}")


def planted(mutant: Mutant, folder: Path) -> Path:
    """A copy of the source and its tests with the fault in it."""
    for name in ("src", "tests", "pyproject.toml", "manage.py"):
        (shutil.copytree if (ROOT / name).is_dir() else shutil.copy)(ROOT / name, folder / name)
    if (ROOT / ".local").exists():
        (folder / ".local").symlink_to(ROOT / ".local")
    if mutant is SOUND:
        return folder
    path = folder / mutant.path
    text = path.read_text(encoding="utf-8")
    assert text.count(mutant.old) == 1, f"{mutant.path}: {mutant.old!r} stands there {text.count(mutant.old)} times"
    path.write_text(text.replace(mutant.old, mutant.new), encoding="utf-8")
    return folder


def noticed(mutant: Mutant, place: int) -> bool:
    """True if a test fails with the fault in place."""
    with tempfile.TemporaryDirectory() as name:
        folder = planted(mutant, Path(name))
        env = {**os.environ, "PYTHONPATH": str(folder / "src"), "PYTEST_DB_SUFFIX": f"_mutant{place}"}
        words = [
            sys.executable,
            "-m",
            "pytest",
            "-x",
            "-q",
            "--no-header",
            "-p",
            "no:cacheprovider",
            *mutant.tests.split(),
        ]
        done = subprocess.run(words, cwd=folder, env=env, capture_output=True, text=True, timeout=900, check=False)
        failed = " failed" in done.stdout or "FAILED" in done.stdout
        if done.returncode not in (0, 1) or (done.returncode == 1 and not failed):
            raise RuntimeError(f"the tests of {mutant.rule!r} did not run: {done.stdout[-600:]} {done.stderr[-600:]}")
        return done.returncode == 1


def main(chosen: list[str]) -> int:
    """Tries every mutant (or those whose rule has a word in it) and prints the survivors."""
    if noticed(SOUND, 0):
        print("the tests fail without any fault")
        return 1
    rows = [m for m in MUTANTS if not chosen or any(word in f"{m.rule} {m.path}" for word in chosen)]
    survivors = []
    with ThreadPoolExecutor(int(os.environ.get("MUTANT_WORKERS", "2"))) as pool:
        answers = pool.map(lambda row: noticed(row[1], row[0] % 8), enumerate(rows))
        for n, (mutant, seen) in enumerate(zip(rows, answers, strict=True), start=1):
            print(f"{n}/{len(rows)} {'noticed' if seen else 'SURVIVES'}: {mutant.rule}", flush=True)
            survivors += [] if seen else [mutant]
    for mutant in survivors:
        print(f"survives: {mutant.rule} ({mutant.path})")
    print(f"{len(rows)} mutants, {len(survivors)} survive")
    return 1 if survivors else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
