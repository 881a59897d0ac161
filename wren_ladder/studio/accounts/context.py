"""What every page knows of the house."""

from django.conf import settings


def house(request):
    """The place the studio is run for; the demo says that it is one."""
    return {"demo": settings.DEMO}
