"""Translations handed over and taken back, over the wire."""
