"""Instruments of a kitchen, and what its cold stores have read."""

import uuid

from django.db import models


class Instrument(models.Model):
    """A probe, the logger of a fridge or freezer, or a printer of labels. A simulated one has its faults in
    ``settings`` and may run faster than the clock; a real one posts readings with its own key, of which only
    the hash is kept."""

    KINDS = (("probe", "probe"), ("fridge", "fridge"), ("freezer", "freezer"), ("printer", "printer"))
    STORES = ("fridge", "freezer")
    organisation = models.ForeignKey("people.Organisation", on_delete=models.CASCADE, related_name="instruments")
    kind = models.CharField(max_length=10, choices=KINDS)
    name = models.CharField(max_length=60)
    serial = models.UUIDField(default=uuid.uuid4, unique=True)
    simulated = models.BooleanField(default=True)
    settings = models.JSONField(default=dict, blank=True)
    pace = models.PositiveSmallIntegerField(default=1)
    # A simulated clock: it stood at ``clock_at`` when ours stood at ``set_at``.
    clock_at = models.DateTimeField()
    set_at = models.DateTimeField()
    key_hash = models.CharField(max_length=64, blank=True)

    class Meta:
        ordering = ["kind", "name", "pk"]

    def __str__(self) -> str:
        return self.name


class InstrumentCheck(models.Model):
    """A thermometer held against ice slush and boiling water on a day: what it showed there [C], and what that says of
    it (``foodsafety.measuring.check_thermometer``). Rows are never changed: another check is another row."""

    instrument = models.ForeignKey(Instrument, on_delete=models.CASCADE, related_name="checks")
    on = models.DateField()
    ice_shows_c = models.FloatField(null=True)
    boil_shows_c = models.FloatField(null=True)
    # Where water boils depends on it; where nobody has said it, boiling water proves nothing.
    altitude_m = models.IntegerField(null=True)
    standing = models.CharField(max_length=12)
    by = models.CharField(max_length=40)

    class Meta:
        ordering = ["on", "pk"]

    def __str__(self) -> str:
        return f"check of instrument {self.instrument_id}"


class StoreReading(models.Model):
    """One reading of a store's air. A logger may send it twice: it is one reading."""

    instrument = models.ForeignKey(Instrument, on_delete=models.CASCADE, related_name="readings")
    channel = models.PositiveSmallIntegerField(default=1)
    at = models.DateTimeField()
    celsius = models.FloatField()

    class Meta:
        ordering = ["at"]
        constraints = [
            models.UniqueConstraint(fields=["instrument", "channel", "at"], name="one_reading_per_moment"),
        ]

    def __str__(self) -> str:
        return f"{self.at} {self.celsius}"
