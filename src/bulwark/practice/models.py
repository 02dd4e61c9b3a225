"""Rounds of puzzles and what was answered."""

from django.db import models


class Round(models.Model):
    """A set of puzzles from one recipe, for a group or for whoever is there. The puzzles stand in it whole, with their
    keys: what was asked stays what was asked, whatever becomes of recipe and rules. ``seed`` makes them again.
    ``matches``: the round before the lesson that one after it is held against, question by question."""

    PRACTICE, REVIEW, BEFORE, AFTER = "practice", "review", "before", "after"
    KINDS = (PRACTICE, REVIEW, BEFORE, AFTER)

    organisation = models.ForeignKey("people.Organisation", on_delete=models.CASCADE, related_name="rounds")
    recipe = models.ForeignKey("recipes.Recipe", on_delete=models.PROTECT, related_name="+")
    lesson = models.ForeignKey("lessons.Lesson", on_delete=models.PROTECT, null=True, related_name="rounds")
    group = models.ForeignKey("groups.Group", on_delete=models.SET_NULL, null=True, related_name="rounds")
    kind = models.CharField(max_length=8, choices=[(name, name) for name in KINDS], default=PRACTICE)
    title = models.CharField(max_length=160)
    profile = models.CharField(max_length=40)
    seed = models.BigIntegerField()
    level = models.PositiveSmallIntegerField(default=2)
    puzzles = models.JSONField(default=list)
    # The titles of the recipe's steps, as they were.
    titles = models.JSONField(default=dict)
    code = models.CharField(max_length=6, unique=True)
    matches = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, related_name="matched_by")
    made_at = models.DateTimeField(auto_now_add=True)
    made_by = models.ForeignKey("people.User", on_delete=models.SET_NULL, null=True, related_name="+")
    ended_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["-made_at", "-pk"]

    def __str__(self) -> str:
        return f"round {self.pk}"


class Answer(models.Model):
    """One answer to one puzzle of a round: by a learner, or by so many of a group (hands up, ``learner`` empty). The
    first of a learner counts; what comes after it is practice. ``uuid``: sent twice it is one answer."""

    round = models.ForeignKey(Round, on_delete=models.CASCADE, related_name="answers")
    uuid = models.UUIDField()
    number = models.PositiveSmallIntegerField()
    learner = models.CharField(max_length=24, blank=True)
    choice = models.CharField(max_length=200)
    right = models.BooleanField()
    count = models.PositiveSmallIntegerField(default=1)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["round", "uuid"], name="answering_twice_is_one_answer")]

    def __str__(self) -> str:
        return f"answer {self.pk}"


class Certificate(models.Model):
    """What one learner has shown, as it stood when it was made. ``items``: what, when and by whom it was seen, in words
    that stay as they were. It is found by its code and shows no more than it says; it can be taken back."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.PROTECT, related_name="+")
    group = models.ForeignKey("groups.Group", on_delete=models.SET_NULL, null=True, related_name="+")
    initials = models.CharField(max_length=24)
    title = models.CharField(max_length=120)
    items = models.JSONField(default=list)
    profile = models.CharField(max_length=40)
    edition = models.CharField(max_length=160)
    code = models.CharField(max_length=13, unique=True)
    made_on = models.DateField()
    made_by = models.ForeignKey("people.User", on_delete=models.SET_NULL, null=True, related_name="+")
    taken_back_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["-made_on", "-pk"]

    def __str__(self) -> str:
        return f"certificate {self.pk}"


class LessonFigures(models.Model):
    """What a lesson came to, counted from its logs up to these heads: a cache, never the truth."""

    lesson = models.OneToOneField("lessons.Lesson", on_delete=models.CASCADE, related_name="+")
    head = models.CharField(max_length=64)
    data = models.JSONField()

    def __str__(self) -> str:
        return f"figures {self.pk}"
