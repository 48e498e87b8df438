"""The demo: an invented club and its six sites, built through the same doors as a user."""

from .club import build_demo_sites

__all__ = ["build_demo_sites"]
