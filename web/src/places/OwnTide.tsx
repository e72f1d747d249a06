import { Box } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { asBody } from "../lib/drafts/asBody";
import { plain } from "../lib/format/numbers";
import { dayText } from "../lib/format/spelling";
import { Button } from "../ui/form/Button";
import { DeleteButton } from "../ui/form/DeleteButton";
import { Field, Select } from "../ui/form/Field";
import { FilePick } from "../ui/form/FilePick";
import { NewForm } from "../ui/form/NewForm";
import { Row, Section } from "../ui/layout/Section";
import { useLocation } from "./useLocation";

/** The tide of a place: a table of one's own, constants of one's own, or an invented reference place. */
export function OwnTide({ location, tides }: { location: Schemas["LocationOut"]; tides: string[] }) {
  const { setTide, dropTide, edit, save } = useLocation(location.id);
  const [writing, setWriting] = useState<"table" | "constants">();
  const own = location.own_tide;
  const source = own?.source ?? "";
  const noted = own?.noted_on ? dayText(own.noted_on) : "";
  return (
    <Section
      title="Tide"
      aside={
        !writing && (
          <Box as="span" display="flex" gap="8px">
            <Button look="quiet" py="0" fontSize="small" onClick={() => setWriting("table")}>
              {own?.table ? "change the table" : "write a table"}
            </Button>
            <Button look="quiet" py="0" fontSize="small" onClick={() => setWriting("constants")}>
              {own?.constants ? "change the constants" : "constants"}
            </Button>
          </Box>
        )
      }
    >
      {own && !writing && (
        <Box data-own-tide="" display="grid" gap="4px" fontSize="body">
          <Box>
            <Box as="span" fontWeight="650">
              {own.source || (own.table ? "A table of your own" : "Constants of your own")}
            </Box>
            {noted && `, noted ${noted}`}
          </Box>
          <Box fontSize="small">{own.words}</Box>
          {own.table && (
            <Box
              as="pre"
              fontFamily="mono"
              fontSize="small"
              maxH="130px"
              overflowY="auto"
              columnGap="18px"
              css={{ columns: "26ch", scrollbarWidth: "thin" }}
            >
              {own.table}
            </Box>
          )}
          <Box>
            <DeleteButton name="own tide" remove={dropTide} />
          </Box>
        </Box>
      )}
      {!own && !writing && tides.length > 0 && (
        <Select
          label="Tide of (simulated, never for safety)"
          field="tide_place"
          value={location.tide_place}
          empty="no tide here"
          options={tides.map((name) => ({ value: name, label: name }))}
          choose={(tide_place) => void edit({ tide_place })}
        />
      )}
      {!writing && (own || location.tide_place) && (
        <Row least="130px">
          <Field
            label="Margin in height"
            unit="m"
            name={`location:${location.id}:tide_margin_m`}
            value={plain(location.tide_margin_m, 2)}
            hint="swell, wind and low pressure add to any table"
            save={save("tide_margin_m")}
          />
          <Field
            label="Margin in time"
            unit="min"
            name={`location:${location.id}:tide_margin_min`}
            value={plain(location.tide_margin_min)}
            save={save("tide_margin_min")}
          />
        </Row>
      )}
      {writing && (
        <NewForm
          key={writing}
          name={`tide:${writing}:${location.id}`}
          label="Take this tide"
          fields={
            writing === "table"
              ? [
                  {
                    name: "table",
                    label: "High and low waters, one a line",
                    lines: 9,
                    initial: own?.table ?? "",
                    placeholder: "24 Nov 2026 04:12 1.3 m\n10:31 4.6 m\n16:40 1.5 m",
                    hint: "a line without a day has the one above it; a time may say its zone: 06:00 GMT",
                  },
                  {
                    name: "table_clock",
                    label: "Printed in",
                    initial: "local",
                    options: [
                      { value: "local", label: `local time, ${location.zone}` },
                      { value: "winter", label: "winter time all year" },
                      { value: "utc", label: "UTC (GMT)" },
                    ],
                  },
                  { name: "source", label: "Source", initial: source, placeholder: "harbour table 2026" },
                  { name: "noted_on", label: "Noted on", initial: noted, placeholder: dayText("2026-11-24") },
                ]
              : [
                  {
                    name: "constants",
                    label: "Constants, one a line: amplitude in metres, lag in degrees",
                    lines: 6,
                    initial: own?.constants ?? "",
                    placeholder: "M2 1.42 327\nS2 0.45 12",
                    hint: "any of the usual 37 by name; lag behind the equilibrium tide at Greenwich",
                  },
                  {
                    name: "mean_m",
                    label: "Mean height",
                    unit: "m",
                    initial: plain(own?.mean_m ?? null, 2),
                    placeholder: "2.4",
                  },
                  { name: "source", label: "Source", initial: source },
                  { name: "noted_on", label: "Noted on", initial: noted, placeholder: dayText("2026-11-24") },
                ]
          }
          cancel={() => setWriting(undefined)}
          submit={async (values) => {
            await setTide(asBody<Schemas["OwnTideIn"]>(values));
            setWriting(undefined);
          }}
        />
      )}
      {!writing && (
        <FilePick
          label="Import a tide table …"
          accept=".csv,.txt"
          hint="one water a line: day, time, height"
          take={async (file) => {
            await setTide(asBody<Schemas["OwnTideIn"]>({ table: await file.text(), source: file.name }));
            return "The table is taken.";
          }}
        />
      )}
    </Section>
  );
}
