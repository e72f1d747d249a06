import { ApiError, type Schemas } from "./client";

type Plan = Schemas["ShotOut"];

const PREFIX = "plan:";
// How many plans stay on the device, those read last.
const MOST = 3;

/** A plan as the server gives it, kept for when it does not answer; then the one that was read last, if there is one. */
export async function keptPlan(id: number, read: () => Promise<Plan>): Promise<Plan> {
  try {
    const plan = await read();
    keep(plan);
    return plan;
  } catch (failure) {
    const found = failure instanceof ApiError && failure.status === 0 ? stored(id) : undefined;
    if (found) return found;
    throw failure;
  }
}

function keep(plan: Plan): void {
  try {
    const order = (JSON.parse(localStorage.getItem(`${PREFIX}order`) ?? "[]") as number[]).filter(
      (id) => id !== plan.id,
    );
    for (const id of order.splice(MOST - 1)) localStorage.removeItem(PREFIX + id);
    localStorage.setItem(PREFIX + plan.id, JSON.stringify(plan));
    localStorage.setItem(`${PREFIX}order`, JSON.stringify([plan.id, ...order]));
  } catch {
    // Storage may be full or closed: the plan is then shown as long as the page lives.
  }
}

function stored(id: number): Plan | undefined {
  try {
    const found = JSON.parse(localStorage.getItem(PREFIX + id) ?? "null") as Plan | null;
    return found?.id === id && found.plan ? found : undefined;
  } catch {
    return undefined;
  }
}
