"""Whatever is done to a file, its reader gives something sound or refuses it in words, and never takes long. The files stand in ``corpus``."""

import math
import time

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from zygon_server.apart import SECONDS, apart
from zygon_server.errors import Refused

from tests.explore import drawn
from tests.fuzz.spoilt import CORPUS, spoilt
from zygon.design.document import Document
from zygon.errors import ZygonError
from zygon.exchange.design_in import read_design
from zygon.exchange.outline_in import drawn_outline
from zygon.exchange.read import read_regions
from zygon.exchange.step import solid_record
from zygon.making.pipeline import build
from zygon.stock.bending import read_bend_table

SEEDS = st.integers(0, 2**32)


def read(name, seed, tmp_path_factory, reader):
    """What a reader makes of a spoilt file; None where it refuses it in words."""
    path = tmp_path_factory.mktemp("fuzz") / name
    path.write_bytes(spoilt((CORPUS / name).read_bytes(), seed))
    began = time.thread_time()
    try:
        return reader(path)
    except ZygonError as error:
        told(error.message, error.rule)
        return None
    finally:
        # the pool that readers run in gives up after this; of small files the dearest takes a tenth of it
        assert time.thread_time() - began < SECONDS / 2


def told(message, rule):
    assert len(message) > 10 and rule and len(message) < 600
    assert "Traceback" not in message and "object at 0x" not in message


@settings(max_examples=drawn(120), deadline=None)
@given(seed=SEEDS, name=st.sampled_from(["part.dxf", "drawn.dxf", "part.svg", "drawn.svg"]))
def test_drawings(seed, name, tmp_path_factory):
    regions = read(name, seed, tmp_path_factory, read_regions)
    for region in regions or ():
        assert region.area > 0 and region.outer.area > 0
        assert all(math.isfinite(x) for c in (region.outer, *region.inner) for p in c.points for x in p)
    record = read(name, seed, tmp_path_factory, drawn_outline)
    assert record is None or record


@settings(max_examples=drawn(80), deadline=None)
@given(seed=SEEDS)
def test_designs(seed, tmp_path_factory):
    document = read("tag.json", seed, tmp_path_factory, read_design)
    if document is not None:
        assert isinstance(document, Document)
        build(document)


@settings(max_examples=drawn(80), deadline=None)
@given(seed=SEEDS)
def test_bend_tables(seed, tmp_path_factory):
    rows = read("bends.csv", seed, tmp_path_factory, read_bend_table)
    for row in rows or ():
        assert all(math.isfinite(x) for x in row.model_dump(exclude_none=True).values()) and row.thickness > 0 and 0 < row.angle < 180


@pytest.mark.parametrize("first", range(0, drawn(6), 2))
def test_solids(first, tmp_path):
    """In a process apart, as the application reads them: the library that does may fall."""
    for seed in (first, first + 1):
        path = tmp_path / f"{seed}.step"
        path.write_bytes(spoilt((CORPUS / "tag.step").read_bytes(), seed))
        try:
            record = apart(solid_record, path, "tag.step", what="tag.step")
        except ZygonError as error:
            told(error.message, error.rule)
        except Refused as error:
            told(error.message, error.more["rule"])
        else:
            assert record


def test_the_files_of_the_corpus_themselves_are_read(tmp_path):
    for name in ("part.dxf", "drawn.dxf", "part.svg", "drawn.svg"):
        assert read_regions(CORPUS / name)
    assert read_design(CORPUS / "tag.json").parts and len(read_bend_table(CORPUS / "bends.csv")) == 3
    assert solid_record(CORPUS / "tag.step", "tag.step")


def test_files_are_spoilt_alike_by_the_same_seed_and_differently_by_others():
    data = (CORPUS / "drawn.svg").read_bytes()
    assert spoilt(data, 7) == spoilt(data, 7)
    assert len({spoilt(data, n) for n in range(40)}) > 35
