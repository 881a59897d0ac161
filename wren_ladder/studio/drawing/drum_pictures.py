"""A picture for each drum, for keys that are touched by somebody who does not read them."""

from wren_ladder.drumming.chart import Drum

# Which of the pictures of templates/room/_drum_pictures.html.
OTHERS = "block"
PICTURES = {
    Drum.KICK: "kick",
    Drum.SNARE: "snare",
    Drum.CROSS_STICK: "snare",
    Drum.RIM_SHOT: "snare",
    Drum.TOM_HIGH: "tom",
    Drum.TOM_MID: "tom",
    Drum.TOM_FLOOR: "tom",
    Drum.TOM_FLOOR_2: "tom",
    Drum.HIHAT: "hat",
    Drum.HIHAT_HALF: "hat",
    Drum.HIHAT_OPEN: "hat",
    Drum.HIHAT_FOOT: "hat",
    Drum.HIHAT_SPLASH: "hat",
    Drum.RIDE: "cymbal",
    Drum.RIDE_BELL: "cymbal",
    Drum.RIDE_CRASH: "cymbal",
    Drum.CRASH: "cymbal",
    Drum.CRASH_2: "cymbal",
    Drum.CHINA: "cymbal",
    Drum.SPLASH: "cymbal",
}


def picture_of(drum: Drum) -> str:
    return PICTURES.get(drum, OTHERS)


def pictures_by_name() -> dict[str, str]:
    """By how a drum is said, as scores name it."""
    return {drum.spoken: picture_of(drum) for drum in Drum}
