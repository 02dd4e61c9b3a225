"""What other rooms may hear of a lesson. ``lesson_begun`` is sent once it has begun and that is kept; whoever listens
cannot hold it up: what goes wrong there is logged, and the lesson runs."""

from django.dispatch import Signal

lesson_begun = Signal()
