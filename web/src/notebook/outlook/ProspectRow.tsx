import { Box, chakra } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, type Schemas, take } from "../../api/client";
import { refreshPlans } from "../../api/queries";
import { labelOf } from "../../lib/format/labels";
import { PromiseBar } from "../../steps/light/PromiseBar";
import { PromiseReasons } from "../../steps/light/PromiseReasons";
import { Button, ButtonLink } from "../../ui/form/Button";
import { Cautions } from "../../ui/layout/Cautions";
import { Lane } from "./Lane";

export const COLUMNS = "minmax(190px, 250px) minmax(150px, 180px) minmax(200px, 1fr) 180px";

/** A shot's best window in the days looked at: its clock, its lane, its promise; opened, the reasons. */
export function ProspectRow({
  item,
  rank,
  from,
  to,
  open: opened,
  dated,
}: {
  item: Schemas["ProspectOut"];
  rank: number;
  from: number;
  to: number;
  open: boolean;
  /** Whether the day is to be named. */
  dated: boolean;
}) {
  const [open, setOpen] = useState(opened);
  const [refusal, setRefusal] = useState<string>();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const plan = async () => {
    try {
      await take(
        client.PATCH("/api/shots/{shot_id}", {
          params: { path: { shot_id: item.shot_id ?? 0 } },
          body: { light: { time_utc: item.start_utc, window_end_utc: item.end_utc } },
        }),
      );
      refreshPlans(queries);
      void navigate(`/shots/${item.shot_id}/light`);
    } catch (error) {
      setRefusal((error as Error).message);
    }
  };
  return (
    <Box as="li" borderTop="1px solid" borderColor="line" py="7px" data-prospect={item.name}>
      <Box
        display="grid"
        gridTemplateColumns={{ base: "minmax(0, 1fr) auto", lg: COLUMNS }}
        gap="2px 16px"
        alignItems="center"
        fontSize="body"
      >
        <chakra.button
          type="button"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          textAlign="left"
          bg="transparent"
          border="0"
          p="0"
          cursor="pointer"
          minW="0"
        >
          <Box fontWeight="650" fontSize="lead">
            <Box as="span" color="muted" fontFamily="mono" fontWeight="400" mr="7px">
              {rank}
            </Box>
            {item.name}
          </Box>
          <Box color="muted" fontSize="small">
            {item.place}
          </Box>
        </chakra.button>
        <Box>
          <Box fontFamily="mono" fontSize="body" whiteSpace="nowrap">
            {item.span_words}
          </Box>
          <Box fontSize="small" color="muted">
            {item.mark === "unsaid" && "○ "}
            {labelOf("LightKind", item.kind)}
            {dated ? `, ${item.date_words}` : ""}
          </Box>
        </Box>
        <Box gridColumn={{ base: "1 / -1", lg: "auto" }} minW="0">
          <Lane legs={item.lane} from={from} to={to} />
        </Box>
        <Box>
          {item.promise ? (
            <PromiseBar promise={item.promise} />
          ) : (
            <Box as="span" color="muted" fontSize="small">
              no forecast yet
            </Box>
          )}
        </Box>
      </Box>
      {open && (
        <Box display="grid" gap="3px" fontSize="small" pt="5px" pl={{ base: "0", lg: "20px" }} maxW="92ch">
          <Box>
            {item.way_words} ({item.drive_words}.)
          </Box>
          {item.sought_words && (
            <Box color="muted">{`${item.sought_words.charAt(0).toUpperCase()}${item.sought_words.slice(1)}.`}</Box>
          )}
          {item.promise && <PromiseReasons promise={item.promise} />}
          {item.notes.map((note) => (
            <Box key={note}>{note}</Box>
          ))}
          <Cautions cautions={item.cautions} />
          {!item.access_checked && <Box color="rust">Access was not checked: ask before you go.</Box>}
          {refusal && (
            <Box role="alert" color="rust">
              {refusal}
            </Box>
          )}
          <Box display="flex" gap="8px" pt="3px">
            {item.shot_id !== null ? (
              <>
                <Button onClick={() => void plan()}>Plan it for then</Button>
                <ButtonLink asChild look="quiet">
                  <Link to={`/shots/${item.shot_id}/light`}>open the shot as it is</Link>
                </ButtonLink>
              </>
            ) : (
              <ButtonLink asChild look="quiet">
                <Link to={`/locations/${item.location_id}`}>open the location</Link>
              </ButtonLink>
            )}
          </Box>
        </Box>
      )}
    </Box>
  );
}
