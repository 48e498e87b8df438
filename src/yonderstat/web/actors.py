"""Who asks, as it is kept with what he does."""

from .access import principal


def current_actor() -> str:
    """The actor of the request being served: kept with every stored act, and its create keys are
    its own."""
    return principal().id
