"""First designs for new sites: the cheapest that holds there, of sizes that are sold."""

from .proposal import propose
from .starting import starting_design

__all__ = ["propose", "starting_design"]
