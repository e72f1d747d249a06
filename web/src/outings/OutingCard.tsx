import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { outingQuery } from "../api/queries";
import { useTitle } from "../lib/focus/useTitle";
import { dayText } from "../lib/format/spelling";
import { PaperPage } from "../ui/layout/PaperPage";
import { FailedPage, Pending } from "../ui/layout/States";
import type { Outing } from "./useOuting";

const MONO = "var(--lr-fonts-mono)";

/** The outing on paper or on a phone: when to leave, park, walk, set up and return, what is left out, and cautions once. */
export default function OutingCard() {
  const id = Number(useParams().outingId);
  const query = useQuery(outingQuery(id));
  const outing = query.data;
  useTitle(outing?.facts.name, "card");
  if (query.error && !outing) return <FailedPage error={query.error} retry={() => void query.refetch()} />;
  if (!outing) return <Pending what="the outing" />;
  return (
    <PaperPage
      back={{ to: `/outings/${outing.id}`, words: "back to the outing" }}
      textPt={{ A6: 9, A5: 12 }}
      numbered={outing.facts.name}
    >
      <Card outing={outing} />
    </PaperPage>
  );
}

function Card({ outing }: { outing: Outing }) {
  const { facts } = outing;
  const left = outing.stops.filter((stop) => stop.taken === null);
  return (
    <Box as="article" className="on-paper" fontSize="heading" lineHeight="1.3" display="grid" gap="9px">
      <Box borderBottom="2px solid currentColor" pb="5px">
        <Box as="h1" fontSize="1.5em" fontWeight="700">
          {facts.name}
        </Box>
        <Box>
          {dayText(facts.date_local, true)}
          {facts.days > 1 && `, ${facts.days} days`}
        </Box>
      </Box>
      <Box display="grid" gridTemplateColumns="repeat(3, auto)" gap="2px 14px">
        {[
          ["leave home", outing.leave_clock],
          ["back", outing.back_clock],
          ["on foot", outing.walk_label],
        ].map(([name, value]) => (
          <div key={name}>
            <div style={{ fontSize: "0.9em" }}>{name}</div>
            <div style={{ fontSize: "1.5em", fontWeight: 650, fontFamily: MONO }}>{value || "–"}</div>
          </div>
        ))}
      </Box>
      <Box as="ol" display="grid" gap="6px">
        {outing.order.map((at) => {
          const stop = outing.stops[at];
          const spot = outing.parts.filter((part) => part.stop === at);
          if (!stop) return null;
          return (
            <Box as="li" key={stop.id} borderTop="1px solid currentColor" pt="3px" css={{ breakInside: "avoid" }}>
              <b>
                {stop.taken}. {stop.name}
              </b>
              {stop.place && `, ${stop.place}`}
              {stop.latitude_deg !== null && stop.longitude_deg !== null && (
                <Box as="span" fontFamily="mono" fontSize="0.9em">
                  {` ${stop.latitude_deg.toFixed(5)}, ${stop.longitude_deg.toFixed(5)}`}
                </Box>
              )}
              {stop.window && `: ${stop.window}, may begin ${stop.window_clock}`}
              <Box display="flex" flexWrap="wrap" gap="0 12px" fontFamily="mono" fontSize="0.9em">
                {spot.map((part) => (
                  <span key={part.from_h}>
                    {part.label}
                    {part.dark && " (dark)"}
                    {part.estimated && " (estimated)"}
                  </span>
                ))}
              </Box>
              {stop.note && stop.note !== stop.name && <Box>{stop.note}</Box>}
            </Box>
          );
        })}
        <Box as="li" borderTop="1px solid currentColor" pt="3px" fontFamily="mono" fontSize="0.9em">
          {outing.parts
            .filter((part) => part.stop === null)
            .map((part) => part.label)
            .join(" · ")}
        </Box>
      </Box>
      {left.length > 0 && (
        <Box>
          <b>Left out</b> {left.map((stop) => stop.name).join(", ")}
        </Box>
      )}
      {outing.plans_b.map((plan) => (
        <Box key={plan.stop} css={{ breakInside: "avoid" }}>
          <b>{plan.name}</b> {plan.text}
          <Box display="flex" flexWrap="wrap" gap="0 12px" fontFamily="mono" fontSize="0.9em">
            {plan.times.map((time) => (
              <span key={time}>{time}</span>
            ))}
          </Box>
          {plan.minded.map((reason) => (
            <div key={reason.text}>By plan B: {reason.text}</div>
          ))}
        </Box>
      ))}
      {facts.contact && (
        <Box>
          <b>Word left with</b> {facts.contact}
        </Box>
      )}
      {facts.note && <Box>{facts.note}</Box>}
      {outing.cautions.length > 0 && (
        <Box as="ul" fontSize="0.9em">
          {outing.cautions.map((text) => (
            <li key={text}>◇ {text}</li>
          ))}
        </Box>
      )}
      <Box fontSize="0.9em" css={{ breakInside: "avoid" }}>
        <b>Pack</b> {outing.packing.map((item) => `${item.packed ? "☑" : "☐"} ${item.name}`).join("  ")}
      </Box>
    </Box>
  );
}
