from django import forms
from django.contrib.auth.forms import AuthenticationForm
from django.core.exceptions import ValidationError

from wren_ladder.studio.accounts import second_factor

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
            code = cleaned.get("code", "")
            if not second_factor.is_right(user, code):
                self.user_cache = None
                said = "That code is not right, or was used already: take the next one."
                raise ValidationError(
                    {"code": said if code else "Your app shows a code: type it."}
                )
        return cleaned


class CodeForm(forms.Form):
    code = forms.CharField(label="Code", max_length=20, widget=forms.TextInput(ONE_TIME))


class TurnOffForm(forms.Form):
    password = forms.CharField(
        widget=forms.PasswordInput({"autocomplete": "current-password"}), strip=False
    )
