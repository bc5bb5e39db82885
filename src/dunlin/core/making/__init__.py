"""Captions made of words: cut to a spec, made again without losing what was done by hand, or typed
as one page of text."""
