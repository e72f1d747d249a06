import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, type Schemas, take } from "../api/client";
import { OPTIONS } from "../api/facts";
import { kitQuery, presetsQuery, refreshPlans } from "../api/queries";
import { readsFrom } from "../api/session";
import { asBody } from "../lib/drafts/asBody";
import { useAct } from "../lib/drafts/useAct";
import { useTitle } from "../lib/focus/useTitle";
import { labelOf } from "../lib/format/labels";
import { plain } from "../lib/format/numbers";
import { lengthText } from "../lib/format/spelling";
import { Button } from "../ui/form/Button";
import { Select } from "../ui/form/Field";
import { NewForm } from "../ui/form/NewForm";
import { PickMenu } from "../ui/form/PickMenu";
import { FailedPage, Pending } from "../ui/layout/States";
import { UndoBar } from "../ui/overlay/UndoBar";
import {
  type AccessoryKind,
  accessoryFields,
  BODY_FIELDS,
  FILTER_FIELDS,
  type KitField,
  LENS_FIELDS,
  SUPPORT_FIELDS,
  typed,
} from "./fields";
import { LensDrawing } from "./LensDrawing";
import { Piece } from "./Piece";

type Path = "bodies" | "lenses" | "filters" | "supports" | "accessories";

/** Bodies, lenses, filters, tripods and what is used close up. */
export default function Kit() {
  const query = useQuery(kitQuery());
  useTitle("Kit");
  useEffect(() => readsFrom("/api/kit"), []);
  if (query.error) return <FailedPage error={query.error} retry={() => void query.refetch()} />;
  if (!query.data) return <Pending what="the kit" />;
  const { bodies, lenses, filters, supports, accessories } = query.data;
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="14px" maxW="1400px" mx="auto">
      <Box display="flex" gap="14px" alignItems="center" mb="10px">
        <Box as="h1" fontSize="title" fontWeight="700">
          Kit
        </Box>
        <UndoBar undo={query.data.undo} scopes={["kit"]} />
      </Box>
      <Box display="grid" gap="18px 36px" gridTemplateColumns={{ base: "1fr", lg: "1fr 1fr" }}>
        <Box display="grid" gap="18px" alignContent="start">
          <Group title="Lenses" path="lenses" word="lens" fields={LENS_FIELDS}>
            <LensDrawing lenses={lenses} />
            {lenses.map((lens) => (
              <Piece
                key={lens.id}
                path="lenses"
                piece={lens}
                fields={LENS_FIELDS}
                summary={`${lens.f_number_min_label} to ${lens.f_number_max_label}, sharpest at ${lens.sharpest_label}, focuses from ${plain(lens.closest_focus_mm, 1)} mm${lens.max_magnification ? `, to ${plain(lens.max_magnification, 2)}:1` : ""}`}
              />
            ))}
          </Group>
          <Accessories accessories={accessories} />
        </Box>
        <Box display="grid" gap="18px" alignContent="start">
          <Group title="Bodies" path="bodies" word="body" fields={BODY_FIELDS}>
            {bodies.map((body) => (
              <Piece
                key={body.id}
                path="bodies"
                piece={body}
                fields={BODY_FIELDS}
                summary={`${plain(body.sensor_width_mm, 2)} × ${plain(body.sensor_height_mm, 2)} mm, ${plain(body.dynamic_range_stops, 1)} stops of dynamic range, ${body.fastest_shutter_label} to ${body.slowest_shutter_label}${body.has_bulb ? " and bulb" : ""}, bracket ${body.bracket_frames} × ${body.bracket_step_ev} EV`}
              />
            ))}
          </Group>
          <Group title="Filters" path="filters" word="filter" fields={FILTER_FIELDS}>
            {filters.map((filter) => (
              <Piece
                key={filter.id}
                path="filters"
                piece={filter}
                fields={FILTER_FIELDS}
                summary={`${labelOf("FilterKind", filter.kind)}, ${plain(filter.stops, 2)} stops, density ${filter.density.toFixed(2)}, ${filter.factor.toFixed(filter.factor < 10 ? 1 : 0)}×`}
              />
            ))}
          </Group>
          <Group title="Tripods" path="supports" word="tripod" fields={SUPPORT_FIELDS}>
            {supports.map((support) => (
              <Piece
                key={support.id}
                path="supports"
                piece={support}
                fields={SUPPORT_FIELDS}
                summary={`${lengthText(support.height_min_m)} to ${lengthText(support.height_max_m)}${support.inverted_min_m === null ? "" : `, column inverted from ${lengthText(support.inverted_min_m)}`}`}
              />
            ))}
          </Group>
        </Box>
      </Box>
    </Box>
  );
}

