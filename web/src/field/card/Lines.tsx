import { Box, chakra } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";

type Content = Schemas["CardContentOut"];
type Line = Schemas["CardLineOut"];

const MONO = "var(--lr-fonts-mono)";
// More lines than this stand in two columns on paper.
const ONE_COLUMN = 12;

/** The frames of a card, a line each; what differs by one thing only stands in one line, with a box to tick. */
export function Lines({ content }: { content: Content }) {
  const lines = content.lines?.length ? content.lines : content.frames.map(asLine);
  const panorama = lines.some((line) => line.aim);
  const half = lines.length > ONE_COLUMN ? Math.ceil(lines.length / 2) : lines.length;
  const columns = [lines.slice(0, half), lines.slice(half)].filter((part) => part.length > 0);
  return (
    <Box
      display="grid"
      gap="0 18px"
      gridTemplateColumns={{ base: "minmax(0, 1fr)", _print: `repeat(${columns.length}, minmax(0, 1fr))` }}
      fontSize={columns.length > 1 ? { base: "1em", _print: "0.9em" } : "1em"}
    >
      {columns.map((part, index) => (
        <LineTable key={part[0]?.first} lines={part} panorama={panorama} head={index === 0} />
      ))}
    </Box>
  );
}

/** Cards that were made before frames stood in lines list every frame. */
function asLine(frame: Content["frames"][number]): Line {
  return {
    first: frame.number,
    last: frame.number,
    group: 0,
    aim: frame.aim ?? "",
    focus: frame.focus,
    shutter: frame.shutter,
    note: frame.note ?? "",
    at: frame.at,
  };
}

function LineTable({ lines, panorama, head }: { lines: Line[]; panorama: boolean; head: boolean }) {
  return (
    <chakra.table width="100%" borderCollapse="collapse" alignSelf="start" data-lines="">
      <chakra.thead display={head ? undefined : { base: "none", _print: "table-header-group" }}>
        <tr>
          {["", ...(panorama ? ["aim"] : []), "focus", "shutter", "opens at", "✓"].map((name, index) => (
            <chakra.th
              key={name || "number"}
              textAlign={index ? "left" : "right"}
              fontWeight="500"
              fontSize="0.9em"
              py="2px"
              pr="8px"
              borderBottom="1px solid currentColor"
            >
              {name}
            </chakra.th>
          ))}
        </tr>
      </chakra.thead>
      <tbody>
        {lines.map((line, index) => {
          const before = lines[index - 1];
          const another =
            before !== undefined &&
            (before.group !== line.group || before.focus !== line.focus || before.aim !== line.aim);
          return (
            <chakra.tr
              key={line.first}
              borderTop={
                another
                  ? before.group !== line.group
                    ? "2px solid currentColor"
                    : "1px solid currentColor"
                  : undefined
              }
              style={{ fontFamily: MONO, breakInside: "avoid" }}
            >
              <Cell right>{line.first === line.last ? line.first : `${line.first}–${line.last}`}</Cell>
              {panorama && <Cell>{line.aim}</Cell>}
              <Cell wraps>{line.focus}</Cell>
              <Cell strong wraps={line.shutter.length > 10}>
                {line.shutter}
                {line.note && <span style={{ fontWeight: 400 }}> {line.note}</span>}
              </Cell>
              <Cell>{line.at}</Cell>
              <Cell>
                <span
                  style={{
                    display: "inline-block",
                    width: "0.95em",
                    height: "0.95em",
                    border: "1.5px solid currentColor",
                    verticalAlign: "-0.1em",
                  }}
                />
              </Cell>
            </chakra.tr>
          );
        })}
      </tbody>
    </chakra.table>
  );
}

function Cell({
  children,
  strong = false,
  right = false,
  wraps = false,
}: {
  children: React.ReactNode;
  strong?: boolean;
  right?: boolean;
  /** It may go on in a second line. */
  wraps?: boolean;
}) {
  return (
    <chakra.td
      py="3px"
      pr="8px"
      fontWeight={strong ? 700 : 400}
      fontSize={strong ? "1.15em" : undefined}
      textAlign={right ? "right" : "left"}
      whiteSpace={wraps ? undefined : "nowrap"}
    >
      {children}
    </chakra.td>
  );
}
