"""Saving what a command made of a job."""

from half_fold.core.editing.door import edited
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.job import Job


def save(job: Job, publication: Publication, setter: Setter | None = None) -> None:
    """Save the job as a command made it, with all that follows from that, as in the window. Problem where it cannot be.

    A ``setter`` that has set the job already spares setting it again.
    """
    job.save(edited(job.publication, lambda _: publication, job.pictures, setter or Setter()))
