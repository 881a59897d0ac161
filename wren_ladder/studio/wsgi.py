"""The application that is served."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "wren_ladder.studio.settings")
application = get_wsgi_application()
