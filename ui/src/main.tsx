import { MutationCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { isElsewhere, ProblemError } from "./api/client";
import { App } from "./app/App";
import { showChosen } from "./app/colours";
import { keepOnLeaving } from "./app/leaving";
import "./app/theme.css";

const queries: QueryClient = new QueryClient({
  mutationCache: new MutationCache({
    // What was kept, and its answer lost, is shown as it is now.
    onError: (error) =>
      error instanceof ProblemError && error.isKept ? queries.invalidateQueries() : undefined,
  }),
  defaultOptions: {
    // The server is this machine: whether it is on a network is no matter.
    queries: { retry: false, staleTime: 1000, networkMode: "always" },
    mutations: { networkMode: "always" },
  },
});

showChosen();
// Before the screens hear of a step back.
keepOnLeaving();

// Of a tablet or phone alone: a network may drop, this machine does not.
if (isElsewhere()) (await import("./app/atHand")).haveAtHand(queries);

const root = document.getElementById("app");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
}
