"""Text as people write it: without what no page, file or database can hold.

Control characters, halves of surrogate pairs and the code points that Unicode keeps for no
character (U+FFFE and its like) come from damaged files and from attacks; XML 1.0 (section 2.2)
allows none of them in a document.
"""

import json
import re

PLANES = range(0, 0x110000, 0x10000)
NONE = "".join(f"{chr(plane + 0xFFFE)}{chr(plane + 0xFFFF)}" for plane in PLANES)
UNWRITABLE = re.compile(
    f"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff\ufdd0-\ufdef{NONE}]"
)


def plain(text: str) -> str:
    """Tabs and line ends stay."""
    return UNWRITABLE.sub("", text)


def is_plain(text: str) -> bool:
    return UNWRITABLE.search(text) is None


def plain_json(text: str | bytes) -> object:
    """What a text of JSON holds, its strings plain. ValueError where it is none, or where it is
    nested deeper than anything that is written here."""
    try:
        return _plain(json.loads(text))
    except RecursionError as error:
        raise ValueError("it is nested too deeply") from error


def _plain(value: object) -> object:
    if isinstance(value, str):
        return plain(value)
    if isinstance(value, list):
        return [_plain(one) for one in value]
    if isinstance(value, dict):
        return {plain(name): _plain(one) for name, one in value.items()}
    return value
