import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError, client, type Schemas, take } from "../../../api/client";
import { photographerQuery } from "../../../api/queries";
import { fitting, useStored } from "../../../lib/drafts/useStored";
import { plain } from "../../../lib/format/numbers";
import { lengthSent } from "../../../lib/format/spelling";
import type { Shot } from "../../../shots/useShot";
import { Button } from "../../../ui/form/Button";
import { Choice, Field, Input, Labelled } from "../../../ui/form/Field";
import { Row, Section } from "../../../ui/layout/Section";

interface Typed {
  by: "thumbs" | "pixels";
  count: string;
  distance: string;
  size: string;
}

/** "As tall as my thumb at arm's length", or pixels of a test frame: of angle, distance and size two give the third. */
export function Measure({
  shot,
  take: use,
}: {
  shot: Shot;
  take: (found: { height_m?: string; distance_m?: string }) => void;
}) {
  const queries = useQueryClient();
  const owner = useQuery(photographerQuery()).data;
  const [draft, setDraft] = useStored(`measure:${shot.id}`);
  const initial: Typed = {
    by: "thumbs",
    count: "1",
    distance: "",
    size: "",
  };
  const typed: Typed = { ...initial, ...fitting(draft, initial) };
  const put = (part: Partial<Typed>) => setDraft(JSON.stringify({ ...typed, ...part }));
  const [found, setFound] = useState<Schemas["MeasureOut"]>();
  const [errors, setErrors] = useState<Record<string, string>>({});
  const text = (value: string) => (value.trim() ? value : null);
  const measure = async () => {
    setErrors({});
    try {
      setFound(
        await take(
          client.POST("/api/shots/{shot_id}/measure", {
            params: { path: { shot_id: shot.id } },
            body: {
              thumbs: typed.by === "thumbs" ? text(typed.count) : null,
              pixels: typed.by === "pixels" ? text(typed.count) : null,
              distance_m: text(lengthSent(typed.distance)),
              size_m: text(lengthSent(typed.size)),
            },
          }),
        ),
      );
    } catch (failure) {
      setFound(undefined);
      const at = failure instanceof ApiError ? failure.fields : [];
      setErrors(
        at.length
          ? Object.fromEntries(at.map((item) => [item.field, item.message]))
          : { thumbs: (failure as Error).message },
      );
    }
  };
  const calibrate = (field: "thumb_mm" | "arm_mm") => (value: string) =>
    take(client.PATCH("/api/photographer", { body: { [field]: value } })).then((answer) =>
      queries.setQueryData(photographerQuery().queryKey, answer),
    );
  return (
    <Section
      title="Measure what you see"
      aside={
        owner ? (
          <Box fontSize="small" color="muted">
            thumb {owner.thumb_deg.toFixed(1)}°
          </Box>
        ) : undefined
      }
    >
      <Choice
        label="By"
        value={typed.by}
        options={[
          { value: "thumbs", label: "thumbs at arm’s length" },
          { value: "pixels", label: "pixels of a test frame" },
        ]}
        choose={(by) => put({ by })}
      />
      <Row least="84px">
        <Labelled label={typed.by === "thumbs" ? "Thumbs" : "Pixels"} error={errors.thumbs ?? errors.pixels}>
          <Input
            aria-label={typed.by === "thumbs" ? "Thumbs" : "Pixels"}
            value={typed.count}
            onChange={(event) => put({ count: event.target.value })}
          />
        </Labelled>
        <Labelled label="Distance" error={errors.distance_m}>
          <Input
            aria-label="Its distance"
            placeholder="40 m"
            value={typed.distance}
            onChange={(event) => put({ distance: event.target.value })}
          />
        </Labelled>
        <Labelled label="or size" error={errors.size_m}>
          <Input
            aria-label="or its size"
            placeholder="1.8 m"
            value={typed.size}
            onChange={(event) => put({ size: event.target.value })}
          />
        </Labelled>
      </Row>
      <Box display="flex" gap="8px" alignItems="baseline" flexWrap="wrap">
        <Button onClick={() => void measure()}>Measure</Button>
        {found && (
          <Button
            look="quiet"
            onClick={() =>
              use(
                typed.size.trim()
                  ? { distance_m: `${found.distance_m.toPrecision(3)} m` }
                  : { height_m: `${found.size_m.toPrecision(3)} m` },
              )
            }
          >
            use it for a new element
          </Button>
        )}
      </Box>
      {found && (
        <Box fontSize="body" role="status">
          {found.words}
        </Box>
      )}
      {typed.by === "thumbs" && owner && (
        <Row least="120px">
          <Field
            label="Thumb is wide"
            name="photographer:thumb_mm"
            value={plain(owner.thumb_mm, 1)}
            unit="mm"
            step={1}
            save={calibrate("thumb_mm")}
          />
          <Field
            label="and from the eye"
            name="photographer:arm_mm"
            value={plain(owner.arm_mm, 1)}
            unit="mm"
            step={10}
            save={calibrate("arm_mm")}
          />
        </Row>
      )}
    </Section>
  );
}
