import { createContext, useContext } from "react";
import type { ShotWork } from "./useShot";

/** The shot at hand, for fields and dials anywhere below its page. */
export const ShotContext = createContext<ShotWork | null>(null);

export function useShotWork(): ShotWork {
  const work = useContext(ShotContext);
  if (!work) throw new Error("A shot's field stands outside a shot's page.");
  return work;
}
