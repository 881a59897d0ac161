"""One address of every kind of page of the demo studio, by where it belongs."""

from wren_ladder.studio.climb.models import Attempt, Take
from wren_ladder.studio.exams.models import Exam
from wren_ladder.studio.pieces.models import Import, Piece
from wren_ladder.studio.plans.models import Plan, StudentBar
from wren_ladder.studio.scans.models import Scan
from wren_ladder.studio.students.links import path_of


def addresses() -> dict[str, str]:
    return {name: one for pages in by_room().values() for name, one in pages.items()}


def by_room() -> dict[str, dict[str, str]]:
    plan = Plan.objects.filter(student__name="Mira Lindahl").first()
    piece, student = plan.piece, plan.student
    recorded = Piece.objects.get(recording__isnull=False)
    attempt = Attempt.objects.filter(step__plan=plan).first()
    step = plan.steps.first()
    fill = StudentBar.objects.select_related("bar").get()
    filled = Plan.objects.get(student=fill.student, piece=fill.bar.piece)
    own = f"/plans/{filled.pk}/bars"
    at_home = Take.objects.get(where="home")
    exam = Exam.objects.get(student__name="Ines Okafor")
    passed = Exam.objects.get(result=Exam.Result.PASSED)
    last = Take.objects.last()
    return {
        "lists and uploads": {
            "pieces": "/pieces/",
            "no piece found": "/pieces/?q=zzz",
            "new piece": "/pieces/new/",
            "upload": "/pieces/upload/",
            "import": Import.objects.get(name="tide_tables.musicxml").get_absolute_url(),
            "import of a take": Import.objects.get(
                name="boathouse_take.mid"
            ).get_absolute_url(),
            "delete piece": f"/pieces/{piece.pk}/delete/",
            "give": f"/pieces/{piece.pk}/give/",
        },
        "a piece": {
            "piece": f"/pieces/{piece.pk}/?bar=3",
            "chart": f"/pieces/{piece.pk}/score/",
            "road map": f"/pieces/{piece.pk}/road/",
            "vocabulary": f"/pieces/{piece.pk}/vocabulary/",
            "bar": f"/pieces/{piece.pk}/bars/3/all/",
            "shared piece": f"/house/pieces/{Piece.objects.get(title='Rope Walk').pk}/",
        },
        "playing and writing": {
            "practice room": f"/pieces/{piece.pk}/room/",
            "along a recording": f"/pieces/{recorded.pk}/room/?with=recording",
            "edit piece": f"/pieces/{piece.pk}/edit/",
            "edit piece as text": f"/pieces/{piece.pk}/edit/?as=text",
        },
        "printed pages": {
            "printed page": "/printed/new/",
            "a bar from the page": Scan.objects.get().get_absolute_url(),
            "key of the staff": f"{Scan.objects.get().get_absolute_url()}key/",
            "bars looked over": f"{Scan.objects.get().get_absolute_url()}look/",
            "lines of the page": f"{Scan.objects.get().get_absolute_url()}pages/1/",
        },
        "the workshop": {
            "workshop": f"/workshop/?student={student.pk}",
            "fills of the shelf": "/workshop/?kind=fill",
            "groove board": "/workshop/grooves/",
            "a groove": "/workshop/grooves/hat-quavers/1-3-3n/",
            "sticking grooves": "/workshop/stickings/",
            "accents": "/workshop/accents/",
        },
        "exercises": {
            "foot studies": "/workshop/feet/",
            "fills": "/workshop/fills/",
            "warm-ups": "/workshop/warm-ups/",
            "reading": "/workshop/reading/?grade=3&bars=8&seed=3",
            "rudiments": "/rudiments/",
            "rudiment": "/rudiments/flam-drag/",
        },
        "students": {
            "students": "/students/",
            "student": f"/students/{student.pk}/",
            "new student": "/students/new/",
            "compare pieces": f"/students/{student.pk}/compare/",
            "week": f"/students/{student.pk}/week/",
            "minutes": f"/students/{student.pk}/minutes/",
            "edit student": f"/students/{student.pk}/edit/",
        },
        "lessons": {
            "lesson mode": f"/students/{student.pk}/lesson/",
            "end of the lesson": f"/students/{student.pk}/lesson/end/",
            "lesson": student.lessons.first().get_absolute_url(),
            "another lesson": f"/students/{student.pk}/lessons/new/",
            "change the lesson": f"/lessons/{student.lessons.first().pk}/change/",
        },
        "the day": {
            "desk": "/",
            "timetable": "/lessons/",
            "terms and holidays": "/lessons/periods/",
            "end of term": "/lessons/term/",
            "bin": "/bin/",
            "words": "/words/",
        },
        "exams": {
            "exam": exam.get_absolute_url(),
            "an exam that was passed": passed.get_absolute_url(),
            "mock exam": f"/exams/{exam.pk}/mock/",
            "change the exam": f"/exams/{exam.pk}/edit/",
            "another exam": f"/students/{student.pk}/exams/new/",
            "choose a piece": f"/pieces/?for={student.pk}",
            "give to one": f"/pieces/{recorded.pk}/give/?student={student.pk}",
        },
        "the phone": {
            "link": path_of(student),
            "what is held": f"{path_of(student)}held/",
            "a whole piece on the phone": f"{path_of(student)}pieces/{piece.pk}/",
            "a closed link": "/s/closed/",
            "link that records": path_of(at_home.step.plan.student),
            "a take on the phone": f"{path_of(at_home.step.plan.student)}takes/{at_home.pk}/",
        },
        "plans": {
            "plan": f"/plans/{plan.pk}/?bar=3",
            "breakdown": f"/plans/{plan.pk}/steps/",
            "breakdown, a step": f"/plans/{plan.pk}/steps/?step={step.pk}",
            "breakdown, a bar": f"/plans/{plan.pk}/steps/?bar=3",
        },
        "plans changed": {
            "two schools": f"/plans/{plan.pk}/compare/",
            "revise": f"/plans/{plan.pk}/revise/?school=phrase",
            "tempos": f"/plans/{plan.pk}/edit/",
            "progress": f"/plans/{plan.pk}/progress/",
        },
        "steps": {
            "chain": f"/pieces/{piece.pk}/bars/3/chain/",
            "fill": f"{own}/{fill.bar.position}/own/",
            "in style": f"{own}/{fill.bar.position - 3}/own/",
            "step": f"/steps/{step.pk}/",
            "edit step": f"/steps/{step.pk}/edit/",
            "attempt": f"/attempts/{attempt.pk}/edit/",
        },
        "takes": {
            "take": f"/takes/{Take.objects.first().pk}/",
            "two takes": f"/takes/{last.pk}/?beside={last.pk + 1}",
            "rules for takes": "/takes/rules/",
        },
        "log-ins and words": {
            "report": f"/students/{student.pk}/report/",
            "password": "/password/",
            "log-in of one's own": "/account/",
            "second factor": "/account/second-factor/",
            "what is kept": "/privacy/",
            "export or erase": f"/students/{student.pk}/kept/",
        },
        "the house": {
            "house": "/house/",
            "in and out": "/in-and-out/",
            "bring in attempts": "/in-and-out/attempts/",
            "teaching style": "/teaching/",
            "nowhere": "/nowhere/",
        },
    }
