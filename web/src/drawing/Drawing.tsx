import { Box, chakra } from "@chakra-ui/react";
import { memo, type ReactNode, type RefObject, useCallback, useId, useRef, useState } from "react";
import { PickMenu } from "../ui/form/PickMenu";
import { type Outline, saveCsv, saveJson, savePng, saveSvg } from "./export";
import { useSize } from "./useSize";

export interface FiguresTable {
  head: string[];
  rows: (string | number)[][];
}

/** A drawing with its title, a table of its figures behind it, and a way to keep it as SVG. */
export function Drawing({
  title,
  note,
  figures,
  children,
  under,
  least = 220,
  compact = false,
  tools,
  outlines,
}: {
  title: string;
  note?: ReactNode;
  figures: FiguresTable;
  /** Draws into the space given, in CSS pixels. */
  children: (width: number, height: number) => ReactNode;
  /** A picture under the drawing, in the same space. */
  under?: ((width: number, height: number) => ReactNode) | undefined;
  least?: number;
  /** A small drawing among others: short words in its head, its note as a hint. */
  compact?: boolean;
  /** More to press in the head. */
  tools?: ReactNode;
  /** The outlines of what a picture under the drawing shows, in pixels; they are included in an exported file. */
  outlines?: ((width: number, height: number) => Promise<Outline[]>) | undefined;
}) {
  const [frame, size] = useSize<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const [asFigures, setAsFigures] = useState(false);
  const titleId = useId();
  const wanted = useRef(outlines);
  wanted.current = outlines;
  const save = useCallback(async () => {
    const drawn = svg.current;
    if (!drawn) return;
    // Without them the file has the picture still.
    const lines = await wanted.current?.(drawn.clientWidth, drawn.clientHeight).catch(() => []);
    saveSvg(drawn, title, lines ?? []);
  }, [title]);
  const table = useRef(figures);
  table.current = figures;
  const keep = useCallback(
    (kind: "csv" | "json") => (kind === "csv" ? saveCsv : saveJson)(table.current.head, table.current.rows, title),
    [title],
  );
  return (
    // Plain elements: they are made again with every move of a hand.
    <figure style={{ display: "flex", flexDirection: "column", minHeight: 0, height: "100%", minWidth: 0, margin: 0 }}>
      <Head
        title={title}
        titleId={titleId}
        note={compact ? undefined : note}
        compact={compact}
        tools={tools}
        asFigures={asFigures}
        setAsFigures={setAsFigures}
        svg={svg}
        save={save}
        keep={keep}
      />
      <div
        ref={frame}
        style={{ flex: 1, minHeight: least, position: "relative", overflow: asFigures ? "auto" : "hidden" }}
      >
        {asFigures ? (
          <FigureTable table={figures} label={title} />
        ) : (
          size.width > 0 && (
            <>
              {under?.(size.width, Math.max(size.height, least))}
              <svg
                ref={svg}
                width={size.width}
                height={Math.max(size.height, least)}
                viewBox={`0 0 ${size.width} ${Math.max(size.height, least)}`}
                role="group"
                aria-labelledby={titleId}
                style={{ display: "block", position: "absolute", inset: 0, touchAction: "pan-y" }}
              >
                {children(size.width, Math.max(size.height, least))}
              </svg>
            </>
          )
        )}
      </div>
    </figure>
  );
}

/** Title and buttons; they stay as they are while what is drawn below follows a hand. */
const Head = memo(function Head({
  title,
  titleId,
  note,
  compact,
  tools,
  asFigures,
  setAsFigures,
  svg,
  save,
  keep,
}: {
  title: string;
  titleId: string;
  note: ReactNode;
  compact: boolean;
  tools: ReactNode;
  asFigures: boolean;
  setAsFigures: (on: boolean) => void;
  svg: RefObject<SVGSVGElement | null>;
  save: () => Promise<void>;
  keep: (kind: "csv" | "json") => void;
}) {
  return (
    <Box display="flex" alignItems="baseline" gap={compact ? "7px" : "12px"} flexWrap="wrap" mb="2px">
      <Box
        as="h2"
        id={titleId}
        fontSize={compact ? "body" : "heading"}
        fontWeight="650"
        flex={compact ? "1" : { base: "1", lg: "none" }}
        whiteSpace="nowrap"
      >
        {title}
      </Box>
      {!compact && (
        <Box color="muted" fontSize="small" flex={{ base: "1 0 100%", lg: "1" }} order={{ base: 1, lg: 0 }} minW="0">
          {note}
        </Box>
      )}
      {tools}
      <PickMenu
        label={compact ? "" : "figures, files"}
        name={`figures, files: ${title}`}
        options={[
          { value: "figures", label: asFigures ? "as drawing" : "as figures" },
          ...(asFigures
            ? [
                { value: "csv", label: "save as CSV" },
                { value: "json", label: "save as JSON" },
              ]
            : [
                { value: "svg", label: "save as SVG" },
                { value: "png", label: "save as PNG" },
              ]),
        ]}
        pick={(picked) => {
          if (picked === "figures") setAsFigures(!asFigures);
          else if (picked === "svg") void save();
          else if (picked === "png") svg.current && void savePng(svg.current, title);
          else keep(picked === "csv" ? "csv" : "json");
        }}
      />
    </Box>
  );
});

/** Figures in rows and columns. */
export function FigureTable({ table, label }: { table: FiguresTable; label: string }) {
  return (
    <chakra.table aria-label={label} fontSize="body" borderCollapse="collapse" width="100%">
      <thead>
        <tr>
          {table.head.map((cell) => (
            <chakra.th
              key={cell}
              textAlign="left"
              fontWeight="600"
              color="muted"
              py="4px"
              pr="14px"
              borderBottom="1px solid"
              borderColor="line"
            >
              {cell}
            </chakra.th>
          ))}
        </tr>
      </thead>
      <tbody>
        {table.rows.map((row, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: rows of figures have no other identity
          <tr key={index}>
            {row.map((cell, column) => (
              <chakra.td
                // biome-ignore lint/suspicious/noArrayIndexKey: as above
                key={column}
                py="3px"
                pr="14px"
                fontFamily={column ? "mono" : "body"}
                fontVariantNumeric="tabular-nums"
                borderBottom="1px solid"
                borderColor="line"
              >
                {cell}
              </chakra.td>
            ))}
          </tr>
        ))}
      </tbody>
    </chakra.table>
  );
}
