#!/usr/bin/env python
"""Django's command line for Bulwark; ``bin/start`` sets up what it needs."""

import os
import sys
from pathlib import Path

if __name__ == "__main__":
    sys.path.insert(0, str(Path(__file__).resolve().parent / "src"))
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bulwark.settings")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)
