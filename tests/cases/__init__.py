"""Tests of the practice cases."""
