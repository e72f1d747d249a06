import { Box } from "@chakra-ui/react";
import { type ReactNode, useId } from "react";
import { useStoredValues } from "../lib/drafts/useStored";
import { Input, Labelled, SelectBox } from "../ui/form/Field";
import { ErrorBoundary } from "../ui/layout/ErrorBoundary";
import { DepthBar } from "./DepthBar";
import { Keep } from "./Keep";
import { LookBands } from "./LookBands";
import { NowCountdown } from "./NowCountdown";
import type { About, Answer, Asked, Begin, Question, Values } from "./questions";
import { type Answered, useAnswer } from "./useAnswer";

/** A question with its answer, which changes as one types; what was typed last is there the next time. */
export function NowCard({ question, begin, about }: { question: Question; begin: Begin; about: About }) {
  const here = about.here.viewpoint_id !== undefined || about.here.coordinates !== undefined;
  const initial = question.initial(begin);
  const [values, put, clear] = useStoredValues<Values>(`now:${question.key}`, initial);
  const found = useAnswer(question, values, about);
  const changed = Object.entries(initial).some(([name, text]) => values[name] !== text);
  return (
    <Box
      as="section"
      aria-label={question.title}
      borderTop="1px solid"
      borderColor="line"
      pt="10px"
      display="grid"
      gap="8px"
      alignContent="start"
      minW="0"
      data-now={question.key}
    >
      <Box as="h2" fontSize="lead" fontWeight="650">
        {question.title}
      </Box>
      <Box display="grid" gridTemplateColumns="repeat(auto-fit, minmax(88px, 1fr))" gap="6px 10px" alignItems="end">
        {question.fields(begin, here).map((asked) => (
          <AskedField
            key={asked.name}
            asked={asked}
            value={values[asked.name] ?? ""}
            put={(text) => put({ [asked.name]: text })}
            error={found.error?.at(asked.name)}
          />
        ))}
      </Box>
      <Result question={question} values={values} found={found} />
      <ErrorBoundary what={question.title}>
        <Beside question={question} values={values} answer={found.answer} put={put} />
      </ErrorBoundary>
      <Keep
        question={question}
        answer={found.error ? undefined : found.answer}
        askFor={(shot_id) => question.ask(values, { ...about, shot_id }, new AbortController().signal)}
        again={changed ? clear : undefined}
      />
    </Box>
  );
}

function AskedField({
  asked,
  value,
  put,
  error,
}: {
  asked: Asked;
  value: string;
  put: (text: string) => void;
  error: string | undefined;
}) {
  const id = useId();
  const chosen = asked.options?.some((option) => option.value === value) ? value : asked.options?.[0]?.value;
  return (
    <Labelled label={asked.label} htmlFor={id} error={error}>
      {asked.options ? (
        <SelectBox fontFamily="body" value={chosen} onChange={(event) => put(event.target.value)}>
          {asked.options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ))}
        </SelectBox>
      ) : (
        <Input
          value={value}
          maxLength={60}
          autoComplete="off"
          list={asked.offered ? `${id}-offered` : undefined}
          onChange={(event) => put(event.target.value)}
          onFocus={(event) => event.target.select()}
        />
      )}
      {asked.offered && (
        <datalist id={`${id}-offered`}>
          {asked.offered.map((text) => (
            <option key={text} value={text} />
          ))}
        </datalist>
      )}
    </Labelled>
  );
}

/** The figure, to be read from afar, what it is, and what else there is to say. */
function Result({ question, values, found }: { question: Question; values: Values; found: Answered }) {
  const { answer, error, offline } = found;
  const atField = error && Object.keys(values).some((name) => error.at(name));
  return (
    <Box role="status" minH="78px" opacity={error ? 0.55 : 1} aria-label={`${question.title}: answer`}>
      {answer && (
        <>
          <Box display="flex" flexWrap="wrap" alignItems="baseline" gap="0 12px">
            <Box
              fontFamily="mono"
              fontSize={answer.figure.length > 12 ? "title" : "34px"}
              lineHeight="1.15"
              color={answer.sharp === false ? "rust" : "accent"}
              data-figure=""
            >
              {answer.figure}
            </Box>
            <Box>{answer.words}</Box>
          </Box>
          <Notes notes={answer.notes} />
        </>
      )}
      {error && !atField && (
        <Box color="rust" fontSize="small">
          {error.message}
        </Box>
      )}
      {offline && (
        <Box color="haze" fontSize="small">
          {offline}
        </Box>
      )}
    </Box>
  );
}

function Notes({ notes }: { notes: readonly string[] }) {
  return (
    <Box color="muted" fontSize="small" mt="3px">
      {notes.map((note) => (
        <Box key={note}>{note}</Box>
      ))}
    </Box>
  );
}

/** The drawing or the tool that belongs to an answer. */
function Beside({
  question,
  values,
  answer,
  put,
}: {
  question: Question;
  values: Values;
  answer: Answer | undefined;
  put: (part: Values) => void;
}): ReactNode {
  if (question.key === "density")
    return <NowCountdown seconds={answer?.open_s ?? undefined} words={answer?.words ?? ""} />;
  if (question.key === "depth" && answer?.focus_m) return <DepthBar answer={answer} />;
  if (question.key === "water" && answer?.bands)
    return <LookBands bands={answer.bands} look={values.look ?? ""} choose={(look) => put({ look })} />;
  return null;
}
