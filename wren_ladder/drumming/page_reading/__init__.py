"""From a picture of a printed page to its lines and bars.

A picture goes in, plain values with places come out; nothing is decided in silence, and a
person looks at every bar. Classical picture processing all through: no weights, nothing learnt.
"""
