"""The guided tests of a station: which it can be put to, what a result means, and the line the log
keeps."""

from ..station import StationModel
from .guided import KINDS, Procedure, Values
from .meaning import Meaning

UNITS = {
    "amps": " A",
    "volts": " V",
    "hours": " h",
    "amp_hours": " Ah",
    "temperature": " °C",
    "number": "",
}


def procedures_of(station: StationModel) -> tuple[Procedure, ...]:
    """The tests a station can be put to, with what to expect of each."""
    made = (
        Procedure(
            id=key,
            title=kind.title,
            caution=kind.caution,
            steps=kind.steps,
            asks=kind.asks,
            subjects=kind.subjects(station),
        )
        for key, kind in KINDS.items()
    )
    return tuple(procedure for procedure in made if procedure.subjects)


def judged_test(station: StationModel, kind: str, subject: str, values: Values) -> Meaning:
    """What a test's figures mean for a design.

    Parameters
    ----------
    kind : str
        Which guided test.
    subject : str
        What was tested, by its id.
    values : Values
        What was typed in, by field.

    Raises
    ------
    FigureError
        Where a figure is missing, or is none such a test gives.
    """
    return KINDS[kind].judge(station, subject, values)


def line_of_test(kind: str, name: str, values: Values) -> str:
    """The line the log keeps of a test.

    Parameters
    ----------
    kind : str
        Which guided test.
    name : str
        What was tested, as it is called.
    values : Values
        What was typed in, by field.
    """
    told = ", ".join(
        f"{asked.label[0].lower()}{asked.label[1:]} {values[asked.id]:g}{UNITS[asked.dimension]}"
        for asked in KINDS[kind].asks
        if asked.id in values
    )
    return f"{KINDS[kind].title}, {name}: {told}"
