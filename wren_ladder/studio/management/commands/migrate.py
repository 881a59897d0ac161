"""Django's ``migrate``, after the tables of renamed apps have been given their new names."""

from django.core.management.commands import migrate
from django.db import connections

from wren_ladder.studio.renamed_apps import rename_apps


class Command(migrate.Command):
    def handle(self, *args, **options):
        rename_apps(connections[options["database"]])
        super().handle(*args, **options)
