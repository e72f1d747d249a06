import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { ApiError, client, type Schemas, take } from "../../../api/client";
import { NUMBERS } from "../../../api/facts";
import { fitting, useStored } from "../../../lib/drafts/useStored";
import type { ShotWork } from "../../../shots/useShot";
import { Button } from "../../../ui/form/Button";
import { Input, Labelled, SelectBox, Tick } from "../../../ui/form/Field";
import { Mark } from "../../../ui/layout/Mark";
import { Row, Section } from "../../../ui/layout/Section";
import { onGround } from "../finder/scene";

interface Wish {
  kind: "place" | "clearance" | "horizon" | "whole" | "uncut";
  element: string;
  other: string;
  /** In per cent of the frame, as typed. */
  x: string;
  y: string;
  clearance: string;
  weight: string;
}

interface Tuning {
  wishes: Wish[];
  step: string;
  low: string;
  high: string;
  focal: boolean;
  bearing: boolean;
  pitch: boolean;
  crop: boolean;
  area: boolean;
}

const KINDS: Record<Wish["kind"], string> = {
  place: "stands at",
  clearance: "stands clear of",
  horizon: "horizon at",
  whole: "is whole in the frame",
  uncut: "edges cut nothing",
};
const NEW: Wish = { kind: "place", element: "", other: "", x: "33", y: "", clearance: "2", weight: "1" };
const share = (text: string) => (text.trim() ? Number(text.replace(",", ".")) / 100 : null);

