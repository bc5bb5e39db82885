"""Spelling over the wire."""
