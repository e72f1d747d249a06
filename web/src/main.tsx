import "@fontsource-variable/hanken-grotesk/wght.css";
import "@fontsource-variable/spline-sans-mono/wght.css";
import { ChakraProvider } from "@chakra-ui/react";
import { MutationCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { App } from "./App";
import { showKey, watchForKey } from "./accounts/entry";
import { ApiError } from "./api/client";
import { system } from "./theme/system";
import { showStoredTheme } from "./theme/themes";
import { complain, Toaster } from "./ui/overlay/toaster";

showStoredTheme();
watchForKey();

const queries = new QueryClient({
  // What goes wrong while something is done, and belongs to no field, is said here and nowhere else.
  mutationCache: new MutationCache({
    onError: (error, _input, _context, mutation) => {
      if (!mutation.meta?.quiet) complain(error.message);
    },
  }),
  defaultOptions: {
    queries: {
      staleTime: 20_000,
      refetchOnWindowFocus: false,
      // Without a network a page says so at once instead of waiting for it, and looks again when it is back.
      networkMode: "always",
      refetchOnReconnect: true,
      retry: (count, error) =>
        navigator.onLine && error instanceof ApiError && (error.status === 0 || error.status >= 500) && count < 2,
    },
  },
});

// On a phone the runner must open with no network; while building the application there is no such file.
if (import.meta.env.PROD && "serviceWorker" in navigator && window.isSecureContext)
  window.addEventListener("load", () => void navigator.serviceWorker.register("/offline.js").catch(() => undefined));

const root = document.getElementById("root");
if (root)
  void showKey().then(() =>
    createRoot(root).render(
      <StrictMode>
        <QueryClientProvider client={queries}>
          <ChakraProvider value={system}>
            <BrowserRouter>
              <App />
              <Toaster />
            </BrowserRouter>
          </ChakraProvider>
        </QueryClientProvider>
      </StrictMode>,
    ),
  );
