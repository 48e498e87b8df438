"""Compile the kernels before anybody waits for them, and say how far it is; run by the set-up."""

import sys

from numba.core import event
from numba.core.dispatcher import Dispatcher

from yonderstat.core import warm_up

OURS = "yonderstat.core"


def name_of(kernel: Dispatcher) -> str:
    """A function's name with its module's."""
    return f"{kernel.py_func.__module__}.{kernel.py_func.__qualname__}"


def kernels() -> set[str]:
    """The names of our functions that are compiled by themselves, not as a part of others."""
    modules = [module for name, module in sorted(sys.modules.items()) if name.startswith(OURS)]
    found = (
        item for module in modules for item in vars(module).values() if isinstance(item, Dispatcher)
    )
    return {name_of(item) for item in found if item.targetoptions.get("inline", "never") == "never"}


class Teller(event.Listener):
    """Says each kernel as it is compiled; one that the cache already holds is not compiled."""

    def __init__(self, all_of_them: set[str]) -> None:
        self.all, self.begun = all_of_them, set[str]()

    def on_start(self, event: event.Event) -> None:
        """A kernel is begun; the library's own small ones, and other forms of the same, are not
        counted."""
        name = name_of(event.data["dispatcher"])
        if name in self.all - self.begun:
            self.begun.add(name)
            print(
                (
                    f"Compiling {len(self.begun)} of {len(self.all)}: "
                    f"{name.removeprefix(OURS + '.')}"
                ),
                flush=True,
            )

    def on_end(self, event: event.Event) -> None:
        """A kernel is done: nothing to say."""


def main() -> int:
    """Compile what is not compiled yet."""
    teller = Teller(kernels())
    with event.install_listener("numba:compile", teller):
        warm_up()
    return 0


if __name__ == "__main__":
    sys.exit(main())
