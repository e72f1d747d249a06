import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import type { RunWork } from "../offline/useRun";

type Frame = Schemas["RunFrameOut"];

/** What the hand does for a frame, then its figures, to be read at arm's length. */
export function FrameFigures({ frame, work }: { frame: Frame; work: RunWork }) {
  const { sheet, found } = work;
  const set = found.settings[frame.key];
  const shutter = set?.shutter ?? frame.shutter;
  const iso = set?.iso ?? frame.iso;
  const before = sheet.frames[sheet.frames.indexOf(frame) - 1];
  const turned = (name: "focus" | "shutter" | "aperture" | "iso") =>
    before && before[name] !== frame[name] ? "set again" : "";
  return (
    <>
      <Box as="ol" display="grid" gap="2px" fontSize="heading" lineHeight="1.3" aria-label="Do this first">
        {frame.actions.map((words) => (
          <li key={words}>{/^(Put|Take)/.test(words) ? <b>{words}</b> : words}</li>
        ))}
      </Box>
      <Box display="grid" gridTemplateColumns="1fr 1fr" gap="6px 14px" data-figures="">
        <Big name={frame.focus_at} value={frame.focus} note={turned("focus")} />
        <Big
          name="shutter"
          value={shutter}
          note={set && set.shutter !== frame.shutter ? "as found" : turned("shutter")}
        />
        <Big name="aperture" value={frame.aperture} note={turned("aperture")} />
        <Big name="ISO" value={iso} note={set && set.iso !== frame.iso ? "as found" : turned("iso")} />
      </Box>
      <Box fontSize="lead" color="muted">
        {frame.aim || sheet.aim}
        {" · "}
        {frame.on_lens.length ? `on the lens: ${frame.on_lens.join(" + ")}` : "no filter on"}
        {frame.bulb && " · bulb"}
      </Box>
    </>
  );
}

/** note: why it is to be looked at: it differs from the frame before, or from the plan. */
function Big({ name, value, note }: { name: string; value: string; note: string }) {
  return (
    <Box minW="0">
      <Box fontSize="body" color="muted">
        {name}
        {note && (
          <Box as="span" color="accent">
            {" "}
            ◂ {note}
          </Box>
        )}
      </Box>
      <Box
        fontFamily="mono"
        fontWeight="600"
        fontSize={value.length > 8 ? "title" : "display"}
        lineHeight="1.1"
        overflowWrap="anywhere"
      >
        {value}
      </Box>
    </Box>
  );
}
