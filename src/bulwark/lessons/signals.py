"""What other rooms may hear of a lesson. ``lesson_begun`` and ``lesson_ended`` are sent once it has begun or ended and
that is kept; whoever listens cannot hold it up: what goes wrong there is logged, and the lesson goes on."""

from django.dispatch import Signal

lesson_begun = Signal()
lesson_ended = Signal()
