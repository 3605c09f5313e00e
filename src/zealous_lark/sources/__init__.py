"""Where weather is fetched from: one adapter for each kind of provider."""

from zealous_lark.sources.base import Asked, SourceFailedError, WeatherSource
from zealous_lark.sources.edr import Collection, EdrSource, collections_of

__all__ = ["Asked", "Collection", "EdrSource", "SourceFailedError", "WeatherSource", "collections_of"]
