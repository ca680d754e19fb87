"""What a file's data has against its schema, in sentences."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import TYPE_CHECKING, Any

from rovix.model.consistency import Problem

if TYPE_CHECKING:
    from jsonschema.exceptions import ValidationError

_TYPES = {
    "object": "an object",
    "array": "a list",
    "string": "text",
    "number": "a number",
    "integer": "a whole number",
    "boolean": "true or false",
    "null": "null",
}
# What says which of several kinds an object is.
_TAGS = ("kind", "fill", "part")


def schema_problems(data: Any, schema: dict[str, Any]) -> list[Problem]:
    """Every place where the data breaks the schema, in the order of the file."""
    # A tenth of a second to import, for files that have something wrong with them.
    from jsonschema import Draft202012Validator

    errors = Draft202012Validator(schema).iter_errors(data)
    found = [problem for error in errors for problem in _problems(error)]
    return sorted(set(found), key=lambda problem: _file_order(problem.path))


def _problems(error: ValidationError) -> Iterator[Problem]:
    if error.validator in ("anyOf", "oneOf") and error.context:
        yield from _of_branch(error)
    else:
        yield Problem(_path(error), _sentence(error))


def _of_branch(error: ValidationError) -> Iterator[Problem]:
    """The problems of the alternative that was meant: the one of the same kind."""
    branches: dict[int, list[ValidationError]] = {}
    for inner in error.context:
        branches.setdefault(inner.schema_path[0], []).append(inner)
    meant = [errors for errors in branches.values() if not any(_is_other_kind(error, e) for e in errors)]
    if len(meant) == 1:
        for inner in meant[0]:
            yield from _problems(inner)
    else:
        yield Problem(_path(error), _no_alternative(error))


def _is_other_kind(error: ValidationError, inner: ValidationError) -> bool:
    depth = len(inner.absolute_path) - len(error.absolute_path)
    tag = depth == 1 and inner.absolute_path[-1] in _TAGS
    missing = inner.message if inner.validator == "required" else ""
    missing_tag = depth == 0 and any(f"'{name}'" in missing for name in _TAGS)
    return tag or missing_tag or (depth == 0 and inner.validator == "type")


def _no_alternative(error: ValidationError) -> str:
    if isinstance(error.instance, dict):
        named = next((name for name in _TAGS if name in error.instance), None)
        if named is None:
            return "it does not say its kind"
        return f"'{error.instance[named]}' is no {named} this version knows"
    return f"{_shown(error.instance)} does not belong here"


def _path(error: ValidationError) -> str:
    return "$" + "".join(f"[{part}]" if isinstance(part, int) else f".{part}" for part in error.absolute_path)


def _sentence(error: ValidationError) -> str:
    say = _SENTENCES.get(str(error.validator))
    return say(_shown(error.instance), error) if say else str(error.message)


def _missing(error: ValidationError) -> str:
    absent = [name for name in error.validator_value if name not in error.instance]
    return _listed(absent)


def _listed(values: Any) -> str:
    return ", ".join(f"'{value}'" for value in values)


def _type_name(types: Any) -> str:
    return " or ".join(_TYPES[name] for name in ([types] if isinstance(types, str) else types))


def _shown(value: Any) -> str:
    if isinstance(value, dict):
        return "an object"
    if isinstance(value, list):
        return "a list"
    text = f"'{value}'" if isinstance(value, str) else str(value)
    return text if len(text) <= 60 else f"{text[:57]}…"


def _file_order(path: str) -> list[tuple[int, str]]:
    parts = path.replace("[", ".[").split(".")
    return [(int(part[1:-1]), "") if part.startswith("[") else (-1, part) for part in parts]


_SENTENCES: dict[str, Callable[[str, ValidationError], str]] = {
    "minimum": lambda value, error: f"{value} is below {error.validator_value}",
    "maximum": lambda value, error: f"{value} is above {error.validator_value}",
    "exclusiveMinimum": lambda value, error: f"{value} is not above {error.validator_value}",
    "enum": lambda value, error: f"{value} is none of {_listed(error.validator_value)}",
    "const": lambda value, error: f"{value} should be {_shown(error.validator_value)}",
    "type": lambda value, error: f"{value} should be {_type_name(error.validator_value)}",
    "required": lambda value, error: f"{_missing(error)} is missing",
    "pattern": lambda value, error: f"{value} is not written as it must be",
    "minLength": lambda value, error: "the text is empty",
    "maxLength": lambda value, error: f"the text has more than {error.validator_value} characters",
    "minItems": lambda value, error: f"it needs at least {error.validator_value}",
    "maxItems": lambda value, error: f"it holds more than {error.validator_value}",
}
