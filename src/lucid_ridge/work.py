"""The kinds of jobs, and the worker that carries them out."""

from __future__ import annotations

from sqlalchemy.orm import Session, sessionmaker

from .api.light.present.outlook import outlook_content
from .api.shots.present.miniatures import draw_miniature
from .operations.accounts.photographers import local_photographer
from .operations.notebook.kept_outlooks import OUTLOOK, carry_out_outlook
from .operations.notebook.pages import NOTEBOOK, renew_all
from .operations.places.skylines import SKYLINE, carry_out_skyline
from .operations.platform.worker import Task, Worker

TASKS: dict[str, Task] = {
    NOTEBOOK: lambda sessions, owner_id, _arguments, tell: renew_all(sessions, owner_id, draw_miniature, tell),
    SKYLINE: carry_out_skyline,
    OUTLOOK: lambda sessions, owner_id, arguments, tell: carry_out_outlook(
        sessions, owner_id, arguments, tell, outlook_content
    ),
}


def plan_notebook(sessions: sessionmaker[Session]) -> None:
    """Plan the notebook's shots with their pictures now, so that the first visitor need not wait."""
    with sessions() as session:
        owner_id = local_photographer(session).id
    renew_all(sessions, owner_id, draw_miniature, lambda _share: True)


def make_worker(sessions: sessionmaker[Session]) -> Worker:
    """Return a worker for all jobs; it begins when it is started."""
    return Worker(sessions, TASKS)
