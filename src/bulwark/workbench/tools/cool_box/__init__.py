"""Cool box and field: ice for the hours, eat-by in the heat, water where no tap is."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.tool import Tool
from bulwark.workbench.tools.cool_box.answer import answer
from bulwark.workbench.tools.cool_box.form import BoxForm

TOOL = Tool(
    slug="box",
    rank=50,
    name=_l("Cool box and field"),
    about=_l("Ice for the hours, eat-by in the heat, water where no tap is."),
    form=BoxForm,
    answer=answer,
)
