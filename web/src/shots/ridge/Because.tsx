import { Box, chakra } from "@chakra-ui/react";
import { memo, useCallback, useEffect, useRef } from "react";
import type { Schemas } from "../../api/client";
import { asBody } from "../../lib/drafts/asBody";
import { useOpened } from "../../lib/drafts/useOpened";
import { isTyping } from "../../lib/focus/isTyping";
import { REACH } from "../../theme/system";
import { Button } from "../../ui/form/Button";
import { Mark } from "../../ui/layout/Mark";
import { tell } from "../../ui/overlay/toaster";
import { labelOf } from "../facts";
import { homeOf } from "../homes";
import { STEP_WORDS, type StepName } from "../steps";
import { useShotWork } from "../work";
import { arranged } from "./reasons";
import { type Cure, useCures } from "./useCures";

type Reason = Schemas["ReasonOut"];

/** Reasons and warnings: one line with the worst of this step and what to take care of, and all of them when asked. */
export function Because(props: { reasons: Reason[]; step: StepName; go: (step: StepName, panel?: string) => void }) {
  const [open, setOpen] = useOpened("because");
  const { here, elsewhere, care } = arranged(props.reasons, props.step);
  const { shot, change } = useShotWork();
  const cures = useCures(shot.id, props.reasons);
  const latest = useRef(change);
  latest.current = change;
  const cureBy = useCallback((cure: Cure) => {
    latest.current(asBody(flat(cure.choices))).catch((failure: Error) => tell(failure.message));
  }, []);
  const toggle = useCallback(() => setOpen(!open), [open, setOpen]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== "b" || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return;
      if (!document.querySelector("[role=dialog]")) toggle();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [toggle]);
  const worst = here.find((reason) => reason.severity !== "holds") ?? elsewhere[0] ?? here[0];
  const more = here.length + elsewhere.length - (worst ? 1 : 0);
  return (
    <Box
      borderTop="1px solid"
      borderColor="line"
      bg="panel"
      px="16px"
      mt="8px"
      flex="none"
      zIndex="3"
      // Open it takes its place below the dials: over them it would hide what it is about.
      css={open ? undefined : { "@media (max-width: 959px)": { position: "sticky", bottom: 0 } }}
      data-because={open ? "open" : "closed"}
    >
      <Box display="flex" alignItems="center" gap="10px" minH={{ base: "44px", lg: "32px" }}>
        <chakra.button
          type="button"
          aria-expanded={open}
          onClick={toggle}
          display="flex"
          alignItems="center"
          gap="6px"
          bg="transparent"
          border="0"
          p="0"
          minH={{ base: "44px", lg: "28px" }}
          fontWeight="700"
          cursor="pointer"
          whiteSpace="nowrap"
        >
          <Box as="span" aria-hidden="true" color="muted" fontFamily="mono" fontWeight="400">
            {open ? "−" : "+"}
          </Box>
          Because
          <Box as="span" color="muted" fontFamily="mono" fontWeight="400">
            {here.length + elsewhere.length}
          </Box>
        </chakra.button>
        <Box flex="1" minW="0" overflow="hidden">
          {!open && worst && (
            <Box as="ul">
              <ReasonLine
                reason={worst}
                step={props.step}
                go={props.go}
                short={worst.step !== props.step}
                line
                cure={cures.get(worst.text)}
                cureBy={cureBy}
              />
            </Box>
          )}
        </Box>
        {!open && more > 0 && (
          <Button look="quiet" fontSize="small" onClick={toggle} aria-label={`why? ${more} more`}>
            why?
          </Button>
        )}
        {!open && care.length > 0 && (
          <Button look="quiet" fontSize="small" onClick={toggle} aria-label={`Take care: ${care.length}`}>
            <Mark mark="caution" size={5} /> Take care {care.length}
          </Button>
        )}
      </Box>
      {open && <All {...props} here={here} elsewhere={elsewhere} care={care} cures={cures} cureBy={cureBy} />}
    </Box>
  );
}

/** A patch in groups as the one flat list of changes that a shot's queue takes. */
const flat = (choices: Record<string, unknown>): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(choices).flatMap(([name, value]) =>
      value !== null && typeof value === "object" && !Array.isArray(value) ? Object.entries(value) : [[name, value]],
    ),
  );

