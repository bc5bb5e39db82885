"""The words of a film in brief: the sentences that say most, and their phrases."""
