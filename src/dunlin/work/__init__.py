"""Work that is neither the web's nor the core's: a project's film, captions and words brought together."""
