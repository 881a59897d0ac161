"""Given names that are words as well: of English, of the trade, of the house.

Where a name is one of these, a text that holds it need not mean the child. The English ones are
from memory, no source; the trade's are read from the tables of the core.
"""

from functools import cache

from wren_ladder.drumming.chart import Drum, Grace, Touch
from wren_ladder.drumming.notation.counts.words import ALIASES, LINES, MARKS, ROLL_WORDS
from wren_ladder.drumming.style import HOUSE

ENGLISH = """
ace amber angel april art ash august autumn basil bay bell ben bill bob brand brook buck bud
candy carol chance charity chase cherry chip christian clay cliff dale daisy dawn dean dee
dell destiny dot drew duke earl eve faith fern finn forest frank gale gay gene ginger glen
grace grant guy harmony harry hazel heath heather holly honey hope hunter iris ivy jack jade
jay jean jet jewel john josh joy june king kit lance lane lark laurel leaf lee lily lou luke
lux mark martin mason max may melody mercy miles mo myrtle nick norm olive page parker pat
patience patty peace pearl peg penny pepper pierce piper pip poppy prince queen rain ray red
reed rex rich river rob robin rock rocky rod rose rowan ruby rusty sage sally sandy saul sky
skip sonny star stella sterling stew stone storm sue summer sunny tad terry tom victor viola
violet wade walker ward wayne will willow win wren
"""
# What a chart, its signs and its hands are called beside the words of typed bars.
TRADE = """
bar beat bell clave coda cross dal drag drum fill fine flam foot groove hand kick kit l ladder
left loop pad pass pedal pulse r ride right rim roll ruff rung segno shell snare solo stick
stroke swing take tap tie tom trap trio wing
"""


@cache
def plain_words() -> frozenset[str]:
    typed = {*LINES, *ALIASES, *MARKS, *ROLL_WORDS, *Touch, *Grace}
    drums = {part for drum in Drum for part in drum.value.split("-")}
    birds = {part for _, word in HOUSE.words for part in word.split()}
    return {*ENGLISH.split(), *TRADE.split()} | {one.lower() for one in typed | drums | birds}


def is_plain(name: str) -> bool:
    """Is it one word that means something else too, or so short that it may?"""
    words = name.split()
    return len(words) == 1 and (len(name) < 3 or name.lower() in plain_words())
