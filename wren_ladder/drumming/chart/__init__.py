"""What is on the page: frozen values that cannot be wrong once they are made."""

from wren_ladder.drumming.chart.bar import Bar
from wren_ladder.drumming.chart.chart import DEFAULT_TEMPO, Chart
from wren_ladder.drumming.chart.drum import Drum, Family, Surface
from wren_ladder.drumming.chart.hit import STRENGTHS, Grace, Hand, Hit, Roll, RollKind, Touch
from wren_ladder.drumming.chart.marks import DYNAMICS, GRADUAL, HAIRPINS, SPANS, Mark, MarkKind
from wren_ladder.drumming.chart.meter import Meter
from wren_ladder.drumming.chart.problems import ChartError, Place, Problem
from wren_ladder.drumming.chart.signs import Jump, JumpTo, Until
from wren_ladder.drumming.chart.tempo import Tempo
from wren_ladder.drumming.chart.times import Times

__all__ = [
    "DEFAULT_TEMPO",
    "DYNAMICS",
    "GRADUAL",
    "HAIRPINS",
    "SPANS",
    "STRENGTHS",
    "Bar",
    "Chart",
    "ChartError",
    "Drum",
    "Family",
    "Grace",
    "Hand",
    "Hit",
    "Jump",
    "JumpTo",
    "Mark",
    "MarkKind",
    "Meter",
    "Place",
    "Problem",
    "Roll",
    "RollKind",
    "Surface",
    "Tempo",
    "Times",
    "Touch",
    "Until",
]
