"""Which drum an instrument's name means, in the words of five languages.

A name is known by whole words. Names of other instruments are known too, so that sleigh bells
are not a ride's bell. Common practice, no source.
"""

import re
from functools import lru_cache

from wren_ladder.drumming.chart import Drum

WORDS = re.compile(r"[^\W\d_]+|\d+")
# By drum, the names it goes by; where several are in one name the longest decides.
NAMES = {
    Drum.KICK: (
        "kick", "kicks", "kick drum", "kickdrum", "kick 1", "kick 2", "bass drum", "bassdrum",
        "bass drum 1", "bass drum 2", "acoustic bass drum", "bd", "bd 1", "bd 2", "b drum",
        "bass kick", "pedal bass drum", "concert bass drum", "große trommel", "grosse trommel",
        "gr trommel",
        "basstrommel", "fußtrommel", "fusstrommel", "grosse caisse", "gc", "grancassa",
        "gran cassa", "cassa", "bombo", "bombo de pie",
    ),
    Drum.SNARE: (
        "snare", "snares", "snare drum", "snaredrum", "snare 1", "snare 2", "acoustic snare",
        "electric snare", "snare center", "snare centre", "snare normal", "snare open",
        "side drum", "sd", "sn", "s drum", "kleine trommel", "kl trommel", "caisse claire",
        "cc", "rullante", "tamburo rullante", "caja", "tarola", "redoblante",
    ),
    Drum.CROSS_STICK: (
        "cross stick", "crossstick", "side stick", "sidestick", "snare side stick",
        "snare sidestick", "snare cross stick", "rim click", "rimclick", "rim knock", "xstick",
        "x stick", "stick on rim",
    ),
    Drum.RIM_SHOT: (
        "rim shot", "rimshot", "snare rim shot", "snare rimshot", "snare rim", "rim",
    ),
    Drum.HIHAT: (
        "hi hat", "hihat", "hi hats", "hihats", "high hat", "hat", "hats", "hh", "hhc",
        "closed hi hat", "closed hihat", "closed hat", "closed hats", "closed hi hats",
        "hi hat closed", "hihat closed",
        "hat closed", "hi hat tight", "hi hat edge", "hihat geschlossen", "hi hat geschlossen",
        "geschlossene hi hat", "charleston", "charley", "charles", "charleston fermé",
        "charleston ferme", "charley fermé", "charleston chiuso", "charles cerrado",
        "contratiempos", "hi hat cerrado",
    ),
    Drum.HIHAT_HALF: (
        "half open hi hat", "half open hihat", "half open hat", "half open hats",
        "half open hi hats", "half opened hi hat", "hats half open", "hi hats half open",
        "half closed hi hat", "half closed hat", "hi hat half", "hihat half", "sloshy hat",
        "hi hat half open",
        "hihat half open", "hi hat loose", "half hat", "hi hat halboffen", "charley mi ouvert",
        "hi hat semi abierto",
    ),
    Drum.HIHAT_OPEN: (
        "open hi hat", "open hihat", "open hat", "open hats", "open hi hats", "hats open",
        "hi hat open", "hihat open", "hat open", "hho",
        "ohh", "hihat offen", "hi hat offen", "offene hi hat", "charleston ouvert",
        "charley ouvert", "charleston aperto", "charles abierto", "hi hat abierto",
    ),
    Drum.HIHAT_FOOT: (
        "pedal hi hat", "pedal hihat", "hi hat pedal", "hihat pedal", "foot hi hat",
        "hi hat foot", "hi hat with foot", "hihat foot", "hat foot", "foot hat", "pedal hat",
        "hat pedal", "hat by foot", "hi hat by foot", "hi hat chick", "hhp", "hihat fuß",
        "hi hat fuß", "hihat getreten", "charleston pied", "charley au pied",
        "charleston pedale", "hi hat con pie", "charles con pedal",
    ),
    Drum.HIHAT_SPLASH: (
        "foot splash", "pedal splash", "hi hat splash", "hihat splash", "hat splash",
        "hi hat foot splash",
    ),
    Drum.RIDE: (
        "ride", "ride cymbal", "ridecymbal", "ride 1", "ride 2", "ride cymbal 1",
        "ride cymbal 2", "ride bow", "ride tip", "ride edge", "rd", "rc", "ridebecken",
        "ride becken", "cymbale ride", "piatto ride", "platillo ride",
    ),
    Drum.RIDE_BELL: (
        "ride bell", "bell of ride", "ride cup", "ride cymbal bell", "bell of the ride",
        "ride dome", "ride kuppe", "bell", "cloche ride", "campana ride", "campana del ride",
    ),
    Drum.RIDE_CRASH: ("crash ride", "ride crash", "crashed ride", "ride crashed"),
    Drum.CRASH: (
        "crash", "crash cymbal", "crashcymbal", "crash 1", "crash cymbal 1", "crash left",
        "left crash", "cr", "cymbal", "suspended cymbal", "crashbecken", "crash becken",
        "becken", "cymbale", "cymbale crash", "piatto", "piatto crash", "platillo",
        "platillo crash", "plato crash",
    ),
    Drum.CRASH_2: (
        "crash 2", "crash cymbal 2", "second crash", "crash right", "right crash",
        "crash cymbal right", "crash becken 2", "crash b",
    ),
    Drum.SPLASH: (
        "splash", "splash cymbal", "splashcymbal", "splashbecken", "cymbale splash",
        "piatto splash", "platillo splash",
    ),
    Drum.CHINA: (
        "china", "china cymbal", "chinacymbal", "chinese cymbal", "china crash", "chinabecken",
        "cymbale chinoise", "cymbale china", "piatto cinese", "platillo chino",
    ),
    Drum.TOM_HIGH: (
        "high tom", "hi tom", "upper tom", "tom upper", "upper rack tom", "upper tom tom",
        "high tom tom", "tom 1", "tomtom 1", "tom tom 1", "rack tom",
        "rack tom 1", "small tom", "tom high", "tom hi", "ht", "t 1", "hängetom 1",
        "hängetom", "tom hoch", "hohes tom", "tom aigu", "tom alto", "tom agudo",
        "tom acuto", "hi mid tom", "high mid tom", "mid high tom",
    ),
    Drum.TOM_MID: (
        "mid tom", "middle tom", "lower rack tom", "middle tom tom", "mid tom tom",
        "medium tom", "tom 2", "tomtom 2", "tom tom 2", "rack tom 2",
        "tom mid", "mt", "t 2", "low mid tom", "mid low tom",
        "hängetom 2", "tom mittel", "mittleres tom", "tom médium",
        "tom medium", "tom medio",
    ),
    Drum.TOM_FLOOR: (
        "floor tom", "floortom", "large tom", "large tom tom", "lower tom", "tom lower",
        "big tom", "low tom tom", "lower tom tom", "upper floor tom", "tom floor", "floor",
        "low tom", "tom low", "tom 3", "tomtom 3",
        "tom tom 3", "rack tom 3", "high floor tom", "floor tom 1", "floor tom high", "ft",
        "lt", "t 3", "standtom", "stand tom", "tom tief", "tiefes tom", "tom basse",
        "tom grave", "tom basso", "low floor tom", "floor tom low",
        "timpano da terra", "tom de piso", "tom base", "goliat",
    ),
    Drum.TOM_FLOOR_2: (
        "floor tom 2", "lower floor tom", "large floor tom", "second floor tom",
        "second floor", "tom 4", "tomtom 4",
        "tom tom 4", "t 4", "standtom 2", "tom basse 2",
    ),
    Drum.TAMBOURINE: (
        "tambourine", "tamb", "tamburin", "schellenkranz", "tambourin", "tamburello",
        "pandereta",
    ),
    Drum.COWBELL: (
        "cowbell", "cow bell", "cowbells", "kuhglocke", "cloche à vache", "campanaccio",
        "cencerro",
    ),
    Drum.WOODBLOCK: (
        "woodblock", "wood block", "wood blocks", "woodblocks", "high wood block",
        "hi wood block", "low wood block", "holzblock", "bloc de bois", "caja china",
    ),
    Drum.STICK_CLICK: (
        "sticks", "stick click", "stick clicks", "drum sticks", "drumsticks", "stick hit",
        "count in", "click",
    ),
}  # fmt: skip
# Instruments that are none of these, whatever else their names hold.
OTHERS = (
    "sleigh bells", "sleigh bell", "jingle bell", "jingle bells", "bell tree", "belltree",
    "tubular bells", "chimes", "wind chimes", "bar chimes", "mark tree", "agogo", "agogo bell",
    "agogô", "glockenspiel", "orchestra bells", "hand bell", "hand bells", "church bell",
    "finger cymbals", "finger cymbal", "crotales", "triangle", "tam tam", "tamtam", "gong",
    "bongo", "bongos", "conga", "congas", "timbale", "timbales", "timpani", "kettle drum",
    "pauken", "timbales d orchestre", "djembe", "cajon", "cajón", "tabla", "surdo", "cuica",
    "pandeiro", "shaker", "maracas", "cabasa", "guiro", "güiro", "claves", "castanets",
    "vibraslap", "whip", "slapstick", "ratchet", "flexatone", "whistle", "hand clap",
    "hand claps", "claps", "finger snap", "finger snaps", "temple block", "temple blocks",
    "tenor drum", "tenor drums", "quads", "marching bass drum",
    "concert snare", "field drum", "roto tom", "rototom", "roto toms", "octoban", "taiko",
    "metronome", "xylophone", "marimba", "vibraphone", "piano", "guitar", "bass guitar",
    "double bass", "contrabass", "synth bass", "bass clarinet",
    "voice", "choir", "violin", "trumpet", "snare band", "thunder sheet", "anvil", "log drum",
    "steel drum", "steel drums", "synth drum", "melodic tom", "reverse cymbal",
)  # fmt: skip
# Names that say nothing of which drum it is.
WHOLE_KITS = (
    "drumset", "drum set", "drum kit", "drumkit", "drums", "drum", "kit", "percussion", "perc",
    "unpitched", "unpitched percussion", "standard kit", "rock kit", "schlagzeug", "batterie",
    "batteria", "batería", "bateria", "percussione", "percusión", "instrument", "midi",
    "brush kit", "room kit", "jazz kit", "set", "acoustic kit", "instrument 1",
)  # fmt: skip


