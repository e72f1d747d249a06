import { Box, chakra } from "@chakra-ui/react";
import type { Schemas } from "../api/client";

import { dayText } from "../parts/spelling";

type Content = Schemas["CardContentOut"];

const MONO = "var(--lr-fonts-mono)";

/** The card itself: readable in black and white at arm's length, one line a frame. */
export function Card({ content, stale, title = "h2" }: { content: Content; stale: boolean; title?: "h1" | "h2" }) {
  const bracket = content.frames.some((frame) => frame.offset !== "0 EV");
  const panorama = content.frames.some((frame) => frame.aim);
  const [first] = content.frames;
  const { way = [], rig = [], checks = [], settings = [] } = content;
  return (
    <Box as="article" className="field-card" display="grid" gap="10px" lineHeight="1.25">
      <Box borderBottom="2px solid currentColor" pb="6px">
        <Box as={title} fontSize="1.5em" fontWeight="700">
          {content.name}
        </Box>
        <Box>{[content.location, content.viewpoint].filter(Boolean).join(", ")}</Box>
        {content.date && <Box>{dayText(content.date, true)}</Box>}
        {stale && <Box fontWeight="700">▲ The plan has changed since this card was made.</Box>}
      </Box>
      <Box display="grid" gridTemplateColumns="repeat(3, auto)" gap="2px 14px">
        <Big name="start" value={content.start ?? "–"} />
        <Big name="takes" value={content.total} />
        <Big name="light ends" value={content.light_ends ?? "–"} />
      </Box>
      {way.length > 0 && (
        <Box as="ul" display="flex" flexWrap="wrap" gap="2px 14px" fontSize="0.95em" aria-label="The way">
          {way.map((leg) => (
            <li key={leg.name}>
              <b style={{ fontFamily: MONO }}>{leg.start}</b> {leg.name}
              {leg.dark && " (dark)"}
            </li>
          ))}
          <li>
            <b style={{ fontFamily: MONO }}>{way.at(-1)?.end}</b> back
          </li>
        </Box>
      )}
      {content.picture && (
        <Box
          data-picture=""
          width="100%"
          maxW="300px"
          border="1px solid currentColor"
          lineHeight="0"
          // A small page is for the frames.
          display={{ base: "block", _print: "none" }}
          // The picture lies on its white and darkens it: red alone at night.
          bg="tonal"
        >
          <img src={content.picture} alt="As planned, in tones" style={{ width: "100%", mixBlendMode: "multiply" }} />
        </Box>
      )}
      <Box fontSize="0.95em">
        <div>
          {content.body}, {content.lens}
        </div>
        <div>{content.framing}</div>
        {(content.held || rig.length > 0) && (
          <div>{[content.held && `held by ${content.held}`, ...rig].filter(Boolean).join(", ")}</div>
        )}
        {content.stack && <div>{content.stack}</div>}
        <div>
          <b>{content.filters.join(" + ") || "no filter"}</b>
          {first && (
            <>
              , <b style={{ fontFamily: MONO }}>{first.aperture}</b>, ISO <b style={{ fontFamily: MONO }}>{first.iso}</b>
            </>
          )}
          {content.flash && (
            <>
              , <b>{content.flash}</b>
            </>
          )}
          {content.predicted && " · exposure predicted, not metered: meter first"}
        </div>
      </Box>
      <chakra.table width="100%" borderCollapse="collapse" fontSize="1em">
        <thead>
          <tr>
            {["", ...(panorama ? ["aim"] : []), "focus", "shutter", ...(bracket ? ["bracket"] : []), "opens at", "✓"].map(
              (head, index) => (
                <chakra.th
                  key={head || "number"}
                  textAlign={index ? "left" : "right"}
                  fontWeight="500"
                  fontSize="0.85em"
                  py="2px"
                  pr="8px"
                  borderBottom="1px solid currentColor"
                >
                  {head}
                </chakra.th>
              ),
            )}
          </tr>
        </thead>
        <tbody>
          {content.frames.map((frame, index) => {
            const before = content.frames[index - 1];
            const newFocus = before !== undefined && (before.focus_index !== frame.focus_index || before.aim !== frame.aim);
            return (
              <chakra.tr
                key={frame.number}
                borderTop={newFocus ? "1px solid currentColor" : undefined}
                style={{ fontFamily: MONO, breakInside: "avoid" }}
              >
                <Cell right>{frame.number}</Cell>
                {panorama && <Cell>{frame.aim}</Cell>}
                <Cell>{frame.focus}</Cell>
                <Cell strong>
                  {frame.shutter}
                  {frame.note && <span style={{ fontWeight: 400 }}> {frame.note}</span>}
                </Cell>
                {bracket && <Cell>{frame.offset}</Cell>}
                <Cell>{frame.at}</Cell>
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
      {settings.length > 0 && (
        <Box fontSize="0.88em" display={{ base: "block", _print: "none" }}>
          <b>Set</b> {settings.map((item) => `${item.name.toLowerCase()} ${item.value}`).join(" · ")}
        </Box>
      )}
      {checks.length > 0 && (
        <Box fontSize="0.88em">
          <b>Check</b>{" "}
          {checks.map((check, index) => (
            <span key={check.what}>
              {index > 0 && ", "}
              {check.what} <span style={{ fontFamily: MONO }}>{check.distance}</span>
            </span>
          ))}
        </Box>
      )}
      {content.bring && (
        <Box fontSize="0.95em">
          <b>Bring</b> {content.bring}
        </Box>
      )}
      {content.plan_b && <Box fontSize="0.95em">{content.plan_b}</Box>}
      {[...content.cautions, ...content.warnings].length > 0 && (
        <Box as="ul" fontSize="0.88em" display="grid" gap="3px">
          {content.cautions.map((text) => (
            <li key={text}>◇ {text}</li>
          ))}
          {content.warnings.map((text) => (
            <li key={text}>▲ {text}</li>
          ))}
        </Box>
      )}
    </Box>
  );
}

function Big({ name, value }: { name: string; value: string }) {
  return (
    <div>
      <div style={{ fontSize: "0.82em" }}>{name}</div>
      <div style={{ fontSize: "1.5em", fontWeight: 650, fontFamily: MONO, whiteSpace: "nowrap" }}>{value}</div>
    </div>
  );
}

function Cell({ children, strong, right }: { children: React.ReactNode; strong?: boolean; right?: boolean }) {
  return (
    <chakra.td
      py="3px"
      pr="8px"
      fontWeight={strong ? 700 : 400}
      fontSize={strong ? "1.15em" : undefined}
      textAlign={right ? "right" : "left"}
      whiteSpace="nowrap"
    >
      {children}
    </chakra.td>
  );
}
