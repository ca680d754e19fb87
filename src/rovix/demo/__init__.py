"""The Larkmoor Kite Day: a made-up event that the demo is about."""

from pathlib import Path

DATA = Path(__file__).parent / "data"
DEMO_PROJECT = DATA / "larkmoor-kite-day.rovix"
