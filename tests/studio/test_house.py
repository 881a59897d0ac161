"""Several teachers under one roof: who sees what, what is shared, who comes and goes."""

from datetime import date, timedelta

from django.contrib.auth.models import User
from django.test import Client, TestCase, TransactionTestCase
from django.urls import reverse
from django.utils import timezone

from tests.studio.base import (
    StudioTest,
    log,
    make_piece,
    make_plan,
    make_student,
    make_teacher,
)
from tests.studio.test_odd_numbers import PART, addresses
from wren_ladder.studio.accounts.start_up import start_up_code
from wren_ladder.studio.climb.models import Attempt, HomeMinutes, Take
from wren_ladder.studio.house import members
from wren_ladder.studio.house.models import Invitation, Member
from wren_ladder.studio.lessons.models import CalendarAddress, Lesson, Period
from wren_ladder.studio.pieces.models import BarRow, Draft, Import, Piece
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.students.links import open_link, path_of
from wren_ladder.studio.students.models import Student

SECRETS = ("Quillfeather", "Tired today", "Harbour Wall", "Half term")
NEW = {"username": "cy", "password1": "four small wrens", "password2": "four small wrens"}
THEIRS = (
    Student,
    Piece,
    BarRow,
    Plan,
    Step,
    Attempt,
    HomeMinutes,
    Lesson,
    Period,
    Draft,
    Import,
)


class HouseTest(StudioTest):
    def setUp(self):
        super().setUp()
        members.join(self.teacher, date(2026, 9, 1))  # the owner
        self.bo = make_teacher("bo")
        self.member = members.join(self.bo, date(2026, 10, 1))
        self.bos = Client()
        self.bos.force_login(self.bo)


def fill(teacher: User) -> dict[str, int]:
    """A studio with a secret in every corner; the numbers of its things by their address."""
    student = make_student(teacher, "Zoë Quillfeather", notes="Tired today.")
    plan = make_plan(make_piece(teacher, title="Harbour Wall"), student)
    step = plan.steps.first()
    attempt = log(step, 90)
    take = Take.objects.create(
        step=step, day=date(2026, 11, 1), source="kit", tempo=90, passes=2, strokes=[]
    )
    minutes = HomeMinutes.objects.create(student=student, day=date(2026, 11, 1), minutes=20)
    lesson = Lesson.objects.create(student=student, day=date(2026, 11, 1), note="Tired today.")
    Period.objects.create(
        owner=teacher, name="Half term", first=date(2026, 10, 20), last=date(2026, 10, 27)
    )
    Draft.objects.create(owner=teacher, bars=[], title="Harbour Wall")
    imported = Import.objects.create(owner=teacher, name="Harbour Wall.wren", data=b"bar 1")
    open_link(student)
    return {
        "students": student.pk, "pieces": plan.piece_id, "plans": plan.pk, "steps": step.pk,
        "attempts": attempt.pk, "takes": take.pk, "minutes": minutes.pk, "lessons": lesson.pk,
        "imports": imported.pk,
    }  # fmt: skip


