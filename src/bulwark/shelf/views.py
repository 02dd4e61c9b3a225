"""Labels for what is kept."""

from typing import Any

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.urls import reverse
from django.views.decorators.http import require_GET

from bulwark.bench.selectors import joined_bench
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import ActorRequest
from bulwark.presentation.qr import qr_svg, tablet_address
from bulwark.shelf import selectors


def _label(request: ActorRequest, bench: Any, food: str, back: str) -> HttpResponse:
    item = selectors.shelf_item(bench, food)
    if item is None:
        raise Http404
    code = lessons.profile_of(bench.lesson)
    link = tablet_address(request, reverse("label", args=[bench.pk, food]))
    return render(
        request,
        "shelf/label.html",
        {
            "item": item,
            "profile": code,
            "qr": qr_svg(link),
            "back": back,
            "lesson": bench.lesson,
            "categories": selectors.category_choices() if request.actor.kind == "educator" else (),
        },
    )


@login_required
@require_GET
def label(request: ActorRequest, bench_id: int, food: str) -> HttpResponse:
    """The label as the organisation sees it; its QR leads here."""
    bench = get_object_or_404(lessons.benches_for(request.actor), pk=bench_id)
    return _label(request, bench, food, reverse("bench_detail", args=[bench.pk]))


@require_GET
def bench_label(request: ActorRequest, food: str) -> HttpResponse:
    """The label at the bench."""
    bench = joined_bench(request)
    if bench is None:
        raise Http404
    return _label(request, bench, food, reverse("bench"))
