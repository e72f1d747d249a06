import { useMutation, useQueryClient } from "@tanstack/react-query";
import { refreshPlans } from "../api/queries";

/** Something done at the server, after which every plan is asked for again. What goes wrong is said in one place, unless quiet. */
export function useAct<Input, Output>(act: (input: Input) => Promise<Output>, options: { quiet?: boolean } = {}) {
  const queries = useQueryClient();
  return useMutation({ mutationFn: act, onSettled: () => refreshPlans(queries), meta: { quiet: options.quiet ?? false } });
}
