"""Grids that work out."""

import argparse
import json

from half_fold.commands.jobs import read_job, takes_job

USAGE = (("grids JOB [--master NAME] [--json]", "grids that work out, the nearest to the present one first"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("--master", default="")
    parser.add_argument("--json", action="store_true")


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.grid.solver import solve
    from half_fold.core.measure.length import figure
    from half_fold.core.publication.surgery import master_named

    publication = read_job(asked.job).publication
    found = solve(publication, master_named(publication, asked.master or publication.masters[0].name))
    rows = [
        {
            "name": each.name,
            "how": each.how,
            "departure": each.departure,
            **{margin: getattr(each.grid, margin).mm for margin in ("inside", "head", "outside", "foot", "gutter")},
            "columns": each.grid.columns,
            "rows": each.grid.rows,
            "row_gap": each.grid.row_gap,
            "lines": each.lines,
            "lines_per_field": each.lines_per_field,
            "column": each.column,
        }
        for each in found
    ]
    if asked.json:
        print(json.dumps(rows, ensure_ascii=False))
        return 0
    for row in rows:
        margins = " ".join(f"{figure(row[name])}" for name in ("inside", "head", "outside", "foot"))
        fields = f"{row['columns']} × {row['rows']} fields of {row['lines_per_field']} lines"
        print(f"{row['name']:22} {margins:28} {fields:28} {figure(row['departure'], 1)} mm away")
    return 0
