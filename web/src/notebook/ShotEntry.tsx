import { Box } from "@chakra-ui/react";
import { Link } from "react-router";
import { client, type Schemas, take } from "../api/client";
import { Miniature } from "../drawing/Miniature";
import { useAct } from "../lib/drafts/useAct";
import { dayText } from "../lib/format/spelling";
import { STEP_WORDS } from "../shots/steps";
import { Button } from "../ui/form/Button";
import { Mark, markWords } from "../ui/layout/Mark";

const RANK = { fails: 0, tight: 1, unsaid: 2, holds: 3 } as const;

/** A shot in the notebook: its finder, when and where, and its seven marks. */
export function ShotEntry({ shot }: { shot: Schemas["ShotSummaryOut"] }) {
  const judged = shot.verdicts.filter((verdict) => verdict.step !== "field");
  const worst = [...judged].sort((a, b) => RANK[a.mark] - RANK[b.mark])[0];
  const exposure = shot.verdicts.find((verdict) => verdict.step === "exposure");
  const depth = shot.verdicts.find((verdict) => verdict.step === "depth");
  return (
    <Box
      as="li"
      borderTop="1px solid"
      borderColor="line"
      py="12px"
      display="grid"
      gridTemplateColumns="138px minmax(0, 1fr)"
      gap="14px"
      // What is out of sight is not drawn.
      css={{ contentVisibility: "auto", containIntrinsicSize: "auto 130px" }}
    >
      <Box display="flex" justifyContent="center" alignItems="flex-start">
        <Link to={`/shots/${shot.id}/place`} tabIndex={-1} aria-hidden="true">
          <Miniature
            miniature={shot.miniature}
            name={shot.name}
            height={shot.miniature && shot.miniature.aspect < 1 ? 128 : 92}
          />
        </Link>
      </Box>
      <Box minW="0">
        <Box as="h2" fontSize="heading" fontWeight="650" lineHeight="1.2">
          <Link to={`/shots/${shot.id}/place`} style={{ textDecoration: "none" }}>
            {shot.name}
          </Link>
          <Star shot={shot} />
        </Box>
        <Box fontSize="small" color="muted" mt="1px">
          {[shot.location_name, shot.date_local && dayText(shot.date_local, true)].filter(Boolean).join(", ") ||
            "no place, no date"}{" "}
          {shot.clock_local && (
            <Box as="span" fontFamily="mono" color="fg">
              {shot.clock_local}
            </Box>
          )}
        </Box>
        <Box display="flex" gap="9px" my="6px">
          {shot.verdicts.map((verdict) => (
            <Box
              key={verdict.step}
              title={`${STEP_WORDS[verdict.step]}: ${markWords(verdict.mark)}, ${verdict.text}`}
              display="flex"
            >
              <Mark mark={verdict.mark} size={5.5} />
            </Box>
          ))}
        </Box>
        <Box fontSize="body" lineHeight="1.3">
          {worst && worst.mark !== "holds" ? (
            <>
              {STEP_WORDS[worst.step]}: {worst.text}
            </>
          ) : shot.verdicts.length === 0 ? (
            "being planned …"
          ) : (
            <>
              {depth?.text}; {exposure?.text}
            </>
          )}
        </Box>
      </Box>
    </Box>
  );
}

/** Whether a shot is a favourite; pressed it becomes one, or is one no more. */
function Star({ shot }: { shot: Schemas["ShotSummaryOut"] }) {
  const act = useAct(
    (favourite: boolean) =>
      take(client.PATCH("/api/shots/{shot_id}", { params: { path: { shot_id: shot.id } }, body: { favourite } })),
    { only: ["notebook", "shot"] },
  );
  const on = act.isPending ? act.variables : shot.favourite;
  return (
    <Button
      look="quiet"
      px="6px"
      py="0"
      my={{ base: "-12px", lg: "0" }}
      aria-pressed={on}
      aria-label={`favourite: ${shot.name}`}
      color={on ? "accent" : "muted"}
      textDecoration="none"
      onClick={() => act.mutate(!on)}
    >
      {on ? "★" : "☆"}
    </Button>
  );
}
