"""The whole studio of one teacher as one JSON file, and back.

Rows are written by model with the numbers they have here; reading gives them new numbers and
follows every reference. What is worked out from the log is not written: it is worked out anew.
Private links are not written either, for the other installation signs with another key.
"""

from collections.abc import Callable, Iterator

from django.contrib.auth.models import AbstractBaseUser
from django.core.exceptions import ValidationError
from django.db import IntegrityError, models, transaction

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.chart.serial import bar_from_json
from wren_ladder.drumming.chart.size import check_size
from wren_ladder.drumming.plain_text import plain_json
from wren_ladder.studio.climb.models import Attempt, HomeMinutes, Take
from wren_ladder.studio.climb.standings import refresh_all
from wren_ladder.studio.exams.models import Exam, ExamItem, MockRun
from wren_ladder.studio.exchange.lifts import LIFTS
from wren_ladder.studio.exchange.printed_pages import PRINTED, printed_lines, take_printed
from wren_ladder.studio.exchange.rows import row_lines
from wren_ladder.studio.exchange.sounds import (
    RECORDINGS,
    VOICES,
    recording_lines,
    take_in,
    take_recording,
    take_voice,
    voice_lines,
)
from wren_ladder.studio.lessons.models import Lesson, Period
from wren_ladder.studio.pieces.models import BarRow, Piece
from wren_ladder.studio.plans.models import (
    OwnRank,
    Plan,
    PlanSnapshot,
    Revision,
    Saying,
    Step,
    StudentBar,
)
from wren_ladder.studio.scans.models import Scan
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.kept import (
    read_choices,
    read_syllabus,
    read_weights,
    read_words,
)
from wren_ladder.studio.teaching.models import TakeRule, TeachingStyle

KIND, VERSION = "wren-ladder studio", 9
# In the order of their references, each with the way to its owner.
TABLES: tuple[tuple[type[models.Model], str], ...] = (
    (TeachingStyle, "owner"),
    (TakeRule, "owner"),
    (Student, "owner"),
    (Piece, "owner"),
    (BarRow, "piece__owner"),
    (Plan, "owner"),
    (PlanSnapshot, "plan__owner"),
    (Revision, "plan__owner"),
    (Step, "plan__owner"),
    (OwnRank, "bar__piece__owner"),
    (Saying, "first__piece__owner"),
    (StudentBar, "student__owner"),
    (Take, "step__plan__owner"),
    (Attempt, "step__plan__owner"),
    (HomeMinutes, "student__owner"),
    (Lesson, "student__owner"),
    (Period, "owner"),
    (Exam, "student__owner"),
    (ExamItem, "exam__student__owner"),
    (MockRun, "item__exam__student__owner"),
)
# Worked out anew, or of no use elsewhere.
LEFT_OUT = {
    Student: {"link_key", "version", "second_teacher"},
    Piece: {"version", "saved_by", "shared"},
    Plan: {"version"},
    Take: {"told", "key"},
    Saying: {"sound_type"},
    Attempt: {"key"},
    HomeMinutes: {"key"},
}
WITH_MUSIC = (BarRow, StudentBar)
EMPTIED = (
    (Piece, "owner"),
    (Student, "owner"),
    (TeachingStyle, "owner"),
    (TakeRule, "owner"),
    (Period, "owner"),
)
# What a teacher counts, in their words.
TOLD = {
    Student: "students",
    Piece: "pieces and exercises",
    Plan: "plans",
    Step: "steps",
    Attempt: "tries",
    Take: "takes",
    HomeMinutes: "entries of minutes",
    Lesson: "lessons",
    Exam: "exams",
}
# What a form reads by a reader of its own, a file does too.
READERS: dict[type[models.Model], dict[str, Callable]] = {
    TeachingStyle: {
        "choices": read_choices,
        "words": lambda pairs: [list(pair) for pair in read_words(pairs)],
        "weights": read_weights,
        "syllabus": read_syllabus,
    },
}
ASKED = (RECORDINGS, VOICES, PRINTED)  # what a file has only where it was asked for
CHUNK = 1000
# How readers fail that were given something of another shape.
WRONG = (ChartError, KeyError, TypeError, AttributeError, IndexError, ArithmeticError)


class StudioFileError(Exception):
    """What is wrong with a studio file, and where."""


def name_of(model: type[models.Model]) -> str:
    return model._meta.model_name


