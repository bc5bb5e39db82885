"""Text as a reader meets it: its words, measured and broken into lines."""
