"""Templates of papers: how a workshop's papers look, kept from a design with its logo, and taken by others."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.utils.text import slugify

from zygon.design.document import Document
from zygon.design.papers import PaperLook, Papers, PaperTemplate
from zygon.design.upgrade import load
from zygon.edits.papers import take_look
from zygon_server.designs import service
from zygon_server.designs.models import Design, Picture
from zygon_server.errors import NotFound, Refused
from zygon_server.quotas import may_keep
from zygon_server.workshop.models import PaperTemplate as Template

__all__ = ["create", "keep", "remove", "take", "told"]

#: A workshop keeps no more.
MOST = 50


def told(user: AbstractBaseUser) -> list[dict[str, Any]]:
    """A maker's templates in the order of their keys."""
    return [{"key": t.key, "name": t.data["name"], "always": t.data.get("always", False)} for t in Template.objects.filter(owner=user)]


def keep(user: AbstractBaseUser, design: Design, name: str, *, always: bool) -> None:
    """Keeps how a design's papers look. Refused where the name has no letter, or there are too many; one that new designs begin with replaces the last."""
    key = slugify(name)[:40]
    if not key:
        rule = "at least a letter from a to z or a figure"
        raise Refused(f"A template's name has {rule}.", code="bad_name", entry="name", value=name, rule=rule)
    own = Template.objects.filter(owner=user)
    if not own.filter(key=key).exists() and own.count() >= MOST:
        rule = f"at most {MOST} templates in a workshop"
        raise Refused(f"There is no room for another template: {rule}.", code="too_many", entry="name", value=name, rule=rule)
    may_keep(user)
    papers = load(design.document).papers
    look = {f: getattr(papers, f) for f in PaperLook.model_fields}
    picture = design.pictures.filter(digest=papers.logo).first() if papers.logo else None
    if picture is None:
        look["logo"] = ""
    record = PaperTemplate(name=name.strip(), always=always, **look)
    if always:
        for other in own.exclude(key=key):
            if other.data.get("always"):
                other.data = {**other.data, "always": False}
                other.save(update_fields=["data"])
    kept = {
        "data": record.model_dump(mode="json"),
        "media": picture.media if picture else "",
        "logo": bytes(picture.data) if picture else b"",
    }
    Template.objects.update_or_create(owner=user, key=key, defaults=kept)


def remove(user: AbstractBaseUser, key: str) -> None:
    """Removes a template. NotFound where there is none."""
    deleted, _ = Template.objects.filter(owner=user, key=key).delete()
    if not deleted:
        raise NotFound(f"There is no template {key}.")


def take(user: AbstractBaseUser, design: Design, key: str) -> tuple[str, list[dict[str, Any]]]:
    """Label and patch of the edit that lets a design's papers look as a template; its logo is kept with the design. NotFound where there is none."""
    found = Template.objects.filter(owner=user, key=key).first()
    if found is None:
        raise NotFound(f"There is no template {key}.")
    record = PaperTemplate.model_validate(found.data)
    _keep_logo(design, record, found)
    return take_look(load(design.document), record, record.name)


def create(user: AbstractBaseUser, document: Document) -> Design:
    """Keeps a new design with the papers that its maker's designs begin with; one that says anything of its papers stays as it is."""
    found = next((t for t in Template.objects.filter(owner=user) if t.data.get("always")), None)
    if found is None or document.papers != Papers():
        return service.create(user, document)
    record = PaperTemplate.model_validate(found.data)
    look = {f: getattr(record, f) for f in PaperLook.model_fields}
    design = service.create(user, document.model_copy(update={"papers": document.papers.model_copy(update=look)}))
    _keep_logo(design, record, found)
    return design


def _keep_logo(design: Design, record: PaperTemplate, found: Template) -> None:
    if record.logo and found.media:
        may_keep(design.owner)
        Picture.objects.get_or_create(design=design, digest=record.logo, defaults={"media": found.media, "data": bytes(found.logo)})
