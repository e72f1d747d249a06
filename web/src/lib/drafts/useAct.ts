import { useMutation, useQueryClient } from "@tanstack/react-query";
import { refreshPlans } from "../../api/queries";

/** Something done at the server, after which every plan (or only what is named) is asked for again. What goes wrong is said in one place, unless quiet. */
export function useAct<Input, Output>(
  act: (input: Input) => Promise<Output>,
  options: { quiet?: boolean; only?: string[] } = {},
) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSettled: () => refreshPlans(queries, options.only),
    meta: { quiet: options.quiet ?? false },
  });
}
