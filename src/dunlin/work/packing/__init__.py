"""Packing lists: what is on them, what it is made of, how it is made, and what of it is out of date."""
