"""Loads the demo studio: Fernhill Drum Room, in the arts centre of a harbour town."""

import shutil
from datetime import date, timedelta
from pathlib import Path
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import User
from django.core.files.base import ContentFile
from django.core.management import call_command
from django.db import connection, transaction
from django.utils import timezone

from wren_ladder.demo import CHARTS
from wren_ladder.demo.people import (
    AT_HOME,
    AWAY,
    BINNED,
    BOOK,
    DRILLS,
    FILL,
    FINISHED,
    FIRST_BAR,
    GRADES,
    LESSON_NOTES,
    LESSON_STORIES,
    MESSAGES,
    MOCKS,
    MOVED,
    PASSED,
    PERIODS,
    PUPILS,
    RANKS,
    RECORDED,
    REPORT_WORDS,
    REVISED,
    SAYINGS,
    SLOWER,
    TAKEN,
    TAKES,
    TOGETHER,
    WALKED,
    ClimbHabits,
    Pupil,
)
from wren_ladder.demo.practising import practise
from wren_ladder.demo.recording import made_up_recording
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.building.fills import fill_space, write_fill
from wren_ladder.drumming.climb import start_tempo
from wren_ladder.drumming.files import read_file
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.page_reading.copied import State
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.performance.recorded import from_the_first
from wren_ladder.drumming.take_sources.heard import Source
from wren_ladder.drumming.take_sources.simulated import Fault, play
from wren_ladder.drumming.workshop.fills import Length, three_to_try
from wren_ladder.drumming.workshop.grooves import USUAL_TEMPO, Groove
from wren_ladder.drumming.workshop.patterns import KICKS, Backbeat, Hands, LeftFoot
from wren_ladder.drumming.workshop.recipes import codes_of_fill, made
from wren_ladder.studio.changes.attempts import log_attempts
from wren_ladder.studio.changes.bin import put_in_bin
from wren_ladder.studio.changes.exams import exam_on, keep_exam, keep_mock
from wren_ladder.studio.changes.exercises import give_exercise, make_exercise, send_drill
from wren_ladder.studio.changes.lessons import keep_lesson, plan_instead
from wren_ladder.studio.changes.pieces import add_piece
from wren_ladder.studio.changes.plans import (
    give,
    model_plan,
    revise,
    set_rank,
    set_status,
    write_own_bar,
)
from wren_ladder.studio.changes.recordings import attach, place
from wren_ladder.studio.changes.sayings import put_in_report, say
from wren_ladder.studio.changes.scans import add_scan, change_bars, read_next, set_key
from wren_ladder.studio.changes.sharing import share
from wren_ladder.studio.changes.students import set_second_teacher
from wren_ladder.studio.changes.takes import keep_take
from wren_ladder.studio.climb.models import Attempt, HomeMinutes, Where
from wren_ladder.studio.climb.standings import catch_up, refresh
from wren_ladder.studio.climb.takes import bars_of, share_of
from wren_ladder.studio.exams.models import Exam
from wren_ladder.studio.house.members import join
from wren_ladder.studio.lessons.models import Lesson, Period
from wren_ladder.studio.lessons.weeks import lines_in, plans_of, proposed_week
from wren_ladder.studio.pages.lessons.lesson_page import what_was_done
from wren_ladder.studio.pages.rudiments.shelf import drill_named
from wren_ladder.studio.pages.scans.proposals import heads_asked
from wren_ladder.studio.pieces.models import Import, Piece
from wren_ladder.studio.pieces.studies import study_of
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.plans.rules import climb_rule
from wren_ladder.studio.scans.reading import open_pages
from wren_ladder.studio.students.links import open_link
from wren_ladder.studio.students.models import Student

USER, PASSWORD = "demo", "wren-demo"
LESSONS = 6  # kept of each student
SET = 5  # lines in each
PAIR = UUID(int=1)  # of the two who were taught together
IMPORTS = Path(__file__).parent / "imports"
PRINTED = Path(__file__).parent / "printed" / "weir_lane.png"
COPIED = {  # what was typed beside some of its bars
    0: "meter 4/4\ntempo crotchet = 96\ncrash 1\nhat 8ths, no 1\nsnare 2 4\nkick 1 3 3&",
    1: "hat 8ths\nsnare 2 4\nkick 1 3 3&",
    3: "hat 8ths 1-3\nsnare 2, 16ths 4\nkick 1 3 3&",
    7: "hat 8ths 1-2\nsnare 2\nhigh 3 3&\nkick 1\nfloor 4 4&",
    8: "ride 8ths\nsnare accent 2 4\nkick 1 2& 3",
}


