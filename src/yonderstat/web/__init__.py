"""The web face of Yonderstat: the API and the built interface."""

from .app import all_operations, create_app

__all__ = ["all_operations", "create_app"]
