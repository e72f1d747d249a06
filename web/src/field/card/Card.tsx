import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";

import { dayText } from "../../lib/format/spelling";
import { Lines } from "./Lines";

type Content = Schemas["CardContentOut"];

const MONO = "var(--lr-fonts-mono)";

/** The card itself: readable in black and white at arm's length, one line a frame. */
export function Card({ content, stale, title = "h2" }: { content: Content; stale: boolean; title?: "h1" | "h2" }) {
  const [first] = content.frames;
  const { way = [], rig = [], checks = [], settings = [], groups = [] } = content;
  return (
    <Box as="article" className="on-paper" display="grid" gap={{ base: "10px", _print: "7px" }} lineHeight="1.25">
      <Box borderBottom="2px solid currentColor" pb="6px">
        <Box as={title} fontSize="1.5em" fontWeight="700">
          {content.name}
        </Box>
        <Box>{[content.location, content.viewpoint].filter(Boolean).join(", ")}</Box>
        {content.date && (
          <Box>
            {dayText(content.date, true)}
            {content.outing && `, ${content.outing}`}
          </Box>
        )}
        {stale && <Box fontWeight="700">▲ The plan has changed since this card was made.</Box>}
      </Box>
      <Box display="grid" gridTemplateColumns="repeat(3, auto)" gap="2px 14px">
        <Big name="start" value={content.start ?? "–"} />
        <Big name="takes" value={content.total} />
        <Big name="light ends" value={content.light_ends ?? "–"} />
      </Box>
      {way.length > 0 && (
        <Box as="ul" display="flex" flexWrap="wrap" gap="2px 14px" fontSize="0.9em" aria-label="The way">
          {way.map((leg) => (
            <li key={`${leg.start} ${leg.name}`}>
              <b style={{ fontFamily: MONO }}>{leg.start}</b> {leg.name}
              {leg.dark && " (dark)"}
            </li>
          ))}
          <li>
            <b style={{ fontFamily: MONO }}>{way.at(-1)?.end}</b> {content.outing ? "packed" : "back"}
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
      <Box fontSize="0.9em">
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
              , <b style={{ fontFamily: MONO }}>{first.aperture}</b>, ISO{" "}
              <b style={{ fontFamily: MONO }}>{first.iso}</b>
            </>
          )}
          {content.flash && (
            <>
              , <b>{content.flash}</b>
            </>
          )}
          {content.predicted && " · estimated from sun and forecast; take a reading"}
        </div>
      </Box>
      {groups.length > 1 && (
        <Box as="ol" fontSize="0.9em" display="grid" gap="1px" aria-label="Groups">
          {groups.map((group) => (
            <li key={group.first}>
              <b>{group.name}</b> {group.first === group.last ? group.first : `${group.first} to ${group.last}`}
              {group.waits ? ", wait for " : ", from "}
              <b style={{ fontFamily: MONO }}>{group.starts}</b>
              {group.steps.length > 0 && <span>: {group.steps.join("; ")}</span>}
            </li>
          ))}
        </Box>
      )}
      <Lines content={content} />
      {settings.length > 0 && (
        <Box fontSize="0.9em" display={{ base: "block", _print: "none" }}>
          <b>Set</b> {settings.map((item) => `${item.name.toLowerCase()} ${item.value}`).join(" · ")}
        </Box>
      )}
      {checks.length > 0 && (
        <Box fontSize="0.9em">
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
        <Box fontSize="0.9em">
          <b>Bring</b> {content.bring}
        </Box>
      )}
      {content.plan_b && <Box fontSize="0.9em">{content.plan_b}</Box>}
      {[...content.cautions, ...content.warnings].length > 0 && (
        <Box as="ul" fontSize="0.9em" display="grid" gap={{ base: "3px", _print: "1px" }}>
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
      <div style={{ fontSize: "0.9em" }}>{name}</div>
      <div style={{ fontSize: "1.5em", fontWeight: 650, fontFamily: MONO, whiteSpace: "nowrap" }}>{value}</div>
    </div>
  );
}
