"""The form of an attempt that is logged already."""

from wren_ladder.studio.climb.forms import AttemptForm
from wren_ladder.studio.pages.two_tabs import OpenInTwoTabs


class EditAttemptForm(OpenInTwoTabs, AttemptForm):
    """It may be open in two tabs."""
