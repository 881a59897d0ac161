"""Small helpers that Django's templates lack."""

import json
from uuid import uuid4

from django import template
from django.conf import settings
from django.utils.html import format_html

from wren_ladder.drumming.notation.counts.words import LINES
from wren_ladder.drumming.take_sources.calibration import TEMPO
from wren_ladder.drumming.take_sources.note_maps import Curve, Layout
from wren_ladder.drumming.take_sources.simulated import Fault
from wren_ladder.studio.drawing.drum_pictures import pictures_by_name
from wren_ladder.studio.drawing.sound import PATTERNS, click_alone
from wren_ladder.studio.pages.requests import came_from
from wren_ladder.studio.pages.words.glossary import WORDS
from wren_ladder.studio.static_files import folder_version
from wren_ladder.studio.teaching.note_names import in_names

register = template.Library()


@register.simple_tag
def form_key():
    """A form's own key, by which its second arrival is known."""
    return format_html('<input type="hidden" name="form_key" value="{}">', uuid4())


@register.simple_tag(takes_context=True)
def opened_from(context):
    """The page that a form was opened on, to come back to once it is kept."""
    page = came_from(context["request"])
    return format_html('<input type="hidden" name="came_from" value="{}">', page)


@register.filter
def named(said):
    """A sentence of the house in the reader's names of notes; never what somebody typed."""
    return in_names(said) if isinstance(said, str) else said


@register.simple_tag
def font(name):
    """The address of a font as the style sheet asks for it, to have it sent along."""
    return f"{settings.STATIC_URL}vendor/fonts/{name}.woff2"


@register.simple_tag
def drum_lines():
    """The words that begin a drum's line in typed bars, from the top of the page down."""
    return ", ".join(LINES)


@register.simple_tag
def new_key():
    """A key of its own for what a form sends, so that sent twice it is kept once."""
    return str(uuid4())


@register.simple_tag
def term(word, shown=""):
    """A word of the house that explains itself where it is pointed at or has the focus."""
    return format_html(
        '<dfn class="term" tabindex="0">{}'
        '<span class="term-says" role="tooltip">{}</span></dfn>',
        shown or word,
        WORDS[word],
    )


# The words that a chart is mostly typed with, for a row above a phone's keyboard.
TYPED_WORDS = ("bar", "hat", "snare", "kick", "crash", "ride", "8ths", "16ths")
TYPED_WORDS += ("1", "2", "3", "4", "&", ",", "as", "open", "ghost", "accent")


@register.inclusion_tag("pieces/_word_row.html")
def word_row(into):
    """Buttons that type a word into a text field, by its id."""
    return {"typed_words": TYPED_WORDS, "into": into}


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


@register.simple_tag
def samples(folder):
    """The address of the samples of a folder, with NAME and ENDING in place of what is asked
    for and the content's own version, so that browsers may keep them for ever."""
    return f"{settings.STATIC_URL}{folder}/NAME.ENDING?v={folder_version(folder)}"


@register.inclusion_tag("room/_panel.html")
def room_panel():
    """What every practice room of the page is furnished with; once on a page."""
    return {"click_patterns": list(enumerate(PATTERNS))}


@register.inclusion_tag("room/_panel_home.html")
def room_panel_home():
    """The same for a child: three keys, the rest as it was set."""
    return {"pictures": pictures_by_name()}


@register.inclusion_tag("takes/_panel.html", takes_context=True)
def record_panel(context, home=False):
    """What every place that records takes is furnished with; once on a page."""
    return {
        "csrf_token": context.get("csrf_token"),
        "home": home,
        "faults": list(Fault),
        "layouts": list(Layout),
        "curves": list(Curve),
        "calibration": click_alone(TEMPO),
    }


LETTERS = "jfkdlsaghuionm"  # under the fingers, the likeliest first


@register.filter
def record_pads(bars):
    """[letter, drum, its name] of each drum of some bars, from the top of the page down."""
    drums = {hit.drum for bar in bars for hit in bar.bar.hits}
    order = sorted(drums, key=lambda drum: drum.page_order)
    return json.dumps(
        [
            [letter, drum.value, drum.spoken]
            for letter, drum in zip(LETTERS, order, strict=False)
        ]
    )


RUNGS = 5  # of the small ladder


@register.inclusion_tag("climb/_small_ladder.html")
def small_ladder(share):
    """A ladder with as many rungs dark as the share of the way that is climbed, in per cent."""
    climbed = share * RUNGS // 100
    return {"share": share, "rungs": [(9 + 9 * n, RUNGS - n <= climbed) for n in range(RUNGS)]}
