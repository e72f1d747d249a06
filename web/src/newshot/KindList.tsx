import { Box, RadioGroup } from "@chakra-ui/react";
import type { Schemas } from "../api/client";

type Kind = Schemas["PictureKindsOut"]["kinds"][number];

/** The kinds of picture to choose from, none of them first; arrow keys go from one to the next. */
export function KindList({ kinds, kind, choose }: { kinds: Kind[]; kind: string; choose: (key: string) => void }) {
  const all = [...kinds, { key: "", label: "None of these", words: "An empty shot, which says what it still needs." }];
  return (
    <RadioGroup.Root
      value={kind}
      onValueChange={(details) => choose(details.value ?? "")}
      aria-label="Kind of picture"
      display="grid"
    >
      {all.map((item) => (
        <RadioGroup.Item
          key={item.key}
          value={item.key}
          display="grid"
          gridTemplateColumns="20px 1fr"
          gap="0 8px"
          py="9px"
          minH="58px"
          cursor="pointer"
          borderTop="1px solid"
          borderColor="line"
          css={{ "&:has(:focus-visible)": { outline: "2px solid var(--lr-colors-accent)", outlineOffset: "1px" } }}
        >
          <RadioGroup.ItemHiddenInput />
          <Box as="span" aria-hidden="true" color={item.key === kind ? "accent" : "muted"} fontSize="lead">
            {item.key === kind ? "●" : "○"}
          </Box>
          <RadioGroup.ItemText>
            <Box as="span" display="block" fontSize="lead" fontWeight={item.key === kind ? 650 : 500}>
              {item.label}
            </Box>
            <Box as="span" display="block" color="muted" fontSize="small">
              {item.words}
            </Box>
          </RadioGroup.ItemText>
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
