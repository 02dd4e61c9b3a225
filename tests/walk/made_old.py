"""Lessons that a walk has ended, made so old that their names may go."""

import datetime as dt
import os

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bulwark.settings")
django.setup()

from django.db.models import F  # noqa: E402

from bulwark.lessons.models import Lesson  # noqa: E402

AGE = dt.timedelta(days=60)

if __name__ == "__main__":
    ended = Lesson.objects.exclude(closed_at=None)
    print(f"{ended.update(closed_at=F('closed_at') - AGE, opened_at=F('opened_at') - AGE)} lessons made two months old")
