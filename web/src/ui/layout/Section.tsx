import { Box, chakra } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { useOpened } from "../../lib/drafts/useOpened";
import { Term, type TermName } from "../overlay/Term";

/** A group of controls under a small heading and a hairline; folded it is a heading that says what it holds. */
export function Section({
  title,
  term,
  aside,
  fold,
  children,
}: {
  title: string;
  /** What the title means, for who does not know it. */
  term?: TermName;
  aside?: ReactNode;
  /** Closed until it is opened, and as it was left the next time; the words say what it holds while it is closed. */
  fold?: string | undefined;
  children: ReactNode;
}) {
  const heading = term ? <Term of={term}>{title}</Term> : title;
  if (fold !== undefined)
    return (
      <Folded title={title} words={fold} aside={aside}>
        {children}
      </Folded>
    );
  return (
    <Box as="section" borderTopWidth="1px" borderColor="line" borderTopStyle="solid" pt="8px" pb="12px">
      <Box display="flex" justifyContent="space-between" alignItems="baseline" gap="10px" mb="6px">
        <Box as="h3" fontSize="body" fontWeight="650">
          {heading}
        </Box>
        {aside}
      </Box>
      <Box display="grid" gap="9px">
        {children}
      </Box>
    </Box>
  );
}

function Folded({
  title,
  words,
  aside,
  children,
}: {
  title: string;
  words: string;
  aside: ReactNode;
  children: ReactNode;
}) {
  const [open, setOpen] = useOpened(title);
  return (
    <chakra.details
      data-fold=""
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
      borderTopWidth="1px"
      borderColor="line"
      borderTopStyle="solid"
    >
      <chakra.summary
        display="flex"
        alignItems="baseline"
        gap="8px"
        py={{ base: "10px", lg: "2px" }}
        cursor="pointer"
        listStyle="none"
        css={{ "&::-webkit-details-marker": { display: "none" } }}
      >
        <Box as="span" aria-hidden="true" color="muted" fontFamily="mono">
          {open ? "−" : "+"}
        </Box>
        <Box as="h3" fontSize="body" fontWeight="650" whiteSpace="nowrap">
          {title}
        </Box>
        <Box
          as="span"
          color="muted"
          fontSize="small"
          minW="0"
          overflow="hidden"
          textOverflow="ellipsis"
          whiteSpace="nowrap"
        >
          {open ? "" : words}
        </Box>
      </chakra.summary>
      <Box display="grid" gap="9px" pb="12px">
        {aside && (
          <Box display="flex" justifyContent="flex-end">
            {aside}
          </Box>
        )}
        {children}
      </Box>
    </chakra.details>
  );
}

/** Fields side by side, as many as fit. */
export function Row({ children, least = "92px" }: { children: ReactNode; least?: string }) {
  return (
    <Box
      display="grid"
      gridTemplateColumns={`repeat(auto-fit, minmax(${least}, 1fr))`}
      gap="8px 12px"
      alignItems="start"
    >
      {children}
    </Box>
  );
}
