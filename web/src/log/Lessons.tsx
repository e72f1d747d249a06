import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { client, type Schemas, take } from "../api/client";
import { calibrationsQuery, logFiguresQuery } from "../api/queries";
import { useAct } from "../lib/drafts/useAct";
import { percent } from "../lib/format/numbers";
import { plural } from "../lib/format/spelling";
import { Button } from "../ui/form/Button";
import { Figure, Figures } from "../ui/layout/Figure";
import { Section } from "../ui/layout/Section";
import { Empty, Failed, Pending } from "../ui/layout/States";
import { Cell, Table } from "../ui/layout/Table";
import { UndoBar } from "../ui/overlay/UndoBar";

type Calibration = Schemas["CalibrationOut"];
type Measured = Schemas["MeasuredOut"];

/** What the log teaches: proposed with its evidence, used only when one switches it on; and how good the predictions were. */
export function Lessons() {
  const query = useQuery(calibrationsQuery());
  const figures = useQuery(logFiguresQuery());
  const learn = useAct(() => take(client.POST("/api/calibrations")));
  if (query.error) return <Failed error={query.error} retry={() => void query.refetch()} />;
  if (!query.data || !figures.data) return <Pending what="what the log teaches" />;
  const { calibrations, undo } = query.data;
  return (
    <Box
      display="grid"
      gap="14px 28px"
      pt="8px"
      gridTemplateColumns="minmax(0, 1fr)"
      css={{ "@media (min-width: 960px)": { gridTemplateColumns: "minmax(0, 1fr) minmax(0, 1fr)" } }}
    >
      <Box minW="0">
        <Box display="flex" gap="12px" alignItems="baseline" flexWrap="wrap" mb="6px">
          <Button
            look="main"
            disabled={learn.isPending || figures.data.behind > 0}
            onClick={() => learn.mutate(undefined)}
          >
            Look through the log
          </Button>
          <UndoBar undo={undo} scopes={["calibrations"]} />
          {figures.data.behind > 0 && (
            <Box role="status" color="muted" fontSize="body">
              {plural(figures.data.behind, "entry", "entries")} still to be counted.
            </Box>
          )}
        </Box>
        {calibrations.length === 0 ? (
          <Empty>
            Nothing is proposed. A figure is proposed once it was measured four times at least, and its interval
            excludes what counts now by more than chance.
          </Empty>
        ) : (
          <Box as="ul" data-calibrations="">
            {calibrations.map((item) => (
              <One key={item.id} item={item} />
            ))}
          </Box>
        )}
      </Box>
      <Box minW="0">
        <Predictions figures={figures.data} />
        <Section title="All that was measured">
          {figures.data.measured.length ? <All measured={figures.data.measured} /> : <Empty>Nothing yet.</Empty>}
        </Section>
      </Box>
    </Box>
  );
}

function One({ item }: { item: Calibration }) {
  const act = useAct((state: Calibration["state"]) =>
    take(
      client.PATCH("/api/calibrations/{calibration_id}", {
        params: { path: { calibration_id: item.id } },
        body: { state },
      }),
    ),
  );
  return (
    <Box as="li" py="10px" borderTop="1px solid" borderColor="line" display="grid" gap="5px">
      <Box display="flex" gap="12px" alignItems="baseline" flexWrap="wrap">
        <Box fontWeight="650" fontSize="lead">
          {item.name}
        </Box>
        <Box fontFamily="mono" fontSize="heading">
          {item.figure}
        </Box>
        <Box color="muted" fontSize="body">
          {item.state === "on" ? "in use" : item.state}
        </Box>
      </Box>
      <Box fontSize="body">{item.words}</Box>
      <Scale item={item} />
      <Box display="flex" gap="8px">
        {item.state !== "on" && (
          <Button disabled={act.isPending} onClick={() => act.mutate("on")}>
            Use it
          </Button>
        )}
        {item.state === "on" && (
          <Button disabled={act.isPending} onClick={() => act.mutate("off")}>
            No longer use it
          </Button>
        )}
        {item.state !== "refused" && (
          <Button look="quiet" disabled={act.isPending} onClick={() => act.mutate("refused")}>
            refuse
          </Button>
        )}
      </Box>
    </Box>
  );
}

/** What counts now and what was measured, with its interval, on one line. */
function Scale({ item }: { item: Calibration }) {
  const reach = Math.max(item.told, item.high ?? item.value) - Math.min(item.told, item.low ?? item.value);
  const low = Math.min(item.told, item.low ?? item.value) - reach / 4;
  const high = Math.max(item.told, item.high ?? item.value) + reach / 4;
  const at = (value: number) => `${((value - low) / (high - low)) * 100}%`;
  return (
    <Box position="relative" height="22px" maxW="420px" aria-hidden="true">
      <Box position="absolute" left="0" right="0" top="10px" height="1px" bg="line" />
      {item.low !== null && item.high !== null && (
        <Box
          position="absolute"
          left={at(item.low)}
          right={`calc(100% - ${at(item.high)})`}
          top="7px"
          height="7px"
          bg="haze"
        />
      )}
      <Box position="absolute" left={at(item.value)} top="3px" width="3px" height="15px" bg="accent" />
      <Box position="absolute" left={at(item.told)} top="3px" width="2px" height="15px" bg="rust" />
    </Box>
  );
}

const ratio = (counted: Schemas["CountedOut"]) => (counted.said ? `${counted.kept}/${counted.said}` : "–");

function Predictions({ figures }: { figures: Schemas["LogFiguresOut"] }) {
  const { middle_ev, sharp, sharp_of } = figures;
  return (
    <Section title="How good are our predictions?">
      <Figures>
        <Figure
          name="Light, median error"
          value={middle_ev === null ? "–" : middle_ev.toFixed(2)}
          unit="stop"
          note={`of the newest ${Math.min(figures.window, figures.errors.length)}`}
        />
        <Figure
          name="Sharp on a tripod"
          value={sharp_of ? `${sharp}/${sharp_of}` : "–"}
          note={sharp_of ? `${percent(figures.sharp_low)} to ${percent(figures.sharp_high)} at 95 %` : ""}
        />
        <Figure
          name="Promising light"
          value={ratio(figures.promising)}
          note={`pleased, four stars and more; doubtful ${ratio(figures.doubtful)}`}
        />
        <Figure name="Keepers" value={figures.outcomes.keep ?? 0} note={`of ${figures.taken.length} field sessions`} />
      </Figures>
    </Section>
  );
}

function All({ measured }: { measured: Measured[] }) {
  return (
    <Table label="All that was measured" heads={["", "counts", "measured", "95 %", "by", ""]}>
      {measured.map((item) => (
        <tr key={`${item.kind} ${item.name}`}>
          <Cell style={{ fontFamily: "inherit" }}>{item.name}</Cell>
          <Cell>{item.told_figure}</Cell>
          <Cell>{item.figure}</Cell>
          <Cell>{item.between}</Cell>
          <Cell>{item.frames}</Cell>
          <Cell style={{ fontFamily: "inherit" }}>{item.worth ? "differs" : "agrees, or too few"}</Cell>
        </tr>
      ))}
    </Table>
  );
}
