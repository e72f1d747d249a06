import { Box } from "@chakra-ui/react";
import { GLOSSARY } from "../api/facts";
import { useTitle } from "../lib/focus/useTitle";

const TERMS = Object.entries(GLOSSARY).sort(([one], [other]) => one.localeCompare(other, "en"));

/** The terms of the trade that a screen explains where they are tapped, all on one page. */
export default function Terms() {
  useTitle("Terms");
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="14px">
      <Box as="h1" fontSize="title" fontWeight="700" mb="12px">
        Terms
      </Box>
      <Box as="dl" columnWidth="380px" columnGap="36px" maxW="1240px">
        {TERMS.map(([term, words]) => (
          <Box key={term} mb="12px" breakInside="avoid">
            <Box as="dt" fontWeight="700">
              {term}
            </Box>
            <Box as="dd" color="muted">
              {words}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
