"""Bodies, lenses, filters, supports and accessories."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from ...operations.kit import pieces as operations
from ...operations.kit.presets import PRESETS
from ...operations.kit.presets import add_preset as keep_preset
from ...operations.platform.usage import uses_of_kit
from ...store.kit import Accessory, Body, Filter, Lens, Support
from ..platform.context import Context, context
from ..platform.undo import present_undo
from . import schemas
from .present import present_accessory, present_body, present_filter, present_lens, present_support

kit = APIBlueprint("kit", __name__, url_prefix="/api")


@kit.get("/kit")
@kit.output(schemas.KitOut)
def everything() -> Any:
    """The whole kit."""
    return _everything(context())


def _everything(here: Context) -> schemas.KitOut:
    def all_of(kind: Any, present: Any) -> list[Any]:
        uses = uses_of_kit(here.session, here.owner_id, kind)
        return [present(row, uses.get(row.id, [])) for row in operations.all_of(here.session, here.owner_id, kind)]

    return schemas.KitOut(
        bodies=all_of(Body, present_body),
        lenses=all_of(Lens, present_lens),
        filters=all_of(Filter, present_filter),
        supports=all_of(Support, present_support),
        accessories=all_of(Accessory, present_accessory),
        undo=present_undo(here.session, here.owner_id, [operations.KIT_SCOPE]),
    )


@kit.get("/kit/presets")
@kit.output(schemas.PresetsOut)
def presets() -> Any:
    """Usual pieces of kit to begin with."""
    return schemas.PresetsOut(presets=[schemas.PresetOut.model_validate(item) for item in PRESETS])


@kit.post("/kit/presets/<key>")
@kit.output(schemas.KitOut, status_code=201)
def add_preset(key: str) -> Any:
    """Add a usual piece to the kit."""
    here = context()
    keep_preset(here.session, here.owner_id, key)
    return _everything(here)


def _routes(path: str, word: str, kind: Any, present: Any, in_schema: Any, patch_schema: Any, out_schema: Any) -> None:
    """Register the routes to add, edit and delete one kind of kit."""

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
_routes(
    "accessories",
    "accessory",
    Accessory,
    present_accessory,
    schemas.AccessoryIn,
    schemas.AccessoryPatch,
    schemas.AccessoryOut,
)
