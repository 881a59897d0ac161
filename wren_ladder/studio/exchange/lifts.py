"""Studio files of earlier versions, lifted one version at a time to that of today.

What a version called something is frozen here; nothing is taken from the code of today.
"""

from collections.abc import Callable

Tables = dict[str, list[dict]]

SCHOOLS = {"bar school": "bar", "phrase school": "phrase", "layer school": "layer"}
GATES = {
    "clean bars in a row": "row",
    "clean tries out of tries": "tries",
    "in a row, on different days": "days",
}
LADDERS = {"own list": "own"}
STICKINGS = {
    "hand to hand": "hand-to-hand",
    "grid hand": "grid-hand",
    "accents lead": "accents-lead",
    "kit flow": "kit-flow",
}
REASONS = {
    "something new": "new",
    "ghost beside accent": "ghost-accent",
    "hat closes with the stick": "hat-closes",
    "feet between the hands": "feet",
    "quick kicks": "quick-kicks",
    "entry off the beat": "entry",
    "reach across the kit": "reach",
    "doubles in the sticking": "doubles",
    "speed of one hand": "speed",
    "metre or tempo changes": "meter",
    "join across a jump": "jump",
}
PARTS = {
    "first half": "first",
    "second half": "second",
    "hands alone": "hands",
    "plain rhythm": "rhythm",
    "cymbal pulse": "pulse",
    "+ feet": "feet",
    "+ backbeat, plain": "backbeat",
    "+ accents": "accents",
    "+ flams": "flams",
    "+ drags": "drags",
    "+ roll skeletons": "roll-skeletons",
    "everything": "whole",
}
DRILLS_FOR = "Drills for "


def from_1(tables: Tables) -> Tables:
    """Labels become codes, what was worked out goes, drills belong to their student."""
    lifted = {**tables}
    lifted["plansnapshot"] = lifted.pop("basis")
    lifted["homeminutes"] = lifted.pop("practice")
    lifted["teachingstyle"] = [_style(row) for row in tables["teachingstyle"]]
    lifted["plan"] = [_plan(row) for row in tables["plan"]]
    lifted["step"] = [{**row, "part": _code(PARTS, row["part"])} for row in tables["step"]]
    lifted["revision"] = [_revision(row) for row in tables["revision"]]
    lifted["piece"] = [
        {**row, "drills_of": _whose_drills(row, tables)} for row in tables["piece"]
    ]
    return lifted


def _code(codes: dict[str, str], label: object) -> object:
    return codes.get(label, label) if isinstance(label, str) else label


def _style(row: dict) -> dict:
    choices = {name: _code({**SCHOOLS, **STICKINGS}, v) for name, v in row["choices"].items()}
    weights = {REASONS.get(name, name): value for name, value in row["weights"].items()}
    return {**row, "choices": choices, "weights": weights}


def _plan(row: dict) -> dict:
    return {
        **row,
        "school": _code(SCHOOLS, row["school"]),
        "ladder": _code(LADDERS, row["ladder"]),
        "gate_kind": _code(GATES, row["gate"]),
    }


def _revision(row: dict) -> dict:
    lines = [[_code({"left out": "left-out"}, change), *rest] for change, *rest in row["lines"]]
    return {**row, "lines": lines}


def _whose_drills(piece: dict, tables: Tables) -> int | None:
    """The student whose name the piece bears, where it is climbed by nobody else."""
    title = piece["title"]
    if not isinstance(title, str) or not title.startswith(DRILLS_FOR):
        return None
    climbed = [plan["student"] for plan in tables["plan"] if plan["piece"] == piece["id"]]
    named = [
        student["id"]
        for student in tables["student"]
        if student["name"] == title.removeprefix(DRILLS_FOR)
    ]
    return named[0] if len(named) == 1 and climbed == named else None


