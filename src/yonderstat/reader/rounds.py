"""A round at a site: every device asked at once, and what each of them told."""

import asyncio
import logging
import time
from dataclasses import asdict, dataclass, fields
from typing import Any
from uuid import UUID

from yonderstat.addresses import AddressError, address_of
from yonderstat.records import Endpoint

from .mqtt import read_mqtt
from .sunspec import SunSpecReader
from .telemetry import read_telemetry
from .told import DeviceError, Told, checked

LOG = logging.getLogger(__name__)
Json = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Round:
    """What one round at a site heard, before anything is made of it."""

    site_id: UUID
    asked_s: float
    told: dict[str, Json]
    """By device."""
    trouble: dict[str, str]

    def as_json(self) -> Json:
        """As it waits on disk."""
        return {**asdict(self), "site_id": str(self.site_id)}

    @classmethod
    def from_json(cls, row: Json) -> "Round":
        """As it waited on disk."""
        return cls(UUID(row["site_id"]), float(row["asked_s"]), row["told"], row["trouble"])


class Asking:
    """Asks devices."""

    def __init__(self) -> None:
        self._sunspec = SunSpecReader()

    async def _ask(self, endpoint: Endpoint) -> Told:
        try:
            address = await asyncio.to_thread(address_of, endpoint.host, endpoint.port)
        except AddressError as error:
            raise DeviceError(str(error)) from None
        if endpoint.protocol == "telemetry":
            return checked(await read_telemetry(address, endpoint.port))
        if endpoint.protocol == "mqtt":
            return checked(
                await asyncio.to_thread(read_mqtt, address, endpoint.port, endpoint.topic)
            )
        return checked(await self._sunspec.read(address, endpoint.port, endpoint.unit))

    async def round_at(self, site_id: UUID, endpoints: list[Endpoint]) -> Round:
        """Ask every device of a site at once."""
        answers = await asyncio.gather(
            *(self._ask(one) for one in endpoints), return_exceptions=True
        )
        told, trouble = {}, {}
        for endpoint, answer in zip(endpoints, answers, strict=True):
            if isinstance(answer, Told):
                known = {field.name: getattr(answer, field.name) for field in fields(answer)}
                told[str(endpoint.id)] = {
                    name: value for name, value in known.items() if value is not None
                }
            elif isinstance(answer, DeviceError):
                trouble[str(endpoint.id)] = str(answer)
            elif isinstance(answer, Exception):
                # Whatever a device brings out in us is that device's trouble.
                LOG.error("device %s cannot be read", endpoint.id, exc_info=answer)
                trouble[str(endpoint.id)] = (
                    f"What it says cannot be understood ({type(answer).__name__})"
                )
            else:
                raise answer
        return Round(site_id, time.time(), told, trouble)
