"""Dunlin: from a film with speech to delivered captions."""