def from_2(tables: Tables) -> Tables:
    """Pieces keep their bars as they were typed."""
    return {**tables, "piece": [{**row, "typed": ""} for row in tables["piece"]]}


def from_7(tables: Tables) -> Tables:
    """Students have a contact of their family. Exams are things of their own: whoever has a day
    for one has one, of the pieces that are for it."""
    exams = [
        {
            "id": row["id"],
            "student": row["id"],
            "day": row["exam_date"],
            "grade": max(1, row["grade"]),
            "entry_by": None,
            "result": "",
            "mark": "",
            "words": "",
        }
        for row in tables["student"]
        if row["exam_date"]
    ]
    with_exam = {exam["id"] for exam in exams}
    titles = {piece["id"]: piece["title"] for piece in tables["piece"]}
    played = [
        {
            "id": plan["id"],
            "exam": plan["student"],
            "place": place,
            "plan": plan["id"],
            "name": str(titles.get(plan["piece"], ""))[:120],
            "tempo": plan["target"],
        }
        for place, plan in enumerate(tables["plan"])
        if plan["student"] in with_exam and plan["for_exam"] and plan["status"] == "climbing"
    ]
    students = [{**row, "contact": ""} for row in tables["student"]]
    return {**tables, "student": students, "exam": exams, "examitem": played, "mockrun": []}


def from_3(tables: Tables) -> Tables:
    """Students keep their teacher's words for the report."""
    return {**tables, "student": [{**row, "report_words": ""} for row in tables["student"]]}


MINUTES = {"lesson_minutes": 30, "home_days": 5, "home_minutes": 15}
A_PIECE = {"trial": False, "kind": "piece", "made_of": {}}
HERE = {"status": "here", "home_earns": True, "trial": False}
CLIMBED = {"status": "climbing", "since": None, "due": None}
EVENT = {
    "time": None,
    "minutes": None,
    "state": "given",
    "by": "",
    "late": 0,
    "instead_of": None,
    "company": None,
    "practised": "",
    "message": "",
    "for_parents": "",
    "week": [],
}


def from_4(tables: Tables) -> Tables:
    """Minutes belong to the student, as many as the most generous plan had; what was logged at
    home has earned rungs. Lessons become events; pieces and students can be out of the way."""
    return {
        **tables,
        "student": [_with_minutes(row, tables["plan"]) for row in tables["student"]],
        "plan": [{**row, **CLIMBED} for row in tables["plan"]],
        "piece": [{**row, **A_PIECE} for row in tables["piece"]],
        "lesson": [{**row, **EVENT} for row in tables["lesson"]],
        "period": [],
    }


def from_5(tables: Tables) -> Tables:
    """Takes came."""
    return {**tables, "take": []}


A_TAKE = {"where": "lesson", "empty_bars": 0, "latency": 0, "asked": ""}


def from_6(tables: Tables) -> Tables:
    """Tries know the take that they were logged from; students may record at home."""
    return {
        **tables,
        "student": [{**row, "records_at_home": False} for row in tables["student"]],
        "attempt": [{**row, "take": None} for row in tables["attempt"]],
        "take": [{**row, **A_TAKE} for row in tables["take"]],
        "takerule": [],
    }


def from_8(tables: Tables) -> Tables:
    """Nothing was said about bars."""
    return {**tables, "saying": []}


def _with_minutes(student: dict, plans: list[dict]) -> dict:
    mine = [plan for plan in plans if plan["student"] == student["id"]]
    minutes = {
        name: max([plan[name] for plan in mine], default=usual)
        for name, usual in MINUTES.items()
    }
    raised = max([plan["raised"] for plan in mine if plan["raised"]], default=None)
    return {**student, **minutes, "raised": raised, **HERE}


LIFTS: dict[int, Callable[[Tables], Tables]] = {
    1: from_1,
    2: from_2,
    3: from_3,
    4: from_4,
    5: from_5,
    6: from_6,
    7: from_7,
    8: from_8,
}
