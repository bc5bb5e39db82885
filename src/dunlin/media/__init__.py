"""The outside of a film: what it holds, its sound, a playable copy, and captions burned in."""
