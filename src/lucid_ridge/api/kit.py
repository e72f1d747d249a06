"""Bodies, lenses, filters and supports."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from ..operations import kit as operations
from ..store.kit import Body, Filter, Lens, Support
from .context import context
from .present.kit import present_body, present_filter, present_lens, present_support
from .schemas import kit as schemas

kit = APIBlueprint("kit", __name__, url_prefix="/api")


@kit.get("/kit")
@kit.output(schemas.KitOut)
def everything() -> Any:
    """The whole kit."""
    here = context()
    return schemas.KitOut(
        bodies=[present_body(row) for row in operations.all_of(here.session, here.owner_id, Body)],
        lenses=[present_lens(row) for row in operations.all_of(here.session, here.owner_id, Lens)],
        filters=[present_filter(row) for row in operations.all_of(here.session, here.owner_id, Filter)],
        supports=[present_support(row) for row in operations.all_of(here.session, here.owner_id, Support)],
    )


def _routes(path: str, word: str, kind: Any, present: Any, in_schema: Any, patch_schema: Any, out_schema: Any) -> None:
    """Register adding, changing and deleting for one kind of kit."""

    @kit.post(f"/{path}", endpoint=f"add_{word}")
    @kit.input(in_schema, location="json")
    @kit.output(out_schema, status_code=201)
    @kit.doc(summary=f"Add a {word}")
    def add(json_data: Any) -> Any:
        here = context()
        return present(operations.add(here.session, here.owner_id, kind, json_data.model_dump()))

    @kit.patch(f"/{path}/<int:piece_id>", endpoint=f"edit_{word}")
    @kit.input(patch_schema, location="json")
    @kit.output(out_schema)
    @kit.doc(summary=f"Change a {word}")
    def edit(piece_id: int, json_data: Any) -> Any:
        here = context()
        changes = json_data.model_dump(exclude_unset=True)
        return present(operations.edit(here.session, here.owner_id, kind, piece_id, changes))

    @kit.delete(f"/{path}/<int:piece_id>", endpoint=f"delete_{word}")
    @kit.output({}, status_code=204)
    @kit.doc(summary=f"Delete a {word}; undo brings it back")
    def delete(piece_id: int) -> Any:
        here = context()
        operations.delete(here.session, here.owner_id, kind, piece_id)
        return ""


_routes("bodies", "body", Body, present_body, schemas.BodyIn, schemas.BodyPatch, schemas.BodyOut)
_routes("lenses", "lens", Lens, present_lens, schemas.LensIn, schemas.LensPatch, schemas.LensOut)
_routes("filters", "filter", Filter, present_filter, schemas.FilterIn, schemas.FilterPatch, schemas.FilterOut)
_routes("supports", "support", Support, present_support, schemas.SupportIn, schemas.SupportPatch, schemas.SupportOut)
