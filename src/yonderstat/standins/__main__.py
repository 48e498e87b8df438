"""`python -m yonderstat.standins FILE`: the stand-ins a file describes, until told to stop.

The file is JSON: {"control_port": 8474, "state": "standins.json", "stations": [{"name", "design",
"from_at", …}]}.
"""

import asyncio
import json
import signal
import sys
from pathlib import Path

from .living import Station, lived
from .serving import serve


async def _until_stopped(config: dict[str, object]) -> None:
    rows = config["stations"]
    assert isinstance(rows, list)
    stations = [Station(**row) for row in rows]
    loop = asyncio.get_running_loop()
    worked_out = [
        (station, await loop.run_in_executor(None, lived, station)) for station in stations
    ]
    state = config.get("state")
    task = asyncio.ensure_future(
        serve(worked_out, int(str(config["control_port"])), Path(str(state)) if state else None)
    )
    for sign in (signal.SIGTERM, signal.SIGINT):
        loop.add_signal_handler(sign, task.cancel)
    try:
        await task
    except asyncio.CancelledError:
        return


def main() -> int:
    """Run."""
    asyncio.run(_until_stopped(json.loads(Path(sys.argv[1]).read_text(encoding="utf-8"))))
    return 0


if __name__ == "__main__":
    sys.exit(main())
