"""The teacher's rule for takes, a row for each grade."""

from django import forms

from wren_ladder.drumming.grades import MOST_GRADE
from wren_ladder.drumming.takes.limits import Rule, Unit, house_rule
from wren_ladder.studio.teaching.models import TakeRule, take_rules

FIELDS = ("slips", "spread", "lean", "unit")
GRADES = range(MOST_GRADE + 1)


class RuleForm(forms.Form):
    slips = forms.IntegerField(min_value=0, max_value=50)
    spread = forms.IntegerField(min_value=1, max_value=200)
    lean = forms.IntegerField(min_value=1, max_value=200)
    unit = forms.ChoiceField(choices=Unit.choices())


class RulesForm:
    """One small form a grade; what equals the house's rule is not kept."""

    def __init__(self, rows: list[tuple[int, RuleForm]]) -> None:
        self.rows = rows

    @classmethod
    def of(cls, user, sent=None) -> "RulesForm":
        rules = take_rules(user.pk)
        rows = []
        for grade in GRADES:
            rule = rules[grade]
            initial = {name: getattr(rule, name) for name in FIELDS}
            row = RuleForm(sent, initial=initial, prefix=f"grade-{grade}")
            for name, field in row.fields.items():
                where = "before grade 1" if not grade else f"grade {grade}"
                field.widget.attrs["aria-label"] = f"{SAID[name]}, {where}"
                small = "form-select" if name == "unit" else "form-control"
                field.widget.attrs["class"] = f"{small} {small}-sm"
            rows.append((grade, row))
        return cls(rows)

    @property
    def is_bound(self) -> bool:
        return self.rows[0][1].is_bound

    def is_valid(self) -> bool:
        wrong = [row for _, row in self.rows if not row.is_valid()]  # every row says its errors
        return not wrong

    def save(self, user) -> None:
        for grade, row in self.rows:
            sent = row.cleaned_data
            rule = Rule(sent["slips"], sent["spread"], sent["lean"], Unit(sent["unit"]))
            if rule == house_rule(grade):
                TakeRule.objects.filter(owner=user, grade=grade).delete()
            else:
                TakeRule.objects.update_or_create(owner=user, grade=grade, defaults=sent)


SAID = {
    "slips": "Missed, wrong or extra, per cent of the strokes",
    "spread": "Spread of a limb",
    "lean": "A limb early or late",
    "unit": "In",
}
