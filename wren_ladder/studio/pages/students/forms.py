"""The form of a student who is there already."""

from wren_ladder.studio.pages.two_tabs import OpenInTwoTabs
from wren_ladder.studio.students.forms import StudentForm


class EditStudentForm(OpenInTwoTabs, StudentForm):
    """It may be open in two tabs."""
