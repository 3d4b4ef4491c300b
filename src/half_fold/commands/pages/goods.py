"""The goods of a job, and where they lie."""

import argparse
import json
from pathlib import Path

from half_fold.commands.jobs import opened, save, takes_job

USAGE = (
    ("goods JOB [TABLE.csv|.xlsx]", "the goods and where they lie; a table is taken, and what is new said"),
    ('goods JOB --lay ID --as "3 x 4, 4mm"', "a copy of a block or group for each row, over as many pages as it takes"),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("table", type=Path, nargs="?")
    parser.add_argument("--lay", default="", metavar="ID")
    parser.add_argument("--as", dest="how", default="fill x fill", metavar="REPEAT")
    parser.add_argument("--json", action="store_true")


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.catalogue.laying import laid_rows, lay_goods
    from half_fold.core.catalogue.table import read_goods, take_goods
    from half_fold.core.spread.edits.repeating import parse_repeat

    with opened(asked.job, to_write=asked.table is not None or bool(asked.lay)) as job:
        publication = job.publication
        if asked.table is not None:
            publication, news = take_goods(publication, read_goods(asked.table))
            print(*news, sep="\n") if news else print("Nothing is otherwise.")
        if asked.lay:
            laid = lay_goods(publication, asked.lay, parse_repeat(asked.how, publication.brief.unit))
            publication = laid.publication
            print(laid.words)
        if publication is not job.publication:
            save(job, publication)
            return 0
        rows = publication.goods.rows if publication.goods is not None else ()
        lie = laid_rows(publication)
        if asked.json:
            print(json.dumps([{"row": row[0], "page": lie.get(row[0])} for row in rows], ensure_ascii=False))
            return 0
        for row in rows:
            print(f"{row[0]:20} {f'page {lie[row[0]]}' if row[0] in lie else 'on no page'}")
    return 0
