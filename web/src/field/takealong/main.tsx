import "@fontsource-variable/hanken-grotesk/wght.css";
import "@fontsource-variable/spline-sans-mono/wght.css";
import { ChakraProvider } from "@chakra-ui/react";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { OnlyRed } from "../../theme/OnlyRed";
import { system } from "../../theme/system";
import { showStoredTheme } from "../../theme/themes";
import { type Taken, TakenAlong } from "./TakenAlong";

showStoredTheme();

const root = document.getElementById("root");
const taken = JSON.parse(document.getElementById("taken-along")?.textContent ?? "null") as Taken | null;
if (root)
  createRoot(root).render(
    <StrictMode>
      <ChakraProvider value={system}>
        <OnlyRed />
        {taken ? <TakenAlong taken={taken} /> : <p>This file holds no cards: take it along from the application.</p>}
      </ChakraProvider>
    </StrictMode>,
  );
