import { useEffect } from "react";

const FOCUSABLE =
  "a[href], button:not([disabled]), input:not([disabled]):not([type=hidden]), select:not([disabled]), textarea:not([disabled]), [tabindex]:not([tabindex='-1'])";

/** When what holds the focus is taken away, the focus goes to what stands in its place, else to its neighbour, else up to the page. */
export function useKeptFocus(): void {
  useEffect(() => {
    let holder: Element | undefined;
    const onFocus = (event: FocusEvent) => {
      holder = event.target instanceof Element ? event.target : undefined;
    };
    // A press on nothing lets the focus go on purpose.
    const onPress = () => {
      holder = undefined;
    };
    const observer = new MutationObserver((records) => {
      if (!holder || holder.isConnected || document.activeElement !== document.body) return;
      const lost = holder;
      holder = undefined;
      nextPlace(records, lost)?.focus({ preventScroll: true });
    });
    document.addEventListener("focusin", onFocus);
    document.addEventListener("pointerdown", onPress);
    observer.observe(document.body, { childList: true, subtree: true });
    return () => {
      document.removeEventListener("focusin", onFocus);
      document.removeEventListener("pointerdown", onPress);
      observer.disconnect();
    };
  }, []);
}

/** Where the focus goes when the element that held it was lost with these changes. */
export function nextPlace(records: MutationRecord[], lost: Element): HTMLElement | undefined {
  const taken = records.find((record) => [...record.removedNodes].some((node) => node.contains(lost)));
  if (!taken) return onPage();
  const instead = records
    .filter((record) => record.target === taken.target)
    .flatMap((record) => [...record.addedNodes]);
  for (const node of [...instead, taken.nextSibling, taken.previousSibling]) {
    const found = node?.isConnected ? within(node) : undefined;
    if (found) return found;
  }
  for (let up: Node | null = taken.target; up && up !== document.body; up = up.parentNode) {
    const found = up.isConnected ? within(up) : undefined;
    if (found) return found;
  }
  return onPage();
}

function within(node: Node): HTMLElement | undefined {
  if (!(node instanceof HTMLElement)) return undefined;
  if (node.matches(FOCUSABLE)) return node;
  return node.querySelector<HTMLElement>(FOCUSABLE) ?? undefined;
}

const onPage = (): HTMLElement | undefined => document.querySelector<HTMLElement>("#main") ?? undefined;
