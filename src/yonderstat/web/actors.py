"""Who asks. Until there are people it is whoever sits at this machine."""

from yonderstat.records import LOCAL


def current_actor() -> str:
    """The actor of the request being served: kept on every revision, and its create keys are its
    own."""
    return LOCAL
