"""The rules of the job, with no interface in sight.

Everything here is a plain function on frozen values. Time is exact: fractions of a
crotchet, counted from the bar line. Nothing in this package knows Django, HTML, SVG or
today's date.
"""
