"""The simulated probe, over the protocol that a real one would speak (docs/DEVICES.md)."""

from django.http import HttpRequest, JsonResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_GET

from bulwark.bench.selectors import joined_bench
from bulwark.devices import selectors


@never_cache
@require_GET
def probe_reading(request: HttpRequest) -> JsonResponse:
    """What the bench's probe shows in one piece of a food now."""
    bench = joined_bench(request)
    if bench is None:
        return JsonResponse({"error": {"field": "bench", "message": "not joined to an open bench"}}, status=403)
    food, piece = request.GET.get("food", ""), request.GET.get("piece", "1")
    reading = selectors.simulated_reading(bench, food, piece[:8])
    if reading is None:
        return JsonResponse({"error": {"field": "food", "message": "nothing on the heat has that name"}}, status=404)
    return JsonResponse(reading)
