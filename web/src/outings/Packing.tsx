import { Box } from "@chakra-ui/react";
import { Field, Tick } from "../ui/form/Field";
import { Section } from "../ui/layout/Section";
import { complain } from "../ui/overlay/toaster";
import type { OutingWork } from "./useOuting";

/** What to pack, ticked the evening before; one's own things beside. */
export function Packing({ outing, change }: OutingWork) {
  const groups = [...new Set(outing.packing.map((item) => item.group))];
  const packed = outing.packing.filter((item) => item.packed).length;
  const tick = (key: string, on: boolean) => {
    const now = outing.packing.filter((item) => item.packed).map((item) => item.key);
    void change({ packed: on ? [...now, key] : now.filter((item) => item !== key) }).catch((failure: Error) =>
      complain(failure.message, "outing"),
    );
  };
  return (
    <Section
      title="To pack"
      aside={
        <Box as="span" color="muted" fontSize="small">
          {packed} of {outing.packing.length}
        </Box>
      }
    >
      <Box data-packing="" display="grid" gap="10px" gridTemplateColumns="repeat(auto-fill, minmax(210px, 1fr))">
        {groups.map((group) => (
          <Box key={group}>
            <Box color="muted" fontSize="small">
              {group}
            </Box>
            {outing.packing
              .filter((item) => item.group === group)
              .map((item) => (
                <Tick
                  key={item.key}
                  label={item.name}
                  {...(item.why ? { hint: item.why } : {})}
                  checked={item.packed}
                  change={(on) => tick(item.key, on)}
                />
              ))}
          </Box>
        ))}
      </Box>
      <Field
        words
        label="Something of my own"
        name={`outing:${outing.id}:own_items`}
        value=""
        placeholder="thermos"
        save={async (text) => {
          if (text.trim()) await change({ own_items: [...outing.own_items, text.trim()] });
        }}
      />
    </Section>
  );
}
