"""A title made once for each row of a table: many files, one report; started again it makes only the rest."""

from __future__ import annotations

import csv
import hashlib
import io
import json
import unicodedata
from collections.abc import Callable, Iterator
from pathlib import Path

import msgspec

from rovix.engine.lanes import default_workers
from rovix.engine.row_lanes import NAME, Made, Row, RowLanes, Task, make_row
from rovix.errors import RovixError
from rovix.formats.whole_file import write_whole
from rovix.model.delivery import Delivery
from rovix.model.title import Title

REPORT = "report.json"
replace = msgspec.structs.replace
_MOST = 100_000
_STEM = 60
_SEPARATORS = (",", ";", "\t", "|")


def table_rows(path: Path) -> list[Row]:
    """The rows of a CSV (RFC 4180) with a head; commas, semicolons, tabs or bars part its columns, whichever
    the head has most. A row of more fields than the head is wrong by itself; empty ones are passed over.

    RovixError for a file that is no such table: not UTF-8, without a head, quotes that are not closed.
    """
    try:
        text = path.read_bytes().decode("utf-8-sig")
    except OSError as wrong:
        raise RovixError(f"{path.name} could not be opened: {wrong.strerror}.") from wrong
    except UnicodeDecodeError as wrong:
        raise RovixError(f"{path.name} is not UTF-8 (byte {wrong.start}); save it as UTF-8.") from wrong
    head = text.split("\n", 1)[0]
    reader = csv.reader(
        io.StringIO(text, newline=""), delimiter=max(_SEPARATORS, key=head.count), strict=True
    )
    try:
        return list(_rows(reader, path.name))
    except csv.Error as wrong:
        raise RovixError(f"{path.name}, line {reader.line_num}: {wrong}.") from wrong


def _rows(reader: Iterator[list[str]], name: str) -> Iterator[Row]:
    columns = [column.strip() for column in next(reader, [])]
    if not any(columns):
        raise RovixError(f"{name} has no head; its first row says what each column sets.")
    twice = next((column for n, column in enumerate(columns) if column and column in columns[:n]), None)
    if twice is not None:
        raise RovixError(f"{name} has two columns called '{twice}'.")
    for number, fields in enumerate(reader, start=2):
        if number > _MOST:
            raise RovixError(f"{name} has more than {_MOST:,} rows.")
        if not any(field.strip() for field in fields):
            continue
        values = {column: value for column, value in zip(columns, fields, strict=False) if column}
        more = len(fields) > len(columns) and any(field.strip() for field in fields[len(columns) :])
        said = f"it has {len(fields)} fields, the head {len(columns)}" if more else ""
        yield Row(number, values, said)


def make_rows(
    title: Title, name: str, rows: list[Row], folder: Path, suffix: str, how: Delivery,
    progress: Callable[[int, int], None] | None = None, workers: int | None = None,
) -> list[Made]:  # fmt: skip
    """Write the title of each row into a folder, in the form of a suffix; and what became of each.

    A bad row stops nothing. The report, `report.json` in the folder, is written after each row: what it
    says is there, made of the same, is not made again. Paths of the title's media are absolute. RovixError
    for a folder that cannot be written to."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as wrong:
        raise RovixError(f"{folder} could not be made: {wrong.strerror}.") from wrong
    before = {made.file: made for made in _report(folder)}
    names = _Names()
    made: dict[int, Made] = {}
    todo: list[Task] = []
    for row in rows:
        file = names.of(row, name) + suffix
        digest = _digest(title, row, suffix, how)
        known = before.get(file)
        if known is not None and known.digest == digest and not known.problem and (folder / file).exists():
            made[row.number] = replace(known, row=row.number)
        else:
            todo.append(Task(row, folder / file, digest))
    tell = progress or (lambda done, total: None)
    tell(len(made), len(rows))
    for one in _made(title, todo, how, workers or default_workers(), lambda: tell(len(made), len(rows))):
        if one is not None:
            made[one.row] = one
            _write_report(folder, _in_order(made))
        tell(len(made), len(rows))
    _write_report(folder, _in_order(made))
    return _in_order(made)


def make_rows_job(
    title: Title, name: str, rows: list[Row], folder: Path, suffix: str, how: Delivery,
    progress: Callable[[int, int], None], _: object,
) -> list[Made]:  # fmt: skip
    """:func:`make_rows` as work beside editing."""
    return make_rows(title, name, rows, folder, suffix, how, progress)


def best_title(titles: list[Title], rows: list[Row]) -> int:
    """The number of the title that has the most of a table's columns to set; the first of several."""
    columns = set(rows[0].values) if rows else set()
    fitting = [len(columns & {setting.name for setting in title.settings}) for title in titles]
    return max(range(len(titles)), key=lambda n: (fitting[n], -n), default=0)


def _made(
    title: Title, todo: list[Task], how: Delivery, workers: int, tick: Callable[[], None]
) -> Iterator[Made | None]:
    """A single row has all workers to itself; of several each worker makes one after another."""
    if len(todo) == 1:
        yield make_row(title, todo[0], how, None, workers, tick)
    elif todo:
        yield from RowLanes(title, how, workers).made(todo)


def _in_order(made: dict[int, Made]) -> list[Made]:
    return [made[row] for row in sorted(made)]


class _Names:
    """Names of files, none twice: what a row calls its own, else its first words."""

    def __init__(self) -> None:
        self._taken: set[str] = set()

    def of(self, row: Row, title: str) -> str:
        words = next(
            (value for column, value in row.values.items() if column != NAME and value.strip()), title
        )
        stem = _stem(row.values.get(NAME, "").strip() or words) or f"row-{row.number}"
        made, number = stem, 2
        while made.casefold() in self._taken:
            made, number = f"{stem}-{number}", number + 1
        self._taken.add(made.casefold())
        return made


def _stem(text: str) -> str:
    """Words as the name of a file, in whatever script they are."""
    plain = unicodedata.normalize("NFC", text)
    # Letters, their marks and figures of all scripts.
    whole = "".join(c if unicodedata.category(c)[0] in "LMN" or c in "._-" else " " for c in plain)
    kept = "-".join(whole.split()).strip("-. ")
    while len(kept.encode()) > _STEM * 3:
        kept = kept[:-1]
    return kept[:_STEM]


def _digest(title: Title, row: Row, suffix: str, how: Delivery) -> str:
    told = msgspec.json.encode([msgspec.to_builtins(title), row.values, suffix, msgspec.to_builtins(how)])
    return hashlib.blake2b(told, digest_size=12).hexdigest()


def _report(folder: Path) -> list[Made]:
    """What a report says; nothing where there is none that can be read."""
    try:
        return msgspec.json.decode((folder / REPORT).read_bytes(), type=list[Made])
    except (OSError, msgspec.DecodeError):
        return []


def _write_report(folder: Path, made: list[Made]) -> None:
    told = json.dumps([msgspec.to_builtins(one) for one in made], indent=1, ensure_ascii=False)
    try:
        write_whole(folder / REPORT, told.encode())
    except OSError as wrong:
        raise RovixError(f"The report could not be written to {folder}: {wrong.strerror}.") from wrong
