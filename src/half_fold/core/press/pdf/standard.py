"""What PDF/X-4 (ISO 15930-7) asks of a file: output intent, metadata, identity."""

import uuid
import zlib
from datetime import UTC, datetime
from html import escape

import pikepdf
from pikepdf import Array, Dictionary, Name, Stream, String

from half_fold import __version__
from half_fold.core.brief.printers import STANDARD
from half_fold.core.pictures.colour.colour import printing_condition, profile_name

REGISTRY = "http://www.color.org"  # where printing conditions are registered, as ISO 15930 names it
PACKED = 1  # zlib's level: a profile packs hardly better at higher ones, which take four times as long

_CLAIM = f"<pdfxid:GTS_PDFXVersion>{STANDARD}</pdfxid:GTS_PDFXVersion>"
_XMP = """<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:xmp="http://ns.adobe.com/xap/1.0/"
 xmlns:pdf="http://ns.adobe.com/pdf/1.3/" xmlns:xmpMM="http://ns.adobe.com/xap/1.0/mm/"
 xmlns:pdfxid="http://www.npes.org/pdfx/ns/id/">
<dc:format>application/pdf</dc:format>
<dc:title><rdf:Alt><rdf:li xml:lang="x-default">{title}</rdf:li></rdf:Alt></dc:title>
<xmp:CreateDate>{iso}</xmp:CreateDate><xmp:ModifyDate>{iso}</xmp:ModifyDate><xmp:MetadataDate>{iso}</xmp:MetadataDate>
<xmp:CreatorTool>{maker}</xmp:CreatorTool>
<pdf:Producer>{maker}</pdf:Producer><pdf:Trapped>False</pdf:Trapped>
<xmpMM:DocumentID>uuid:{document}</xmpMM:DocumentID>
<xmpMM:InstanceID>uuid:{instance}</xmpMM:InstanceID><xmpMM:VersionID>1</xmpMM:VersionID>
<xmpMM:RenditionClass>default</xmpMM:RenditionClass>
{claim}
</rdf:Description></rdf:RDF></x:xmpmeta>
<?xpacket end="w"?>"""


def intended(pdf: pikepdf.Pdf, profile: bytes) -> pikepdf.Object:
    """The profile as it lies in ``pdf``."""
    packed = zlib.compress(profile, PACKED)
    return pdf.make_indirect(Stream(pdf, packed, Dictionary(N=4, Alternate=Name.DeviceCMYK, Filter=Name.FlateDecode)))


def state_standard(pdf: pikepdf.Pdf, title: str, profile: bytes, lies: pikepdf.Object, for_press: bool = True) -> None:
    """Write output intent, metadata and document information into ``pdf``, where the profile ``lies``.

    Only what is ``for_press`` says that it is of the standard.
    """
    now = datetime.now(UTC).replace(microsecond=0)
    maker = f"Half Fold {__version__}"
    iso = now.strftime("%Y-%m-%dT%H:%M:%SZ")
    claim, made = _CLAIM if for_press else "", {"document": uuid.uuid4(), "instance": uuid.uuid4()}
    xmp = _XMP.format(title=escape(title), iso=iso, maker=maker, claim=claim, **made)
    metadata = Stream(pdf, xmp.encode("utf-8"), Dictionary(Type=Name.Metadata, Subtype=Name.XML))
    pdf.Root.Metadata = pdf.make_indirect(metadata)
    stamp = String(now.strftime("D:%Y%m%d%H%M%SZ"))
    info = Dictionary(
        Title=String(title), Creator=String(maker), Producer=String(maker), CreationDate=stamp, ModDate=stamp
    )
    info["/Trapped"] = Name("/False")
    pdf.trailer.Info = pdf.make_indirect(info)
    name, condition = profile_name(profile), printing_condition(profile)
    intent = Dictionary(
        Type=Name.OutputIntent,
        S=Name("/GTS_PDFX"),
        OutputConditionIdentifier=String(condition or name),
        OutputCondition=String(name),
        Info=String(name),
        DestOutputProfile=lies,
    )
    if condition:
        intent.RegistryName = String(REGISTRY)
    pdf.Root.OutputIntents = Array([pdf.make_indirect(intent)])
