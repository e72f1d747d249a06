"""CHECK constraints, one line each. In PostgreSQL NaN is greater than infinity, so an upper bound excludes both."""

from __future__ import annotations

from sqlalchemy import CheckConstraint


def between(column: str, low: float, high: float) -> CheckConstraint:
    """Return the constraint low <= column <= high (NULL passes)."""
    return CheckConstraint(f"{column} >= {low!r} AND {column} <= {high!r}", name=f"{column}_range")


def above(column: str, low: float, high: float = 1e12) -> CheckConstraint:
    """Return the constraint low < column <= high (NULL passes)."""
    return CheckConstraint(f"{column} > {low!r} AND {column} <= {high!r}", name=f"{column}_range")


def one_of(column: str, choices: tuple[str, ...]) -> CheckConstraint:
    """Return the constraint that column is one of the choices."""
    listed = ", ".join("'" + choice.replace("'", "''") + "'" for choice in choices)
    return CheckConstraint(f"{column} IN ({listed})", name=f"{column}_choice")


def not_blank(column: str = "name") -> CheckConstraint:
    """Return the constraint that a text holds more than spaces."""
    return CheckConstraint(f"length(btrim({column})) > 0", name=f"{column}_not_blank")


def ordered(low: str, high: str) -> CheckConstraint:
    """Return the constraint low <= high between two columns."""
    return CheckConstraint(f"{low} <= {high}", name=f"{low}_upto_{high}")
