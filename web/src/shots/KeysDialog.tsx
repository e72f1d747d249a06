import { Box } from "@chakra-ui/react";
import { Fragment } from "react";
import { Link } from "react-router";
import { Dialog } from "../ui/overlay/Dialog";

const KEYS: [string, string][] = [
  ["1 to 7", "go to a step"],
  ["[ ]", "aperture by a mark of the dial"],
  ["; '", "wanted shutter by a mark"],
  ["- =", "ISO by a mark"],
  [", .", "focal length, the next marking"],
  ["o", "portrait or landscape"],
  ["s", "find settings"],
  ["b", "all reasons, or one line of them"],
  ["h", "now: answers at the tripod"],
  ["n", "new shot"],
  ["g", "go to field"],
  ["/", "find shots, places, kit, pages and terms"],
  ["Ctrl+Z", "undo; with Shift, redo"],
  ["arrow keys", "move a handle or a dial that has the focus; Shift moves handles ten times as far"],
  ["?", "these keys"],
];

/** The keys, for reading. */
export function KeysDialog({ close }: { close: () => void }) {
  return (
    <Dialog title="Keys" close={close}>
      <Box as="dl" display="grid" gridTemplateColumns="auto 1fr" gap="6px 18px">
        {KEYS.map(([key, words]) => (
          <Fragment key={key}>
            <Box as="dt" fontFamily="mono" whiteSpace="nowrap">
              {key}
            </Box>
            <Box as="dd">{words}</Box>
          </Fragment>
        ))}
      </Box>
      <Box color="muted" fontSize="small" mt="10px">
        Keys rest while you type in a field.{" "}
        <Link to="/terms" onClick={close}>
          Terms explained
        </Link>
      </Box>
    </Dialog>
  );
}
