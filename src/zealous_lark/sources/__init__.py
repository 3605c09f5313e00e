"""Where weather is fetched from: one adapter for each kind of provider."""

from zealous_lark.sources.base import Asked, SourceFailedError, WeatherSource
from zealous_lark.sources.http import HttpForecasts, HttpStation

__all__ = ["Asked", "HttpForecasts", "HttpStation", "SourceFailedError", "WeatherSource"]
