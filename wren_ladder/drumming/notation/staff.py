"""Which drum a MIDI key or a place on the staff means, from the table of drums."""

from wren_ladder.drumming.chart import Drum

# A drum's own key, then the near neighbours that files and kits use for the same sound.
MIDI_DRUMS = {key: drum for drum in Drum for key in drum.row.more_keys}
MIDI_DRUMS |= {drum.row.key: drum for drum in Drum if drum.row.key is not None}
# Where others put a drum goes behind the places that are a drum's own.
PLACES = {place: drum for drum in reversed(Drum) for place in drum.row.more_places}
PLACES |= {(drum.row.line, drum.row.head): drum for drum in reversed(Drum)}
