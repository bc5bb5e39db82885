"""Which captions of a translation say what which captions of its source say, and how they stay so."""
