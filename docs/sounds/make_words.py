"""Makes the spoken syllables of the count, once, with a free speech synthesiser.

Needs Debian's packages espeak-ng, sox and flac; what it writes ships with the app, so that
nobody else needs them. Every syllable begins at its onset and is as short as it can be.
"""

import subprocess
from pathlib import Path

from wren_ladder.drumming.counting.spoken import SAMPLES

FOLDER = Path(__file__).parents[2] / "wren_ladder/studio/static/wren/words"
# Where the letters alone would be read otherwise.
SPELT = {
    "e": "ee", "a": "uh", "ta": "tah", "ka": "kah", "di": "dee", "mi": "mee", "va": "vah",
    "ki": "kee", "da": "dah", "ma": "mah", "ba": "bah", "geon": "jun", "pi": "pidge",
    "swal": "swoll", "ti": "tea", "yel": "yell", "al": "al",
}  # fmt: skip
RATE = "16000"  # Hz; speech has little above the half of it


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    for name in sorted(set(SAMPLES.values())):
        plain = FOLDER / f"{name}.wav"
        speech = ["espeak-ng", "-v", "en-gb", "-s", "300", "-p", "45", "-w", str(plain)]
        subprocess.run([*speech, SPELT.get(name, name)], check=True)
        made = ["sox", str(plain), "-b", "16", "-r", RATE, str(FOLDER / f"{name}.flac")]
        trim = ["silence", "1", "0.001", "1%", "reverse", "silence", "1", "0.001", "3%"]
        subprocess.run([*made, *trim, "fade", "0.01", "reverse", "norm", "-3"], check=True)
        plain.unlink()


if __name__ == "__main__":
    main()
