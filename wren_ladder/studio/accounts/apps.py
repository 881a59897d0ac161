from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "wren_ladder.studio.accounts"

    def ready(self) -> None:
        from wren_ladder.studio.accounts import log_ins  # noqa: F401 (it listens for log-ins)
