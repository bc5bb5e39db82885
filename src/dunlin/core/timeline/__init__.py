"""Timelines of editing programs: the film, captions in lanes, and markers, on frames."""
