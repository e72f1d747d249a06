import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { client, type Schemas, take } from "../api/client";
import { useAct } from "../lib/drafts/useAct";
import { Button } from "../ui/form/Button";
import { SelectBox } from "../ui/form/Field";
import { tell } from "../ui/overlay/toaster";

const OWN: Record<string, Schemas["OwnIn"]["what"]> = { bodies: "body", lenses: "lens", supports: "support" };

/** Which shots a piece of kit is used by: what is changed here changes their plans, unless one gets a copy of its own. */
export function KitUses({ path, name, uses }: { path: string; name: string; uses: Schemas["ShotRefOut"][] }) {
  const [chosen, setChosen] = useState(uses[0]?.id);
  const what = OWN[path];
  const own = useAct((shot_id: number) =>
    take(client.POST("/api/shots/{shot_id}/own", { params: { path: { shot_id } }, body: { what: what ?? "lens" } })),
  );
  if (!uses.length) return null;
  const shot = uses.find((use) => use.id === chosen) ?? uses[0];
  return (
    <Box fontSize="small" color="haze" data-shared={path}>
      Used by {uses.length === 1 ? "one shot" : `${uses.length} shots`}: {uses.map((use) => use.name).join(", ")}. What
      you change here changes there.
      {what && uses.length > 1 && shot && (
        <Box display="flex" gap="6px" alignItems="center" flexWrap="wrap" mt="3px">
          <Button
            look="quiet"
            py="0"
            fontSize="small"
            disabled={own.isPending}
            onClick={() =>
              own.mutate(shot.id, { onSuccess: () => tell(`${shot.name} has its own copy of ${name} now.`) })
            }
          >
            make a copy for
          </Button>
          <SelectBox
            aria-label={`Which shot gets its own ${name}`}
            fontFamily="body"
            fontSize={{ base: "lead", lg: "small" }}
            width="auto"
            value={String(shot.id)}
            onChange={(event) => setChosen(Number(event.target.value))}
          >
            {uses.map((use) => (
              <option key={use.id} value={use.id}>
                {use.name}
              </option>
            ))}
          </SelectBox>
        </Box>
      )}
    </Box>
  );
}
