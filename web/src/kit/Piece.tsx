import { Box, chakra } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../api/client";
import { refreshPlans } from "../api/queries";
import { asBody } from "../lib/drafts/asBody";
import { useAct } from "../lib/drafts/useAct";
import { plain } from "../lib/format/numbers";
import { DeleteButton } from "../ui/form/DeleteButton";
import { Field, Select, Tick } from "../ui/form/Field";
import { type KitField, typed } from "./fields";
import { KitUses } from "./KitUses";

interface AnyPiece {
  id: number;
  name: string;
  used_by: Schemas["ShotRefOut"][];
}

/** One piece of kit: a line that opens for editing. */
export function Piece({
  path,
  piece,
  fields,
  summary,
}: {
  path: "bodies" | "lenses" | "filters" | "supports" | "accessories";
  piece: AnyPiece;
  fields: KitField[];
  summary: string;
}) {
  const [open, setOpen] = useState(false);
  const queries = useQueryClient();
  const params = { params: { path: { piece_id: piece.id } } };
  const values: Record<string, string | number | boolean | null> = Object.fromEntries(
    Object.entries(piece).filter(
      (entry): entry is [string, string | number | boolean | null] => typeof entry[1] !== "object" || entry[1] === null,
    ),
  );
  const save = (field: KitField) => async (text: string) => {
    const value = field.optional && !text.trim() ? null : typed(field, text);
    await take(
      client.PATCH(`/api/${path}/{piece_id}`, {
        ...params,
        body: asBody<Schemas["BodyPatch"]>({ [field.name]: value }),
      }),
    );
    refreshPlans(queries);
  };
  const choose = useAct(({ field, text }: { field: KitField; text: string }) => save(field)(text));
  const remove = async () => {
    await take(client.DELETE(`/api/${path}/{piece_id}`, params));
    refreshPlans(queries);
  };
  const further = fields.filter((field) => field.more);
  const grid = (some: KitField[]) => (
    <Box display="grid" gridTemplateColumns="repeat(auto-fill, minmax(140px, 1fr))" gap="8px 12px" alignItems="start">
      {some.map((field) =>
        field.yes ? (
          <Tick
            key={field.name}
            label={field.label}
            checked={values[field.name] === true}
            change={(on) => choose.mutate({ field, text: on ? "yes" : "no" })}
          />
        ) : field.options ? (
          <Select
            key={field.name}
            label={field.label}
            value={String(values[field.name] ?? "")}
            options={field.options}
            choose={(value) => value !== null && choose.mutate({ field, text: value })}
          />
        ) : (
          <Field
            key={field.name}
            label={field.label}
            name={`${path}:${piece.id}:${field.name}`}
            value={written(values[field.labelled ?? field.name])}
            placeholder={field.optional ? field.example : undefined}
            unit={field.unit}
            save={save(field)}
          />
        ),
      )}
    </Box>
  );
  return (
    <Box borderTop="1px solid" borderColor="line">
      <chakra.button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        display="block"
        width="100%"
        textAlign="left"
        bg="transparent"
        border="0"
        px="0"
        py="6px"
        cursor="pointer"
      >
        <Box display="flex" justifyContent="space-between">
          <b style={{ fontWeight: 600 }}>{piece.name}</b>
          <Box as="span" color="muted" aria-hidden="true">
            {open ? "−" : "+"}
          </Box>
        </Box>
        <Box fontSize="small" color="muted">
          {summary}
        </Box>
      </chakra.button>
      {open && (
        <Box pb="12px" display="grid" gap="10px">
          <KitUses path={path} name={piece.name} uses={piece.used_by} />
          {grid(fields.filter((field) => !field.more))}
          {further.length > 0 && (
            <chakra.details>
              <chakra.summary cursor="pointer" fontSize="small" color="muted">
                more figures
              </chakra.summary>
              <Box pt="8px">{grid(further)}</Box>
            </chakra.details>
          )}
          <DeleteButton name={piece.name} remove={remove} uses={piece.used_by} />
        </Box>
      )}
    </Box>
  );
}

function written(value: string | number | boolean | null | undefined): string {
  return typeof value === "number" ? plain(value) : String(value ?? "");
}
