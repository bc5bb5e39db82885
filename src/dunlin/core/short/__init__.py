"""Short form: captions of a few words at a time, each told as it is spoken, in a look of their own."""
