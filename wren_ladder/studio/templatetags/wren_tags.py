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


@register.filter
def opened_with(field):
    """What a field held when its page was opened, hidden beside it where its form asks."""
    return field.as_hidden(only_initial=True) if field.field.show_hidden_initial else ""
