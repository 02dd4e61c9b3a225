"""Lessons, their benches and the log."""

import datetime as dt
import uuid
from typing import Any

from django.db import models
from django.db.models import Q

from foodsafety.planning import HALF


class Lesson(models.Model):
    """One period of cooking. It keeps its own copy of the process: a recipe edited later does not
    change what was taught."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.PROTECT, related_name="lessons")
    recipe = models.ForeignKey("recipes.Recipe", on_delete=models.PROTECT, related_name="lessons")
    title = models.CharField(max_length=160)
    # Where, and with whom, as far as somebody has said: counted kitchens and kept groups.
    kitchen = models.ForeignKey("kitchens.Kitchen", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    group = models.ForeignKey("groups.Group", on_delete=models.SET_NULL, null=True, blank=True, related_name="lessons")
    place = models.CharField(max_length=120, blank=True)
    process = models.JSONField()
    pieces = models.JSONField(default=dict)
    # Who eats, as the recipe said when the lesson was made: groups and allergens.
    eaters = models.JSONField(default=dict, blank=True)
    # What some learners make instead or besides, as the recipe said when the lesson was made.
    variants = models.JSONField(default=list, blank=True)
    profile = models.CharField(max_length=40, default="us-home")
    house = models.JSONField(default=dict)
    # The kitchen's own limits as they stood when the profile was chosen, in the core's form.
    local_limits = models.JSONField(default=list, blank=True)
    # The recipe's steps were a proposal nobody had confirmed when this lesson was made.
    unconfirmed = models.BooleanField(default=False)
    # What its debrief says is to be taught next: rules, in the order of the debrief.
    teach_next = models.JSONField(default=list, blank=True)
    # What the plan asks of a step at the bench, by the step: smaller pieces, done before, one brought ready made.
    arranged = models.JSONField(default=dict, blank=True)
    # Its plan, as it stood when the lesson began or was last planned anew, in seconds of the lesson: {"ends_s": s,
    # "benches": {bench: {step: [begins, ends]}}, "order": {bench: [step]}, "who": {bench: {step: [who]}}}. Empty where
    # there is no plan; the order only where a bench goes by it (a menu).
    planned = models.JSONField(default=dict, blank=True)
    # Kit that its benches share: what soils it at one soils it at all.
    shared = models.JSONField(default=list, blank=True)
    # The code of the questions that its benches are asked now, for their tablets; empty where none are asked.
    asks = models.CharField(max_length=6, blank=True)
    starts_at = models.DateTimeField()
    length_min = models.PositiveSmallIntegerField(default=90)
    opened_at = models.DateTimeField(null=True, blank=True)
    closed_at = models.DateTimeField(null=True, blank=True)
    # A rehearsed lesson runs faster than the clock on the wall.
    pace = models.PositiveSmallIntegerField(default=1)
    rehearsal = models.BooleanField(default=False)
    # No lesson: the log of what came onto the shelf without one. In no list of lessons.
    stock = models.BooleanField(default=False)
    # A rehearsal that is held stands still since then, and stood for so long before [s of the clock on the wall].
    held_at = models.DateTimeField(null=True, blank=True)
    held_s = models.FloatField(default=0.0)
    # How it is rehearsed: the seed, and for each bench its crew, its slip and from which minute on.
    rehearsed = models.JSONField(default=dict, blank=True)
    # Of a recipe over two lessons the second knows the first, which keeps what it begins with.
    first_half = models.OneToOneField(
        "self", on_delete=models.SET_NULL, null=True, blank=True, related_name="second_half"
    )

    class Meta:
        ordering = ["starts_at", "pk"]

    def __str__(self) -> str:
        return self.title

    @property
    def half(self) -> dict[str, Any] | None:
        """Of a recipe over two lessons, which of them this is and where it stops; None where it cooks all of it."""
        found: dict[str, Any] | None = self.process.get(HALF)
        return found

    @property
    def over(self) -> bool:
        """True once it has ended."""
        return self.closed_at is not None

    @property
    def began_at(self) -> dt.datetime:
        """When it was really started; before that, when it was meant to."""
        return self.opened_at or self.starts_at

    @property
    def weaker(self) -> frozenset[str]:
        """The local limits of this lesson that are less strict than the base profile's."""
        return frozenset(row["path"] for row in self.local_limits if row.get("weaker"))


class Bench(models.Model):
    """A work place in a lesson, with its learners. Joined with a code while the lesson is open."""

    lesson = models.ForeignKey(Lesson, on_delete=models.PROTECT, related_name="benches")
    name = models.CharField(max_length=40)
    position = models.PositiveSmallIntegerField(default=0)
    join_code = models.CharField(max_length=6, unique=True)
    # Which dishes of the lesson's menu it cooks, by their titles; all of them where none is named.
    dishes = models.JSONField(default=list, blank=True)
    # It works on paper: nothing is expected of it before its card is typed in.
    on_paper = models.BooleanField(default=False)
    # What of its log was fetched for several benches at once (selectors.read_logs); no field.
    read_ahead: Any = None

    class Meta:
        ordering = ["position", "pk"]

    def __str__(self) -> str:
        return self.name


