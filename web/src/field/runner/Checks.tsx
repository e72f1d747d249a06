import { Box } from "@chakra-ui/react";
import { clockIn } from "../../lib/format/spelling";
import { WAY, type WayKind } from "../offline/events";
import type { RunWork } from "../offline/useRun";
import { NumberAsk } from "./NumberAsk";
import { useSignals } from "./signals";
import { Thumb } from "./Thumb";
import { Tick } from "./Tick";

/** What is looked at before the first frame and between them; ticks are kept like everything that happens. */
export function Checks({ work }: { work: RunWork }) {
  const { sheet } = work;
  const [signals, setSignals] = useSignals();
  const items = [
    ...sheet.before.map((item) => ({ key: item.key, words: item.words, more: "" })),
    ...sheet.checks.map((item) => ({
      key: `focus ${item.what} ${item.distance}`,
      words: `${item.what || "farthest"} sharp at ${item.distance}, magnified`,
      more: item.when_soft && `if not: ${item.when_soft}`,
    })),
  ];
  return (
    <Box display="grid" gap="12px">
      <WayIn work={work} />
      <Box as="ul" display="grid" gap="2px">
        {items.map((item) => (
          <Tick key={item.key} work={work} kind="checked" of={item.key} words={item.words} more={item.more} />
        ))}
      </Box>
      <Box
        display="flex"
        flexWrap="wrap"
        gap="0 20px"
        fontSize="heading"
        role="group"
        aria-label="Signal of a countdown"
      >
        {SIGNALS.map(([name, words]) => (
          <Box as="label" key={name} display="flex" gap="10px" alignItems="center" minH="56px">
            <input
              type="checkbox"
              style={{ width: 26, height: 26 }}
              checked={signals[name]}
              onChange={(event) => setSignals({ [name]: event.target.checked })}
            />
            {words}
          </Box>
        ))}
      </Box>
      <Battery work={work} />
      {[...sheet.cautions.map((text) => `◇ ${text}`), ...sheet.warnings.map((text) => `▲ ${text}`)].map((text) => (
        <Box key={text} fontSize="lead">
          {text}
        </Box>
      ))}
    </Box>
  );
}

const SIGNALS = [
  ["sound", "sound at the end"],
  ["vibration", "vibration"],
  ["voice", "spoken, with what comes next"],
] as const;
const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;
const WORDS: Record<WayKind, string> = { set_out: "Set out", arrived: "There", ready: "Set up" };

/** When one set out on foot, was there and was set up: from these the plan learns how long both take. */
function WayIn({ work }: { work: RunWork }) {
  const { way } = work.run;
  return (
    <Box display="grid" gridTemplateColumns="repeat(3, 1fr)" gap="8px" role="group" aria-label="The way in">
      {WAY.map((kind) => {
        const at = way[kind];
        return (
          <Thumb
            key={kind}
            look={at ? "chosen" : "plain"}
            disabled={Boolean(at)}
            style={{ opacity: 1 }}
            onClick={() => void work.tell(kind)}
          >
            <span>
              {WORDS[kind]}
              {at && (
                <Box as="span" display="block" fontSize="body" fontFamily="mono">
                  {clockIn(HERE)(new Date(at))}
                </Box>
              )}
            </span>
          </Thumb>
        );
      })}
    </Box>
  );
}

/** What the battery shows, before and after: from that the plan learns what the cold leaves of it. */
function Battery({ work }: { work: RunWork }) {
  const { battery } = work.run;
  return (
    <Box display="grid" gap="4px" fontSize="heading">
      <NumberAsk
        label="Battery in per cent"
        placeholder="battery, %"
        words="Note it"
        allowed={(share) => share >= 0 && share <= 100}
        wrong="A battery shows 0 to 100 %."
        tell={(share) => void work.tell("battery", { value: share })}
      />
      {battery.length > 0 && <Box color="muted">{battery.map((item) => `${item} %`).join(", then ")}</Box>}
    </Box>
  );
}
