"""What reports from a site: devices and their channels."""

from uuid import UUID

from sqlalchemy import Engine

from yonderstat.records import Device, Devices

from .actors import current_actor
from .api import Api, model_fault
from .bodies import NewDevice


def devices_api(engine: Engine) -> Api:
    """The operations on devices."""
    api, devices = Api(), Devices(engine)

    @api.operation("GET", "/api/sites/{site_id}/devices", access="read", answer=list[Device])
    def list_devices(site_id: UUID) -> list[Device]:
        """The devices of a site, oldest first."""
        return devices.at(site_id)

    @api.operation(
        "POST", "/api/sites/{site_id}/devices", access="edit", body=NewDevice, answer=Device
    )
    def add_device(site_id: UUID, body: NewDevice) -> Device:
        """A device that is read at a site, with the quantities it reads."""
        channels = [(item.quantity, item.unit) for item in body.channels]
        try:
            return devices.add(site_id, body.name, body.kind, channels, current_actor())
        except ValueError as error:
            raise model_fault("/channels", str(error)) from None

    @api.operation("DELETE", "/api/devices/{device_id}", access="edit", status=204)
    def remove_device(device_id: UUID) -> None:
        """Take a device away, with its channels."""
        devices.remove(device_id)

    return api