/** What goes between, before and around a lens: its kind says which figures are asked for. */
function Accessories({ accessories }: { accessories: Schemas["AccessoryOut"][] }) {
  const [kind, setKind] = useState<AccessoryKind>("extension_tube");
  return (
    <Group
      title="Close up: rig, rails, light"
      path="accessories"
      word="accessory"
      article="an"
      fields={accessoryFields(kind)}
      fixed={{ kind }}
      before={
        <Select
          label="Kind"
          value={kind}
          options={OPTIONS.AccessoryKind}
          choose={(chosen) => chosen && setKind(chosen)}
        />
      }
    >
      {accessories.map((item) => (
        <Piece
          key={item.id}
          path="accessories"
          piece={item}
          fields={accessoryFields(item.kind)}
          summary={`${labelOf("AccessoryKind", item.kind)}, ${item.words}`}
        />
      ))}
    </Group>
  );
}

function Group({
  title,
  path,
  word,
  article = "a",
  fields,
  fixed = {},
  before,
  children,
}: {
  title: string;
  path: Path;
  word: string;
  article?: string;
  fields: KitField[];
  /** Values that go with what is typed. */
  fixed?: Record<string, string>;
  /** Above the form of a new piece. */
  before?: React.ReactNode;
  children: React.ReactNode;
}) {
  const [making, setMaking] = useState(false);
  const inForm = fields.filter((field) => !field.more);
  const queries = useQueryClient();
  const presets = useQuery(presetsQuery()).data?.presets;
  const add = useAct((key: string) => take(client.POST("/api/kit/presets/{key}", { params: { path: { key } } })));
  return (
    <Box as="section" minW="0">
      <Box display="flex" justifyContent="space-between" alignItems="baseline" mb="4px">
        <Box as="h2" fontSize="heading" fontWeight="650">
          {title}
        </Box>
        <Box display="flex" gap="8px" alignItems="center">
          <PickMenu
            label={`a usual ${word}`}
            options={(presets ?? [])
              .filter((item) => item.kind === path)
              .map((item) => ({ value: item.key, label: item.name }))}
            pick={(key) => add.mutate(key)}
            disabled={add.isPending}
          />
          <Button look="quiet" aria-expanded={making} onClick={() => setMaking(!making)}>
            add {article} {word}
          </Button>
        </Box>
      </Box>
      {making && (
        <Box bg="panel" p="12px" mb="8px" display="grid" gap="10px">
          {before}
          <NewForm
            key={inForm.map((field) => field.name).join()}
            name={path}
            label={`Add the ${word}`}
            fields={inForm.map((field) => ({
              ...field,
              placeholder: field.example,
              options: field.yes ? YES_NO : field.options,
            }))}
            cancel={() => setMaking(false)}
            submit={async (values) => {
              const body = Object.fromEntries(
                Object.entries(values).map(([name, text]) => [
                  name,
                  typed(
                    fields.find((field) => field.name === name),
                    text,
                  ),
                ]),
              );
              // The addresses take different bodies; the server checks each field.
              await take(client.POST(`/api/${path}`, { body: asBody<Schemas["BodyIn"]>({ ...fixed, ...body }) }));
              refreshPlans(queries);
              setMaking(false);
            }}
          />
        </Box>
      )}
      {children}
    </Box>
  );
}

const YES_NO = [
  { value: "yes", label: "yes" },
  { value: "no", label: "no" },
];
