import { Box, chakra } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { Mark } from "../parts/Mark";
import { STEP_WORDS, type StepName } from "../shot/steps";

/** Reasons and warnings in sentences, worst first; each leads to the dial that would change it. */
export function Because({
  reasons,
  step,
  go,
}: {
  reasons: Schemas["ReasonOut"][];
  step: StepName;
  go: (step: StepName) => void;
}) {
  // Warnings of all steps, and what holds of the step at hand.
  const shown = reasons.filter((reason) => reason.weight !== "holds" || reason.step === step);
  return (
    <Box
      as="section"
      aria-label="Because"
      borderTop="1px solid"
      borderColor="line"
      bg="panel"
      px="16px"
      py="7px"
      mt="8px"
      display="grid"
      gridTemplateColumns={{ base: "1fr", lg: "78px 1fr" }}
      gap="2px 12px"
      flex="none"
      css={{ "@media (min-width: 960px)": { height: "118px" } }}
    >
      <Box as="h2" fontSize="15px" fontWeight="700">
        Because
      </Box>
      <Box as="ul" overflowY="auto" minH="0" display="grid" gap="3px" alignContent="start" style={{ scrollbarWidth: "thin" }}>
        {shown.map((reason) => (
          <Box
            as="li"
            key={reason.step + reason.text}
            display="flex"
            gap="8px"
            alignItems="flex-start"
            fontSize="14px"
            lineHeight="1.35"
          >
            <Box pt="2px">
              <Mark mark={reason.weight} size={5} />
            </Box>
            <Box flex="1">
              {reason.text}
              {reason.dial && (
                <chakra.button
                  type="button"
                  onClick={() => {
                    go(reason.step);
                    focusField(reason.dial ?? "");
                  }}
                  ml="8px"
                  p="0"
                  bg="transparent"
                  border="0"
                  fontSize="13px"
                  color="muted"
                  textDecoration="underline"
                  textUnderlineOffset="3px"
                  cursor="pointer"
                  whiteSpace="nowrap"
                >
                  {reason.step === step ? "change it" : `change it in ${STEP_WORDS[reason.step]}`}
                </chakra.button>
              )}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** Put the focus on a field once its step has been drawn. */
function focusField(name: string, tries = 40): void {
  const target = document.querySelector<HTMLElement>(
    `[data-field="${name}"] :is(input, select, button, [tabindex="0"]), input[data-field="${name}"]`,
  );
  if (target) {
    target.focus();
    target.scrollIntoView({ block: "nearest" });
  } else if (tries > 0) setTimeout(() => focusField(name, tries - 1), 50);
}
