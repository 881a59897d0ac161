"""Printed pages as pictures: a teacher's private copy, beside the typing of a piece."""
