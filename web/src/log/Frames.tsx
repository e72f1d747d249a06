import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { client, type Schemas, take } from "../api/client";
import { OPTIONS } from "../api/facts";
import { useAct } from "../lib/drafts/useAct";
import { labelOf } from "../lib/format/labels";
import { Button } from "../ui/form/Button";
import { SelectBox } from "../ui/form/Field";
import type { Entry } from "./entry";
import { Preview } from "./Preview";
import { Streak } from "./Streak";

type Frame = Schemas["LogFrameOut"];
type Patch = Schemas["LogFramePatch"];

const HOW: Record<string, string> = {
  sure: "",
  tick: "ticked, no file yet",
  asked: "is it this one?",
  "by hand": "placed by you",
};

/** The frames of a field session, planned beside taken, to be rated, kept or dropped. */
export function Frames({ entry }: { entry: Entry }) {
  const change = useAct(
    ({ id, body }: { id: number; body: Patch }) =>
      take(client.PATCH("/api/log/frames/{frame_id}", { params: { path: { frame_id: id } }, body })),
    { only: ["log"] },
  );
  const remove = useAct(
    (id: number) => take(client.DELETE("/api/log/frames/{frame_id}", { params: { path: { frame_id: id } } })),
    { only: ["log"] },
  );
  return (
    <Box as="ol" display="grid" gap="0" data-frames="">
      {entry.frames.map((frame) => (
        <One
          key={frame.id}
          frame={frame}
          entry={entry}
          save={(body) => change.mutate({ id: frame.id, body })}
          remove={() => remove.mutate(frame.id)}
        />
      ))}
    </Box>
  );
}

function One({
  frame,
  entry,
  save,
  remove,
}: {
  frame: Frame;
  entry: Entry;
  save: (body: Patch) => void;
  remove: () => void;
}) {
  const cameras = new Set(entry.frames.map((item) => item.camera)).size;
  const said = [frame.error_words, frame.blur_words, frame.clipped_words, frame.streak_words].filter(Boolean);
  const [measures, setMeasures] = useState(false);
  const asked = frame.matched === "asked";
  return (
    <Box
      as="li"
      display="grid"
      gridTemplateColumns={{ base: "84px minmax(0, 1fr)", lg: "108px minmax(0, 1.5fr) minmax(0, 1fr) 150px" }}
      gap="4px 14px"
      py="8px"
      borderTop="1px solid"
      borderColor="line"
      alignItems="start"
      opacity={frame.curation === "drop" ? 0.6 : 1}
    >
      <Box bg="raised" minH="56px" lineHeight="0">
        {frame.preview && <Preview id={frame.id} name={frame.file_name} maxH="96px" />}
      </Box>
      <Box minW="0">
        <Box fontFamily="mono" fontSize="lead" fontWeight="600">
          {[frame.shutter, frame.aperture, frame.iso && `ISO ${frame.iso}`].filter(Boolean).join("  ")}
        </Box>
        <Box fontSize="small" color="muted">
          {frame.taken_clock} {frame.file_name}
          {cameras > 1 && frame.camera && `, ${frame.camera}`}
          {frame.filters.length > 0 && `, ${frame.filters.join(" + ")}`}
          {frame.look && `, ${frame.look}`}
        </Box>
        {frame.planned_settings && frame.preview && (
          <Box fontFamily="mono" fontSize="small" color="muted">
            planned {frame.planned.split(":")[0]}: {frame.planned_settings}
          </Box>
        )}
        {frame.differs && (
          <Box fontSize="small" color="rust">
            {frame.differs}
          </Box>
        )}
        <Box fontSize="small" color={asked ? "rust" : "muted"}>
          {[
            frame.planned
              ? !frame.preview && `planned ${frame.planned}`
              : frame.group_kind && frame.group_kind !== "single"
                ? `${labelOf("GroupKind", frame.group_kind)} ${frame.group_number + 1}`
                : "not planned",
            HOW[frame.matched],
          ]
            .filter(Boolean)
            .join(" · ")}
        </Box>
      </Box>
      <Box fontSize="small" minW="0" gridColumn={{ base: "2", lg: "auto" }}>
        {said.map((text) => (
          <div key={text}>{text}</div>
        ))}
        {frame.measurable && (
          <Button look="quiet" px="0" onClick={() => setMeasures(true)}>
            {frame.seen_share === null ? "measure a streak" : "measure the streak again"}
          </Button>
        )}
        {measures && <Streak frame={frame} close={() => setMeasures(false)} />}
        {frame.preview && entry.planned.length > 0 && (
          <SelectBox
            aria-label={`Which planned frame ${frame.file_name} is`}
            fontSize="small"
            py="1px"
            value={frame.planned_key ?? ""}
            onChange={(event) => save({ planned_key: event.target.value || null })}
          >
            <option value="">not planned</option>
            {entry.planned.map((item) => (
              <option key={item.key} value={item.key}>
                {item.words}
              </option>
            ))}
          </SelectBox>
        )}
      </Box>
      <Box display="grid" gap="4px" gridColumn={{ base: "2", lg: "auto" }}>
        <SelectBox
          aria-label="Keep this frame"
          fontSize="small"
          py="1px"
          value={frame.curation}
          onChange={(event) => save({ curation: event.target.value as Frame["curation"] })}
        >
          {OPTIONS.Outcome.map((item) => (
            <option key={item.value} value={item.value}>
              {item.label}
            </option>
          ))}
        </SelectBox>
        <SelectBox
          aria-label="Stars of this frame"
          fontSize="small"
          py="1px"
          value={String(frame.stars ?? "")}
          onChange={(event) => save({ stars: event.target.value ? Number(event.target.value) : null })}
        >
          <option value="">no stars</option>
          {[1, 2, 3, 4, 5].map((stars) => (
            <option key={stars} value={stars}>
              {stars} of 5
            </option>
          ))}
        </SelectBox>
        {frame.preview && (
          <Button look="quiet" px="0" justifySelf="start" fontSize="small" onClick={remove}>
            remove the file
          </Button>
        )}
      </Box>
    </Box>
  );
}