def _words(name: str) -> tuple[str, ...]:
    return tuple(WORDS.findall(name.lower().replace("ﬁ", "fi")))


BY_WORDS = {_words(drum.spoken): drum for drum in Drum}
BY_WORDS |= {_words(name): drum for drum, names in NAMES.items() for name in names}
OTHER_WORDS = {_words(name) for name in OTHERS}
KIT_WORDS = {_words(name) for name in WHOLE_KITS}
LONGEST = max(map(len, (*BY_WORDS, *OTHER_WORDS)))


@lru_cache(maxsize=512)
def by_name(name: str) -> Drum | None:
    """The drum of the longest known name in it; None where there is none, or another
    instrument's is as long or longer."""
    words = _words(name)
    for long in range(min(LONGEST, len(words)), 0, -1):
        parts = [words[at : at + long] for at in range(len(words) - long + 1)]
        if any(part in OTHER_WORDS for part in parts):
            return None
        found = next((BY_WORDS[part] for part in parts if part in BY_WORDS), None)
        if found:
            return found
    return None


def names_a_kit(name: str) -> bool:
    """Does a name leave open which drum it is?"""
    words = _words(name)
    return not words or words in KIT_WORDS or all(word.isdigit() for word in words)


def names_another(name: str) -> bool:
    """Is it the name of an instrument that is no drum here?"""
    words = _words(name)
    spans = ((at, at + long) for long in range(1, LONGEST + 1) for at in range(len(words)))
    return by_name(name) is None and any(words[at:end] in OTHER_WORDS for at, end in spans)
