import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { labelOf } from "../../lib/format/labels";
import { plural } from "../../lib/format/spelling";
import { Button } from "../../ui/form/Button";
import { Mark } from "../../ui/layout/Mark";

type Solution = Schemas["SolutionOut"];
type Solved = Schemas["SolvedOut"];
type Take = (takes: Schemas["TakesOut"], letsGo: boolean) => void;

/** The plans side by side, as the shot stands now first: what each sets, what it costs, and what it misses. */
export function Plans({ solution, take }: { solution: Solution; take: Take }) {
  const { now, plans } = solution;
  const columns = [...(now ? [now] : []), ...plans];
  return (
    <Box
      display="grid"
      gap="0 14px"
      gridTemplateColumns={{ base: "minmax(0, 1fr)", lg: `repeat(${columns.length}, minmax(0, 1fr))` }}
    >
      {columns.map((plan) => (
        <Column key={plan.kind ?? plan.f_number_label} plan={plan} best={plan.kind === "best"}>
          {plan.kind !== "now" && (
            <Button
              onClick={() => take(plan.takes, plan.lets_go)}
              aria-label={`take: ${labelOf("PlanKind", plan.kind ?? "")}`}
              disabled={plan.changes.length === 0}
            >
              {plan.changes.length ? "take" : "as it stands"}
            </Button>
          )}
        </Column>
      ))}
    </Box>
  );
}

function Column({ plan, best, children }: { plan: Solved; best: boolean; children: ReactNode }) {
  return (
    <Box
      data-plan={plan.kind}
      borderTop="2px solid"
      borderColor={best ? "accent" : "line"}
      pt="6px"
      pb="10px"
      display="grid"
      gap="5px"
      alignContent="start"
      fontSize="body"
      minW="0"
    >
      <Box display="flex" gap="7px" alignItems="center" color={best ? "fg" : "muted"} fontWeight="650">
        <Mark mark={plan.mark} size={5} />
        {labelOf("PlanKind", plan.kind ?? "")}
      </Box>
      <Box fontFamily="mono" fontSize="heading" fontWeight="600" lineHeight="1.25">
        {plan.f_number_label}, {plan.shutter_label}
      </Box>
      <Box fontFamily="mono">ISO {plan.iso}</Box>
      <Box>{plan.filters}</Box>
      <Box color="muted">
        {plan.focus_words}, {plan.exposure_words}
      </Box>
      <Box>
        {plural(plan.frames, "frame")}
        {plan.total_label && `, ${plan.total_label}`}
        {plan.start_clock && `, from ${plan.start_clock}`}
      </Box>
      {plan.look && <Box>{plan.look}</Box>}
      {plan.blur_times !== null && (
        <Box color={plan.blur_times > 1.001 ? "rust" : "muted"}>{plan.blur_times.toFixed(2)}× the blur allowed</Box>
      )}
      <Misses plan={plan} />
      {plan.kind === "now" && !plan.missed.some((miss) => miss.must) && plan.frames > 0 && (
        <Box color="muted">meets every requirement that was judged</Box>
      )}
      <Box mt="4px">{children}</Box>
    </Box>
  );
}

function Misses({ plan }: { plan: Solved }) {
  if (!plan.missed.length) return null;
  return (
    <Box as="ul" display="grid" gap="2px" fontSize="small">
      {plan.missed.map((miss) => (
        <Box as="li" key={miss.goal + miss.words} color={miss.must ? "rust" : "haze"}>
          {plan.kind === "now" ? `Would have you ${miss.words}` : miss.words}
        </Box>
      ))}
    </Box>
  );
}

/** Nothing keeps all that must be: the smallest sets of wishes whose release makes it possible, each with by how much. */
export function Concessions({ solution, take }: { solution: Solution; take: Take }) {
  return (
    <Box data-concessions="">
      <Box fontSize="lead" fontWeight="650" mb="6px">
        {solution.concessions.length
          ? "Nothing keeps all that must be. One of these is the least to give way on:"
          : "Nothing keeps all that must be, and no concession makes it possible."}
      </Box>
      {solution.now && solution.now.missed.length > 0 && (
        <Box color="muted" fontSize="body" mb="8px">
          As it stands the shot would have you {solution.now.missed.map((miss) => miss.words).join(", and ")}.
        </Box>
      )}
      <Box as="ol" display="grid" gap="8px">
        {solution.concessions.map(({ words, plan }) => (
          <Box
            as="li"
            key={words}
            display="grid"
            gridTemplateColumns="minmax(0, 1fr) auto"
            gap="4px 14px"
            alignItems="center"
            borderTop="1px solid"
            borderColor="line"
            pt="8px"
          >
            <Box fontSize="body" _firstLetter={{ textTransform: "uppercase" }}>
              {words}
            </Box>
            <Button onClick={() => take(plan.takes, plan.lets_go)} aria-label={`take: ${words}`}>
              take
            </Button>
            <Box gridColumn="1 / -1" color="muted" fontSize="small">
              <Box as="span" fontFamily="mono">
                {plan.f_number_label}, {plan.shutter_label}, ISO {plan.iso}
              </Box>
              , {plan.filters}, {plural(plan.frames, "frame")}
              {plan.total_label && `, ${plan.total_label}`}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
