import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError, client, type Schemas, take } from "../../../api/client";
import { framingsQuery, shotQuery } from "../../../api/queries";
import { Miniature } from "../../../drawing/Miniature";
import { useSettled } from "../../../lib/drafts/useSettled";
import { useStored } from "../../../lib/drafts/useStored";
import type { ShotWork } from "../../../shots/useShot";
import { Button } from "../../../ui/form/Button";
import { Input, Labelled } from "../../../ui/form/Field";
import { Mark } from "../../../ui/layout/Mark";
import { Section } from "../../../ui/layout/Section";
import { Failed, Pending } from "../../../ui/layout/States";

/** Framings of one shot side by side, and the way one walked to the present one. */
export function Framings({ shot }: ShotWork) {
  const queries = useQueryClient();
  const said = useSettled(JSON.stringify([shot.undo.undo_label, shot.facts]), 350);
  const framings = useQuery(framingsQuery(shot.id, said));
  const [name, setName] = useStored(`framing:${shot.id}`);
  const [error, setError] = useState<string>();
  const shown = (answer: Schemas["ShotOut"]) => {
    queries.setQueryData(shotQuery(shot.id).queryKey, answer);
    void queries.invalidateQueries({ queryKey: ["notebook"] });
  };
  const refresh = () => {
    void queries.invalidateQueries({ queryKey: ["framings"] });
    void queries.invalidateQueries({ queryKey: shotQuery(shot.id).queryKey });
  };
  const keep = async () => {
    setError(undefined);
    try {
      await take(
        client.POST("/api/shots/{shot_id}/framings", {
          params: { path: { shot_id: shot.id } },
          body: { name: (name ?? "").trim() || `${shot.plan.frame.focal_mm} mm ${shot.facts.orientation}` },
        }),
      );
      setName(undefined);
      refresh();
    } catch (failure) {
      setError(failure instanceof ApiError ? failure.message : String(failure));
    }
  };
  if (framings.error) return <Failed error={framings.error} retry={() => void framings.refetch()} />;
  if (!framings.data) return <Pending what="the framings" />;
  const { kept, walk } = framings.data;
  return (
    <>
      <Section title="Framings kept">
        <Labelled label="Keep the framing as it stands, under a name" error={error}>
          <Box display="flex" gap="8px">
            <Input
              aria-label="Name of the framing"
              fontFamily="body"
              value={name ?? ""}
              placeholder={`${shot.plan.frame.focal_mm ?? ""} mm ${shot.facts.orientation}`}
              onChange={(event) => setName(event.target.value)}
              onKeyDown={(event) => event.key === "Enter" && void keep()}
            />
            <Button onClick={() => void keep()}>Keep</Button>
          </Box>
        </Labelled>
        {kept.length === 0 && (
          <Box color="muted" fontSize="body">
            None yet. Keep one before you try another: wide and near, long and far, portrait and landscape.
          </Box>
        )}
        <Box as="ul" display="grid" gridTemplateColumns="repeat(auto-fill, minmax(200px, 1fr))" gap="12px">
          {kept.map((framing) => (
            <Card
              key={framing.id}
              framing={framing}
              height={framing.choices.orientation === "portrait" ? 118 : 96}
              choose={() =>
                void take(
                  client.POST("/api/framings/{framing_id}/take", { params: { path: { framing_id: framing.id ?? 0 } } }),
                )
                  .then(shown)
                  .catch((failure: Error) => setError(failure.message))
              }
              drop={() =>
                void take(
                  client.DELETE("/api/framings/{framing_id}", { params: { path: { framing_id: framing.id ?? 0 } } }),
                ).then(refresh)
              }
            />
          ))}
        </Box>
      </Section>
      <Section title="The walk-through">
        {walk.length === 0 && (
          <Box color="muted" fontSize="body">
            Move the camera: every place it stood is kept here, newest first.
          </Box>
        )}
        <Box as="ul" display="grid" gridTemplateColumns="repeat(auto-fill, minmax(124px, 1fr))" gap="10px">
          {walk.map((framing) => (
            <Card
              key={framing.made_at_utc + framing.label}
              framing={framing}
              height={framing.choices.orientation === "portrait" ? 78 : 64}
              choose={() =>
                void take(
                  client.POST("/api/shots/{shot_id}/framing", {
                    params: { path: { shot_id: shot.id } },
                    body: framing.choices,
                  }),
                )
                  .then(shown)
                  .catch((failure: Error) => setError(failure.message))
              }
            />
          ))}
        </Box>
      </Section>
    </>
  );
}

function Card({
  framing,
  height,
  choose,
  drop,
}: {
  framing: Schemas["FramingOut"];
  height: number;
  choose: () => void;
  drop?: () => void;
}) {
  return (
    <Box as="li" fontSize="small" minW="0" data-framing={framing.label}>
      <Miniature miniature={framing.miniature} name={`${framing.label} ${framing.made_at_utc}`} height={height} />
      <Box display="flex" gap="6px" alignItems="baseline" mt="3px">
        <Mark mark={framing.verdict.mark} size={4} />
        <Box fontWeight="600" minW="0" overflowWrap="anywhere">
          {framing.label}
        </Box>
      </Box>
      <Box color="muted" fontSize="small">
        {framing.words}
        {framing.collisions ? `, ${framing.collisions} tight` : ""}
      </Box>
      <Box display="flex" gap="4px">
        {framing.now ? (
          <Box as="span" fontSize="small" color="accent" py="3px">
            as it stands
          </Box>
        ) : (
          <Button look="quiet" py="0" px="0" fontSize="small" onClick={choose}>
            choose
          </Button>
        )}
        {drop && (
          <Button look="quiet" py="0" fontSize="small" onClick={drop} aria-label={`let ${framing.label} go`}>
            delete
          </Button>
        )}
      </Box>
    </Box>
  );
}
