"""Who may do what: one check in front of everything that is served.

Every address belongs to a row of one table: the word a person must hold, and what it is about. An
address without a row is refused to everybody. Until there are accounts the one principal is whoever
sits at this machine, who may do all of it.
"""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Any, Literal
from uuid import UUID

from flask import Flask, current_app, request
from sqlalchemy import Engine

from yonderstat.records import LOCAL, OWNERS, owner_of

from .problems import Problem

Access = Literal["open", "read", "edit"]
About = Literal["nothing", "each site", "club", "a site"]
"""What an operation is about: what it is sent, and nothing that is kept; every site, of which it
shows those one may see; what belongs to the whole club; or the site of the thing its address names.
"""
RANK = {"open": 0, "read": 1, "edit": 2}
WHO, RULES = "YONDERSTAT_PRINCIPAL", "YONDERSTAT_ACCESS"


@dataclass(frozen=True, slots=True)
class Rule:
    """What is asked of whoever uses an address."""

    access: Access
    about: About
    thing: str = ""
    """What its address calls the thing whose site it is about."""


@dataclass(frozen=True, slots=True)
class Principal:
    """Somebody who asks, with the words he holds. `everywhere` counts at every site and for what is
    the club's."""

    id: str
    everywhere: Access = "open"
    at_sites: Mapping[UUID, Access] | None = None

    def may(self, access: Access, site_id: UUID | None = None) -> bool:
        """Whether he holds a word at a site, or for the club."""
        own = (self.at_sites or {}).get(site_id, "open") if site_id is not None else "open"
        return max(RANK[own], RANK[self.everywhere]) >= RANK[access]

    @property
    def readable_sites(self) -> frozenset[UUID] | None:
        """The sites he may see; None for every one there is and will be."""
        if RANK[self.everywhere] >= RANK["read"]:
            return None
        held = (self.at_sites or {}).items()
        return frozenset(site for site, access in held if RANK[access] >= RANK["read"])


OPERATOR = Principal(LOCAL, everywhere="edit")
"""Whoever sits at this machine."""


def principal() -> Principal:
    """Who asks now."""
    who: Callable[[], Principal] = current_app.config[WHO]
    return who()


def rule_of(path: str, access: Access, about: About | None) -> Rule:
    """The rule of an operation: about the site of the first thing its address names, unless said.

    Parameters
    ----------
    path : str
        Its address, with the names of its parts in braces.
    about : About or None
        What it is about, where its address names no thing.

    Raises
    ------
    ValueError
        Where it is not known what it is about.
    """
    named = [part[1:-1] for part in path.split("/") if part.startswith("{")]
    if bool(named) == bool(about) or any(name not in OWNERS for name in named):
        raise ValueError(f"{path}: say what it is about, or name a thing whose site is known")
    return Rule(access, "a site", named[0]) if named else Rule(access, about or "nothing")


def require_read(engine: Engine, called: str, key: UUID) -> None:
    """Refuse what somebody may not see, as if it were not there; for things a body or a query
    names.

    Parameters
    ----------
    called : str
        What an address would call it: `design_id`.
    key : UUID
        Its id.
    """
    asks = principal()
    if not asks.may("read") and not asks.may("read", owner_of(engine, called, key)):
        raise _not_there()


def _not_there() -> Problem:
    return Problem(404, "not-found", "There is nothing here under that name")


def _check(engine: Engine, rule: Rule, parts: Mapping[str, Any]) -> None:
    asks = principal()
    if rule.access == "open" or asks.may(rule.access):
        return
    if rule.about == "a site":
        site_id = owner_of(engine, rule.thing, parts[rule.thing])
        if site_id is not None and asks.may(rule.access, site_id):
            return
        if site_id is None or not asks.may("read", site_id):
            # Whether there is such a thing is not told to whoever may not see it.
            raise _not_there()
    # Reading what is sent along, or the list of one's own sites, takes one site.
    elif rule.about in ("nothing", "each site") and rule.access == "read" and asks.readable_sites:
        return
    raise Problem(403, "not-allowed", "You may not do that here", "Ask whoever keeps this club.")


def register_access(app: Flask, engine: Engine, rules: Iterable[tuple[str, Rule]]) -> None:
    """Put the check in front of every address of an app.

    Parameters
    ----------
    engine : Engine
        Where the sites of things are looked up.
    rules : iterable of tuple[str, Rule]
        The rule of every endpoint, by its name.
    """
    app.config.setdefault(WHO, lambda: OPERATOR)
    app.config[RULES] = dict(rules)

    @app.before_request
    def _allowed() -> None:
        if request.endpoint is None:
            return
        rule = app.config[RULES].get(request.endpoint)
        if rule is None:
            raise Problem(403, "not-allowed", "This address is not open to anybody")
        _check(engine, rule, request.view_args or {})
