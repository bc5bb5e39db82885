"""When captions are shown: moving them, and finding out from the sound where they belong."""