class Device(models.Model):
    """A tablet or phone at a bench, by its number there: nobody says whose it is. It is sent away by a date, so
    that what it wrote keeps its name."""

    bench = models.ForeignKey(Bench, on_delete=models.PROTECT, related_name="devices")
    number = models.PositiveSmallIntegerField()
    joined_at = models.DateTimeField()
    # What it last told of itself: when, and how many entries wait on it.
    seen_at = models.DateTimeField()
    waiting = models.PositiveIntegerField(default=0)
    sent_away_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["bench", "number"], name="one_device_per_number")]

    def __str__(self) -> str:
        return f"tablet {self.number}"


class Hurt(models.Model):
    """Somebody was hurt at a bench: a record of its own, in no log, no paper and no export of the lesson."""

    bench = models.ForeignKey(Bench, on_delete=models.PROTECT, related_name="+")
    who = models.CharField(max_length=24)
    what = models.CharField(max_length=12)
    # What was done, of wording.hurt_care.
    care = models.JSONField(default=list)
    thrown = models.CharField(max_length=120, blank=True)
    words = models.CharField(max_length=300, blank=True)
    at = models.DateTimeField()
    by = models.ForeignKey("people.User", on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        ordering = ["at", "pk"]

    def __str__(self) -> str:
        return f"hurt {self.pk}"


class Learner(models.Model):
    """Initials or a nickname, and nothing else."""

    bench = models.ForeignKey(Bench, on_delete=models.PROTECT, related_name="learners")
    initials = models.CharField(max_length=24)
    # In the kitchen's own words; empty where its group has none.
    role = models.CharField(max_length=40, blank=True)
    position = models.PositiveSmallIntegerField(default=0)

    class Meta:
        ordering = ["position", "pk"]
        constraints = [models.UniqueConstraint(fields=["bench", "initials"], name="one_learner_per_initials")]

    def __str__(self) -> str:
        return f"learner {self.pk}"


class Event(models.Model):
    """One entry of a bench's log. ``seq``, ``recorded_at`` and the hashes are set by the database;
    it also refuses UPDATE and DELETE."""

    uuid = models.UUIDField(default=uuid.uuid4)
    # No index of its own: both constraints begin with the bench.
    bench = models.ForeignKey(Bench, on_delete=models.PROTECT, related_name="events", db_index=False)
    seq = models.PositiveIntegerField()
    kind = models.CharField(max_length=32)
    data = models.JSONField(default=dict)
    happened_at = models.DateTimeField()
    recorded_at = models.DateTimeField()
    recorded_by = models.CharField(max_length=40)
    previous_hash = models.CharField(max_length=64)
    hash = models.CharField(max_length=64)

    class Meta:
        ordering = ["bench", "seq"]
        constraints = [
            models.UniqueConstraint(fields=["bench", "uuid"], name="posting_twice_is_one_event"),
            models.UniqueConstraint(fields=["bench", "seq"], name="one_event_per_place_in_the_chain"),
            models.CheckConstraint(condition=Q(seq__gte=1), name="chain_starts_at_one"),
        ]

    def __str__(self) -> str:
        return f"{self.kind} {self.uuid}"


class LogHead(models.Model):
    """How far a bench's log goes, kept apart from it: written by the database alone, in the name of a role that
    nobody signs in as. It stands though its bench were gone. ``context`` is the hash of what the verdict rests on,
    with which the chain begins; ``rules`` that of the rule profile as the program had it."""

    bench_id = models.BigIntegerField(primary_key=True)
    lesson_id = models.BigIntegerField()
    rules = models.CharField(max_length=64, blank=True)
    context = models.CharField(max_length=64, blank=True)
    seq = models.PositiveIntegerField(default=0)
    hash = models.CharField(max_length=64, blank=True)
    at = models.DateTimeField()

    class Meta:
        ordering = ["bench_id"]

    def __str__(self) -> str:
        return f"bench {self.bench_id} at {self.seq}"


class LessonSeal(models.Model):
    """The heads of all logs of a lesson at one moment, signed with the server's own key, which no database knows: at
    its end, and on the way every so many entries. It is added to and never changed, and stands though its lesson were
    gone. ``heads``: [bench, place in its log, hash]."""

    lesson_id = models.BigIntegerField()
    number = models.PositiveIntegerField()
    heads = models.JSONField()
    signature = models.CharField(max_length=64)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["lesson_id", "number"]
        constraints = [models.UniqueConstraint(fields=["lesson_id", "number"], name="one_seal_per_number")]

    def __str__(self) -> str:
        return f"lesson {self.lesson_id} sealed {self.number}"


class LessonPurge(models.Model):
    """Names and words were taken out of a lesson: it is added to and never changed, and stands though its lesson were
    gone. ``entries``: [bench, place in its log, hash of what it said, hash of what it says now]; ``contexts``: what
    each bench's verdict rests on now."""

    lesson_id = models.BigIntegerField(unique=True)
    at = models.DateTimeField(auto_now_add=True)
    by = models.CharField(max_length=40)
    entries = models.JSONField()
    contexts = models.JSONField()
    signature = models.CharField(max_length=64)

    def __str__(self) -> str:
        return f"purge of lesson {self.lesson_id}"


class JoinTry(models.Model):
    """A join code that was wrong, counted per address so that codes cannot be guessed."""

    address = models.GenericIPAddressField()
    tried_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["address", "tried_at"])]

    def __str__(self) -> str:
        return f"try {self.pk}"
