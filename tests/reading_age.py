"""How hard a text is to read: words to a sentence, and the school grade that it asks for."""

import re

import lxml.html

# What is music, a list to choose from, or for the machine.
NOT_READ = ("svg", "script", "style", "option", "kbd", "title", "template")


def sentences_on(page: str) -> set[str]:
    """The sentences of a page, hidden ones too, each once; pieces of a line are their own."""
    tree = lxml.html.document_fromstring(page)
    for one in list(tree.iter(*NOT_READ)):
        one.drop_tree()
    texts = [" ".join(text.split()) for text in tree.xpath("//text()")]
    found = {part for text in texts for part in re.split(r"(?<=[.!?:;·])\s+", text)}
    return {one for one in found if words_in(one)}


def words_in(sentence: str) -> list[str]:
    return re.findall(r"[A-Za-z0-9][A-Za-z0-9'’–&-]*", sentence)


def school_grade(sentences: set[str]) -> float:
    """The grade level after Kincaid, Fishburne, Rogers and Chissom, "Derivation of new
    readability formulas for Navy enlisted personnel" (1975); a ten-year-old is in the fifth.
    Syllables are counted by groups of vowels, a silent e left out."""
    words = [word for one in sentences for word in words_in(one)]
    syllables = sum(_syllables(word) for word in words)
    return 0.39 * len(words) / len(sentences) + 11.8 * syllables / len(words) - 15.59


def _syllables(word: str) -> int:
    plain = re.sub(r"(?<=[^l])e$", "", word.lower())
    return max(1, len(re.findall(r"[aeiouy]+", plain)))
