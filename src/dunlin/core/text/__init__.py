"""Text as a reader meets it: measured, broken into lines, cut into captions."""
