"""Bringing older job files up to the present format, one step a format."""

import re
from collections.abc import Callable, Sequence
from importlib.resources import files
from typing import Any

import msgspec

Body = dict[str, Any]
KEPT_WITH_NEXT = ("headline", "standfirst", "crosshead", "byline", "subhead")
COVER_ROLES = ("masthead", "cover line", "strong line", "cover note", "spine")


def _cover_of_blocks(body: Body) -> Body:
    """1 to 2: the cover's one picture becomes a block, and the type sheet gains the roles of covers."""
    cover = dict(body.get("cover", {}))
    picture, over = cover.pop("picture", ""), cover.pop("over", "front")
    focus = {name: cover.pop(name, 0.5) for name in ("focus_x", "focus_y")}
    if picture:
        bleed = {"kind": "bleed"}
        block = {
            "id": "cover1",
            "left": bleed if over == "wrap" else {"kind": "fold"},
            "top": bleed,
            "right": {"kind": "bleed", "facing": True} if over == "wrap" else bleed,
            "bottom": bleed,
            "holds": {"type": "picture", "picture": picture, **focus},
        }
        cover["back" if over == "wrap" else "front"] = [block]
    return {**body, "cover": cover, "roles": [*body["roles"], *_lacking_roles(body, COVER_ROLES)]}


def _lacking_roles(body: Body, wanted: Sequence[str]) -> list[Body]:
    shared = msgspec.json.decode(files("half_fold.data").joinpath("kinds/shared.json").read_bytes())
    have = {role["name"] for role in body["roles"]}
    return [role for role in shared["roles"] if role["name"] in wanted and role["name"] not in have]


def _as_it_is(body: Body) -> Body:
    """2 to 3: papers, bindings, sections, dummies and printers' sheets are new, and all may be left out."""
    return body


def _furniture_in_pieces(body: Body) -> Body:
    """3 to 4: folio and running feet become pieces of furniture; headings say themselves that they keep with text."""
    masters = [_with_pieces(dict(master)) for master in body["masters"]]
    roles = [{**role, "keep_next": role["name"] in KEPT_WITH_NEXT} for role in body["roles"]]
    return {**body, "masters": masters, "roles": roles}


def _with_pieces(master: Body) -> Body:
    folio, left, right = master.pop("folio", True), master.pop("foot_left", ""), master.pop("foot_right", "")
    pieces = [{"id": "f1", "words": "{folio}", "role": "folio"}] if folio else []
    pieces += [{"id": "f2", "pages": "left", "words": left}] if left else []
    pieces += [{"id": "f3", "pages": "right", "words": right}] if right else []
    return {**master, "furniture": pieces}


def _with_notes(body: Body) -> Body:
    """4 to 5: notes of texts have a role; what else is new may be left out."""
    notes = [role for role in _lacking_roles(body, ["note"]) if any(r["name"] == "body" for r in body["roles"])]
    stated = [{**role, "own": [name for name in role if name not in ("name", "label", "based_on")]} for role in notes]
    return {**body, "roles": [*body["roles"], *stated]}


def _edges_of_panels(body: Body) -> Body:
    """5 to 6: a panel that was only stroked has an edge and no ink; what else is new may be left out."""
    return _with_holds(body, _with_edge)


def _with_holds(body: Body, change: Callable[[Body], Body]) -> Body:
    """With what every block holds changed, on pages, on those that wait, and on the cover."""

    def changed(blocks: Any) -> Any:
        if not isinstance(blocks, list):
            return blocks
        return [{**each, "holds": change(each["holds"])} if isinstance(each, dict) else each for each in blocks]

    pages = {
        name: [{**page, "blocks": changed(page.get("blocks", []))} for page in body.get(name, [])]
        for name in ("pages", "unplaced")
    }
    cover = {"cover": {name: changed(value) for name, value in body["cover"].items()}} if "cover" in body else {}
    return {**body, **pages, **cover}


def _with_edge(holds: Body) -> Body:
    if holds.get("type") != "panel" or "stroke" not in holds:
        return holds
    rest = {name: value for name, value in holds.items() if name not in ("stroke", "ink", "tint")}
    inked: Body = {name: holds[name] for name in ("ink", "tint") if name in holds}
    if holds["stroke"] is None:
        return {**rest, **inked}
    return {**rest, "ink": "", "edge": {"weight": holds["stroke"], **inked}}


