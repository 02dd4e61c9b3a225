"""Answers that are given later each time, so that nobody can guess by the thousand. The wait is on the event loop:
it holds neither a thread nor a connection."""

from django.http import HttpResponse

WAIT = "X-Bulwark-Wait"
# So many wrong tries are anybody's; then each doubles the wait, to at most this long.
FREE_TRIES = 4
LONGEST_S = 8.0


def wait_s(tries: int) -> float:
    """How long an answer is held back after so many wrong tries [s]."""
    return 0.0 if tries < FREE_TRIES else min(LONGEST_S, 0.25 * 2 ** min(10, tries - FREE_TRIES))


def told_later(response: HttpResponse, tries: int) -> HttpResponse:
    """The response, held back at the door."""
    if wait_s(tries):
        response[WAIT] = f"{wait_s(tries):g}"
    return response
