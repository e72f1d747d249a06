// @vitest-environment jsdom
import { act, render, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it } from "vitest";
import { useKeptFocus } from "./useKeptFocus";

function List({ start }: { start: string[] }) {
  useKeptFocus();
  const [names, setNames] = useState(start);
  const [adding, setAdding] = useState(false);
  return (
    <main id="main" tabIndex={-1}>
      <ul>
        {names.map((name) => (
          <li key={name}>
            <button type="button" onClick={() => setNames(names.filter((other) => other !== name))}>
              drop {name}
            </button>
          </li>
        ))}
      </ul>
      {adding ? (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            setAdding(false);
          }}
        >
          <input aria-label="name" />
        </form>
      ) : (
        <div>
          <button type="button" onClick={() => setAdding(true)}>
            add
          </button>
        </div>
      )}
    </main>
  );
}

const press = (name: string) => {
  const button = screen.getByRole("button", { name });
  act(() => {
    button.focus();
    button.click();
  });
};
const focused = () => document.activeElement?.textContent || document.activeElement?.getAttribute("aria-label");

describe("the focus when what held it is gone", () => {
  it("goes to the next of a list", async () => {
    render(<List start={["a", "b", "c"]} />);
    press("drop b");
    await waitFor(() => expect(focused()).toBe("drop c"));
  });

  it("goes to the one before where there is no next", async () => {
    render(<List start={["a", "b"]} />);
    press("drop b");
    await waitFor(() => expect(focused()).toBe("drop a"));
  });

  it("goes on to what follows when the list is empty", async () => {
    render(<List start={["a"]} />);
    press("drop a");
    await waitFor(() => expect(focused()).toBe("add"));
  });

  it("goes to what stands in its place", async () => {
    render(<List start={[]} />);
    press("add");
    await waitFor(() => expect(focused()).toBe("name"));
    act(() => screen.getByLabelText("name").closest("form")?.requestSubmit());
    await waitFor(() => expect(focused()).toBe("add"));
  });

  it("stays away when the person let it go by a press on nothing", async () => {
    render(<List start={["a", "b"]} />);
    const button = screen.getByRole("button", { name: "drop b" });
    act(() => button.focus());
    act(() => {
      document.body.dispatchEvent(new MouseEvent("pointerdown", { bubbles: true }));
      button.blur();
      button.click();
    });
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(document.activeElement).toBe(document.body);
  });
});
