"""Tries as pages send them: several at once, perhaps twice, perhaps hours after.

A page that lost its connection keeps its entries and sends them when it is back. Each has a
key of the page's own making, so that what arrives twice is kept once.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta

from django.contrib import messages
from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect
from django.utils import timezone

from wren_ladder.drumming.climb import Attempt as CoreAttempt
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.plain_text import plain_json
from wren_ladder.drumming.practice.lesson import in_plain_words, move_on, what_it_did
from wren_ladder.studio.changes.attempts import (
    delete_attempt,
    log_attempts,
    never_again,
    was_taken_back,
)
from wren_ladder.studio.climb.forms import AttemptForm
from wren_ladder.studio.climb.log import earning_log
from wren_ladder.studio.climb.models import Attempt, Where
from wren_ladder.studio.pages.requests import read_key
from wren_ladder.studio.plans.models import Step
from wren_ladder.studio.plans.rules import climb_rule

BY_ROW = "row-"  # of a try that has no key of a page
GONE = "this step is not in the plan any more"
NO_SHAPE = "it is no try as a page writes it"
PLAIN = (str, int, float, bool, type(None))
LONGEST = 1000  # characters of one value
MOST_AT_ONCE = 200
MOST_A_DAY = 400  # tries of one student; more is no practice
OLDEST = timedelta(days=31)  # an entry that waited longer in a page is not result any more


@dataclass
class EntriesResult:
    """What became of the entries: keys that are kept, why others are not, and what is next at
    the steps they were for."""

    kept: list[str] = field(default_factory=list)
    refused: list[dict[str, str]] = field(default_factory=list)
    steps: dict[int, dict] = field(default_factory=dict)

    def to_json(self) -> dict:
        return {"kept": self.kept, "refused": self.refused, "steps": self.steps}


def answer(
    request: HttpRequest, steps: QuerySet[Step], where: Where, back: str
) -> HttpResponse:
    """Take what a page has sent: told in JSON to its script, in a message to a plain form,
    which then goes back to where it came from."""
    entries = sent_entries(request)
    if entries is None:
        return JsonResponse({"error": "a list of entries is wanted"}, status=400)
    result = take(entries, steps, where)
    if request.content_type == "application/json":
        return JsonResponse(result.to_json())
    for refused in result.refused:
        messages.error(request, f"Not logged. {refused['why']}")
    if result.kept:
        messages.success(request, "Taken back." if entries[0].get("undo") else "Logged.")
    return redirect(back)


def sent_entries(request: HttpRequest) -> list[dict] | None:
    """The entries of a request in JSON, or the one of a plain form; None if it is neither."""
    if request.content_type != "application/json":
        return [request.POST.dict()]
    try:
        entries = plain_json(request.body)
    except ValueError:
        return None
    return entries if isinstance(entries, list) and len(entries) <= MOST_AT_ONCE else None


def take(sent: list, steps: QuerySet[Step], where: Where) -> EntriesResult:
    """Store what is right, refuse the rest with a reason each, and let everything follow."""
    result = EntriesResult()
    entries = [one for one in sent if _has_shape(one)]
    for one in sent:
        if not _has_shape(one):
            result.refused.append({"key": _key_in(one), "why": NO_SHAPE})
    asked = {read_whole(str(entry.get("step", ""))) for entry in entries} - {None}
    known = {str(step.pk): step for step in steps.filter(pk__in=asked)}
    before = {step.pk: step.standing.held for step in known.values()}
    new: list[Attempt] = []
    for entry in entries:
        key = _key_in(entry)
        if entry.get("undo"):
            _store(new, result)  # so that what was made in the same breath is found
            new = []
            _undo(str(entry["undo"]), steps, where)
            result.kept.append(key)
            continue
        found = _read(entry, known, where, new)
        if isinstance(found, str):
            result.refused.append({"key": key, "why": found})
            continue
        result.kept.append(key)
        new += [found] if found else []
    _store(new, result)
    for step in steps.filter(pk__in=known):
        result.steps[step.pk] = next_at(step, before[step.pk], where)
    return result


@dataclass(frozen=True, slots=True)
class LastTry:
    """The try of today that can be taken back: how a page names it, and what it did."""

    name: str
    said: str


def last_try(step: Step, where: Where) -> LastTry | None:
    """At home only what was logged at home can be taken back."""
    log = list(step.attempts.all())
    if not log or log[-1].day != timezone.localdate():
        return None
    last = log[-1]
    if where is Where.HOME and last.where != Where.HOME:
        return None
    if where is Where.HOME and not step.plan.student.home_earns:
        said = f"{last}: kept, your teacher sees it"
    else:
        earned = up_to_the_last_try(earning_log(step))
        said = what_it_did(climb_rule(step.plan, step), earned, where is Where.HOME)
    return LastTry(str(last.key) if last.key else f"{BY_ROW}{last.pk}", said)


def up_to_the_last_try(log: Sequence[CoreAttempt]) -> Sequence[CoreAttempt]:
    """Without what longer steps earned after it."""
    own = [place for place, one in enumerate(log) if not one.by]
    return log[: own[-1] + 1] if own else ()


def _has_shape(entry: object) -> bool:
    """Plain values under names: nothing in an entry is a list or holds others."""
    return isinstance(entry, dict) and all(
        isinstance(value, PLAIN) and len(str(value)) <= LONGEST for value in entry.values()
    )


def _key_in(entry: object) -> str:
    """The key by which the page drops it, as far as it has one."""
    return str(entry.get("key", ""))[:LONGEST] if isinstance(entry, dict) else ""


def _store(new: list[Attempt], result: EntriesResult) -> None:
    stored = log_attempts(new)
    for lost in [one for one in new if one not in stored]:  # deleted meanwhile
        result.kept = [key for key in result.kept if read_key(key) != lost.key]
        result.refused.append({"key": str(lost.key or ""), "why": GONE})


def _undo(name: str, steps: QuerySet[Step], where: Where) -> None:
    """Take back a try of today; one that is gone already stays gone, and one that has not
    come yet never comes."""
    tries = Attempt.objects.filter(step__in=steps.values("pk"), day=timezone.localdate())
    if where is Where.HOME:
        tries = tries.filter(where=Where.HOME)
    row, key = read_whole(name.removeprefix(BY_ROW)), read_key(name)
    if name.startswith(BY_ROW) and row is not None:
        attempt = tries.filter(pk=row).first()
    else:
        attempt = tries.filter(key=key).first() if key else None
    if attempt:
        delete_attempt(attempt)
    elif key and not Attempt.objects.filter(key=key).exists():
        never_again(key)


def plain_reason(step: Step) -> str:
    """Where a step stands, for the one who practises it."""
    standing, target = step.standing, climb_rule(step.plan, step).enough
    return in_plain_words(standing.held, standing.next_tempo, target, standing.falling)


def next_at(step: Step, held_before: int | None, where: Where) -> dict:
    """What a page shows of a step after a try, or after one was taken back."""
    tries = step.attempts.filter(day=timezone.localdate()).count()
    last = last_try(step, where)
    go_on = move_on(held_before, step.standing.held, tries)
    return {
        "last": {"name": last.name, "said": last.said} if last else None,
        "next": step.standing.next_tempo,
        "held": step.standing.held,
        "reason": plain_reason(step) if where is Where.HOME else step.standing.reason,
        "falling": step.standing.falling,
        "earned": (step.standing.held or 0) > (held_before or 0),
        "goOn": bool(go_on),
        "enough": "" if last and go_on in last.said else go_on,
    }


def _read(
    entry: Mapping, steps: Mapping[str, Step], where: Where, new: list[Attempt]
) -> Attempt | str | None:
    """The try, or why it is not kept; None where it was kept before, by its key."""
    step = steps.get(str(entry.get("step", "")))
    if step is None:
        return GONE
    key = read_key(entry.get("key"))
    sent_twice = any(one.key == key and one.step_id == step.pk for one in new)
    if key and (sent_twice or Attempt.objects.filter(key=key, step=step).exists()):
        return None
    if key and was_taken_back(key):
        return None
    day = _day_of(entry)
    if day is None:
        return "its day is too long ago, or not come yet"
    on_that_day = sum(one.day == day and one.step.plan_id == step.plan_id for one in new)
    logged = Attempt.objects.filter(step__plan__student=step.plan.student_id, day=day).count()
    if logged + on_that_day >= MOST_A_DAY:
        return f"{MOST_A_DAY} tries on one day are kept at the most"
    fields = {name: entry.get(name, "") for name in AttemptForm.base_fields}
    form = AttemptForm({**fields, "day": day}, instance=Attempt(step=step))
    if not form.is_valid():
        return "; ".join(
            f"{form.fields[name].label or name}: {errors[0]}"
            for name, errors in form.errors.items()
        )
    attempt = form.save(commit=False)
    attempt.where, attempt.key = where, key
    attempt.take = step.takes.filter(pk=read_whole(str(entry.get("take"))) or 0).first()
    return attempt


def _day_of(entry: Mapping) -> date | None:
    """The day the entry was made on; without one, today. A page east of here may be a day
    ahead of the studio: that is today too."""
    said = str(entry.get("day") or "")
    try:
        return day_played(date.fromisoformat(said) if said else None)
    except ValueError:
        return None


def day_played(day: date | None) -> date | None:
    """The day on which a page says that something was played; None where that can't be."""
    today = timezone.localdate()
    if day is None:
        return today
    if today - OLDEST <= day <= today + timedelta(days=1):
        return min(day, today)
    return None
