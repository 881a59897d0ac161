"""What was read on the pages, as it is offered: the key of the staff, bars as typed lines."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from wren_ladder.drumming.chart import ChartError, Drum, Meter
from wren_ladder.drumming.page_reading.bars.read_bar import ReadBar
from wren_ladder.drumming.page_reading.copied import (
    CopiedBar,
    State,
    is_to_type,
    with_metre,
)
from wren_ladder.drumming.page_reading.found import SPACE
from wren_ladder.drumming.page_reading.key import HeadPlace, guessed_key, head_places
from wren_ladder.drumming.page_reading.proposed import Proposal, proposal, usual_meter
from wren_ladder.studio.scans.models import Scan

BEGINNING = Meter(4, 4)
AROUND = (3 * SPACE, 3 * SPACE)  # pixels shown beside a head, and beyond its staff


@dataclass(frozen=True, slots=True)
class Asked:
    """One head on its row, for the page that asks which drum it is; ``example`` is (place of a
    bar, pixels from its music's left, pixels from the staff's top line)."""

    place: HeadPlace
    drum: str
    example: tuple[int, float, int]


def heads_asked(scan: Scan) -> list[Asked]:
    """All heads on all rows with the drum that was chosen, or else the house's guess."""
    reads = scan.reads()
    places = _places(scan, reads)
    key = _key(scan, places)
    return [Asked(one, key.get(one.code, ""), _example(one, reads)) for one in places]


def _places(scan: Scan, reads: Sequence[ReadBar | None]) -> list[HeadPlace]:
    often = Counter(row["kind"] for row in scan.bars)
    return head_places((read, often[place]) for place, read in enumerate(reads) if read)


def _key(scan: Scan, places: Sequence[HeadPlace]) -> dict[str, str]:
    """What was chosen for this piece, else as in the teacher's last one, else a guess."""
    known = scan.key
    if not known:
        last = Scan.objects.filter(owner=scan.owner_id).exclude(pk=scan.pk).exclude(key={})
        known = last.order_by("-changed").values_list("key", flat=True).first() or {}
    return guessed_key(places, known)


def _example(one: HeadPlace, reads: Sequence[ReadBar | None]) -> tuple[int, float, int]:
    for place, read in enumerate(reads):
        for stroke in read.strokes if read else ():
            if (stroke.row, stroke.head) == (one.row, one.head):
                return place, stroke.x, 4 * SPACE - one.row * SPACE // 2
    raise LookupError(one.code)


def read_key(posted: Sequence[str], rows: Sequence[Asked]) -> dict[str, str]:
    """The key as a form sends it, a drum for each row; ChartError where that is none."""
    if len(posted) != len(rows) or not set(posted) <= {"", *Drum}:
        raise ChartError("choose a drum for each head, or leave it out")
    return {row.place.code: drum for row, drum in zip(rows, posted, strict=True)}


def proposals(scan: Scan) -> list[Proposal | None]:
    """What was read in each bar, as typed lines with the signs at its ends; None where nothing
    was, or where it says nothing of its own."""
    reads = scan.reads()
    key = _key(scan, _places(scan, reads))
    usual = usual_meter(read for read in reads if read) or BEGINNING
    meter, found = BEGINNING, []
    for place, (row, read) in enumerate(zip(scan.bars, reads, strict=True)):
        offer = read and proposal(read, key, usual, meter, place == 0)
        if said := _said(row):
            offer = Proposal(f"{said}{_new_metre(row, meter)}")
        offer = offer and _with_signs(offer, row["signs"])
        if offer and not row["text"]:
            offer = replace(offer, meter=_metre_after(offer.text, meter))
        found.append(offer)
        meter = _metre_after(row["text"] or (offer.text if offer else ""), meter)
    return found


def in_its_metre(offer: Proposal, copied: Sequence[CopiedBar], place: int) -> Proposal:
    """The same bar with its metre said, where bars before it that nobody has called right yet
    would have said it."""
    holds = BEGINNING
    for bar in copied[:place]:
        holds = _metre_after(bar.text, holds)
    if offer.meter in (None, holds):
        return offer
    texts = (offer.text, offer.second)
    text, second = (one and with_metre(one, offer.meter) for one in texts)
    return replace(offer, text=text, second=second)


def _said(row: dict) -> str:
    """What a sign in a bar says; scans of before kept only how long it rests."""
    rests = row.get("rests")
    return row.get("said") or (f"{rests} bars rest" if rests else "")


def _new_metre(row: dict, meter: Meter) -> str:
    """The line of a time signature that was read before a bar without notes."""
    said = row.get("meter", "")
    return f"\nmeter {said}" if said not in ("", str(meter)) else ""


def _with_signs(offer: Proposal, signs: Sequence[str]) -> Proposal:
    texts = (offer.text, offer.second)
    text, second = ("\n".join([one, *signs]) + "\n" if one else "" for one in texts)
    return replace(offer, text=text, second=second)


def _metre_after(text: str, meter: Meter) -> Meter:
    for line in text.splitlines():
        word, _, said = line.strip().partition(" ")
        if word.lower() == "meter":
            try:
                return Meter.parse(said)
            except ChartError:
                continue
    return meter


def read_of(scan: Scan) -> dict[int, Proposal]:
    """What was read in bars that nobody has typed, called right or put off, by their place."""
    copied = scan.copied()
    return {
        place: offer
        for place, offer in enumerate(proposals(scan))
        if offer and _is_untouched(copied, place)
    }


def surely(read: Mapping[int, Proposal]) -> dict[int, str]:
    """Of what was read, the typed lines of which there is no doubt."""
    return {place: offer.text for place, offer in read.items() if not offer.doubts}


def _is_untouched(copied: Sequence[CopiedBar], place: int) -> bool:
    bar = copied[place]
    return bar.state is State.OPEN and not bar.text.strip() and is_to_type(copied, place)


def with_proposals(copied: Sequence[CopiedBar], read: Mapping[int, str]) -> list[CopiedBar]:
    """The piece as far as it is copied, with what was ``read`` where nobody has typed."""
    return [
        replace(bar, text=read[place]) if place in read else bar
        for place, bar in enumerate(copied)
    ]


def is_known(copied: Sequence[CopiedBar], read: Mapping[int, str], place: int) -> bool:
    """Is it typed and right, read surely, or like one that is?"""
    return not is_to_type(copied, place) or copied[place].kind in read or place in read
