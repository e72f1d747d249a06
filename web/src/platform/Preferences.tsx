import { Box } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { AccountSection } from "../accounts/AccountSection";
import { client, type Schemas, take } from "../api/client";
import { photographerQuery } from "../api/queries";
import { upload } from "../api/upload";
import { asBody } from "../lib/drafts/asBody";
import { spell } from "../lib/format/spelling";
import { ButtonLink } from "../ui/form/Button";
import { Choice, Field, Tick } from "../ui/form/Field";
import { FilePick } from "../ui/form/FilePick";
import { Section } from "../ui/layout/Section";
import { Failed, Pending } from "../ui/layout/States";
import { Dialog } from "../ui/overlay/Dialog";

type Preference = Pick<
  Schemas["PhotographerPatch"],
  "lengths" | "hours" | "day_order" | "dial_steps" | "simulated_weather"
>;

/** How one reads figures. Everything is kept as it was; only how it is written changes. */
export function Preferences({ close }: { close: () => void }) {
  const queries = useQueryClient();
  const { data, error, refetch } = useQuery(photographerQuery());
  const { mutate: choose } = useMutation({
    mutationFn: (body: Preference) => take(client.PATCH("/api/photographer", { body })),
    onSuccess: (answer) => {
      queries.setQueryData(photographerQuery().queryKey, answer);
      spell(answer);
      return queries.invalidateQueries();
    },
  });
  return (
    <Dialog title="Preferences" close={close}>
      {error ? (
        <Failed error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Pending what="the preferences" />
      ) : (
        <Box display="grid" gap="14px">
          <Choice
            label="Distances and heights"
            value={data.lengths}
            options={[
              { value: "metres", label: "metres: 2.40 m" },
              { value: "feet", label: "feet and inches: 7′ 10.5″" },
            ]}
            choose={(lengths) => choose({ lengths })}
          />
          <Choice
            label="Clock"
            value={data.hours}
            options={[
              { value: "24", label: "24 hours: 16:04" },
              { value: "12", label: "12 hours: 4:04 pm" },
            ]}
            choose={(hours) => choose({ hours })}
          />
          <Choice
            label="Dates"
            value={data.day_order}
            options={[
              { value: "day_first", label: "day first: 24 Nov 2026" },
              { value: "month_first", label: "month first: Nov 24, 2026" },
            ]}
            choose={(day_order) => choose({ day_order })}
          />
          <Choice
            label="Aperture, shutter and ISO go by"
            value={data.dial_steps}
            options={[
              { value: "thirds", label: "thirds of a stop" },
              { value: "halves", label: "halves" },
              { value: "whole", label: "whole stops" },
            ]}
            choose={(dial_steps) => choose({ dial_steps })}
          />
          <Field
            label="No polariser on lenses under"
            name="photographer:polariser_from_mm"
            value={data.polariser_from_mm === null ? "" : String(data.polariser_from_mm)}
            placeholder="on any"
            unit="mm"
            hint="as on 36 × 24 mm; 24 is a usual choice: over a wider sky it darkens unevenly"
            save={async (text) => {
              const body = asBody<Schemas["PhotographerPatch"]>({ polariser_from_mm: text.trim() || null });
              queries.setQueryData(
                photographerQuery().queryKey,
                await take(client.PATCH("/api/photographer", { body })),
              );
              await queries.invalidateQueries();
            }}
          />
          <Tick
            label="Practise with simulated weather and tides (never for safety)"
            checked={data.simulated_weather}
            change={(simulated_weather) => choose({ simulated_weather })}
          />
          <Box color="muted" fontSize="small" maxW="52ch">
            You may type either way in any field: 2 m, 6′ 2″, 16:04, 4 pm. Focal lengths, sensors and close-ups stay in
            millimetres.
          </Box>
          <Whole />
          <AccountSection />
        </Box>
      )}
    </Dialog>
  );
}

/** The whole notebook as one file that can be read without us, and back into this one or another. */
function Whole() {
  const queries = useQueryClient();
  const readIn = async (file: File) => {
    const found = await upload<Schemas["ReadArchiveOut"]>("/api/archive", file);
    await queries.invalidateQueries();
    return found.words;
  };
  return (
    <Section title="The whole notebook">
      <Box display="flex" gap="10px" flexWrap="wrap" alignItems="flex-start">
        <ButtonLink href="/api/archive" download>
          Save it as one file
        </ButtonLink>
        <FilePick
          label="Read such a file in …"
          accept=".zip"
          take={readIn}
          hint="What this notebook lacks is added; what it has stays as it is here. There is no undo."
        />
      </Box>
    </Section>
  );
}
