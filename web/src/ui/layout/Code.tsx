import { Box } from "@chakra-ui/react";
import makeCode from "qrcode-generator";

/** A text as a code for a camera; dark on light in every theme, since cameras read no others. */
export function Code({ text }: { text: string }) {
  const code = makeCode(0, "L");
  code.addData(text);
  code.make();
  const size = code.getModuleCount();
  let path = "";
  for (let row = 0; row < size; row++)
    for (let column = 0; column < size; column++)
      if (code.isDark(row, column)) path += `M${column + 4} ${row + 4}h1v1h-1z`;
  return (
    <Box bg="#fff" width="min(100%, 340px)" css={{ "[data-theme=ember] &": { background: "#f00" } }}>
      <svg viewBox={`0 0 ${size + 8} ${size + 8}`} width="100%" role="img" aria-label="A code to be photographed">
        <path d={path} fill="#000" />
      </svg>
    </Box>
  );
}
