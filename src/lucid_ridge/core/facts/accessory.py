"""What goes between, before and around a lens close up: tubes, close-up lenses, rails, lights, cards.

What they can do, and what they make of a lens.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated

from ..labels import NamedEnum
from ..optics.working_lens import Rig, WorkingLens
from ..units.spelling import percent
from .declaring import Fact, Kind
from .kit import Lens


class AccessoryKind(NamedEnum):
    TUBE = "extension_tube"
    CLOSE_UP_LENS = "close_up_lens"
    CONVERTER = "converter"
    REVERSING_RING = "reversing_ring"
    BELLOWS = "bellows"
    VIEW_CAMERA = "view_camera_bellows"
    RAIL = "rail"
    FLASH = "flash"
    LED = "led_light"
    DIFFUSER = "diffuser"
    CARD = "background_card"


# What must be known of each kind; other figures do not belong to it.
FIGURES: dict[AccessoryKind, tuple[str, ...]] = {
    AccessoryKind.TUBE: ("length_mm",),
    AccessoryKind.CLOSE_UP_LENS: ("dioptres",),
    AccessoryKind.CONVERTER: ("factor",),
    AccessoryKind.REVERSING_RING: ("length_mm",),
    AccessoryKind.BELLOWS: ("shortest_mm", "longest_mm"),
    AccessoryKind.VIEW_CAMERA: ("shortest_mm", "longest_mm"),
    AccessoryKind.RAIL: ("travel_mm", "finest_mm"),
    AccessoryKind.FLASH: ("guide_number_m", "recycle_s"),
    AccessoryKind.LED: ("lux_at_1m",),
    AccessoryKind.DIFFUSER: ("loss_stops",),
    AccessoryKind.CARD: ("width_mm", "reflectance"),
}


# What changes how a lens images.
OPTICAL = frozenset(
    {
        AccessoryKind.TUBE,
        AccessoryKind.CLOSE_UP_LENS,
        AccessoryKind.CONVERTER,
        AccessoryKind.REVERSING_RING,
        AccessoryKind.BELLOWS,
        AccessoryKind.VIEW_CAMERA,
    }
)


# What lights the subject, from a distance that is said.
LIGHTS = frozenset({AccessoryKind.FLASH, AccessoryKind.LED})


@dataclass(frozen=True)
class Accessory:
    """An accessory; of its figures those that FIGURES names for its kind are given.

    length_mm: of a tube; of a reversing ring how far the reversed lens's rim stands from the sensor. shortest_mm,
    longest_mm: what bellows add to the lens's place, and of a view camera from the lens to the film. finest_mm: the
    smallest step of a rail that can be set. guide_number_m: at ISO 100 and full power; recycle_s: after full power.
    reflectance: 0.18 is a mid tone.
    """

    id: int
    name: Annotated[str, Fact(Kind.NAME)]
    kind: Annotated[AccessoryKind, Fact(label="kind")]
    length_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 0.1, 1000.0, label="length")] = None
    dioptres: Annotated[float | None, Fact(Kind.NUMBER, 0.1, 40.0, label="power")] = None
    factor: Annotated[float | None, Fact(Kind.NUMBER, 1.01, 3.0, label="factor")] = None
    shortest_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 0.0, 2000.0, label="shortest draw")] = None
    longest_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 1.0, 2000.0, label="longest draw")] = None
    travel_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 1.0, 2000.0, label="travel")] = None
    finest_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 0.0001, 10.0, label="finest step")] = None
    guide_number_m: Annotated[float | None, Fact(Kind.NUMBER, 1.0, 200.0, label="guide number")] = None
    recycle_s: Annotated[float | None, Fact(Kind.SECONDS, 0.0, 60.0, label="recycling")] = None
    lux_at_1m: Annotated[float | None, Fact(Kind.NUMBER, 1.0, 1e6, label="light at 1 m")] = None
    loss_stops: Annotated[float | None, Fact(Kind.EV, 0.0, 6.0, label="loss")] = None
    width_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 10.0, 5000.0, label="width")] = None
    reflectance: Annotated[float | None, Fact(Kind.SHARE, 0.01, 1.0, label="reflectance")] = None


# What an accessory does, with its figures.
_WORDS = {
    AccessoryKind.TUBE: "{length_mm:g} mm",
    AccessoryKind.CLOSE_UP_LENS: "{dioptres:g} dioptres",
    AccessoryKind.CONVERTER: "{factor:g}×",
    AccessoryKind.REVERSING_RING: "the reversed rim {length_mm:g} mm from the sensor",
    AccessoryKind.BELLOWS: "{shortest_mm:g} to {longest_mm:g} mm of extension",
    AccessoryKind.VIEW_CAMERA: "{shortest_mm:g} to {longest_mm:g} mm from lens to film",
    AccessoryKind.RAIL: "{travel_mm:g} mm of travel, steps from {finest_mm:g} mm",
    AccessoryKind.FLASH: "guide number {guide_number_m:g}, ready {recycle_s:g} s after full power",
    AccessoryKind.LED: "{lux_at_1m:g} lux at 1 m",
    AccessoryKind.DIFFUSER: "takes {loss_stops:g} stops of the flash",
    AccessoryKind.CARD: "{width_mm:g} mm wide, reflects {reflects}",
}


def figures_of(item: Accessory) -> str:
    """Return the effect of an accessory with its figures: "36 mm", "5 dioptres"."""
    reflects = percent(item.reflectance) if item.reflectance is not None else ""
    return _WORDS[item.kind].format(**vars(item), reflects=reflects)


def of_kind(accessories: Sequence[Accessory], kind: AccessoryKind) -> list[Accessory]:
    """Return those of a kind."""
    return [item for item in accessories if item.kind is kind]


def rigged(lens: Lens, focal_mm: float, accessories: Sequence[Accessory]) -> WorkingLens:
    """Return a lens at a focal length [mm] with its accessories.

    Tubes stack, bellows add to them, close-up lenses add their powers. A reversed lens stands at infinity: its rim is
    towards the camera, and its pupils change places. A view camera's lens is focused by its bellows alone.
    """
    return _rigged(lens, focal_mm, tuple(accessories))


# A plan asks for the lens in use half a dozen times.
@lru_cache(maxsize=256)
def _rigged(lens: Lens, focal_mm: float, accessories: tuple[Accessory, ...]) -> WorkingLens:
    def total(kind: AccessoryKind, name: str) -> float:
        return float(sum(getattr(item, name) or 0.0 for item in of_kind(accessories, kind)))

    tubes = total(AccessoryKind.TUBE, "length_mm")
    least = tubes + total(AccessoryKind.BELLOWS, "shortest_mm")
    most = tubes + total(AccessoryKind.BELLOWS, "longest_mm")
    converter = 1.0
    for item in of_kind(accessories, AccessoryKind.CONVERTER):
        converter *= item.factor or 1.0
    dioptres = total(AccessoryKind.CLOSE_UP_LENS, "dioptres")
    view = of_kind(accessories, AccessoryKind.VIEW_CAMERA)
    ring = of_kind(accessories, AccessoryKind.REVERSING_RING)
    if view:
        drawn = [max(0.0, (length or 0.0) - focal_mm) for length in (view[0].shortest_mm, view[0].longest_mm)]
        return WorkingLens(focal_mm, 0.0, None, lens.pupil_ratio, Rig((drawn[0], drawn[1]), dioptres, converter))
    if ring:
        # From the sensor to the reversed rim, and on to the principal plane that the rim stood before.
        stands = max(0.0, (ring[0].length_mm or 0.0) + (lens.front_mm or 0.0) - focal_mm)
        return WorkingLens(
            focal_mm, 0.0, None, 1 / lens.pupil_ratio, Rig((stands + least, stands + most), dioptres, converter)
        )
    return lens.working(focal_mm, Rig((least, most), dioptres, converter))
