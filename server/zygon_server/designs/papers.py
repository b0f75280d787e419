"""Papers of a design: what is seen of its solids is worked out in a process apart and kept by its digest; what is set about that follows at once."""

from __future__ import annotations

from collections.abc import Sequence

from zygon.errors import ZygonError
from zygon.memo import Memo
from zygon.nest.design import StockNest
from zygon.paper.compose import asked_for, make
from zygon.paper.hidden import Asked, Seen, look_at_all
from zygon.paper.ink import Paper
from zygon.paper.kept_pictures import Pictures
from zygon.paper.out.files import paper_files
from zygon.paper.subjects import Subject, said_of, subjects
from zygon_server.apart import WRITE_SECONDS, apart
from zygon_server.designs.models import Design
from zygon_server.designs.service import Head
from zygon_server.errors import NotFound, Refused

__all__ = ["every_paper", "papers_of", "pictures_of", "set_for_archive"]

#: Views that were seen, of all designs; one of a hive is some 100 kB.
_SEEN = Memo(600)
#: Views of so many things are looked at in a process of their own memory.
MEGABYTES = 1500


def pictures_of(design: Design, head: Head) -> Pictures:
    """The pictures that stand on the papers, as they are kept with the design."""
    wanted = {p for p in (head.document.papers.logo, head.document.papers.picture) if p}
    return {p.digest: bytes(p.data) for p in design.pictures.filter(digest__in=wanted)} if wanted else {}


def papers_of(design: Design, head: Head, nests: Sequence[StockNest], subject: str) -> list[Paper]:
    """The pages of one sheet. NotFound where the design has no such sheet; Refused where its views take too long."""
    found = subjects(head.built, nests, out=True)
    kept = [s for s in found if not said_of(head.built, s).out]
    one = next((s for s in found if s.id == subject), None)
    if one is None:
        raise NotFound("There is no such sheet.")
    place = next((f"{n} of {len(kept)}" for n, s in enumerate(kept, 1) if s.id == subject), "")
    return _made(head, one, place, pictures_of(design, head))


def every_paper(design: Design, head: Head, nests: Sequence[StockNest]) -> list[Paper]:
    """The whole set. Raises ZygonError where there is nothing to draw."""
    found = subjects(head.built, nests)
    if not found:
        raise ZygonError("There is nothing to draw", code="no_sheet", rule="a design with at least one part")
    _look([a for s in found for a in asked_for(head.built, s).values()])
    pictures = pictures_of(design, head)
    return [p for n, s in enumerate(found, 1) for p in _made(head, s, f"{n} of {len(found)}", pictures)]


def set_for_archive(design: Design, head: Head, nests: Sequence[StockNest]) -> dict[str, bytes]:
    """The set as one PDF by its name, for an archive of everything; a sentence in a file where it cannot be drawn, so that the rest leaves all the same."""
    if not subjects(head.built, nests):
        return {}
    try:
        return paper_files(every_paper(design, head, nests), head.document.name, "pdf")
    except (ZygonError, Refused) as error:
        return {"PAPERS-NOT-WRITTEN.txt": f"{error.message}\n".encode()}


def _made(head: Head, subject: Subject, place: str, pictures: Pictures) -> list[Paper]:
    seen = _look(list(asked_for(head.built, subject).values()))
    return make(head.built, subject, lambda a: seen[a.digest], place, head.problems, pictures)


def _look(asked: Sequence[Asked]) -> dict[str, Seen]:
    """What is seen, by the digests of what was asked."""
    found: dict[str, Seen] = {a.digest: known for a in asked if (known := _SEEN.known(a.digest)) is not None}
    wanted = {a.digest: a for a in asked if a.digest not in found}
    if wanted:
        made = apart(look_at_all, list(wanted.values()), what="The drawing", writes=True, seconds=WRITE_SECONDS, megabytes=MEGABYTES)
        for key, seen in zip(wanted, made, strict=True):
            _SEEN.put(key, seen)
            found[key] = seen
    return found
