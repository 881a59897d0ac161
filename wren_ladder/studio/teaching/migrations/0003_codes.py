from django.db import migrations

CHOICES = {
    "bar school": "bar",
    "phrase school": "phrase",
    "layer school": "layer",
    "hand to hand": "hand-to-hand",
    "grid hand": "grid-hand",
    "accents lead": "accents-lead",
    "kit flow": "kit-flow",
}
REASONS = {
    "something new": "new",
    "ghost beside accent": "ghost-accent",
    "hat closes with the stick": "hat-closes",
    "feet between the hands": "feet",
    "quick kicks": "quick-kicks",
    "entry off the beat": "entry",
    "reach across the kit": "reach",
    "doubles in the sticking": "doubles",
    "speed of one hand": "speed",
    "metre or tempo changes": "meter",
    "join across a jump": "jump",
}


def to_codes(apps, schema_editor):
    for own in apps.get_model("teaching", "TeachingStyle").objects.all():
        own.choices = {
            name: CHOICES.get(value, value) if isinstance(value, str) else value
            for name, value in own.choices.items()
        }
        own.weights = {REASONS.get(name, name): value for name, value in own.weights.items()}
        own.save(update_fields=["choices", "weights"])


class Migration(migrations.Migration):

    dependencies = [("teaching", "0002_weights")]

    operations = [migrations.RunPython(to_codes, migrations.RunPython.noop)]
