"""What a drawing refers to pointed to something else, once for all that is said of it; or left where it is."""

from __future__ import annotations

from zygon.design.patch import Patch
from zygon.edits.drawings.draft import Draft, refused
from zygon.making.datums.drawings import fast_words
from zygon.making.result.built import Built

__all__ = ["point_drawn"]

_KINDS = {"line": "a line", "circle": "something round", "point": "a point"}


def point_drawn(built: Built, part: str, feature: str, key: str, to: str) -> tuple[str, Patch]:
    """Label and patch that let a reference follow a candidate, by its id, or stay where it lies now ('').

    All that is said of it holds of the other from then on. Raises DocumentError where there is none such, or it is of another kind.
    """
    draft = Draft(built, part, feature)
    reference = draft.references.get(key)
    if reference is None:
        raise refused(f"The drawing refers to nothing called {key}", "reference", key, "what the drawing refers to")
    words = fast_words(draft.place.values, draft.place.plane, draft.drawing).get(key, "it")
    if not to:
        lies = draft.drawn(solve=False).fast.get(key, tuple(reference.seen))
        still = {"x": None, "y": None, "hole": "", "line": "", "body": "", "seen": [round(x, 6) + 0.0 for x in lies]}
        draft.references[key] = reference.model_copy(update=still)
        return f"Let {words} stay where it is"[:200], draft.patch()
    other = draft.candidate(to)
    if other.kind != reference.kind:
        rule = f"{_KINDS[reference.kind]}, as it was"
        raise refused(f"{words} cannot become {_KINDS[other.kind]}", "to", to, rule)
    draft.references[key] = other.model_copy(update={"order": reference.order})
    called = next((c.words for c in draft.place.candidates() if c.id == to), to)
    return f"Follow {called} in place of {words}"[:200], draft.patch()
