"""The ASGI application."""

import os
import warnings

from django.core.asgi import get_asgi_application

# WhiteNoise hands files over in blocks; Django reads them on a thread, which is all it warns of.
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous iterators")
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bulwark.settings")
application = get_asgi_application()