function All({
  here,
  elsewhere,
  care,
  step,
  go,
  cures,
  cureBy,
}: {
  cures: Map<string, Cure>;
  cureBy: (cure: Cure) => void;
  here: Reason[];
  elsewhere: Reason[];
  care: Reason[];
  step: StepName;
  go: (step: StepName, panel?: string) => void;
}) {
  return (
    <Box
      pb="7px"
      display="grid"
      gridTemplateColumns={{ base: "1fr", lg: care.length ? "minmax(0, 1fr) minmax(0, 34%)" : "1fr" }}
      gap="6px 26px"
      css={{ "@media (min-width: 960px)": { height: "88px" } }}
    >
      <Part title="Because" heading={false}>
        {here.map((reason) => (
          <ReasonLine
            key={reason.text}
            reason={reason}
            step={step}
            go={go}
            cure={cures.get(reason.text)}
            cureBy={cureBy}
          />
        ))}
        {elsewhere.map((reason) => (
          <ReasonLine
            key={reason.step + reason.text}
            reason={reason}
            step={step}
            go={go}
            cure={cures.get(reason.text)}
            cureBy={cureBy}
            short
          />
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

function Part({
  title,
  count,
  heading = true,
  children,
}: {
  title: string;
  count?: number;
  /** Whether its name stands beside it; it does above otherwise. */
  heading?: boolean;
  children: React.ReactNode;
}) {
  return (
    <Box
      as="section"
      aria-label={title}
      minH="0"
      minW="0"
      display="grid"
      gridTemplateColumns={{ base: "1fr", lg: heading ? "auto minmax(0, 1fr)" : "minmax(0, 1fr)" }}
      gap="2px 14px"
    >
      {heading && (
        <Box as="h2" fontSize="body" fontWeight="700" whiteSpace="nowrap">
          {title}
          {count !== undefined && (
            <Box as="span" fontFamily="mono" fontWeight="400" color="muted" ml="6px">
              {count}
            </Box>
          )}
        </Box>
      )}
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
  line = false,
  cure,
  cureBy,
}: {
  /** The nearest change with which this is said no more; a press makes it. */
  cure?: Cure | undefined;
  cureBy?: ((cure: Cure) => void) | undefined;
  reason: Reason;
  step: StepName;
  go: (step: StepName, panel?: string) => void;
  /** Of another step, which is named. */
  short?: boolean;
  /** In one line, whatever its length. */
  line?: boolean;
}) {
  const dial = reason.dial;
  const home = dial ? homeOf(dial, reason.step) : undefined;
  const words = home && home.step !== step ? `change it in ${STEP_WORDS[home.step]}` : "change it";
  return (
    <Box as="li" display="flex" gap="8px" alignItems="flex-start" fontSize="body" lineHeight="1.35" minW="0">
      <Box pt="2px">
        <Mark mark={reason.severity} size={5} />
      </Box>
      <Box flex="1" minW="0" display={short || line ? "flex" : "block"}>
        {short && (
          <Box as="span" color="muted" mr="6px" flex="none">
            {STEP_WORDS[reason.step]}:
          </Box>
        )}
        {short || line ? (
          <Box as="span" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap" title={reason.text}>
            {reason.text}
          </Box>
        ) : (
          reason.text
        )}
        {cure && cureBy && (
          <chakra.button
            type="button"
            onClick={() => cureBy(cure)}
            {...REACH}
            ml="8px"
            px="6px"
            minH="24px"
            my="-2px"
            flex="none"
            bg="transparent"
            border="1px solid"
            borderColor="accent"
            borderRadius="3px"
            fontSize="small"
            color="accent"
            cursor="pointer"
            whiteSpace="nowrap"
            data-cure={reason.code}
            aria-label={`${cure.words}: ${reason.text}`}
          >
            {cure.words}
          </chakra.button>
        )}
        {dial && home && (
          <chakra.button
            type="button"
            onClick={() => {
              if (home.step !== step || !fieldOf(dial)) go(home.step, home.panel);
              focusField(dial);
            }}
            {...REACH}
            display={{ base: line ? "none" : "inline-block", lg: "inline-block" }}
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
    const fold = target.closest("details");
    if (fold) fold.open = true;
    target.focus();
    target.scrollIntoView({ block: "nearest" });
  } else if (tries > 0) setTimeout(() => focusField(name, tries - 1), 50);
  else {
    // The field is not drawn in this state of the plan: the step itself is the place to look.
    document.getElementById("main")?.focus();
    tell(`${labelOf(name)}: what it needs comes first on this page.`);
  }
}
