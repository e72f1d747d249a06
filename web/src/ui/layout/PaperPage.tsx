import { Box } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { Button } from "../form/Button";
import { Choice } from "../form/Field";
import { useSheet } from "./useSheet";

type Paper = "A6" | "A5";
// Written out: style sheets know A5 by name, but not A6.
const SHEET: Record<Paper, string> = { A6: "105mm 148mm", A5: "148mm 210mm" };
const SIZES = (["A6", "A5"] as const).map((value) => ({ value, label: value }));

/** What is printed in black on white on A6 or A5, and read on a phone as it is. textPt: by paper; numbered: pages have this title and their number. */
export function PaperPage({
  back,
  actions,
  textPt,
  numbered,
  children,
}: {
  back?: { to: string; words: string };
  /** Beside printing. */
  actions?: ReactNode;
  textPt: Record<Paper, number>;
  numbered?: string;
  children: ReactNode;
}) {
  const [paper, setPaper] = useState<Paper>("A6");
  const page =
    numbered === undefined
      ? "margin: 7mm;"
      : `margin: 8mm 7mm 10mm; @bottom-left { content: "${numbered.replace(/["\\\n]/g, " ")}"; font-size: 7pt; } @bottom-right { content: counter(page) " of " counter(pages); font-size: 7pt; }`;
  useSheet(`@page { size: ${SHEET[paper]}; ${page} }
    @media print { .on-paper { font-size: ${textPt[paper]}pt; color: #000; background: #fff; } .no-print { display: none !important; } }`);
  return (
    <Box
      as="main"
      id="main"
      tabIndex={-1}
      outline="none"
      p="16px"
      maxW="560px"
      mx="auto"
      css={{ "@media print": { padding: 0, maxWidth: "none" } }}
    >
      <Box
        className="no-print"
        display="flex"
        gap="12px"
        alignItems="flex-end"
        justifyContent="space-between"
        flexWrap="wrap"
        mb="14px"
      >
        {back && <Link to={back.to}>{back.words}</Link>}
        <Choice label="Paper" value={paper} options={SIZES} choose={setPaper} />
        <Button look="main" onClick={() => window.print()}>
          Print
        </Button>
        {actions}
      </Box>
      {children}
    </Box>
  );
}
