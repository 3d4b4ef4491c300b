"""Saving what a command made of a job."""

from half_fold.core.publication.records import Publication
from half_fold.core.spread.compose import Setter
from half_fold.core.spread.contents import followed
from half_fold.core.store.job import Job


def save(job: Job, publication: Publication, setter: Setter | None = None) -> None:
    """Save the job, the folios of its contents as the pages are now, as the window does.

    A ``setter`` that has set the job already spares setting it again.
    """
    job.save(followed(publication, (setter or Setter()).threads))
