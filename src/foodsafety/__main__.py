"""Run the core's command line: ``python -m foodsafety TOPIC < in.json > out.json``."""

from foodsafety.cli import main

raise SystemExit(main())
