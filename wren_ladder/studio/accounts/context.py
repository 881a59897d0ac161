"""What every page knows of the house."""

from django.conf import settings

SECTIONS = {"": "desk", "pieces": "pieces", "students": "students"}
SECTIONS |= {"steps": "students", "lessons": "students", "in-and-out": "in-and-out"}
SECTIONS |= {"plans": "students", "teaching": "teaching", "rudiments": "rudiments"}


def house(request):
    """Whether this is the demo, and which part of the house the address lies in."""
    first = request.path.strip("/").partition("/")[0]
    return {"demo": settings.DEMO, "section": SECTIONS.get(first, "")}
