"""Versions of a track: what of the film's picture is kept, in which colours, and what differs there by caption."""
