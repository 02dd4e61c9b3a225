"""Food that comes to a lesson ready made; what is kept, to be looked in; labels that were printed; drills."""

from __future__ import annotations

import datetime as dt

from django.db import models

# What is over so soon is used first.
FIRST = dt.timedelta(days=2)


class BroughtDish(models.Model):
    """One done earlier: made before, with a clock of its own. Judged by what was said of it, each time anew; or food
    off the shelf, whose history goes along."""

    lesson = models.ForeignKey("lessons.Lesson", on_delete=models.CASCADE, related_name="+")
    title = models.CharField(max_length=80)
    # What it keeps as, of the core's storage categories.
    category = models.CharField(max_length=60)
    made_at = models.DateTimeField()
    place = models.CharField(max_length=8)
    # How long it is out of the cold on its way here [min]; None where nobody has said.
    out_min = models.PositiveSmallIntegerField(null=True, blank=True)
    contains = models.CharField(max_length=120, blank=True)
    # Off the shelf: the bench that kept it, and which part of which food of its it is. Its log says what became of it.
    bench = models.ForeignKey("lessons.Bench", on_delete=models.PROTECT, null=True, blank=True, related_name="+")
    food = models.CharField(max_length=80, blank=True)
    part = models.CharField(max_length=3, blank=True)
    portions = models.PositiveSmallIntegerField(null=True, blank=True)
    # Once it was taken: when, until when it keeps, whether it had been frozen, and which food of the recipe it is.
    taken_at = models.DateTimeField(null=True, blank=True)
    until = models.DateTimeField(null=True, blank=True)
    thawed = models.BooleanField(default=False)
    as_food = models.CharField(max_length=80, blank=True)

    class Meta:
        ordering = ["made_at", "pk"]

    def __str__(self) -> str:
        return self.title


class Shelved(models.Model):
    """A part of a kept food as the log of its bench has it: worked out from the log to be looked in, never the
    truth."""

    bench = models.ForeignKey("lessons.Bench", on_delete=models.CASCADE, related_name="+")
    food = models.CharField(max_length=80)
    part = models.CharField(max_length=3)
    place = models.CharField(max_length=8)
    store = models.CharField(max_length=40, blank=True)
    portions = models.PositiveSmallIntegerField(null=True)
    raw = models.BooleanField()
    # What it is whatever the clock says: heat, eat, hole, cooling; empty where its date alone decides.
    state = models.CharField(max_length=8, blank=True)
    until = models.DateTimeField(null=True)
    by_the_hour = models.BooleanField()
    made_at = models.DateTimeField()
    contains = models.JSONField(default=list)
    # While it cools: what must be read, and by when [[temperature, unit, seconds], ...].
    due = models.JSONField(default=list)
    container = models.CharField(max_length=20, blank=True)

    class Meta:
        ordering = [models.F("until").asc(nulls_first=True), "food", "pk"]
        constraints = [models.UniqueConstraint(fields=["bench", "food", "part"], name="one_row_a_part")]

    def __str__(self) -> str:
        return self.key

    @property
    def key(self) -> str:
        """What it is called in an address."""
        return f"{self.bench_id}-{self.part}-{self.food}"


class ShelvedUpTo(models.Model):
    """How far a bench's log was read for what it keeps: up to which entry, by which program, and when it must be read
    again though nothing was added."""

    bench = models.OneToOneField("lessons.Bench", on_delete=models.CASCADE, primary_key=True, related_name="shelved")
    seq = models.PositiveIntegerField()
    program = models.CharField(max_length=64)
    again_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return f"{self.bench_id} {self.seq}"


class PrintedLabel(models.Model):
    """A label as a PDF: in the tray of the simulated printer, or waiting until a real one has printed it."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.CASCADE, related_name="+")
    printer = models.ForeignKey("devices.Instrument", on_delete=models.CASCADE, related_name="+")
    key = models.CharField(max_length=160)
    name = models.CharField(max_length=80)
    copies = models.PositiveSmallIntegerField()
    again = models.BooleanField()
    at = models.DateTimeField()
    pdf = models.BinaryField()
    printed_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["-at", "-pk"]

    def __str__(self) -> str:
        return f"{self.name} {self.at}"


class RecallDrill(models.Model):
    """A recall that was practised: for what, how long it took, and how much was found."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.CASCADE, related_name="+")
    word = models.CharField(max_length=60)
    began_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True, blank=True)
    benches = models.PositiveIntegerField(default=0)
    parts = models.PositiveIntegerField(default=0)

    class Meta:
        ordering = ["-began_at"]

    def __str__(self) -> str:
        return f"{self.word} {self.began_at}"

    @property
    def took_s(self) -> float:
        """How long it took [s]."""
        return ((self.ended_at or self.began_at) - self.began_at).total_seconds()


class NoteWords(models.Model):
    """The sentences of a note for home in a family's language, as somebody of the organisation wrote them."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.CASCADE, related_name="+")
    language = models.CharField(max_length=40)
    # By the id of each sentence (wording.note_sentences); what is not there stays in English.
    words = models.JSONField(default=dict)

    class Meta:
        ordering = ["language"]
        constraints = [models.UniqueConstraint(fields=["organisation", "language"], name="one_set_a_language")]

    def __str__(self) -> str:
        return self.language
