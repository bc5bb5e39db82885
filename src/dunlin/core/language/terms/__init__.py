"""Lists of terms: what each is called in other languages, and what it must not be called."""
