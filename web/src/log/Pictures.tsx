import { Box, chakra } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { plural } from "../lib/format/spelling";
import { Mark } from "../ui/layout/Mark";
import { lightLabel } from "./entry";

type Line = Schemas["LogLineOut"];

/** Entries as pictures: the best frame of each beside the picture that was planned, with its stars and what differs most. */
export function Pictures({ entries }: { entries: Line[] }) {
  return (
    <Box
      as="ul"
      data-log=""
      display="grid"
      gap="22px 20px"
      gridTemplateColumns="repeat(auto-fill, minmax(min(100%, 380px), 1fr))"
      mt="4px"
    >
      {entries.map((entry) => (
        <One key={entry.id} entry={entry} />
      ))}
    </Box>
  );
}

function One({ entry }: { entry: Line }) {
  return (
    <Box as="li" minW="0" display="grid" gridTemplateRows="auto 1fr" gap="6px">
      <Link to={`/logbook/${entry.id}`} aria-label={entry.name} style={{ display: "block", textDecoration: "none" }}>
        <Box
          display="grid"
          gridTemplateColumns="minmax(0, 1.6fr) minmax(0, 1fr)"
          gap="4px"
          height={{ base: "150px", lg: "158px" }}
        >
          <Pane what={entry.files ? "taken" : ""}>
            {entry.best_frame_id !== null ? (
              <Shown src={`/api/log/frames/${entry.best_frame_id}/preview`} alt={`${entry.name}, as it was taken`} />
            ) : (
              <Box p="10px" fontSize="small" color="muted">
                {entry.frames ? `${plural(entry.frames, "frame")} ticked, no files yet` : "no frames"}
              </Box>
            )}
          </Pane>
          <Pane what="planned">
            {entry.plan_picture && (
              <Shown src={`/api/log/${entry.id}/planned`} alt={`${entry.name}, as it was planned`} />
            )}
          </Pane>
        </Box>
      </Link>
      <Box minW="0">
        <Box display="flex" justifyContent="space-between" gap="10px" alignItems="baseline">
          <Box fontWeight="650" fontSize="lead" minW="0">
            <Link to={`/logbook/${entry.id}`}>{entry.name}</Link>
          </Box>
          <Box fontSize="body" whiteSpace="nowrap">
            {entry.stars !== null && (
              <span role="img" aria-label={`${entry.stars} of 5 stars`}>
                {"★".repeat(entry.stars)}
              </span>
            )}
            {entry.outcome !== "open" && ` ${entry.outcome}`}
          </Box>
        </Box>
        <Box fontSize="small" color="muted">
          {[entry.place, entry.taken_words, lightLabel(entry.light_kind), entry.look].filter(Boolean).join(" · ")}
        </Box>
        {entry.told && (
          <Box fontSize="small" display="grid" gridTemplateColumns="16px 1fr" alignItems="baseline" mt="2px">
            <Mark mark={entry.told.severity} size={4.5} />
            <span>{entry.told.text}</span>
          </Box>
        )}
      </Box>
    </Box>
  );
}

function Pane({ what, children }: { what: string; children: ReactNode }) {
  return (
    <Box position="relative" bg="raised" overflow="hidden" minW="0">
      {children}
      {what && (
        <Box position="absolute" left="0" bottom="0" bg="bg" color="muted" fontSize="note" px="5px" py="1px">
          {what}
        </Box>
      )}
    </Box>
  );
}

function Shown({ src, alt }: { src: string; alt: string }) {
  return (
    <chakra.img
      data-backdrop=""
      src={src}
      alt={alt}
      loading="lazy"
      width="100%"
      height="100%"
      objectFit="cover"
      display="block"
    />
  );
}