def fields_of(model: type[models.Model]) -> list[models.Field]:
    """What is written of a row: all but its number, its owner and what is left out."""
    out = {"id", "owner", *LEFT_OUT.get(model, ())}
    return [field for field in model._meta.concrete_fields if field.name not in out]


def studio_lines(
    teacher: AbstractBaseUser, sounds: bool = False, printed: bool = False
) -> Iterator[str]:
    """The file in pieces, a line for each row; sounds and printed pages are large, so only if
    asked for. What was only said aloud is nothing without."""
    yield f'{{"kind": "{KIND}", "version": {VERSION}, "tables": {{'
    for place, (model, way) in enumerate(TABLES):
        yield f'{"," if place else ""}\n"{name_of(model)}": ['
        names = {"id": "id", **{one.name: one.attname for one in fields_of(model)}}
        rows = model.objects.filter(**{way: teacher}).order_by("pk")
        if model is Saying and not sounds:
            rows = rows.exclude(text="")
        values = rows.values_list(*names.values()).iterator(CHUNK)
        yield from row_lines(dict(zip(names, row, strict=True)) for row in values)
        yield "]"
    yield "}"
    asked = (
        (sounds, RECORDINGS, recording_lines),
        (sounds, VOICES, voice_lines),
        (printed, PRINTED, printed_lines),
    )
    for is_asked, name, lines in asked:
        if is_asked:
            yield f', "{name}": ['
            yield from lines(teacher)
            yield "]"
    yield "}\n"


def read_studio_file(data: bytes) -> dict[str, list[dict]]:
    """The tables of a file, checked as far as that needs no database."""
    try:
        whole = plain_json(data)
    except ValueError as error:
        raise StudioFileError(f"this is no JSON: {error}") from error
    if not isinstance(whole, dict) or whole.get("kind") != KIND:
        raise StudioFileError("this is no studio file of Wren Ladder")
    version, tables = whole.get("version"), whole.get("tables")
    if version not in (*LIFTS, VERSION):
        known = ", ".join(map(str, [*LIFTS, VERSION]))
        raise StudioFileError(f"version {version} is not known here; these are: {known}")
    if not isinstance(tables, dict):
        raise StudioFileError("the tables are missing")
    while version != VERSION:
        try:
            tables = LIFTS[version](tables)
        except (KeyError, TypeError, AttributeError, ValueError) as error:
            raise StudioFileError(f"version {version} can't be read: {error}") from error
        version += 1
    for model, _ in TABLES:
        rows = tables.get(name_of(model))
        if not isinstance(rows, list) or not all(isinstance(row, dict) for row in rows):
            raise StudioFileError(f"the table '{name_of(model)}' is missing or no list")
    return {**tables, **{name: whole.get(name, []) for name in ASKED}}


def is_empty(teacher: AbstractBaseUser) -> bool:
    return not any(model.objects.filter(**{way: teacher}).exists() for model, way in EMPTIED)


@transaction.atomic
def restore(tables: dict[str, list[dict]], teacher: AbstractBaseUser) -> dict[str, int]:
    """Put a file's studio in place of the teacher's own; how many rows of each table there
    are. StudioFileError where a row is wrong, and then nothing is changed."""
    for model, way in EMPTIED:
        model.objects.filter(**{way: teacher}).delete()
    numbers: dict[type[models.Model], dict] = {}
    for model, _ in TABLES:
        numbers[model] = {}
        rows = tables[name_of(model)]
        made = list(_made(model, rows, numbers, teacher))
        try:
            model.objects.bulk_create(made, batch_size=CHUNK)
        except IntegrityError as error:
            raise StudioFileError(
                f"{name_of(model)}: two rows are the same: {error}"
            ) from error
        _keep_times(model, rows, made)
        numbers[model] = {row["id"]: one for row, one in zip(rows, made, strict=True)}
    try:
        take_in(tables[RECORDINGS], "recording", numbers[Piece], take_recording)
        take_in(tables[VOICES], "voice", numbers[Saying], take_voice)
        if tables[PRINTED]:  # those here stay where the file has none
            Scan.objects.filter(owner=teacher).delete()
        take_in(
            tables[PRINTED],
            "printed piece",
            numbers[Piece],
            lambda row, pieces: take_printed(row, pieces, teacher),
        )
    except ValueError as error:
        raise StudioFileError(str(error)) from error
    # Files of before had what was only said aloud without its sound.
    Saying.objects.filter(first__piece__owner=teacher, text="", sound_type="").delete()
    try:
        refresh_all(Plan.objects.filter(owner=teacher))
    except (ChartError, ValueError) as error:
        raise StudioFileError(f"a plan can't be worked out: {error}") from error
    return {name_of(model): len(found) for model, found in numbers.items()}


