"""Zealous Lark: launch decisions for recreational camera-drone pilots."""

__version__ = "0.1.0"
