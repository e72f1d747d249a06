"""Archives of notebooks: out and in, and what no archive may do."""

import io
import json
import zipfile
from datetime import UTC, date, datetime, time

import pytest

from lucid_ridge.formats import archive
from lucid_ridge.formats.archive import ArchiveReader, ArchiveWriter
from lucid_ridge.formats.errors import FormatError


def packed(**entries):
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as made:
        for name, content in entries.items():
            made.writestr(
                name.replace("__", "/").replace("_json", ".json"),
                content if isinstance(content, (bytes, str)) else json.dumps(content),
            )
    target.seek(0)
    return target


GOOD = {"format": archive.FORMAT, "version": archive.VERSION}


def test_what_is_written_is_read_and_readable_without_us():
    target = io.BytesIO()
    writer = ArchiveWriter(target)
    file = writer.file("shot/1-picture.jpg", b"\xff\xd8\xffx")
    writer.table(
        "shot",
        [
            {
                "id": 1,
                "name": "Über",
                "on": date(2026, 1, 2),
                "at": datetime(2026, 1, 2, 3, tzinfo=UTC),
                "clock": time(4, 5),
                "picture": file,
            }
        ],
    )
    writer.manifest({"schema": "1"})
    with zipfile.ZipFile(io.BytesIO(target.getvalue())) as plain:
        assert plain.namelist() == ["files/shot/1-picture.jpg", "tables/shot.json", "manifest.json"]
        assert json.loads(plain.read("tables/shot.json"))[0]["name"] == "Über"
        assert json.loads(plain.read("manifest.json"))["tables"] == {"shot": 1}
    reader = ArchiveReader(io.BytesIO(target.getvalue()))
    (row,) = reader.table("shot")
    assert row == {
        "id": 1,
        "name": "Über",
        "on": "2026-01-02",
        "at": "2026-01-02T03:00:00+00:00",
        "clock": "04:05:00",
        "picture": {"file": "files/shot/1-picture.jpg"},
    }
    assert reader.file(row["picture"]) == b"\xff\xd8\xffx"
    assert reader.table("none") == []


@pytest.mark.parametrize(
    ("content", "told"),
    [
        (b"", "no archive"),
        (b"PK\x03\x04 and nothing", "no archive"),
        (packed(notes="x").getvalue(), "lacks manifest.json"),
        (packed(manifest_json="{").getvalue(), "JSON"),
        (packed(manifest_json=[1]).getvalue(), "something else"),
        (packed(manifest_json={"format": "x"}).getvalue(), "does not say so"),
        (packed(manifest_json=GOOD | {"version": 2}).getvalue(), "version 2"),
        (packed(manifest_json="[" * 100_000).getvalue(), "JSON"),
    ],
    ids=["empty", "no zip", "no manifest", "no JSON", "a list", "another format", "another version", "nested"],
)
def test_what_is_no_archive_is_refused(content, told):
    with pytest.raises(FormatError, match=told):
        ArchiveReader(io.BytesIO(content))


def test_rows_and_files_are_what_they_should_be():
    reader = ArchiveReader(packed(manifest_json=GOOD, tables__shot_json=[1], tables__lens_json={"id": 1}))
    for name in ("shot", "lens"):
        with pytest.raises(FormatError):
            reader.table(name)
    for said in (
        None,
        "files/x",
        {"file": "../../etc/passwd"},
        {"file": "/etc/passwd"},
        {"file": 3},
        {"file": "files/none"},
    ):
        with pytest.raises(FormatError):
            reader.file(said)


def test_a_bomb_is_not_unpacked(monkeypatch):
    # A megabyte of zeros packs to a thousandth: the limit counts what comes out, whatever the header says.
    bomb = packed(manifest_json=GOOD, tables__shot_json=b"[" + b" " * 3_000_000 + b"]", files__x=b"\0" * 3_000_000)
    monkeypatch.setattr(archive, "_MOST_TABLE", 1_000_000)
    monkeypatch.setattr(archive, "_MOST_FILE", 1_000_000)
    reader = ArchiveReader(bomb)
    with pytest.raises(FormatError, match="more than is taken"):
        reader.table("shot")
    with pytest.raises(FormatError, match="more than is taken"):
        reader.file({"file": "files/x"})
    monkeypatch.setattr(archive, "_MOST_TABLE", 10_000_000)
    monkeypatch.setattr(archive, "_MOST_ALL", 2_000_000)
    with pytest.raises(FormatError, match="more than is taken"):
        ArchiveReader(bomb).table("shot")
    monkeypatch.setattr(archive, "_MOST_ENTRIES", 2)
    with pytest.raises(FormatError, match="more than 2 entries"):
        ArchiveReader(bomb)


def test_a_damaged_entry_is_refused():
    content = bytearray(packed(manifest_json=GOOD, tables__shot_json=[{"id": 1, "name": "x" * 400}]).getvalue())
    at = content.index(b"tables/shot.json") + 20
    content[at : at + 12] = b"\xff" * 12
    with pytest.raises(FormatError, match=r"damaged|JSON"):
        ArchiveReader(io.BytesIO(bytes(content))).table("shot")
