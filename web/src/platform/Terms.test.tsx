// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { beforeAll, expect, test } from "vitest";
import { draw, furnish } from "../testing";
import Terms from "./Terms";

beforeAll(furnish);

test("terms stand in the order of the alphabet, each with its words", () => {
  draw(<Terms />);
  const terms = screen.getAllByRole("term").map((term) => term.textContent);
  expect(terms).toEqual([...terms].sort((one, other) => (one ?? "").localeCompare(other ?? "", "en")));
  expect(terms).toContain("hyperfocal distance");
  expect(screen.getAllByRole("definition")).toHaveLength(terms.length);
});
