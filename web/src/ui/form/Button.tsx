import { chakra } from "@chakra-ui/react";
import { buttonRecipe } from "../../theme/system";

/** A button with words. */
export const Button = chakra("button", buttonRecipe, { defaultProps: { type: "button" } });

/** A link that looks like a button. */
export const ButtonLink = chakra("a", buttonRecipe);
