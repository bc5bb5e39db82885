"""What was translated before: pairs of words of two languages, how alike they are, and the files they travel in."""