COLLEAGUE = "tilda"
TAUGHT_BY_BOTH = "Ruben Vale"
HERS = """tempo crotchet = 92
bar 1
section A Groove
hat 8ths, open 4&
snare 2 4, ghost 2a
kick 1 3 3&
bars 2-3 as 1
bar 4
hat 8ths 1-3
snare 2, 16ths 4
kick 1 3
"""


def _load_house(teacher: User, shared: Piece) -> None:
    """Who works under the same roof, what the two share, and whom they teach together."""
    join(teacher, timezone.localdate())
    colleague = User.objects.create_user(COLLEAGUE)  # nobody logs in by that name
    join(colleague, timezone.localdate())
    for title, grade in (("Rope Walk", 3), ("Lamp Oil", 2)):
        share(add_piece(colleague, read_chart(HERS, title=title), grade=grade), True)
    share(shared, True)
    set_second_teacher(teacher.students.get(name=TAUGHT_BY_BOTH), colleague)


def prepare(fresh: bool = False) -> None:
    """Make the demo's database ready; what was changed in it stays, unless ``fresh``."""
    if fresh:
        connection.close()
        name = Path(settings.DATABASES["default"]["NAME"])
        for ending in ("", "-wal", "-shm"):
            name.with_name(name.name + ending).unlink(missing_ok=True)
        if settings.DEMO:  # else they are a real studio's
            shutil.rmtree(settings.MEDIA_ROOT, ignore_errors=True)
    call_command("migrate", verbosity=0)
    catch_up()
    if not User.objects.filter(username=USER).exists():
        print("wren: loading half a year of Fernhill Drum Room", flush=True)
        load()


@transaction.atomic
def load() -> User:
    """The whole studio for one new teacher, seen from today."""
    teacher = User.objects.create_user(USER, password=PASSWORD)
    pieces = {path.stem: _load_piece(teacher, path) for path in sorted(CHARTS.iterdir())}
    for pupil in PUPILS:
        student = _load_student(teacher, pupil)
        for climb in pupil.climbs:
            _load_climb(pieces[climb.chart], student, climb)
    for name, drill, tempo in DRILLS:
        send_drill(drill_named(drill), teacher.students.get(name=name), tempo)
    _show_judgement(teacher)
    _load_workshop(teacher)
    _load_recording(pieces[RECORDED])
    _load_takes(teacher)
    _load_sayings(teacher)
    _load_year(teacher)
    _load_exams(teacher)
    _load_house(teacher, pieces[RECORDED])
    for student in teacher.students.filter(status=Student.Status.HERE):
        _load_lessons(student)
    for path in sorted(IMPORTS.iterdir()):  # a part that came in and waits to be looked over
        Import.objects.create(owner=teacher, name=path.name, data=path.read_bytes(), grade=4)
    _load_printed(teacher)
    return teacher


def _load_printed(teacher: User) -> None:
    """A printed page that is half copied: the next bar is nearly like one that was typed."""
    page = open_pages(PRINTED.name, PRINTED.read_bytes())
    scan = add_scan(teacher, [(PRINTED.name, page[0])], timezone.localdate(), title="Weir Lane")
    read_next(scan)
    key = {one.place.code: one.drum for one in heads_asked(scan)}
    set_key(scan, key, timezone.localdate())
    for bar, text in COPIED.items():
        right = {bar: {"text": text, "state": State.RIGHT.value}}
        change_bars(scan, right, timezone.localdate())


def _show_judgement(teacher: User) -> None:
    """A fill written out, a bar ranked by the teacher, a plan revised for another school."""
    name, title, number, choices = FILL
    plan = _plan(teacher, name, title)
    row = plan.piece.bars.get(number=number)
    write_own_bar(plan, row.position, write_fill(row.bar, fill_space(row.bar), choices))
    for name, title, number, rank in RANKS:
        plan = _plan(teacher, name, title)
        set_rank(plan, plan.piece.bars.get(number=number), rank)
    name, title, school = REVISED
    revise(_plan(teacher, name, title), timezone.localdate(), school)


def _plan(teacher: User, name: str, title: str) -> Plan:
    return Plan.objects.get(owner=teacher, student__name=name, piece__title=title)


def _load_piece(teacher: User, path: Path) -> Piece:
    chart, problems = read_file(path.name, path.read_bytes())
    report = [str(problem) for problem in problems]
    piece = add_piece(teacher, chart, grade=GRADES[path.stem], import_report=report)
    model_plan(piece, teacher)
    return piece


