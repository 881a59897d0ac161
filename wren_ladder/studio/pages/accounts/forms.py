from django import forms
from django.contrib.auth.forms import AuthenticationForm, BaseUserCreationForm
from django.contrib.auth.models import User
from django.contrib.auth.signals import user_login_failed
from django.core.exceptions import ValidationError

from wren_ladder.studio.accounts import second_factor, start_up

ONE_TIME = {"autocomplete": "one-time-code", "inputmode": "text", "spellcheck": "false"}


class LogInForm(AuthenticationForm):
    """Name and password, and a code for those who have turned that on."""

    code = forms.CharField(
        label="Code from your app",
        help_text="Only if you have turned on the second factor.",
        required=False,
        max_length=20,
        widget=forms.TextInput(ONE_TIME),
    )

    def clean(self):
        cleaned = super().clean()
        user = self.get_user()
        if user and second_factor.is_on(user):
            self._check_code(user, cleaned.get("code", ""))
        return cleaned

    def _check_code(self, user: User, code: str) -> None:
        """A wrong one counts as a wrong password does, and stands in the log."""
        if code and second_factor.is_right(user, code):
            return
        self.user_cache = None
        if not code:
            raise ValidationError({"code": "Your app shows a code: type it."})
        user_login_failed.send(
            sender=__name__,
            credentials={"username": user.get_username(), "code": code},
            request=self.request,
        )
        wait = second_factor.seconds_to_wait(user)
        said = "That code is not right, or was used already: take the next one."
        if wait:
            said += f" Codes are looked at again in {wait} second{'s' if wait > 1 else ''}."
        raise ValidationError({"code": said})


class FirstLogInForm(BaseUserCreationForm):
    """The log-in of a new studio's owner; the code stands on the terminal, but for the demo."""

    code = forms.CharField(label="Start-up code", max_length=40)

    def __init__(self, *args, **kwargs) -> None:
        super().__init__(*args, **kwargs)
        if not start_up.start_up_code():
            del self.fields["code"]

    def clean_code(self) -> str:
        if not start_up.is_right(self.cleaned_data["code"]):
            raise ValidationError("That is not the code on the terminal.")
        return self.cleaned_data["code"]


class CodeForm(forms.Form):
    code = forms.CharField(label="Code", max_length=20, widget=forms.TextInput(ONE_TIME))


class TurnOffForm(forms.Form):
    password = forms.CharField(
        widget=forms.PasswordInput({"autocomplete": "current-password"}), strip=False
    )
