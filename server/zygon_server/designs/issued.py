"""Issued sets of papers: the PDF as it left, kept under its revision."""

from __future__ import annotations

from dataclasses import replace

from django.contrib.auth.models import AbstractBaseUser
from django.db import IntegrityError, transaction
from django.utils import timezone

from zygon.paper.letters import missing
from zygon.paper.out.pdf import write_pdf
from zygon_server.designs import papers, service
from zygon_server.designs.models import Design, IssuedSet
from zygon_server.errors import NotFound, Refused
from zygon_server.nesting.layouts import standing
from zygon_server.quotas import may_keep

__all__ = ["find_issued", "issue", "told"]


def issue(user: AbstractBaseUser, design: Design, revision: str) -> IssuedSet:
    """Draws the set with a revision and today's date in its title blocks, and keeps it. Refused where that revision is issued already, or is none."""
    revision = revision.strip()
    letter = missing(revision)
    if not revision or letter:
        rule = "one to ten letters or figures, such as A"
        raise Refused(f"Revision {revision!r}: {rule}", code="bad_revision", entry="revision", value=revision, rule=rule)
    if design.issued.filter(revision=revision).exists():
        raise _twice(revision)
    may_keep(design.owner)
    head = service.head(design)
    said = head.document.papers.model_copy(update={"revision": revision, "date": f"{timezone.now():%Y-%m-%d}", "issued": True})
    # papers change nothing of what is built
    built = replace(head.built, document=head.document.model_copy(update={"papers": said}))
    found = papers.every_paper(design, replace(head, built=built), standing(design, head))
    data = write_pdf(found, f"{head.document.name} {revision}")
    try:
        with transaction.atomic():
            return IssuedSet.objects.create(
                design=design, revision=revision, number=design.revision, sheets=len(found), author=user.get_username(), data=data
            )
    except IntegrityError:
        raise _twice(revision) from None


def _twice(revision: str) -> Refused:
    rule = "each revision is issued once"
    return Refused(f"Revision {revision} is issued already; {rule}.", code="issued", entry="revision", value=revision, rule=rule)


def find_issued(design: Design, revision: str) -> IssuedSet:
    """An issued set by its revision. NotFound where there is none."""
    found = design.issued.filter(revision=revision).first()
    if found is None:
        raise NotFound("No papers were issued with this revision.")
    return found


def told(design: Design) -> list[dict[str, object]]:
    """The issued sets, the newest first; ``stands`` where the design has not changed since."""
    rows = design.issued.defer("data")
    return [
        {"revision": s.revision, "sheets": s.sheets, "by": s.author, "at": s.at.isoformat(), "stands": s.number == design.revision}
        for s in rows
    ]
