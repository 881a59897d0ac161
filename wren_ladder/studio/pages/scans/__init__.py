"""Printed pages: taken in, copied bar by bar, corrected by hand, kept as a piece."""
