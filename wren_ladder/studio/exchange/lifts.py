"""Studio files of earlier versions, lifted one version at a time to that of today.

What a version called something is frozen here; nothing is taken from the code of today.
"""

from collections.abc import Callable

Tables = dict[str, list[dict]]


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


def from_8(tables: Tables) -> Tables:
    """Nothing was said about bars."""
    return {**tables, "saying": []}


LIFTS: dict[int, Callable[[Tables], Tables]] = {7: from_7, 8: from_8}
