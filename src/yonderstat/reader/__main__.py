"""`python -m yonderstat.reader`: read every site until told to stop."""

import logging
import sys

from yonderstat.records import database_url

from .polling import run_reader


def main() -> int:
    """Run."""
    logging.basicConfig(
        level=logging.WARNING, format="%(asctime)s %(levelname)s %(name)s %(message)s"
    )
    run_reader(database_url())
    return 0


if __name__ == "__main__":
    sys.exit(main())