class Leaks(HouseTest):
    """Every address, every method, with the numbers of another teacher's things."""

    def counts(self) -> dict[str, int]:
        return {
            model.__name__: model.objects.filter(**self.of(model)).count() for model in THEIRS
        }

    def of(self, model) -> dict:
        ways = {
            BarRow: "piece__owner", Step: "plan__owner", Attempt: "step__plan__owner",
            HomeMinutes: "student__owner", Lesson: "student__owner",
        }  # fmt: skip
        return {ways.get(model, "owner"): self.bo}

    def try_everything(self, client: Client) -> None:
        numbers, before = fill(self.bo), None
        before = self.counts()
        told = []
        for route in sorted(set(addresses())):
            number = numbers.get(route.split("/")[1], numbers["students"])
            known = {"signed": "x", "key": "00000000-0000-0000-0000-000000000000"}
            address = PART.sub(
                lambda part, known=known, number=number: str(known.get(part[2], number)), route
            )
            for ask in (client.get, client.post, client.put, client.delete):
                if "log-out" in route:
                    continue
                answer = ask(address, {"name": "x", "give": number, "student": number})
                read = b"".join(answer) if answer.streaming else answer.content
                found = [one for one in SECRETS if one in read.decode(errors="ignore")]
                if found or answer.status_code >= 500:
                    told.append((ask.__name__, route, answer.status_code, found))
        self.assertEqual(told, [])
        self.assertEqual(self.counts(), before)

    def test_the_owner_sees_nothing_of_a_colleagues(self):
        self.try_everything(self.client)

    def test_nor_does_a_stranger(self):
        self.try_everything(Client())

    def test_nor_the_link_of_another_teachers_student(self):
        mine = make_student(self.teacher, "Mira")
        open_link(mine)
        phone = Client()
        phone.get(path_of(mine))
        self.try_everything(phone)

    def test_who_has_left_comes_in_nowhere(self):
        fill(self.teacher)
        address = CalendarAddress.objects.create(owner=self.bo)
        student = make_student(self.bo, "Ola")
        open_link(student)
        self.client.post(reverse("house-leave", args=[self.member.pk]))
        self.assertIn("/log-in/", self.bos.get(reverse("desk"))["location"])
        form = {"username": "bo", "password": "a-long-password"}
        self.assertContains(Client().post(reverse("login"), form), "correct username")
        self.assertEqual(Client().get(path_of(student)).status_code, 404)
        feed = reverse("calendar-feed", args=[address.key])
        self.assertEqual(Client().get(feed).status_code, 404)


class Coming(HouseTest):
    def invite(self) -> str:
        self.client.post(reverse("house-invite"), {"note": "Cy"})
        key = Invitation.objects.get().key
        page = self.client.get(reverse("house"))
        self.assertContains(page, reverse("join", args=[key]))
        return reverse("join", args=[key])

    def test_an_invitation_makes_one_log_in_once(self):
        address = self.invite()
        guest = Client()
        self.assertContains(guest.get(address), "You are invited")
        short = {**NEW, "password1": "x", "password2": "x"}
        self.assertContains(guest.post(address, short), "too short", status_code=422)
        self.assertContains(
            guest.post(address, NEW, follow=True), "Welcome. This is your studio"
        )
        self.assertEqual(User.objects.get(username="cy").membership.role, "teacher")
        self.assertEqual(Client().post(address, {**NEW, "username": "di"}).status_code, 404)
        self.assertContains(self.client.get(reverse("house")), "cy")

    def test_it_can_be_taken_back_and_ends_by_itself(self):
        address = self.invite()
        self.client.post(reverse("house-take-back", args=[Invitation.objects.get().pk]))
        self.assertEqual(Client().get(address).status_code, 404)
        address = self.invite()
        Invitation.objects.update(made=timezone.now() - timedelta(days=8))
        self.assertEqual(Client().get(address).status_code, 404)

    def test_a_teacher_who_is_not_the_owner_rules_nobody(self):
        mine = members.membership_of(self.teacher)
        for name in ("house-leave", "house-back", "house-owner", "house-erase"):
            answer = self.bos.post(reverse(name, args=[mine.pk]))
            self.assertEqual(answer.status_code, 403)
        self.assertEqual(self.bos.post(reverse("house-invite"), {}).status_code, 403)
        self.assertNotContains(self.bos.get(reverse("house")), "Invite a teacher")

    def test_the_owner_can_hand_the_house_on_and_not_leave_it(self):
        mine = members.membership_of(self.teacher)
        self.assertEqual(
            self.client.post(reverse("house-leave", args=[mine.pk])).status_code, 404
        )
        self.client.post(reverse("house-owner", args=[self.member.pk]))
        self.assertTrue(members.membership_of(self.bo).is_owner)
        self.assertFalse(members.membership_of(self.teacher).is_owner)


class FirstOfAHouse(TestCase):
    def test_the_first_log_in_owns_it(self):
        sent = {**NEW, "code": start_up_code()}
        self.client.post(reverse("first-log-in"), sent)
        self.assertTrue(Member.objects.get().is_owner)


