import { cleanup, configure } from "@testing-library/react";
import { afterEach } from "vitest";

// Patience for a machine that is busy with something else; it costs nothing where all is well.
configure({ asyncUtilTimeout: 15_000 });

// Files share one page: what a test has drawn goes, and the focus with it.
afterEach(cleanup);