def _keep_times(model, rows: list[dict], made: list[models.Model]) -> None:
    """When a row was changed last is what the file says, not now."""
    stamps = [one for one in fields_of(model) if getattr(one, "auto_now", False)]
    for field in stamps:
        for row, one in zip(rows, made, strict=True):
            setattr(one, field.attname, field.to_python(row[field.name]))
        model.objects.bulk_update(made, [field.name], batch_size=CHUNK)


def looked_over(
    tables: dict[str, list[dict]], teacher: AbstractBaseUser
) -> list[tuple[str, int, int]]:
    """What restoring would make of the studio, tried and taken back: (what, how many there are
    now, how many there would be). StudioFileError as ``restore`` has it."""
    now = {
        name_of(model): model.objects.filter(**{way: teacher}).count() for model, way in TABLES
    }
    with transaction.atomic():
        found = restore({**tables, **{name: [] for name in ASKED}}, teacher)
        transaction.set_rollback(True)
    return [(said, now[name_of(model)], found[name_of(model)]) for model, said in TOLD.items()]


def _made(model, rows: list[dict], numbers: dict, teacher) -> Iterator[models.Model]:
    for place, row in enumerate(rows, 1):
        try:
            yield _one(model, row, numbers, teacher)
        except (*WRONG, ValueError) as error:
            where = f"{name_of(model)}, row {place}"
            raise StudioFileError(f"{where}: {_words(error)}") from error
        except ValidationError as error:
            where = f"{name_of(model)}, row {place}"
            raise StudioFileError(f"{where}: {_first(error)}") from error


def _one(model, row: dict, numbers: dict, teacher) -> models.Model:
    values = {}
    if not isinstance(row["id"], int):
        raise ValueError("its id is no number")
    for one in fields_of(model):
        value = row[one.name]
        if value is None and not one.null:
            raise ValueError(f"{one.name}: nothing stands here")
        if one.is_relation:
            found = numbers[one.related_model]
            values[one.name] = None if value is None else found[value]
        else:
            values[one.name] = one.to_python(value)
            if isinstance(one, models.JSONField) and one.has_default():
                _check_kind(one.name, value, type(one.get_default()))
    if any(one.name == "owner" for one in model._meta.concrete_fields):
        values["owner"] = teacher
    if model is Lesson:
        values["was_set"] = [_set_again(one, numbers[Step]) for one in values["was_set"]]
    if model is PlanSnapshot:
        values["bars"] = [_bar_again(*one, numbers[BarRow]) for one in values["bars"]]
    for name, read in READERS.get(model, {}).items():
        values[name] = _read_by(read, name, values[name])
    if model in WITH_MUSIC:
        check_size([bar_from_json(values["data"])])
    made = model(**values)
    unchecked = [one.name for one in model._meta.concrete_fields if _is_its_own(one)]
    made.clean_fields(exclude=[*unchecked, "id", *LEFT_OUT.get(model, ())])
    return made


def _read_by(read: Callable, name: str, value: object) -> object:
    try:
        return read(value)
    except ValueError as error:
        raise ValueError(f"{name}: {error}") from error


def _is_its_own(one: models.Field) -> bool:
    """References are followed and lists checked here; an empty list is as good as any."""
    return one.is_relation or isinstance(one, models.JSONField)


def _check_kind(name: str, value, kind: type) -> None:
    if not isinstance(value, kind):
        raise ValueError(f"{name}: a {kind.__name__} is wanted, not {value!r:.40}")


def _set_again(chosen: dict, steps: dict) -> dict:
    """A step that was set has a new number now; one that is gone has none."""
    step = steps.get(chosen["step"])
    return {**chosen, "step": step.pk if step else 0}


def _bar_again(row: int, data: dict, bars: dict) -> list:
    """A bar that a plan remembers has a new number now; one that is gone has none."""
    found = bars.get(row)
    return [found.pk if found else 0, data]


def _words(error: Exception) -> str:
    if isinstance(error, KeyError):
        return f"{error.args[0]!r} is missing, or refers to nothing"
    return str(error)


def _first(error: ValidationError) -> str:
    if hasattr(error, "message_dict"):
        name, said = next(iter(error.message_dict.items()))
        return f"{name}: {said[0]}"
    return error.messages[0]
