import { Menu, Portal } from "@chakra-ui/react";
import { FLOATING } from "../../theme/system";
import { Button } from "./Button";

/** A button that opens a list of things to do; arrow keys and first letters go through it, Enter does one, Escape none. */
export function PickMenu({
  label,
  name,
  options,
  pick,
  disabled = false,
}: {
  label: string;
  /** What it is called where its words are few. */
  name?: string;
  options: { value: string; label: string }[];
  pick: (value: string) => void;
  disabled?: boolean;
}) {
  return (
    <Menu.Root onSelect={(details) => pick(details.value)} positioning={{ placement: "bottom-end" }} lazyMount>
      <Menu.Trigger asChild>
        <Button
          look="quiet"
          disabled={disabled || options.length === 0}
          {...(name ? { "aria-label": name, fontSize: "small" } : {})}
        >
          {label} <span aria-hidden="true">▾</span>
        </Button>
      </Menu.Trigger>
      <Portal>
        <Menu.Positioner zIndex="12">
          <Menu.Content {...FLOATING} py="4px" maxH="60vh" overflowY="auto">
            {options.map((option) => (
              <Menu.Item
                key={option.value}
                value={option.value}
                px="12px"
                py="5px"
                minH={{ base: "44px", lg: "28px" }}
                fontSize="body"
                cursor="pointer"
                _highlighted={{ bg: "raised", color: "accent" }}
              >
                {option.label}
              </Menu.Item>
            ))}
          </Menu.Content>
        </Menu.Positioner>
      </Portal>
    </Menu.Root>
  );
}
