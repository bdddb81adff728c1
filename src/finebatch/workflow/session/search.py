"""The search for a better plan, beside the server: it goes on answering meanwhile."""

import logging
import threading
import time
from concurrent.futures import Future, ThreadPoolExecutor

from sqlalchemy.exc import SQLAlchemyError

from finebatch.core.refusal import Refusal
from finebatch.store.database import Database
from finebatch.workflow.session.plans import improve, note

LEFT_AFTER_S = 30.0
"""A page that has not asked for this long has been left: nobody waits for better plans."""

_log = logging.getLogger(__name__)


class Search:
    """One search. It ends when it is done, stopped, or nobody looks any more."""

    def __init__(self, session_id: int) -> None:
        self.session_id = session_id
        self.future: Future[None] | None = None
        self._stopped = threading.Event()
        self._seen = time.monotonic()

    def stop(self) -> None:
        """End it at the next better plan; that one is not kept any more."""
        self._stopped.set()

    def look(self) -> None:
        """Somebody is looking."""
        self._seen = time.monotonic()

    def go_on(self) -> bool:
        """Whether anybody wants better plans."""
        return not self._stopped.is_set() and time.monotonic() - self._seen < LEFT_AFTER_S

    @property
    def running(self) -> bool:
        """Whether it is still looking."""
        return self.future is not None and not self.future.done()


class Searches:
    """The searches of one data file, one at a time: a new one stops the one before it."""

    def __init__(self, database: Database, seconds: float) -> None:
        self._database, self._seconds = database, seconds
        self._worker = ThreadPoolExecutor(max_workers=1, thread_name_prefix="planner")
        self._latest: Search | None = None

    def begin(self, session_id: int) -> None:
        """Look for better plans of that session."""
        self.stop()
        search = Search(session_id)
        search.future = self._worker.submit(self._run, search)
        self._latest = search

    def _run(self, search: Search) -> None:
        if not search.go_on():
            return
        try:
            improve(self._database, search.session_id, self._seconds, search.go_on)
        except Refusal as refusal:
            # The quick plan stands, and says what it does not keep.
            note(self._database, search.session_id, refusal.faults[0].message)
        except SQLAlchemyError as error:
            _log.warning("The search for a better plan ended early: %s", error)
        except Exception:
            # The plan so far stands; what is wrong in the planner is not lost in a thread.
            _log.exception("The search for a better plan went wrong")

    def stop(self) -> None:
        """End the search; the best plan so far stands."""
        if self._latest is not None:
            self._latest.stop()

    def searching(self) -> int | None:
        """The session of which better plans are being looked for; asking counts as looking.

        Ask before reading the plan: what is read after "none" is the last plan of the search.
        """
        latest = self._latest
        if latest is None:
            return None
        latest.look()
        return latest.session_id if latest.running and latest.go_on() else None

    def settle(self, timeout_s: float) -> None:
        """End the search and wait until it has; `TimeoutError` where it does not in time."""
        self.stop()
        if self._latest is not None and self._latest.future is not None:
            self._latest.future.result(timeout_s)

    def close(self) -> None:
        """End all searches."""
        self.stop()
        self._worker.shutdown(wait=True, cancel_futures=True)
