"""How each station stands, in a few words and a tone: what the docket says under its name."""

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.spine import spine
from half_fold.core.brief.wrap import has_cover, wrap_width
from half_fold.core.checks.finding import summary, to_look_at, would_stop
from half_fold.core.cover.spine_text import spine_text
from half_fold.core.measure.length import counted, figure
from half_fold.core.plan.bound import binding_report
from half_fold.core.spread.running.states import pages_laid
from half_fold.core.spread.where.frames import page_frame_of
from half_fold.desk.docket import MADE_ELSEWHERE
from half_fold.desk.session import Session
from half_fold.desk.theme import tokens

Standing = tuple[str, str]


def brief_stands(session: Session) -> Standing:
    """The spine, and the wrap where there is one."""
    panel, wrap = spine(session.publication), wrap_width(session.publication)
    words = f"spine {panel.to(session.unit).text}" if panel is not None else "no spine"
    return f"{words}, wrap {wrap.to(session.unit).number}" if wrap is not None else words, tokens.QUIET


def order_stands(session: Session) -> Standing:
    """How many pages there are, and whether they can be bound."""
    report = binding_report(session.publication)
    tone = tokens.MADDER if report.stops_press else tokens.OCHRE_TEXT if report.sentence else tokens.QUIET
    if _is_made_elsewhere(session):
        return MADE_ELSEWHERE, tone
    return counted(len(session.publication.pages), "page") + (", cannot be bound" if report.stops_press else ""), tone


def grid_stands(session: Session) -> Standing:
    """The fields of the page in view, and whether their feet land on its baselines."""
    if _is_made_elsewhere(session):
        return MADE_ELSEWHERE, tokens.QUIET
    frame = page_frame_of(session.publication, session.view.page)
    words = f"{len(frame.columns)} × {len(frame.rows)} fields, {figure(frame.baselines.step)} pt"
    return (words, tokens.QUIET) if frame.lands else (f"{words}, fields off the baseline", tokens.OCHRE_TEXT)


def spreads_stand(session: Session) -> Standing:
    """How many pages have something on them."""
    count, laid = len(session.publication.pages), len(pages_laid(session.publication))
    words = f"{laid} of {counted(count, 'page')} laid"
    return MADE_ELSEWHERE if _is_made_elsewhere(session) else words, tokens.QUIET


def cover_stands(session: Session) -> Standing:
    """What was found on the cover, or the spine's words."""
    if not has_cover(session.publication):
        return "the text is its own cover", tokens.QUIET
    found = [finding for finding in session.findings if finding.side]
    grave, count = would_stop(found), len(would_stop(found)) + len(to_look_at(found))
    if count:
        return f"{count} to look at", tokens.MADDER if grave else tokens.OCHRE_TEXT
    text = spine_text(session.setter.composer, session.publication)
    return "no spine text" if text.absent else f"spine text {figure(text.size, 1)} pt", tokens.QUIET


def checks_stand(session: Session) -> Standing:
    """What was found, once the job was looked through."""
    if not session.is_checked:
        return "looking", tokens.QUIET
    found = session.findings
    tone = tokens.MADDER if would_stop(found) else tokens.OCHRE_TEXT if to_look_at(found) else tokens.QUIET
    return summary(found), tone


def press_stands(session: Session) -> Standing:
    """When the job was pressed last."""
    pressed = session.job.pressed()
    words = f"last pressed {str(pressed[-1].get('when', ''))[:10]}" if pressed else "not pressed yet"
    return words, tokens.QUIET


def _is_made_elsewhere(session: Session) -> bool:
    return bool(binding_named(session.publication.brief.binding).elsewhere)
