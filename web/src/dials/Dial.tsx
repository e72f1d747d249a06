import { Box, chakra } from "@chakra-ui/react";
import { useId } from "react";
import { useSize } from "../drawing/useSize";
import { shown } from "../lib/drafts/editing";
import { useEditing } from "../lib/drafts/useEditing";
import { DraftNote } from "../ui/form/DraftNote";
import { Automatic, DialFigure, Said } from "./DialFigure";
import { Strip } from "./Strip";
import type { Scale } from "./scale";
import { useSteps } from "./useSteps";

export type { Detent, Scale } from "./scale";

/**
 * An engraved scale that slides under a fixed index. Drag it, turn the wheel, use the arrow keys, or type into the figure.
 * A value that the photographer chose is underlined and can be made automatic again; one that the application chose stands upright.
 */
export function Dial({
  label,
  name,
  scale,
  value,
  text,
  unit,
  pinned,
  set,
  letGo,
  error,
  forgive,
}: {
  label: string;
  /** The field's name, unique over the application. */
  name: string;
  scale: Scale;
  value: number | null;
  /** How the value is written now. */
  text: string;
  unit?: string;
  pinned: boolean;
  /** A detent's value, or text as it was typed for the server to read; rejected where the server refuses it. */
  set: (value: number | string) => Promise<unknown>;
  letGo?: (() => void) | undefined;
  error?: string | undefined;
  forgive?: () => void;
}) {
  const id = useId();
  const [frame, size] = useSize<HTMLDivElement>();
  const edit = useEditing(name, text);
  const { current, exact, ended, step, latest, go, send, drop } = useSteps({ scale, value, set, error, forgive, edit });
  const unsent = edit.state.typed !== undefined;
  const refused = unsent ? error : undefined;
  const free = () => {
    drop();
    letGo?.();
  };
  return (
    <Box minW="0" ref={frame} data-field={name.slice(name.lastIndexOf(":") + 1)}>
      <Box display="flex" alignItems="baseline" gap="8px" minH="30px">
        <chakra.label htmlFor={id} fontSize="small" color="muted" flex="1">
          {label}
        </chakra.label>
        {pinned && letGo && <Automatic label={label} letGo={free} />}
        <DialFigure
          id={id}
          edit={edit}
          written={shown(edit.state, text)}
          unsent={unsent}
          pinned={pinned}
          refused={refused !== undefined && refused !== ""}
          send={send}
          drop={drop}
        />
        {unit && (
          <Box as="span" fontSize="small" color="muted">
            {unit}
          </Box>
        )}
      </Box>
      <Strip
        label={label}
        text={text}
        detents={scale.marks}
        value={value}
        width={size.width}
        current={current}
        exact={exact}
        go={go}
        step={step}
        latest={latest}
      />
      <Said words={ended} />
      <Said words={refused} refused id={`${id}-error`} />
      <DraftNote state={edit.state} value={text} refused={refused !== undefined} use={send} drop={drop} />
    </Box>
  );
}
