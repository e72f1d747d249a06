import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { blendSheetQuery } from "../../api/queries";
import { useAnswered } from "../../shots/useAnswered";
import type { Shot } from "../../shots/useShot";
import { ButtonLink } from "../../ui/form/Button";
import { Section } from "../../ui/layout/Section";

const FILES = [
  { ending: "csv", label: "CSV" },
  { ending: "json", label: "JSON" },
  { ending: "zip", label: "XMP" },
] as const;

/** Which frames belong together, and how they become one picture later; as files for the desk. */
export function BlendSheet({ shot }: { shot: Shot }) {
  const sheet = useQuery(blendSheetQuery(shot.id, useAnswered(shot.id))).data;
  if (!sheet?.rows.some((row) => row.steps.length > 0) && !sheet?.last) return null;
  return (
    <Section
      title="Put together later"
      fold="how the frames become one picture"
      aside={
        <Box display="flex">
          {FILES.map(({ ending, label }) => (
            <ButtonLink
              key={ending}
              look="quiet"
              fontSize="small"
              px="4px"
              href={`/api/shots/${shot.id}/blend-sheet/${ending}`}
              download
            >
              {label}
            </ButtonLink>
          ))}
        </Box>
      }
    >
      <Box as="ul" fontSize="body" display="grid" gap="5px" data-blend-sheet="">
        {sheet.rows.map((row) => (
          <Box
            as="li"
            key={row.frames_words}
            display="grid"
            gridTemplateColumns="minmax(0, 1fr) minmax(0, 2fr)"
            gap="10px"
          >
            <span>
              {row.called}{" "}
              <Box as="span" fontFamily="mono" color="muted" fontSize="small">
                {row.frames_words}
              </Box>
            </span>
            <Box color="muted">{row.steps.join("; then ") || "as it is"}</Box>
          </Box>
        ))}
        {sheet.last && <li>{sheet.last}</li>}
      </Box>
    </Section>
  );
}
