import { chakra } from "@chakra-ui/react";
import { buttonRecipe } from "../../theme/system";

/** A button that a gloved thumb finds. */
export const Thumb = chakra(
  chakra("button", buttonRecipe),
  {
    base: {
      minH: "56px",
      minW: "56px",
      fontSize: "heading",
      fontWeight: "600",
      whiteSpace: "normal",
      lineHeight: "1.15",
      px: "10px",
    },
  },
  { defaultProps: { type: "button" } },
);
