"""Drafts of translations: what is asked for, and what memory, terms and time give without a model."""
