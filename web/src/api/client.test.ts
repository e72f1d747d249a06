import { expect, test, vi } from "vitest";
import { entered, SIGN_IN, take } from "./client";

const refusal = () => ({
  error: { error: { kind: "sign_in", message: "Sign in first.", fields: [] } },
  response: new Response(null, { status: 401 }),
});

test("a refusal for want of a sign-in shuts the door, unless somebody has signed in since it was asked", async () => {
  const shut = vi.fn((event: Event) => event.type === SIGN_IN);
  vi.stubGlobal("dispatchEvent", shut);
  await expect(take(Promise.resolve(refusal()))).rejects.toMatchObject({ status: 401 });
  expect(shut).toHaveBeenCalledTimes(1);

  let answer: (value: ReturnType<typeof refusal>) => void = () => undefined;
  const late = take(new Promise<ReturnType<typeof refusal>>((resolve) => (answer = resolve)));
  entered();
  answer(refusal());
  await expect(late).rejects.toMatchObject({ status: 401 });
  expect(shut).toHaveBeenCalledTimes(1);

  await expect(take(Promise.resolve(refusal()))).rejects.toMatchObject({ status: 401 });
  expect(shut).toHaveBeenCalledTimes(2);
  expect(shut.mock.results.every((call) => call.value === true)).toBe(true);
  vi.unstubAllGlobals();
});
