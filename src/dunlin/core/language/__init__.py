"""What a text says, told from its words alone."""
