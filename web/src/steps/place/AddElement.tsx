import { Box } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { OPTIONS } from "../../api/facts";
import { asBody } from "../../lib/drafts/asBody";
import { Button } from "../../ui/form/Button";
import { NewForm } from "../../ui/form/NewForm";
import { useElements } from "./useElements";

const FIELDS = [
  { name: "name", label: "Name", placeholder: "Split boulder" },
  {
    name: "shape",
    label: "Shape",
    options: OPTIONS.Shape,
  },
  { name: "bearing_deg", label: "Bearing", unit: "°", placeholder: "128" },
  { name: "distance_m", label: "Distance from the tripod", placeholder: "1.3 m" },
  { name: "width_m", label: "Width", placeholder: "1.2 m" },
  { name: "height_m", label: "Height (water, path: reach)", placeholder: "75 cm" },
  { name: "base_m", label: "Base above ground", unit: "m", placeholder: "0" },
  { name: "speed_mps", label: "Moves at", unit: "m/s", placeholder: "still" },
];

/** A form for one more element of the scene. given: what is known of it already. */
export function AddElement({ viewpointId, given = {} }: { viewpointId: number; given?: Record<string, string> }) {
  const [open, setOpen] = useState(Object.keys(given).length > 0);
  const { add } = useElements();
  if (!open)
    return (
      <Box data-field="elements">
        <Button onClick={() => setOpen(true)}>Add an element</Button>
      </Box>
    );
  return (
    <NewForm
      name={`element:${viewpointId}:${JSON.stringify(given)}`}
      fields={FIELDS.map((field) =>
        given[field.name] === undefined ? field : { ...field, initial: given[field.name] ?? "" },
      )}
      label="Add the element"
      cancel={() => setOpen(false)}
      submit={async (values) => {
        await add(viewpointId, asBody<Schemas["ElementIn"]>(values));
        setOpen(false);
      }}
    />
  );
}
