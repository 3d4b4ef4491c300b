"""The job file: UTF-8 JSON with a format number. Described in docs/format.md."""

from typing import Any

import msgspec
from msgspec import Struct

from half_fold.core.measure.length import Length, length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.publication.validity import require_valid
from half_fold.core.store.upgrade import upgraded

FORMAT = 19


def _to_file(value: Any) -> Any:
    if isinstance(value, Length):
        return value.typed
    raise NotImplementedError(type(value))


def _from_file(kind: type, value: Any) -> Any:
    if kind is Length:
        if not isinstance(value, str):
            raise ValueError("a length is written as text, such as “12mm”")
        try:
            return length(value)
        except Problem as problem:
            raise ValueError(str(problem)) from problem
    raise NotImplementedError(kind)


class _File(Struct, frozen=True):
    format: int
    publication: msgspec.Raw


_encoder = msgspec.json.Encoder(enc_hook=_to_file)
_envelope = msgspec.json.Decoder(_File)
_body = msgspec.json.Decoder(Publication, dec_hook=_from_file)


def decode_as(kind: type[Any], content: bytes) -> Any:
    """Records of ``kind`` from JSON, lengths included; msgspec's ValidationError where they do not fit."""
    return msgspec.json.decode(content, type=kind, dec_hook=_from_file)


def encoded(record: Struct) -> bytes:
    """A record as JSON, lengths as typed."""
    return _encoder.encode(record)


def encode(publication: Publication) -> bytes:
    """The whole job file."""
    body = _encoder.encode(publication)
    return msgspec.json.format(b'{"format":%d,"publication":%b}' % (FORMAT, body), indent=1) + b"\n"


def decode(content: bytes, name: str) -> Publication:
    """The publication in a job file's bytes; Problem says in one sentence what is wrong with the file ``name``."""
    try:
        envelope = _envelope.decode(content)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        raise Problem(
            f"“{name}” is not a whole Half Fold job; open an earlier one from its versions folder."
        ) from error
    if envelope.format > FORMAT:
        raise Problem(
            f"“{name}” was written by a newer Half Fold (format {envelope.format}; this one reads {FORMAT}); "
            "update to open it."
        )
    try:
        publication = _body.decode(upgraded(bytes(envelope.publication), envelope.format, FORMAT))
    except (msgspec.DecodeError, ValueError, KeyError, TypeError, AttributeError, IndexError, RecursionError) as error:
        detail = str(error).splitlines()[0]
        raise Problem(
            f"“{name}” holds something that does not belong in a job ({detail}); open an earlier version."
        ) from error
    require_valid(publication, name)
    return publication
