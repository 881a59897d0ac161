"""Making log-ins for teachers from the command line."""

import getpass

from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError

from wren_ladder.studio.accounts import second_factor


def ask_for_teacher(name: str) -> int:
    """Make the teacher, or give a new password, after asking for it; 0 if done."""
    known = User.objects.filter(username=name).exists()
    print(f"A new password for {name}." if known else f"A log-in for {name}.")
    password = getpass.getpass("Password: ")
    if password != getpass.getpass("Once more: "):
        print("The two passwords differ; nothing was changed.")
        return 2
    try:
        set_password(name, password)
    except ValidationError as error:
        print("\n".join(error.messages))
        return 2
    print("Done.")
    return 0


def set_password(name: str, password: str) -> User:
    """ValidationError if the name or the password will not do."""
    user = User.objects.filter(username=name).first() or User(username=name)
    User.username_validator(name)
    validate_password(password, user)
    user.set_password(password)
    user.save()
    second_factor.turn_off(user)  # whoever lost the phone comes in this way
    return user
