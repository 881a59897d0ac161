from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "wren_ladder.studio.accounts"

    def ready(self) -> None:
        # They listen for log-ins.
        from wren_ladder.studio.accounts import journal, log_ins  # noqa: F401
