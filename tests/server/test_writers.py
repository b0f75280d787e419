"""Four writers at once: nothing is lost, and nobody waits for ever."""

import threading

import pytest
from django.db import connection
from zygon_server.designs import service
from zygon_server.designs.models import Design
from zygon_server.errors import Stale

from tests.server.conftest import text
from zygon.design.starters import starter


@pytest.mark.django_db(transaction=True)
def test_every_edit_of_four_writers_is_in_the_history(django_user_model):
    maker = django_user_model.objects.create_user("many")
    design = service.create(maker, starter("nothing", "Shared"))
    service.commit(design, 1, "start", [{"op": "add", "path": "/sizes/w", "value": {"name": "w", "entry": {"text": "1 mm"}}}], "many")
    failures = []

    def write(n: int) -> None:
        try:
            for i in range(10):
                while True:
                    head = Design.objects.get(pk=design.pk)
                    try:
                        service.commit(head, head.revision, f"{n}.{i}", [text("w", f"{n * 100 + i + 1} mm")], f"writer {n}")
                        break
                    except Stale:
                        continue
        except Exception as error:
            failures.append(error)
        finally:
            connection.close()

    threads = [threading.Thread(target=write, args=(n,)) for n in range(4)]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    assert failures == []
    design = Design.objects.get(pk=design.pk)
    assert design.revision == 42
    labels = list(design.edits.values_list("label", flat=True))
    assert sorted(labels[1:]) == sorted(f"{n}.{i}" for n in range(4) for i in range(10))
    # undoing everything leads back to the beginning, whatever the order was
    for _ in range(41):
        design = service.step_back(design, design.revision, "many")
    assert design.document == starter("nothing", "Shared").dump()
