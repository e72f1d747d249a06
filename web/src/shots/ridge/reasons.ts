import type { Schemas } from "../../api/client";
import type { StepName } from "../steps";

type Reason = Schemas["ReasonOut"];

const RANK: Record<string, number> = { fails: 0, tight: 1, unsaid: 2, holds: 3 };

/** Reasons as they are read: this step's, worst first; what fails elsewhere; and the cautions, this step's first. */
export function arranged(reasons: Reason[], step: StepName): { here: Reason[]; elsewhere: Reason[]; care: Reason[] } {
  const cautions = reasons.filter((reason) => reason.severity === "caution");
  const judged = reasons.filter((reason) => reason.severity !== "caution");
  const own = (reason: Reason) => reason.step === step;
  return {
    here: judged.filter(own).sort((a, b) => (RANK[a.severity] ?? 9) - (RANK[b.severity] ?? 9)),
    elsewhere: judged.filter((reason) => !own(reason) && reason.severity === "fails"),
    care: [...cautions.filter(own), ...cautions.filter((reason) => !own(reason))],
  };
}
