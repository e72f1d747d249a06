import { Tabs as ChakraTabs } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** Views of one thing side by side, of which one is shown below; arrow keys, Home and End go from one to the next. */
export function Tabs<T extends string>({
  label,
  value,
  options,
  choose,
  aside,
  children,
}: {
  label: string;
  value: T;
  options: { value: T; label: string }[];
  choose: (value: T) => void;
  /** What belongs to the view, at the right of the row. */
  aside?: ReactNode;
  /** The view that is chosen; it fills what room there is. */
  children: ReactNode;
}) {
  return (
    <ChakraTabs.Root
      value={value}
      onValueChange={(details) => choose(details.value as T)}
      display="flex"
      flexDirection="column"
      flex="1"
      minH="0"
      minW="0"
    >
      <ChakraTabs.List aria-label={label} display="flex" flexWrap="wrap" alignItems="end" gap="2px 16px" mb="4px">
        {options.map((option) => (
          <ChakraTabs.Trigger
            key={option.value}
            value={option.value}
            bg="transparent"
            border="0"
            px="0"
            py="2px"
            minH={{ base: "44px", lg: "26px" }}
            minW={{ base: "44px", lg: "0" }}
            fontSize="body"
            cursor="pointer"
            color="muted"
            borderBottomWidth="2px"
            borderBottomStyle="solid"
            borderBottomColor="transparent"
            _selected={{ color: "fg", fontWeight: 650, borderBottomColor: "accent" }}
          >
            {option.label}
          </ChakraTabs.Trigger>
        ))}
      </ChakraTabs.List>
      {aside}
      <ChakraTabs.Content value={value} display="flex" flexDirection="column" flex="1" minH="0" minW="0">
        {children}
      </ChakraTabs.Content>
    </ChakraTabs.Root>
  );
}
