"""What only one process may do at a time, whoever they are: a lock the database holds as long as
its holder lives."""

import contextlib

from sqlalchemy import Connection, Engine, func, select
from sqlalchemy.exc import SQLAlchemyError


class Lease:
    """A word only one process holds. It is free again once its holder's connection ends, however
    that ends."""

    def __init__(self, engine: Engine, word: str) -> None:
        self._engine, self._word = engine, word
        self._connection: Connection | None = None

    def hold(self) -> bool:
        """Take it, or keep it; whether it is ours now."""
        if self._connection is not None:
            try:
                self._connection.execute(select(1))
                return True
            except SQLAlchemyError:
                self.let_go()
        connection = self._engine.connect().execution_options(isolation_level="AUTOCOMMIT")
        if connection.scalar(select(func.pg_try_advisory_lock(func.hashtext(self._word)))):
            self._connection = connection
            return True
        connection.close()
        return False

    def let_go(self) -> None:
        """Give it back."""
        if self._connection is not None:
            # Unlocked by name: a server notices a closed connection only some time after it was
            # closed.
            # The pool must not hand a connection on that may still hold the lock, so it is closed
            # all the same.
            with contextlib.suppress(SQLAlchemyError):
                self._connection.scalar(select(func.pg_advisory_unlock(func.hashtext(self._word))))
            with contextlib.suppress(SQLAlchemyError):
                self._connection.invalidate()
                self._connection.close()
            self._connection = None
