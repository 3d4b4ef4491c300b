"""Stories out as Markdown."""

import argparse
from pathlib import Path

from half_fold.commands.jobs import read_job, stories_titled, takes_job
from half_fold.core.measure.problem import Problem
from half_fold.core.store.files import format_path

USAGE = (("text JOB OUT.md [--story TITLE]", "a story, or all of them, as Markdown"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("out", type=Path)
    parser.add_argument("--story", default="")


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.store.atomic import write_whole
    from half_fold.core.store.files import is_text, require_output
    from half_fold.core.typesetting.texts.markdown_out import SUFFIXES, to_markdown
    from half_fold.core.typesetting.texts.reading import role_table

    if asked.out.suffix.lower() not in SUFFIXES:
        raise Problem(f"“{format_path(asked.out)}” is no text; name a file that ends in {', '.join(SUFFIXES)}.")
    publication = read_job(asked.job).publication
    stories = stories_titled(publication, asked.story)
    parts = [to_markdown(story.paragraphs, role_table(publication)) for story in stories]
    require_output(asked.out, is_text)
    write_whole(asked.out, "\n".join(text for text, _ in parts).encode())
    print("\n".join([str(asked.out), *dict.fromkeys(note for _, notes in parts for note in notes)]))
    return 0
