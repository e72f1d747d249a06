import { ChakraProvider } from "@chakra-ui/react";
import { render } from "@testing-library/react";
import type { ReactElement, ReactNode } from "react";
import { vi } from "vitest";
import { system } from "./theme/system";

/** What the test browser lacks: sizes, and what goes with them. */
export function furnish(): void {
  vi.stubGlobal(
    "ResizeObserver",
    class {
      constructor(private readonly told: (entries: { contentRect: { width: number; height: number } }[]) => void) {}
      observe() {
        this.told([{ contentRect: { width: 480, height: 300 } }]);
      }
      unobserve() {}
      disconnect() {}
    },
  );
  vi.stubGlobal("CSS", { escape: (text: string) => text.replace(/[^\w-]/g, (character) => `\\${character}`) });
  Element.prototype.setPointerCapture ??= () => undefined;
  Element.prototype.scrollIntoView ??= () => undefined;
  // The test browser measures nothing: every box is as wide as a dial.
  Object.defineProperty(HTMLElement.prototype, "clientWidth", { configurable: true, get: () => 480 });
  window.matchMedia ??= (query: string) =>
    ({
      matches: false,
      media: query,
      addEventListener: () => undefined,
      removeEventListener: () => undefined,
    }) as unknown as MediaQueryList;
}

/** Draw a part of the page as it is drawn in the application. */
export function draw(element: ReactElement) {
  const wrapper = ({ children }: { children: ReactNode }) => <ChakraProvider value={system}>{children}</ChakraProvider>;
  return render(element, { wrapper });
}
