import { Box, chakra, Popover, Portal } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { client, type Schemas, take } from "../api/client";
import { GLOSSARY } from "../api/facts";
import { FLOATING, REACH } from "../theme/system";
import type { TermName } from "../ui/overlay/Term";
import { useAnswered } from "./useAnswered";
import { useShotWork } from "./work";

type Of = "hyperfocal" | "effective_aperture" | "diffraction" | "worst_blur" | "shutter" | "light";

/** A figure that shows its working when it is pressed: formula, numbers, where they came from, assumption, source. */
export function Working({ of, term, children }: { of: Of; term?: TermName; children: ReactNode }) {
  const { shot } = useShotWork();
  const [open, setOpen] = useState(false);
  const answeredAt = useAnswered(shot.id);
  const found = useQuery({
    queryKey: ["workings", shot.id, answeredAt],
    queryFn: ({ signal }) =>
      take(client.GET("/api/shots/{shot_id}/workings", { params: { path: { shot_id: shot.id } }, signal })),
    enabled: open,
    retry: false,
  });
  const working = found.data?.workings.find((item) => item.figure === of);
  return (
    <Popover.Root
      open={open}
      onOpenChange={(details) => setOpen(details.open)}
      positioning={{ placement: "bottom-start" }}
      lazyMount
      unmountOnExit
    >
      <Popover.Trigger asChild>
        <chakra.button
          type="button"
          {...REACH}
          bg="transparent"
          border="0"
          p="0"
          font="inherit"
          color="inherit"
          cursor="help"
          textDecoration="underline dotted"
          textUnderlineOffset="4px"
          textDecorationThickness="1px"
          data-working={of}
        >
          {children}
        </chakra.button>
      </Popover.Trigger>
      <Portal>
        <Popover.Positioner zIndex="12">
          <Popover.Content
            {...FLOATING}
            p="12px"
            maxW="min(440px, 92vw)"
            aria-label={`Working: ${working?.name ?? of}`}
          >
            {working ? (
              <Shown working={working} term={term} />
            ) : (
              <Box color="muted">
                {found.error ? found.error.message : found.data ? "There is no working for this yet." : "…"}
              </Box>
            )}
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}

function Shown({ working, term }: { working: Schemas["WorkingsOut"]["workings"][number]; term: TermName | undefined }) {
  return (
    <Box display="grid" gap="8px" fontSize="body">
      <Box fontWeight="650">{working.name}</Box>
      {term && (
        <Box color="muted" fontSize="small">
          {GLOSSARY[term]}
        </Box>
      )}
      <Box fontFamily="mono">
        {working.result}
        <Box>= {working.formula}</Box>
        <Box>= {working.with_numbers}</Box>
      </Box>
      <chakra.table fontSize="small" borderCollapse="collapse" width="100%">
        <tbody>
          {working.given.map((item) => (
            <chakra.tr key={item.name} borderTop="1px solid" borderColor="line">
              <chakra.th scope="row" textAlign="left" fontWeight="500" pr="10px" py="2px" verticalAlign="top">
                {item.name}
              </chakra.th>
              <chakra.td fontFamily="mono" pr="10px" verticalAlign="top">
                {item.value}
              </chakra.td>
              <chakra.td color="muted" verticalAlign="top">
                {item.source}
              </chakra.td>
            </chakra.tr>
          ))}
        </tbody>
      </chakra.table>
      {working.assumption && <Box fontSize="small">{working.assumption}</Box>}
      {working.source && (
        <Box fontSize="small" color="muted">
          {working.source}
        </Box>
      )}
    </Box>
  );
}
