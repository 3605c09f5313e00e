"""The trade's computation: frozen dataclasses and pure functions.

No input or output, no clock, no web, no database. SI inside; degrees clockwise
from true north; wind directions are where the wind comes *from*; heights are
above the take-off point unless a name says otherwise.
"""
