"""Translations over the wire."""
