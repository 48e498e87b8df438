"""`python -m yonderstat.reader`: read every site until told to stop."""

import asyncio
import contextlib
import logging
import signal
import sys

from yonderstat.records import database_url

from .polling import Reader, spool_file


async def _until_stopped() -> None:
    task = asyncio.ensure_future(Reader(database_url(), spool_file()).run())
    for sign in (signal.SIGTERM, signal.SIGINT):
        asyncio.get_running_loop().add_signal_handler(sign, task.cancel)
    with contextlib.suppress(asyncio.CancelledError):
        await task


def main() -> int:
    """Run."""
    logging.getLogger("pymodbus").setLevel(logging.CRITICAL)  # what it says of a device stands with the device
    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(levelname)s %(name)s %(message)s")
    asyncio.run(_until_stopped())
    return 0


if __name__ == "__main__":
    sys.exit(main())
