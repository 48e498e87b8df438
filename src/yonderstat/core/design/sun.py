"""Step 4, Sun: how the packaged resource is trusted."""

from typing import Literal

from .base import Section

Allowance = Literal["central", "planning", "cautious"]


class Sun(Section):
    allowance: Allowance = "planning"
