import { Box, chakra } from "@chakra-ui/react";

/** Views of one thing side by side, of which one is shown. */
export function Tabs<T extends string>({
  label,
  value,
  options,
  choose,
}: {
  label: string;
  value: T;
  options: { value: T; label: string }[];
  choose: (value: T) => void;
}) {
  return (
    <Box role="tablist" aria-label={label} display="flex" flexWrap="wrap" gap="2px 16px" mb="4px">
      {options.map((option) => (
        <chakra.button
          key={option.value}
          type="button"
          role="tab"
          aria-selected={option.value === value}
          onClick={() => choose(option.value)}
          bg="transparent"
          border="0"
          px="0"
          py="2px"
          fontSize="14px"
          cursor="pointer"
          color={option.value === value ? "fg" : "muted"}
          fontWeight={option.value === value ? 650 : 400}
          borderBottomWidth="2px"
          borderBottomStyle="solid"
          borderBottomColor={option.value === value ? "accent" : "transparent"}
        >
          {option.label}
        </chakra.button>
      ))}
    </Box>
  );
}
