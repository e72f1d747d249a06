import { Box, chakra } from "@chakra-ui/react";
import { memo } from "react";
import type { Schemas } from "../../api/client";
import { REACH } from "../../theme/system";
import { Mark } from "../../ui/layout/Mark";
import { tell } from "../../ui/overlay/toaster";
import { labelOf } from "../facts";
import { homeOf } from "../homes";
import { STEP_WORDS, type StepName } from "../steps";
import { arranged } from "./reasons";

type Reason = Schemas["ReasonOut"];

/** Reasons and warnings in sentences: this step's own first, worst first, then what fails elsewhere; cautions stand beside them. */
export function Because({
  reasons,
  step,
  go,
}: {
  reasons: Reason[];
  step: StepName;
  go: (step: StepName, panel?: string) => void;
}) {
  const { here, elsewhere, care } = arranged(reasons, step);
  return (
    <Box
      borderTop="1px solid"
      borderColor="line"
      bg="panel"
      px="16px"
      py="7px"
      mt="8px"
      display="grid"
      gridTemplateColumns={{ base: "1fr", lg: care.length ? "minmax(0, 1fr) minmax(0, 34%)" : "1fr" }}
      gap="6px 26px"
      flex="none"
      css={{ "@media (min-width: 960px)": { height: "118px" } }}
    >
      <Part title="Because">
        {here.map((reason) => (
          <ReasonLine key={reason.text} reason={reason} step={step} go={go} />
        ))}
        {elsewhere.map((reason) => (
          <ReasonLine key={reason.step + reason.text} reason={reason} step={step} go={go} short />
        ))}
      </Part>
      {care.length > 0 && (
        <Part title="Take care" count={care.length}>
          {care.map((reason) => (
            <ReasonLine key={reason.text} reason={reason} step={step} go={go} />
          ))}
        </Part>
      )}
    </Box>
  );
}

function Part({ title, count, children }: { title: string; count?: number; children: React.ReactNode }) {
  return (
    <Box
      as="section"
      aria-label={title}
      minH="0"
      minW="0"
      display="grid"
      gridTemplateColumns={{ base: "1fr", lg: "auto minmax(0, 1fr)" }}
      gap="2px 14px"
    >
      <Box as="h2" fontSize="body" fontWeight="700" whiteSpace="nowrap">
        {title}
        {count !== undefined && (
          <Box as="span" fontFamily="mono" fontWeight="400" color="muted" ml="6px">
            {count}
          </Box>
        )}
      </Box>
      <Box
        as="ul"
        overflowY="auto"
        minH="0"
        display="grid"
        gap={{ base: "7px", lg: "3px" }}
        // So that a thumb reaches the first and the last beyond their lines.
        py={{ base: "10px", lg: "0" }}
        alignContent="start"
        tabIndex={0}
        aria-label={`${title}, list`}
        style={{ scrollbarWidth: "thin" }}
      >
        {children}
      </Box>
    </Box>
  );
}

/** One reason; an answer that leaves it as it was does not draw it again. */
const ReasonLine = memo(function ReasonLine({
  reason,
  step,
  go,
  short = false,
}: {
  reason: Reason;
  step: StepName;
  go: (step: StepName, panel?: string) => void;
  short?: boolean;
}) {
  const dial = reason.dial;
  const home = dial ? homeOf(dial, reason.step) : undefined;
  const words = home && home.step !== step ? `change it in ${STEP_WORDS[home.step]}` : "change it";
  return (
    <Box as="li" display="flex" gap="8px" alignItems="flex-start" fontSize="body" lineHeight="1.35" minW="0">
      <Box pt="2px">
        <Mark mark={reason.severity} size={5} />
      </Box>
      <Box flex="1" minW="0" display={short ? "flex" : "block"}>
        {short && (
          <Box as="span" color="muted" mr="6px" flex="none">
            {STEP_WORDS[reason.step]}:
          </Box>
        )}
        {short ? (
          <Box as="span" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap" title={reason.text}>
            {reason.text}
          </Box>
        ) : (
          reason.text
        )}
        {dial && home && (
          <chakra.button
            type="button"
            onClick={() => {
              if (home.step !== step || !fieldOf(dial)) go(home.step, home.panel);
              focusField(dial);
            }}
            {...REACH}
            ml="8px"
            px="2px"
            minH="24px"
            my="-2px"
            flex="none"
            bg="transparent"
            border="0"
            fontSize="small"
            color="muted"
            textDecoration="underline"
            textUnderlineOffset="3px"
            cursor="pointer"
            whiteSpace="nowrap"
            aria-label={`${words}: ${reason.text}`}
          >
            {words}
          </chakra.button>
        )}
      </Box>
    </Box>
  );
});

const fieldOf = (name: string): HTMLElement | null =>
  document.querySelector<HTMLElement>(
    `[data-field="${name}"] :is(input, select, button, [tabindex="0"]), input[data-field="${name}"]`,
  );

/** Put the focus on a field once its step has been drawn. */
function focusField(name: string, tries = 40): void {
  const target = fieldOf(name);
  if (target) {
    target.focus();
    target.scrollIntoView({ block: "nearest" });
  } else if (tries > 0) setTimeout(() => focusField(name, tries - 1), 50);
  else {
    // The field is not drawn in this state of the plan: the step itself is the place to look.
    document.getElementById("main")?.focus();
    tell(`${labelOf(name)}: what it needs comes first on this page.`);
  }
}
