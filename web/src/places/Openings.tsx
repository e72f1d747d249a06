import { Box } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { OPTIONS } from "../api/facts";
import { asBody } from "../lib/drafts/asBody";
import { dayText } from "../lib/format/spelling";
import { Button } from "../ui/form/Button";
import { DeleteButton } from "../ui/form/DeleteButton";
import { Field } from "../ui/form/Field";
import { NewForm } from "../ui/form/NewForm";
import { Section } from "../ui/layout/Section";
import { useLocation } from "./useLocation";

/** When one may be here: opening hours, gates, closures, permits. The way of every shot is held against them. */
export function Openings({ location }: { location: Schemas["LocationOut"] }) {
  const { addOpening, editOpening, dropOpening } = useLocation(location.id);
  const [adding, setAdding] = useState(false);
  return (
    <Section
      title="Gates, hours and permits"
      aside={
        !adding && (
          <Button look="quiet" py="0" fontSize="small" onClick={() => setAdding(true)}>
            add hours or a permit
          </Button>
        )
      }
    >
      {!location.openings.length && !adding && (
        <Box color="muted" fontSize="small">
          Nothing said: the place is taken to be open day and night.
        </Box>
      )}
      {location.openings.map((opening) => (
        <Box
          key={opening.id}
          borderTop="1px solid"
          borderColor="line"
          pt="5px"
          fontSize="body"
          data-opening={opening.kind}
        >
          <Box display="flex" justifyContent="space-between" gap="10px" alignItems="baseline">
            <Box fontWeight="650">{opening.words}</Box>
            <DeleteButton name="entry" remove={() => dropOpening(opening.id)} />
          </Box>
          <Field
            words
            label="Note"
            name={`opening:${opening.id}:note`}
            value={opening.note}
            save={(note) => editOpening(opening.id, { note })}
          />
        </Box>
      ))}
      {adding && (
        <NewForm
          name={`opening:${location.id}`}
          label="Add"
          fields={[
            { name: "kind", label: "What", options: OPTIONS.OpeningKind },
            { name: "from_clock", label: "From", placeholder: "08:00", hint: "empty: midnight" },
            { name: "to_clock", label: "to", placeholder: "20:00", hint: "may be after midnight" },
            { name: "days", label: "On", options: OPTIONS.OpeningDays },
            { name: "first_date", label: "First day", placeholder: dayText("2027-04-01"), hint: "empty: always" },
            { name: "last_date", label: "Last day", placeholder: dayText("2027-09-30") },
            {
              name: "every_year",
              label: "Dates count",
              options: [
                { value: "", label: "once" },
                { value: "true", label: "every year" },
              ],
            },
            { name: "note", label: "Note", placeholder: "The barrier at the lane" },
          ]}
          cancel={() => setAdding(false)}
          submit={async ({ every_year, ...values }) => {
            await addOpening(asBody<Schemas["OpeningIn"]>({ ...values, ...(every_year ? { every_year: true } : {}) }));
            setAdding(false);
          }}
        />
      )}
    </Section>
  );
}
