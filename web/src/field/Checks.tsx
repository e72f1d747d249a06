import { Box } from "@chakra-ui/react";
import { useSignals } from "./signals";
import type { RunWork } from "./useRun";

/** What is looked at before the first frame and between them; ticks are kept like everything that happens. */
export function Checks({ work }: { work: RunWork }) {
  const { sheet, run } = work;
  const [signals, setSignals] = useSignals();
  const tick = (key: string, on: boolean) => {
    if (on) void work.tell("checked", { text: key });
    else {
      const last = [...work.events].reverse().find((event) => event.kind === "checked" && event.text === key);
      if (last) void work.tell("undone", { refers: last.id });
    }
  };
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
      <Box as="ul" display="grid" gap="2px">
        {items.map((item) => (
          <Box as="li" key={item.key}>
            <Box as="label" display="grid" gridTemplateColumns="36px 1fr" alignItems="center" minH="52px" fontSize="19px">
              <input
                type="checkbox"
                style={{ width: 26, height: 26 }}
                checked={run.checked.has(item.key)}
                onChange={(event) => tick(item.key, event.target.checked)}
              />
              <span>
                {item.words}
                {item.more && (
                  <Box as="span" color="muted" fontSize="15px" display="block">
                    {item.more}
                  </Box>
                )}
              </span>
            </Box>
          </Box>
        ))}
      </Box>
      <Box display="flex" gap="20px" fontSize="17px" role="group" aria-label="The end of a countdown is told by">
        {(["sound", "vibration"] as const).map((name) => (
          <Box as="label" key={name} display="flex" gap="10px" alignItems="center" minH="44px">
            <input
              type="checkbox"
              style={{ width: 26, height: 26 }}
              checked={signals[name]}
              onChange={(event) => setSignals({ [name]: event.target.checked })}
            />
            {name} at the end
          </Box>
        ))}
      </Box>
      {[...sheet.cautions.map((text) => `◇ ${text}`), ...sheet.warnings.map((text) => `▲ ${text}`)].map((text) => (
        <Box key={text} fontSize="16px">
          {text}
        </Box>
      ))}
    </Box>
  );
}
