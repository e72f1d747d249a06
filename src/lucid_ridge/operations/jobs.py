"""Long work in threads of this process, with progress, and a way to stop it."""

from __future__ import annotations

import itertools
import logging
import threading
from collections.abc import Callable
from dataclasses import dataclass, field

from ..core.errors import InputError
from ..core.light.terrain import Cancelled
from .errors import NotFound

_LOG = logging.getLogger(__name__)
RUNNING, DONE, FAILED, STOPPED = "running", "done", "failed", "stopped"
_KEPT = 50


@dataclass
class Job:
    """state: running, done, failed or stopped; progress 0..1; message: what came of it."""

    id: int
    owner_id: int
    label: str
    subject: str
    state: str = RUNNING
    progress: float = 0.0
    message: str = ""
    _stop: threading.Event = field(default_factory=threading.Event, repr=False)

    def tell(self, progress: float) -> bool:
        """Note the progress; False asks the work to stop."""
        self.progress = progress
        return not self._stop.is_set()

    def stop(self) -> None:
        self._stop.set()

    @property
    def stopping(self) -> bool:
        return self._stop.is_set()


_numbers = itertools.count(1)
_jobs: dict[int, Job] = {}
_lock = threading.Lock()


def start_job(owner_id: int, label: str, subject: str, work: Callable[[Callable[[float], bool]], str]) -> Job:
    """Run work in a thread; it gets a function that takes its progress and answers whether to go on, and returns a sentence.

    Work on the same subject that is still running is returned instead: asked twice, done once.
    """
    with _lock:
        for known in _jobs.values():
            if (known.owner_id, known.subject, known.state) == (owner_id, subject, RUNNING) and not known.stopping:
                return known
        job = Job(next(_numbers), owner_id, label, subject)
        _jobs[job.id] = job
        for old in sorted(_jobs)[:-_KEPT]:
            del _jobs[old]

    def run() -> None:
        try:
            job.message, job.state, job.progress = work(job.tell), DONE, 1.0
        except Cancelled:
            job.message, job.state = "Stopped; nothing was changed.", STOPPED
        except InputError as error:
            job.message, job.state = error.message, FAILED
        except Exception:
            job.message, job.state = "It failed on our side; nothing was changed.", FAILED
            # A thread has nobody to raise to.
            _LOG.exception("job %d, %s", job.id, job.label)

    threading.Thread(target=run, name=f"job {job.id}", daemon=True).start()
    return job


def get_job(owner_id: int, job_id: int) -> Job:
    """Return one of the owner's jobs. Raises NotFound."""
    job = _jobs.get(job_id)
    if job is None or job.owner_id != owner_id:
        raise NotFound("job")
    return job
