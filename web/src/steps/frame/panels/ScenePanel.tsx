import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { plain } from "../../../lib/format/numbers";
import type { ShotWork } from "../../../shots/useShot";
import { Button, ButtonLink } from "../../../ui/form/Button";
import { Field, Tick } from "../../../ui/form/Field";
import { Row, Section } from "../../../ui/layout/Section";
import { AddElement } from "../../place/AddElement";
import { ElementList } from "../../place/ElementList";
import { Measure } from "../finder/Measure";
import { useViewpoint } from "../ground/useViewpoint";

/** The solids of the scene and the ground they stand on. */
export function ScenePanel({
  shot,
  placed,
  placing,
  setPlacing,
}: ShotWork & {
  placed: { bearing: number; distance: number } | undefined;
  placing: boolean;
  setPlacing: (on: boolean) => void;
}) {
  const { edit } = useViewpoint();
  const [measured, setMeasured] = useState<{ height_m?: string; distance_m?: string }>({});
  const place = shot.place;
  if (!place) return null;
  const { viewpoint } = place;
  const key = (field: string) => `viewpoint:${viewpoint.id}:${field}`;
  const area = viewpoint.standing;
  const given = {
    ...(placed ? { bearing_deg: String(placed.bearing), distance_m: `${placed.distance} m` } : {}),
    ...measured,
  };
  return (
    <>
      <Section
        title="Elements"
        aside={
          <Button look="quiet" py="0" fontSize="small" aria-pressed={placing} onClick={() => setPlacing(!placing)}>
            {placing ? "click on the ground …" : "place by a click"}
          </Button>
        }
      >
        <ElementList elements={viewpoint.elements} />
        <AddElement key={JSON.stringify(given)} viewpointId={viewpoint.id} given={given} />
      </Section>
      <Measure shot={shot} take={(next) => setMeasured(next)} />
      <Section title="Ground">
        <Row>
          <Field
            label="Slopes by"
            name={key("ground_slope_deg")}
            value={plain(viewpoint.ground_slope_deg, 2)}
            unit="°"
            step={1}
            save={(text) => edit(viewpoint.id, { ground_slope_deg: text })}
          />
          <Field
            label="down towards"
            name={key("ground_down_bearing_deg")}
            value={plain(viewpoint.ground_down_bearing_deg, 1)}
            unit="°"
            step={5}
            save={(text) => edit(viewpoint.id, { ground_down_bearing_deg: text })}
          />
          <Field
            label="out to"
            name={key("ground_reach_m")}
            value={plain(viewpoint.ground_reach_m, 2)}
            unit="m"
            step={5}
            save={(text) => edit(viewpoint.id, { ground_reach_m: text })}
          />
        </Row>
      </Section>
      <Section title="Where one can stand">
        {area ? (
          <>
            <Box fontSize="small" color="muted">
              Drag its corners on the ground. Sides with a fall beyond:
            </Box>
            <Box display="flex" gap="4px 14px" flexWrap="wrap">
              {area.corners.map((corner, side) => (
                <Tick
                  key={corner.join()}
                  label={`${side + 1} to ${((side + 1) % area.corners.length) + 1}`}
                  checked={area.drops.includes(side)}
                  change={(on) =>
                    void edit(viewpoint.id, {
                      standing: {
                        corners: area.corners,
                        drops: on
                          ? [...area.drops, side].sort((a, b) => a - b)
                          : area.drops.filter((other) => other !== side),
                      },
                    })
                  }
                />
              ))}
            </Box>
            <Box display="flex" gap="8px" flexWrap="wrap">
              <Button
                onClick={() => {
                  const [a, b] = [area.corners.at(-1) ?? [0, 0], area.corners[0] ?? [0, 0]];
                  const between = [((a[0] ?? 0) + (b[0] ?? 0)) / 2, ((a[1] ?? 0) + (b[1] ?? 0)) / 2];
                  void edit(viewpoint.id, { standing: { corners: [...area.corners, between], drops: area.drops } });
                }}
              >
                One more corner
              </Button>
              {area.corners.length > 3 && (
                <Button
                  onClick={() => {
                    const last = area.corners.length - 1;
                    void edit(viewpoint.id, {
                      standing: { corners: area.corners.slice(0, -1), drops: area.drops.filter((side) => side < last) },
                    });
                  }}
                >
                  One less
                </Button>
              )}
              <Button look="quiet" onClick={() => void edit(viewpoint.id, { standing: null })}>
                let it go
              </Button>
            </Box>
          </>
        ) : (
          <Box>
            <Button
              onClick={() =>
                void edit(viewpoint.id, {
                  standing: {
                    corners: [
                      [-1, -1],
                      [1, -1],
                      [1, 1],
                      [-1, 1],
                    ],
                    drops: [],
                  },
                })
              }
            >
              Draw a standing area
            </Button>
          </Box>
        )}
      </Section>
      <Section title="Take it along">
        <Box display="flex" gap="8px" flexWrap="wrap">
          <ButtonLink href={`/api/shots/${shot.id}/scene.json`}>scene as JSON</ButtonLink>
          <ButtonLink href={`/api/shots/${shot.id}/ground.geojson`}>ground plan as GeoJSON</ButtonLink>
        </Box>
      </Section>
    </>
  );
}
