"""Some facts of a group with the values they are to have."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from typing import Generic, TypeVar

from .declaring import Value, facts_of

Group = TypeVar("Group")


@dataclass(frozen=True)
class Changes(Generic[Group]):
    """Raises TypeError for a name that the group does not declare."""

    kind: type[Group]
    values: Mapping[str, Value] = field(default_factory=dict)

    def __post_init__(self) -> None:
        unknown = set(self.values) - set(facts_of(self.kind))
        if unknown:
            raise TypeError(f"{self.kind.__name__} declares no {', '.join(sorted(unknown))}.")

    def __contains__(self, name: str) -> bool:
        return name in self.values

    def __iter__(self) -> Iterator[str]:
        return iter(self.values)

    def applied_to(self, group: Group) -> Group:
        """Return the group as it is after the changes."""
        return replace(group, **self.values) if self.values else group  # type: ignore[type-var]

    def number(self, name: str) -> float | None:
        """Return the new value of a number; None where it is let go or not changed."""
        value = self._known(name)
        return float(value) if isinstance(value, int | float) else None

    def reference(self, name: str) -> int | None:
        """Return the new value of a reference; None where it is let go or not changed."""
        value = self._known(name)
        return value if isinstance(value, int) else None

    def also(self, **values: Value) -> Changes[Group]:
        """Return these changes and others."""
        return Changes(self.kind, {**self.values, **values})

    def _known(self, name: str) -> Value:
        if name not in facts_of(self.kind):
            raise TypeError(f"{self.kind.__name__} declares no {name}.")
        return self.values.get(name)
