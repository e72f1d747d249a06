import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ApiError } from "../api/client";
import { useRested } from "../lib/drafts/useSettled";
import type { About, Answer, Question, Values } from "./questions";
import { fromTables } from "./tables";

// So long after the last letter a question is asked.
const RESTS_MS = 150;

/** What became of a question. */
export interface Answered {
  /** The last answer there was; it is not of what stands in the fields while one of them is refused. */
  answer: Answer | undefined;
  error: ApiError | undefined;
  /** Said of an answer from the tables. */
  offline: string | undefined;
}

/** The answer to what is typed, as one types; from the tables where the server is away. */
export function useAnswer(question: Question, values: Values, about: About): Answered {
  const asked = useRested(JSON.stringify({ values, about }), RESTS_MS);
  const found = useQuery({
    queryKey: ["now", question.key, asked],
    queryFn: async ({ signal }): Promise<{ answer: Answer; offline?: string }> => {
      const { values: typed, about: around } = JSON.parse(asked) as { values: Values; about: About };
      try {
        return { answer: await question.ask(typed, around, signal) };
      } catch (failure) {
        if (!(failure instanceof ApiError) || !failure.away || signal.aborted) throw failure;
        return fromTables(question.key, typed);
      }
    },
    placeholderData: keepPreviousData,
    networkMode: "always",
    retry: false,
    staleTime: 60_000,
  });
  const error = found.error;
  return {
    answer: found.data?.answer,
    error: error ? (error instanceof ApiError ? error : new ApiError(0, error.message)) : undefined,
    offline: error ? undefined : found.data?.offline,
  };
}