/** State what the frame should hold and what may change; get the camera, up to three of them, and what stands in the way. */
export function FineTuner({ shot, set }: ShotWork) {
  const [draft, setDraft] = useStored(`tuner:${shot.id}`);
  const height = shot.plan.frame.camera_height_m ?? NUMBERS.DEFAULT_CAMERA_HEIGHT_M;
  const initial: Tuning = {
    wishes: [
      {
        ...NEW,
        element: String([...shot.plan.frame.elements].reverse().find((item) => !onGround(item.shape))?.id ?? ""),
      },
    ],
    step: "1",
    low: String(Math.round(height * 50) / 100),
    high: String(Math.round(Math.max(1.6, height) * 100) / 100),
    focal: true,
    bearing: true,
    pitch: true,
    crop: false,
    area: true,
  };
  const tuning: Tuning = { ...initial, ...fitting(draft, initial) };
  const put = (part: Partial<Tuning>) => setDraft(JSON.stringify({ ...tuning, ...part }));
  const putWish = (index: number, part: Partial<Wish>) =>
    put({ wishes: tuning.wishes.map((wish, at) => (at === index ? { ...wish, ...part } : wish)) });
  const [tuned, setTuned] = useState<Schemas["TunedOut"]>();
  const [error, setError] = useState<string>();
  const elements = shot.place?.viewpoint.elements ?? [];
  const find = async () => {
    setError(undefined);
    const number = (text: string) => (text.trim() ? text : null);
    try {
      setTuned(
        await take(
          client.POST("/api/shots/{shot_id}/tune", {
            params: { path: { shot_id: shot.id } },
            body: {
              targets: tuning.wishes.map((wish) => ({
                kind: wish.kind,
                element_id: wish.kind === "horizon" || wish.kind === "uncut" ? null : Number(wish.element) || null,
                other_id: wish.kind === "clearance" ? Number(wish.other) || null : null,
                x: wish.kind === "place" ? share(wish.x) : null,
                y: wish.kind === "place" || wish.kind === "horizon" ? share(wish.y) : null,
                clearance: ["clearance", "whole", "uncut"].includes(wish.kind) ? (share(wish.clearance) ?? 0) : 0,
                weight: wish.weight.trim() || "1",
              })),
              step_m: number(tuning.step) ?? 0,
              height_low_m: number(tuning.low),
              height_high_m: number(tuning.high),
              focal: tuning.focal,
              bearing: tuning.bearing,
              pitch: tuning.pitch,
              crop: tuning.crop,
              within_area: tuning.area,
            },
          }),
        ),
      );
    } catch (failure) {
      setTuned(undefined);
      setError(failure instanceof ApiError ? failure.message : String(failure));
    }
  };
  const select = (
    label: string,
    value: string,
    choose: (value: string) => void,
    options: { value: string; label: string }[],
  ) => (
    <SelectBox
      aria-label={label}
      fontFamily="body"
      fontSize={{ base: "lead", lg: "body" }}
      value={value}
      onChange={(event) => choose(event.target.value)}
    >
      <option value="">…</option>
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.label}
        </option>
      ))}
    </SelectBox>
  );
  const percent = (label: string, value: string, change: (value: string) => void) => (
    <Box display="flex" gap="4px" alignItems="baseline">
      <Input aria-label={label} value={value} width="62px" onChange={(event) => change(event.target.value)} />
      <Box as="span" fontSize="small" color="muted" whiteSpace="nowrap">
        {label}
      </Box>
    </Box>
  );
  const things = elements.map((element) => ({ value: String(element.id), label: element.name }));
  return (
    <Section title="Fine-tuner">
      <Box as="ul" display="grid" gap="7px">
        {tuning.wishes.map((wish, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: wishes have no other identity
          <Box as="li" key={index} display="grid" gap="4px" borderBottom="1px solid" borderColor="line" pb="6px">
            <Box
              display="grid"
              gridTemplateColumns="minmax(0, 1fr) minmax(0, 1fr) auto"
              gap="6px"
              alignItems="baseline"
            >
              {wish.kind !== "horizon" && wish.kind !== "uncut" ? (
                select(`Element of wish ${index + 1}`, wish.element, (element) => putWish(index, { element }), things)
              ) : (
                <Box fontSize="body">The frame’s</Box>
              )}
              {select(
                `Kind of wish ${index + 1}`,
                wish.kind,
                (kind) => kind && putWish(index, { kind: kind as Wish["kind"] }),
                Object.entries(KINDS).map(([value, label]) => ({ value, label })),
              )}
              <Button
                look="quiet"
                py="0"
                fontSize="small"
                aria-label={`Drop wish ${index + 1}`}
                onClick={() => put({ wishes: tuning.wishes.filter((_, at) => at !== index) })}
              >
                drop
              </Button>
            </Box>
            <Box display="flex" gap="6px 12px" flexWrap="wrap" alignItems="baseline">
              {wish.kind === "place" && percent("% from the left", wish.x, (x) => putWish(index, { x }))}
              {(wish.kind === "place" || wish.kind === "horizon") &&
                percent("% from the top", wish.y, (y) => putWish(index, { y }))}
              {wish.kind === "clearance" && (
                <Box width="150px">
                  {select(
                    `Other element of wish ${index + 1}`,
                    wish.other,
                    (other) => putWish(index, { other }),
                    things,
                  )}
                </Box>
              )}
              {wish.kind === "clearance" &&
                percent("% apart", wish.clearance, (clearance) => putWish(index, { clearance }))}
              {(wish.kind === "whole" || wish.kind === "uncut") &&
                percent("% to the edge", wish.clearance, (clearance) => putWish(index, { clearance }))}
              {percent("weight", wish.weight, (weight) => putWish(index, { weight }))}
            </Box>
          </Box>
        ))}
      </Box>
      <Box>
        <Button
          onClick={() => put({ wishes: [...tuning.wishes, { ...NEW, x: "67", element: things[1]?.value ?? "" }] })}
        >
          Add a wish
        </Button>
      </Box>
      <Row least="92px">
        <Labelled label="Step aside up to, m">
          <Input
            aria-label="Step aside up to, m"
            value={tuning.step}
            onChange={(event) => put({ step: event.target.value })}
          />
        </Labelled>
        <Labelled label="Height from, m">
          <Input
            aria-label="Height from, m"
            value={tuning.low}
            onChange={(event) => put({ low: event.target.value })}
          />
        </Labelled>
        <Labelled label="to, m">
          <Input
            aria-label="Height to, m"
            value={tuning.high}
            onChange={(event) => put({ high: event.target.value })}
          />
        </Labelled>
      </Row>
      <Box display="flex" gap="6px 14px" flexWrap="wrap">
        <Tick label="zoom" checked={tuning.focal} change={(focal) => put({ focal })} />
        <Tick label="turn" checked={tuning.bearing} change={(bearing) => put({ bearing })} />
        <Tick label="tilt" checked={tuning.pitch} change={(pitch) => put({ pitch })} />
        <Tick label="crop" checked={tuning.crop} change={(crop) => put({ crop })} />
        {shot.place?.viewpoint.standing && (
          <Tick label="within the standing area" checked={tuning.area} change={(area) => put({ area })} />
        )}
      </Box>
      <Box>
        <Button look="main" onClick={() => void find()} disabled={tuning.wishes.length === 0}>
          Find the camera
        </Button>
      </Box>
      {error && (
        <Box role="alert" color="rust" fontSize="body">
          {error}
        </Box>
      )}
      {tuned && (
        <Box as="ul" display="grid" gap="8px" aria-label="Cameras found">
          {tuned.solutions.map((solution) => (
            <Box
              as="li"
              key={solution.words}
              borderTop="1px solid"
              borderColor="line"
              pt="6px"
              fontSize="body"
              data-solution=""
            >
              <Box display="flex" gap="8px" alignItems="baseline">
                <Mark mark={solution.all_met ? "holds" : "tight"} size={5} />
                <Box flex="1">{solution.words}</Box>
                <Button onClick={() => set(solution.changes)}>Stand there</Button>
              </Box>
              {solution.misses
                .filter((miss) => !miss.met)
                .map((miss) => (
                  <Box key={miss.words} color="muted" pl="21px">
                    {miss.words}
                  </Box>
                ))}
            </Box>
          ))}
          {tuned.remarks.map((remark) => (
            <Box as="li" key={remark} fontSize="body" color="rust">
              {remark}
            </Box>
          ))}
        </Box>
      )}
    </Section>
  );
}