class Sharing(HouseTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.bo, title="Harbour Wall")
        Piece.objects.update(notes="For Zoë.")
        self.plan = make_plan(self.piece, make_student(self.bo, "Ola"))

    def share(self, shared: str = "yes"):
        return self.bos.post(reverse("piece-share", args=[self.piece.pk]), {"shared": shared})

    def test_what_is_shared_is_seen_and_taken_as_a_copy_of_ones_own(self):
        self.share()
        self.assertContains(self.client.get(reverse("house")), "Harbour Wall")
        page = self.client.get(reverse("shared-piece", args=[self.piece.pk]))
        self.assertContains(page, "<svg")
        self.assertNotContains(page, "For Zoë")
        self.client.post(reverse("shared-copy", args=[self.piece.pk]))
        made = Piece.objects.get(owner=self.teacher)
        self.assertEqual(made.chart().bars, self.piece.chart().bars)
        self.assertEqual((made.notes, made.shared, made.plans.count()), ("", False, 0))
        other = self.client.get(self.piece.get_absolute_url())
        self.assertEqual(other.status_code, 404)  # the piece itself stays where it is

    def test_what_is_not_shared_any_more_is_not_there(self):
        self.share()
        self.share("no")
        for name, ask in (("shared-piece", self.client.get), ("shared-copy", self.client.post)):
            self.assertEqual(ask(reverse(name, args=[self.piece.pk])).status_code, 404)
        self.assertNotContains(self.client.get(reverse("house")), "Harbour Wall")

    def test_nor_what_somebody_shared_who_has_left(self):
        self.share()
        self.client.post(reverse("house-leave", args=[self.member.pk]))
        page = self.client.get(reverse("shared-piece", args=[self.piece.pk]))
        self.assertEqual(page.status_code, 404)

    def test_only_its_own_teacher_shares_a_piece(self):
        answer = self.client.post(
            reverse("piece-share", args=[self.piece.pk]), {"shared": "yes"}
        )
        self.assertEqual(answer.status_code, 404)
        self.assertFalse(Piece.objects.get().shared)


class Going(TransactionTestCase):
    def setUp(self):
        self.ada, self.bo = make_teacher(), make_teacher("bo")
        members.join(self.ada, date(2026, 9, 1))
        self.member = members.join(self.bo, date(2026, 10, 1))
        self.client.force_login(self.ada)
        fill(self.bo)

    def ask(self, name: str, /, **sent):
        return self.client.post(reverse(name, args=[self.member.pk]), sent, follow=True)

    def test_they_leave_and_come_back_with_everything(self):
        bos = Client()
        bos.force_login(self.bo)
        page = self.ask("house-leave")
        self.assertContains(page, "bo has left the house")
        self.assertIn("/log-in/", bos.get(reverse("desk"))["location"])
        self.ask("house-back")
        bos.post(reverse("login"), {"username": "bo", "password": "a-long-password"})
        self.assertContains(bos.get(reverse("students")), "Zoë Quillfeather")

    def test_their_studio_goes_with_them_and_is_erased_for_good(self):
        file = reverse("house-file", args=[self.member.pk])
        self.assertEqual(self.client.get(file).status_code, 404)  # they are here: it is theirs
        self.ask("house-leave")
        read = b"".join(self.client.get(file)).decode()
        self.assertIn("Zoë Quillfeather", read)
        page = self.ask("house-erase", name="wrong")
        self.assertContains(page, "Type bo to erase it", status_code=422)
        self.assertTrue(User.objects.filter(username="bo").exists())
        page = self.ask("house-erase", name="bo")
        self.assertContains(page, "with everything that was theirs")
        self.assertFalse(User.objects.filter(username="bo").exists())
        self.assertEqual(Student.objects.count() + Piece.objects.count(), 0)

    def test_nobody_is_erased_who_has_not_left(self):
        self.assertEqual(self.ask("house-erase", name="bo").status_code, 422)
        self.assertTrue(User.objects.filter(username="bo").exists())
