"""Long work, done outside the web process by a queue on PostgreSQL."""

from .maps import ask_for_map, run_worker

__all__ = ["ask_for_map", "run_worker"]
