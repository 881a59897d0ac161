"""What every page knows: whether this is the demo, and where it stands."""

from django.conf import settings

STUDENTS = ("students", "plans", "steps", "attempts", "minutes")
SECTIONS = {"": "desk", "pieces": "pieces", "teaching": "teaching", "rudiments": "workshop"}
SECTIONS |= {
    "lessons": "timetable",
    "workshop": "workshop",
    "in-and-out": "in-and-out",
    **dict.fromkeys(STUDENTS, "students"),
}


def navigation(request):
    """Whether this is the demo, and which part of the house the address lies in."""
    first = request.path.strip("/").partition("/")[0]
    return {"demo": settings.DEMO, "section": SECTIONS.get(first, "")}
