import { Box, chakra } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** A cell of figures. */
export const Cell = chakra("td", {
  base: {
    py: "3px",
    pr: "10px",
    fontFamily: "mono",
    fontSize: "small",
    borderBottom: "1px solid",
    borderColor: "line",
    verticalAlign: "top",
  },
});

/** The head of a column. */
export const Head = chakra("th", {
  base: {
    textAlign: "left",
    fontWeight: "600",
    color: "muted",
    fontSize: "small",
    py: "3px",
    pr: "10px",
    borderBottom: "1px solid",
    borderColor: "line",
  },
});

/** Figures side by side; what is too wide for its place is scrolled. */
export function Table({ label, heads, children }: { label: string; heads: string[]; children: ReactNode }) {
  return (
    <Box overflowX="auto">
      <chakra.table width="100%" borderCollapse="collapse" aria-label={label}>
        <thead>
          <tr>
            {heads.map((head) => (
              <Head key={head}>{head}</Head>
            ))}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </chakra.table>
    </Box>
  );
}
