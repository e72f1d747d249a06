import { Box } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { OPTIONS } from "../api/facts";
import { asBody } from "../lib/drafts/asBody";
import { labelOf } from "../lib/format/labels";
import { plain } from "../lib/format/numbers";
import { Button } from "../ui/form/Button";
import { DeleteButton } from "../ui/form/DeleteButton";
import { Field } from "../ui/form/Field";
import { NewForm } from "../ui/form/NewForm";
import { Row, Section } from "../ui/layout/Section";
import { useLocation } from "./useLocation";

type Location = Schemas["LocationOut"];

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const MONTH_OPTIONS = MONTHS.map((label, index) => ({ value: String(index + 1), label }));

/** What can hurt someone here, and which tide cuts the place off. */
export function Hazards({ location }: { location: Location }) {
  const { addHazard, editHazard, dropHazard } = useLocation(location.id);
  const [adding, setAdding] = useState(false);
  return (
    <Section
      title="Hazards"
      aside={
        !adding && (
          <Button look="quiet" py="0" fontSize="small" onClick={() => setAdding(true)}>
            add a hazard
          </Button>
        )
      }
    >
      <Box fontSize="small" color="muted">
        A hazard speaks up in every plan that meets it. Signs, wardens and local rules come first.
      </Box>
      {location.hazards.map((hazard) => (
        <Box key={hazard.id} borderTop="1px solid" borderColor="line" pt="5px" data-hazard={hazard.kind}>
          <Box display="flex" justifyContent="space-between" gap="10px" alignItems="baseline">
            <Box fontWeight="650" fontSize="body">
              {labelOf("HazardKind", hazard.kind)}
              {hazard.from_month && hazard.to_month ? (
                <Box as="span" fontWeight="400" color="muted">
                  , {MONTHS[hazard.from_month - 1]} to {MONTHS[hazard.to_month - 1]}
                </Box>
              ) : null}
            </Box>
            <DeleteButton name="hazard" remove={() => dropHazard(hazard.id)} />
          </Box>
          <Row least="110px">
            {hazard.kind === "tide" && (
              <Field
                label="Cut off above"
                name={`hazard:${hazard.id}:cut_off_m`}
                value={plain(hazard.cut_off_m, 2)}
                unit="m"
                step={0.1}
                save={(text) => editHazard(hazard.id, { cut_off_m: (text.trim() || null) as number | null })}
              />
            )}
            <Field
              words
              label="Note"
              name={`hazard:${hazard.id}:note`}
              value={hazard.note}
              save={(note) => editHazard(hazard.id, { note })}
            />
          </Row>
        </Box>
      ))}
      {adding && (
        <NewForm
          name={`hazard:${location.id}`}
          label="Add the hazard"
          fields={[
            { name: "kind", label: "Kind", options: OPTIONS.HazardKind },
            { name: "note", label: "Note", placeholder: "The spit floods after rain" },
            { name: "cut_off_m", label: "Cut off above (tide)", unit: "m" },
            { name: "from_month", label: "From", options: [{ value: "", label: "all year" }, ...MONTH_OPTIONS] },
            { name: "to_month", label: "to", options: [{ value: "", label: "all year" }, ...MONTH_OPTIONS] },
          ]}
          cancel={() => setAdding(false)}
          submit={async ({ from_month, to_month, ...values }) => {
            await addHazard(
              asBody<Schemas["HazardIn"]>({
                ...values,
                ...(from_month && to_month ? { from_month: Number(from_month), to_month: Number(to_month) } : {}),
              }),
            );
            setAdding(false);
          }}
        />
      )}
    </Section>
  );
}

/** What parts of the year bring: leaf colour, flowers, water, snow, ice, crowds. */
export function Seasons({ location }: { location: Location }) {
  const { addSeason, dropSeason } = useLocation(location.id);
  const [adding, setAdding] = useState(false);
  return (
    <Section
      title="Seasons"
      aside={
        !adding && (
          <Button look="quiet" py="0" fontSize="small" onClick={() => setAdding(true)}>
            add a season
          </Button>
        )
      }
    >
      {!location.season_notes.length && !adding && (
        <Box color="muted" fontSize="small">
          Nothing noted: when do leaves turn, flowers open, rivers run full here?
        </Box>
      )}
      {location.season_notes.map((note) => (
        <Box key={note.id} fontSize="body">
          <Box display="flex" gap="10px" justifyContent="space-between" alignItems="baseline">
            <span>
              <Box as="span" fontWeight="650">
                {labelOf("SeasonKind", note.kind)}
              </Box>{" "}
              {note.note}
            </span>
            <Box as="span" fontFamily="mono" fontSize="small" whiteSpace="nowrap">
              {note.words}
            </Box>
          </Box>
          <YearLine note={note} />
          <DeleteButton name="season" remove={() => dropSeason(note.id)} />
        </Box>
      ))}
      {adding && (
        <NewForm
          name={`season:${location.id}`}
          label="Add the season"
          fields={[
            { name: "kind", label: "What", options: OPTIONS.SeasonKind },
            { name: "note", label: "Note", placeholder: "larches gold" },
            { name: "from_day", label: "From day", initial: "1" },
            { name: "from_month", label: "of", options: MONTH_OPTIONS },
            { name: "to_day", label: "to day", initial: "28" },
            { name: "to_month", label: "of", options: MONTH_OPTIONS },
          ]}
          cancel={() => setAdding(false)}
          submit={async (values) => {
            await addSeason(
              asBody<Schemas["SeasonNoteIn"]>({
                ...values,
                from_day: Number(values.from_day),
                to_day: Number(values.to_day),
                from_month: Number(values.from_month),
                to_month: Number(values.to_month),
              }),
            );
            setAdding(false);
          }}
        />
      )}
    </Section>
  );
}

/** A season as a stroke over the twelve months. */
function YearLine({ note }: { note: Schemas["SeasonNoteOut"] }) {
  const at = (month: number, day: number) => ((month - 1 + day / 31) / 12) * 100;
  const [from, to] = [at(note.from_month, note.from_day), at(note.to_month, note.to_day)];
  const spans =
    from <= to
      ? [[from, to]]
      : [
          [0, to],
          [from, 100],
        ];
  return (
    <svg width="100%" height="12" viewBox="0 0 100 12" preserveAspectRatio="none" aria-hidden="true">
      <line x1="0" x2="100" y1="8" y2="8" stroke="var(--lr-colors-line)" strokeWidth="2" />
      {MONTHS.map((month, index) => (
        <line
          key={month}
          x1={(index / 12) * 100}
          x2={(index / 12) * 100}
          y1="4"
          y2="10"
          stroke="var(--lr-colors-edge)"
          strokeWidth="0.3"
        />
      ))}
      {spans.map(([start = 0, end = 0]) => (
        <line key={start} x1={start} x2={end} y1="8" y2="8" stroke="var(--lr-colors-accent)" strokeWidth="5" />
      ))}
    </svg>
  );
}