def _load_student(teacher: User, pupil: Pupil) -> Student:
    today = timezone.localdate()
    praised, words = REPORT_WORDS
    return Student.objects.create(
        owner=teacher,
        name=pupil.name,
        grade=pupil.grade,
        lead=pupil.lead,
        lesson_day=(today.weekday() + pupil.lesson_day) % 7,
        lesson_time=pupil.lesson_time,
        exam_date=today + timedelta(days=pupil.exam_in) if pupil.exam_in else None,
        home_days=pupil.home[0],
        home_minutes=pupil.home[1],
        home_earns=pupil.home_earns,
        rating=pupil.rating,
        notes=pupil.notes,
        report_words=words if pupil.name == praised else "",
    )


def _load_climb(piece: Piece, student: Student, habits: ClimbHabits) -> None:
    target = habits.target or piece.tempo.bpm
    plan = Plan(owner=piece.owner, piece=piece, target=target, school=habits.school)
    plan.start = start_tempo(target, 62)
    plan = give(plan, student)
    steps = list(plan.steps.select_related("first", "last"))
    climbs = [climb_rule(plan, step) for step in steps]
    logs = practise(climbs, habits, timezone.localdate(), f"{student.name}, {piece.title}")
    Attempt.objects.bulk_create(
        Attempt(
            step=step,
            day=attempt.day,
            tempo=attempt.tempo,
            was_clean=attempt.clean,
            passes=attempt.passes,
            note=word,
            where=Where.LESSON if attempt.day.weekday() == student.lesson_day else Where.HOME,
        )
        for step, log in zip(steps, logs, strict=True)
        for attempt, word in log
    )
    refresh(plan)


def _load_lessons(student: Student) -> None:
    """The lessons of the last weeks, what was set in each, and minutes at home."""
    today = timezone.localdate()
    back = (today.weekday() - student.lesson_day) % 7 or 7
    stories = {one.weeks: one for one in LESSON_STORIES if one.name == student.name}
    message, for_parents, own = MESSAGES.get(student.name, ("", "", ""))
    for week in range(LESSONS):
        day = today - timedelta(days=back + 7 * week)
        story = stories.get(week)
        lesson = Lesson(student=student, day=day, **(story.fields if story else {}))
        if student.name in TOGETHER and week == 2:
            lesson.company = PAIR
        if lesson.is_off:
            lesson.save()
            if story.made_up is None:
                continue
            lesson = Lesson(
                student=student, day=day + timedelta(days=story.made_up), instead_of=day
            )
        lesson.note = LESSON_NOTES[week] if week < len(LESSON_NOTES) else ""
        if week == 0:
            lesson.message, lesson.for_parents = message, for_parents
        lines = _lines(student, lesson.day)
        if own and week == 0:
            words = {"step": 0, "name": own, "piece": "", "tempo": None, "minutes": 0}
            lines.append({**words, "on_pad": False})
        did = [line for _, line in what_was_done(student, lesson.day)]
        keep_lesson(lesson, lines, did[:8])
    days = Attempt.objects.filter(step__plan__student=student).dates("day", "day")
    HomeMinutes.objects.bulk_create(
        HomeMinutes(student=student, day=day, minutes=12 + (day.toordinal() * 7) % 14)
        for day in days
        if day.weekday() != student.lesson_day
    )
    open_link(student)


def _lines(student: Student, day: date) -> list[dict]:
    """What the house proposes, set by the teacher as it is."""
    proposed = lines_in(proposed_week(student, plans_of(student), day, day))
    return [
        {
            "step": line.key,
            "name": line.name,
            "piece": line.title,
            "tempo": line.tempo,
            "minutes": line.minutes,
            "on_pad": line.on_pad,
        }
        for line in proposed[:SET]
    ]


def _load_exams(teacher: User) -> None:
    """One ahead with a mock exam behind it, one that was passed, and the others' days."""
    today = timezone.localdate()
    for student in teacher.students.exclude(exam_date=None):
        exam_on(student, student.exam_date, today)
    for name, runs in MOCKS.items():
        exam = teacher.students.get(name=name).exams.get(result="")
        plans = [item.plan for item in exam.items.select_related("plan__piece")]
        keep_exam(exam, plans, ["unseen reading"], today)
        items = exam.items.order_by("place")
        keep_mock(_ago(4), [(item, *run) for item, run in zip(items, runs, strict=False)])
    name, title, ago, mark, words = PASSED
    student = teacher.students.get(name=name)
    exam = Exam(student=student, day=_ago(ago), grade=student.grade - 1, mark=mark, words=words)
    exam.result = Exam.Result.PASSED
    keep_exam(exam, [_plan(teacher, name, title)], [], today)


