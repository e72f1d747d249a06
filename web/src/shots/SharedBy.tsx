import { Box } from "@chakra-ui/react";
import { client, type Schemas, take } from "../api/client";
import { useAct } from "../lib/drafts/useAct";
import { Button } from "../ui/form/Button";
import { tell } from "../ui/overlay/toaster";
import type { Shot } from "./useShot";

/** What other shots use too: said before it is changed here, with a way to a copy for this shot only. */
export function SharedBy({
  shot,
  what,
  uses,
  name,
}: {
  shot: Shot;
  what: Schemas["OwnIn"]["what"];
  uses: Schemas["ShotRefOut"][];
  name: string;
}) {
  const own = useAct(() =>
    take(client.POST("/api/shots/{shot_id}/own", { params: { path: { shot_id: shot.id } }, body: { what } })),
  );
  const others = uses.filter((use) => use.id !== shot.id);
  if (!others.length) return null;
  return (
    <Box fontSize="small" color="haze" data-shared={what}>
      {name} is used by {others.length === 1 ? "another shot" : `${others.length} other shots`} as well (
      {listed(others)}): what you change here changes there too.{" "}
      <Button
        look="quiet"
        py="0"
        fontSize="small"
        disabled={own.isPending}
        onClick={() =>
          own.mutate(undefined, {
            onSuccess: () => tell(`This shot has its own copy of ${name} now. Undo takes it back.`),
          })
        }
      >
        for this shot only
      </Button>
    </Box>
  );
}

/** Names of shots, the first few of many. */
export function listed(uses: Schemas["ShotRefOut"][]): string {
  const names = uses.slice(0, 3).map((use) => use.name);
  return uses.length > 3 ? `${names.join(", ")} and ${uses.length - 3} more` : names.join(", ");
}