def _forms_of_panels(body: Body) -> Body:
    """6 to 7: a panel's outline stands in a form of its own, and a stroke says its ink; the rest is left out."""
    return _with_holds(body, _with_form)


def _with_form(holds: Body) -> Body:
    if holds.get("type") != "panel":
        return holds
    if holds.get("edge"):
        holds = {**holds, "edge": {"ink": "black", **holds["edge"]}}
    if not {"shape", "corner"} & set(holds):
        return holds
    form = {new: holds[old] for old, new in (("shape", "kind"), ("corner", "corner")) if old in holds}
    return {**{name: value for name, value in holds.items() if name not in ("shape", "corner")}, "form": form}


def _things_in_places(body: Body) -> Body:
    """7 to 8: pages and covers hold things, of which a block is one kind, and its edges stand in its place."""
    pages = {
        name: [
            {**{key: value for key, value in page.items() if key != "blocks"}, "things": _in_places(page)}
            for page in body.get(name, [])
        ]
        for name in ("pages", "unplaced")
    }
    if "cover" not in body:
        return {**body, **pages}
    sides = {
        name: [_in_place(block) for block in value] if isinstance(value, list) else value
        for name, value in body["cover"].items()
    }
    return {**body, **pages, "cover": sides}


def _in_places(page: Body) -> list[Body]:
    return [_in_place(block) for block in page.get("blocks", [])]


def _in_place(block: Body) -> Body:
    edges = ("left", "top", "right", "bottom")
    place = {"type": "held", **{edge: block[edge] for edge in edges}}
    return {"type": "block", "place": place, **{name: value for name, value in block.items() if name not in edges}}


def _unit_of_pixels(body: Body) -> Body:
    """15 to 16: a unit of pixels says how many go to the inch, as the trim was typed; what else is new is left out."""
    brief = body["brief"]
    if brief.get("unit") != "px":
        return body
    found = re.search(r"@\s*([\d.]+)", f"{brief['width']} {brief['height']}")
    return {**body, "brief": {**brief, "unit": f"px@{found[1] if found else 300}"}}


def _case_and_figures(body: Body) -> Body:
    """17 to 18: a role says of capitals one thing, and of figures; the outline of a look is the first of its lines."""
    looks = [_with_contours(dict(look)) for look in body.get("looks", ())]
    return {**body, "roles": [_with_choices(dict(role)) for role in body["roles"]], "looks": looks}


def _with_contours(look: Body) -> Body:
    weight, ink = look.pop("outline", None), look.pop("outline_ink", "")
    return look if weight is None else {**look, "contours": [{"weight": weight, "ink": ink}]}


_NOW = {"capitals": "case", "small_caps": "case", "old_figures": "figures", "tabular": "figures"}


def _with_choices(role: Body) -> Body:
    said = {name: bool(role.pop(name)) for name in _NOW if name in role}
    if not said:
        return role
    case = "capitals" if said.get("capitals") else "small capitals" if said.get("small_caps") else "as typed"
    figures = (("tabular", said.get("tabular")), ("old style", said.get("old_figures")))
    if role.get("own"):
        role["own"] = list(dict.fromkeys(_NOW.get(name, name) for name in role["own"]))
    return {**role, "case": case, "figures": " ".join(words for words, on in figures if on)}


_STEPS: dict[int, Callable[[Body], Body]] = {
    1: _cover_of_blocks,
    2: _as_it_is,
    3: _furniture_in_pieces,
    4: _with_notes,
    5: _edges_of_panels,
    6: _forms_of_panels,
    7: _things_in_places,
    8: _as_it_is,
    9: _as_it_is,
    10: _as_it_is,
    11: _as_it_is,
    12: _as_it_is,
    13: _as_it_is,
    14: _as_it_is,
    15: _unit_of_pixels,
    16: _as_it_is,
    17: _case_and_figures,
    18: _as_it_is,
}


def upgraded(body: bytes, written_in: int, now: int) -> bytes:
    """The publication's JSON as format ``now`` has it. KeyError or TypeError where it is not what it should be."""
    if written_in >= now:
        return body
    content = msgspec.json.decode(body)
    for step in range(written_in, now):
        content = _STEPS[step](content)
    return msgspec.json.encode(content)
