import { queryOptions } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, SIGN_IN, take } from "../api/client";

export const sessionQuery = () =>
  queryOptions({ queryKey: ["session"], queryFn: () => take(client.GET("/api/session")), staleTime: 60_000 });

const KEY = "#key=";
const LAST = "account";
// How pages were left, which nobody misses.
const OF_THE_VIEW = /^draft:(?:now:|last shot|notebook:|field signals)/;

/** Show the key that stands in the address, once, and take it out of there. */
export async function showKey(): Promise<void> {
  const { hash, pathname, search } = window.location;
  if (!hash.startsWith(KEY)) return;
  const key = decodeURIComponent(hash.slice(KEY.length));
  window.history.replaceState(null, "", pathname + search);
  await take(client.POST("/api/session/key", { body: { key } })).catch(() => undefined);
}

/** The same where a page is open already: an address that differs by its key alone is no new page. */
export function watchForKey(): void {
  window.addEventListener("hashchange", () => {
    if (window.location.hash.startsWith(KEY)) void showKey().then(() => window.location.reload());
  });
}

/** Whether the server has said that nobody is signed in. */
export function useShut(): [boolean, () => void] {
  const [shut, setShut] = useState(false);
  useEffect(() => {
    const onShut = () => setShut(true);
    window.addEventListener(SIGN_IN, onShut);
    return () => window.removeEventListener(SIGN_IN, onShut);
  }, []);
  return [shut, () => setShut(false)];
}

/** Whether this browser was last another's: what that one typed and left here is thrown away. */
export async function changesHands(name: string): Promise<boolean> {
  const last = localStorage.getItem(LAST);
  localStorage.setItem(LAST, name);
  if (last === null || last === name) return false;
  await forget(name);
  return true;
}

/** How much of what was typed or ticked here has not reached the server. */
export async function unsentHere(): Promise<number> {
  const typed = Object.keys(localStorage).filter(
    (name) => name.startsWith("unsent:") || (name.startsWith("draft:") && !OF_THE_VIEW.test(name)),
  );
  const { unsent } = await import("../field/offline/eventStore");
  return typed.length + (await unsent()).length;
}

/** Throw away what was typed or ticked here and not sent; the theme stays. */
export async function forget(next?: string): Promise<void> {
  const theme = localStorage.getItem("theme");
  localStorage.clear();
  sessionStorage.clear();
  if (theme) localStorage.setItem("theme", theme);
  if (next) localStorage.setItem(LAST, next);
  const { forgetTimesOut } = await import("../field/offline/eventStore");
  await forgetTimesOut();
}
