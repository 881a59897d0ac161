"""The page of words."""

from django.shortcuts import render
from django.views.decorators.http import require_safe

from wren_ladder.studio.pages.words.glossary import WORDS


@require_safe
def words(request):
    return render(request, "words/words.html", {"words": sorted(WORDS.items())})
