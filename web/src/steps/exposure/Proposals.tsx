import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import { useOpened } from "../../lib/drafts/useOpened";
import { plain } from "../../lib/format/numbers";
import type { Shot, ShotWork } from "../../shots/useShot";
import { Button } from "../../ui/form/Button";

// So many are in sight at first.
const FIRST = 2;

/** Settings from the bag that give the wanted time, best first. */
export function Proposals({
  proposals,
  facts,
  set,
}: {
  proposals: Schemas["ProposalOut"][];
  facts: Shot["facts"];
  set: ShotWork["set"];
}) {
  const [all, setAll] = useOpened("settings from the bag");
  if (!proposals.length) return null;
  const takeIt = (proposal: Schemas["ProposalOut"]) => {
    const kept = facts.filters.filter((use) => use.on_when_metered || proposal.filter_ids.includes(use.filter_id));
    const uses = kept.map((use) => ({ ...use, on_lens: proposal.filter_ids.includes(use.filter_id) }));
    for (const [at, id] of proposal.filter_ids.entries()) {
      const set_stops = proposal.set_stops[at] ?? null;
      const known = uses.find((use) => use.filter_id === id);
      if (known) known.set_stops = set_stops;
      else uses.push({ filter_id: id, on_lens: true, on_when_metered: false, set_stops });
    }
    set({ filters: uses, f_number: proposal.f_number, iso: proposal.iso });
  };
  const isSet = (proposal: Schemas["ProposalOut"]) =>
    facts.f_number !== null &&
    Math.abs(facts.f_number / proposal.f_number - 1) < 0.01 &&
    facts.iso === proposal.iso &&
    facts.filters.filter((use) => use.on_lens).length === proposal.filter_ids.length &&
    proposal.filter_ids.every((id, at) =>
      facts.filters.some(
        (use) =>
          use.on_lens && use.filter_id === id && Math.abs((use.set_stops ?? 0) - (proposal.set_stops[at] ?? 0)) < 0.01,
      ),
    );
  const names = (proposal: Schemas["ProposalOut"]) =>
    proposal.filter_names
      .map((name, at) => {
        const turned = proposal.set_stops[at];
        return typeof turned === "number" ? `${name} at ${plain(turned, 1)} stops` : name;
      })
      .join(" + ");
  return (
    <Box as="ul" aria-label="Settings from the bag">
      {proposals.slice(0, all ? undefined : FIRST).map((proposal) => (
        <Box
          as="li"
          key={`${proposal.filter_ids.join("-")}-${proposal.iso}`}
          display="grid"
          gridTemplateColumns="1fr auto auto"
          gap="10px"
          alignItems="center"
          py="3px"
          borderBottom="1px solid"
          borderColor="line"
        >
          <span>
            {names(proposal) || "no filter"}
            <Box as="span" fontFamily="mono" fontSize="small" color="muted" ml="8px">
              {proposal.f_number_label} ISO {proposal.iso}
            </Box>
            {proposal.changes.length > 0 && (
              <Box as="span" fontSize="small" color="rust" ml="8px">
                changes your {proposal.changes.join(" and ")}
              </Box>
            )}
          </span>
          <Box as="span" fontFamily="mono" textAlign="right">
            {proposal.shutter_label}{" "}
            <Box as="span" color="muted" fontSize="small">
              {proposal.error_stops >= 0 ? "+" : "−"}
              {Math.abs(proposal.error_stops).toFixed(2)}
            </Box>
          </Box>
          {isSet(proposal) ? (
            <Box as="span" fontSize="small" color="accent" minW="44px">
              is set
            </Box>
          ) : (
            <Button onClick={() => takeIt(proposal)}>Take</Button>
          )}
        </Box>
      ))}
      {proposals.length > FIRST && (
        <Box as="li">
          <Button look="quiet" py="0" fontSize="small" aria-expanded={all} onClick={() => setAll(!all)}>
            {all ? "the first two" : `${proposals.length - FIRST} more`}
          </Button>
        </Box>
      )}
    </Box>
  );
}
