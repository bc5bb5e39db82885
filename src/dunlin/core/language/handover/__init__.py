"""A translation handed over to somebody who works on it elsewhere, and taken back: XLIFF 2.0, and documents of two columns."""
