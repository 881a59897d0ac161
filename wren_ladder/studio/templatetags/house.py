"""Small helpers that Django's templates lack."""

from django import template

register = template.Library()


@register.filter
def at(items, index):
    """The item at an index."""
    return items[index]


@register.filter
def css(field, classes):
    """A form field's widget with CSS classes, marked where its value is wrong."""
    if field.errors:
        classes += " is-invalid"
    return field.as_widget(attrs={"class": classes})
