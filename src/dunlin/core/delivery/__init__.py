"""Everything that leaves the house: what it is, what it is called, and how films are written."""
