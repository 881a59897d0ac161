"""PostgreSQL with one writer at a time, as SQLite has it.

Every door of the studio reads, decides and writes in one transaction, and relies on nobody
else writing meanwhile. Where there are no locks on rows, one lock for all transactions says the
same; who only reads waits for nobody.
"""

from django.db.backends.postgresql import base

WRITING = 7_302_911  # the number of the lock, of no meaning


class DatabaseWrapper(base.DatabaseWrapper):
    def set_autocommit(self, autocommit: bool, *args, **named) -> None:
        super().set_autocommit(autocommit, *args, **named)
        if not autocommit:  # a transaction begins; the lock goes with its end
            with self.cursor() as cursor:
                cursor.execute("SELECT pg_advisory_xact_lock(%s)", [WRITING])