def _load_recording(piece: Piece) -> None:
    """Something to play along with, its bars said."""
    performance = perform(study_of(piece).road)
    data = made_up_recording(performance, FIRST_BAR, SLOWER)
    recording = attach(piece, ContentFile(data, f"{piece.title}.wav"), "audio/wav")
    place(recording, from_the_first(FIRST_BAR, SLOWER, performance))


def _load_sayings(teacher: User) -> None:
    for name, title, number, everybody, text in SAYINGS:
        steps = _plan(teacher, name, title).steps.filter(kind=StepKind.BAR, dropped=False)
        for step in steps.select_related("first"):
            if step.first.bar.number == number:
                student = None if everybody else step.plan.student
                said = say(step, student, text, timezone.localdate())
                if student:
                    put_in_report(student, [said.pk])


def _load_takes(teacher: User) -> None:
    """Tries of the made-up player: a habit, a fault that went, and who records at home."""
    for name, title, where, fault, taken in TAKEN:
        steps = _plan(teacher, name, title).steps.filter(kind=StepKind.BAR, dropped=False)
        both = ((step, bars_of(step)) for step in steps.order_by("position"))
        step, bars = next(
            (step, bars) for step, bars in both if _has_left_foot(bars) or "left" not in fault
        )
        faults = [Fault(fault)] if fault else []
        for seed, (ago, tempo) in enumerate(taken):
            heard = play(perform(bars, share_of(step, tempo)), bars, TAKES, seed, faults)
            keep_take(step, Source.KIT, tempo, TAKES, heard, _ago(ago), Where(where))
    teacher.students.filter(name=AT_HOME).update(records_at_home=True)


def _has_left_foot(bars) -> bool:
    return any(stick.limb is Limb.LEFT_FOOT for one in bars for stick in one.sticks)


def _load_workshop(teacher: User) -> None:
    """A groove board half walked, a book of fills, a warm-up."""
    name, grooves = WALKED
    student = teacher.students.get(name=name)
    still = [Backbeat.TWO_AND_FOUR.value, LeftFoot.NOTHING.value]
    for hands, kick, held in grooves:
        plan = _exercise(student, {"groove": [hands, kick, *still]}, 96)
        if held:
            tries = [
                Attempt(step=plan.steps.get(), day=_ago(2), tempo=bpm, was_clean=True, passes=8)
                for bpm in range(72, held + 1, 4)
            ]
            log_attempts(tries)
    groove = ["hat-quavers", "1-3", *still]
    kept = Groove(Hands.HAT_QUAVERS, KICKS[1]).bar
    for length in BOOK:
        fill = three_to_try(Length(length), student.grade, kept, USUAL_TEMPO, 3)[0]
        _exercise(student, {"fill": codes_of_fill(fill), "groove": groove, "bars": 2}, 84)
    _exercise(student, {"warm-up": student.grade, "minutes": 5, "seed": 0}, 84)
    reading = {"reading": student.grade, "bars": 8, "voices": "snare", "seed": 1}
    _exercise(student, reading, made(reading).target)


def _exercise(student: Student, recipe: dict, target: int) -> Plan:
    found = made(recipe)
    piece = make_exercise(student.owner, found.chart, found.kind, recipe, found.grade or None)
    return give_exercise(piece, student, target, found.chart.tempo.bpm)


def _ago(days: int) -> date:
    return timezone.localdate() - timedelta(days=days)


def _load_year(teacher: User) -> None:
    """Terms, holidays, pieces that are over, and a calendar that is subscribed to."""
    today = timezone.localdate()
    Period.objects.bulk_create(
        Period(
            owner=teacher,
            kind=kind,
            name=name,
            first=today + timedelta(days=first),
            last=today + timedelta(days=last),
        )
        for kind, name, first, last in PERIODS
    )
    for name, grade, status in AWAY:
        Student.objects.create(owner=teacher, name=name, grade=grade, status=status)
    name, days = MOVED
    student = teacher.students.get(name=name)
    due = today + timedelta(days=(student.lesson_day - today.weekday()) % 7 or 7)
    plan_instead(student, due + timedelta(days=days), due)
    old = add_piece(teacher, read_chart("bar 1\nhat 8ths\nsnare 2 4\nkick 1 3", title=BINNED))
    put_in_bin(old, teacher, BINNED, "its one bar", today)
    for name, title, status, ago in FINISHED:
        set_status(_plan(teacher, name, title), status, today - timedelta(days=ago))
