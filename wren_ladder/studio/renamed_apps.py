"""Apps that had another name once: a database made under it is given the new one.

Django knows an app's tables and its applied migrations by the app's name, so both are renamed
before it looks. The order counts: ``lessons`` has to be free before ``day`` can take it.
"""

from django.db import transaction
from django.db.backends.base.base import BaseDatabaseWrapper

RENAMED = (("lessons", "plans"), ("practice", "climb"), ("day", "lessons"))
# A migration that only the old app of a name has: ``lessons`` means two things.
FIRST_OF_OLD = {"lessons": "0001_initial", "practice": "0001_initial", "day": "0001_lessons"}


def rename_apps(connection: BaseDatabaseWrapper) -> list[tuple[str, str]]:
    """Rename what still has an old name; which apps those were, (old, new)."""
    if "django_migrations" not in connection.introspection.table_names():
        return []
    renamed = []
    with transaction.atomic(using=connection.alias):
        for old, new in RENAMED:
            if _is_there(connection, old):
                _rename(connection, old, new)
                renamed.append((old, new))
    return renamed


def _is_there(connection: BaseDatabaseWrapper, old: str) -> bool:
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT 1 FROM django_migrations WHERE app = %s AND name = %s",
            [old, FIRST_OF_OLD[old]],
        )
        return cursor.fetchone() is not None


def _rename(connection: BaseDatabaseWrapper, old: str, new: str) -> None:
    tables = connection.introspection.table_names()
    with connection.cursor() as cursor:
        for table in tables:
            if table.startswith(f"{old}_"):
                new_name = f"{new}_{table.removeprefix(f'{old}_')}"
                cursor.execute(f'ALTER TABLE "{table}" RENAME TO "{new_name}"')
        cursor.execute("UPDATE django_migrations SET app = %s WHERE app = %s", [new, old])
        if "django_content_type" in tables:
            cursor.execute(
                "UPDATE django_content_type SET app_label = %s WHERE app_label = %s", [new, old]
            )
