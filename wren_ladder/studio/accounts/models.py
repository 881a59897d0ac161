"""Forms that were done, so that one that arrives twice is not done again."""

from django.db import models


class SentForm(models.Model):
    """A form that made something, and the page it led to; known by the key that
    its page gave it together with its content."""

    key = models.UUIDField(unique=True)
    led_to = models.CharField(max_length=300)
    at = models.DateTimeField(auto_now_add=True, db_index=True)

    CODES = ("led_to",)

    def __str__(self) -> str:
        return f"form that led to {self.led_to}"
