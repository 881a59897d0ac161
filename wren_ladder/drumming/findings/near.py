"""What lies near, and what is quick: by the clock at the tempo it is played at, whatever the
notes are called. A crotchet of a samba is shorter than a quaver of a ballad.

Common practice, from memory; a hand's and a foot's limits are the teacher's.
"""

from quicktions import Fraction

from wren_ladder.drumming.chart import Tempo
from wren_ladder.drumming.performance.clock import per_second
from wren_ladder.drumming.style import Style

BESIDE = 4.0  # a second: a quarter of a second apart, one stroke is still in the other's way
QUICK_FOOT = 0.9  # of a foot's limit
REACHING = 0.6  # of a hand's limit; a hand that goes far has less time to spare


def is_beside(gap: Fraction, tempo: Tempo) -> bool:
    """Do strokes of one hand, ``gap`` crotchets apart, get in each other's way?"""
    return gap > 0 and per_second(gap, tempo) >= BESIDE


def is_quick_foot(gap: Fraction, tempo: Tempo, style: Style) -> bool:
    return per_second(gap, tempo) >= QUICK_FOOT * style.foot_limit


def is_quick_reach(gap: Fraction, tempo: Tempo, style: Style) -> bool:
    return gap > 0 and per_second(gap, tempo) >= REACHING * style.hand_limit
