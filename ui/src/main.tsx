import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { WHILE_LOST } from "./api/untilKept";
import { App } from "./app/App";
import "./app/theme.css";

const queries = new QueryClient({
  defaultOptions: {
    // The server is this machine: whether it is on a network is no matter.
    queries: { retry: false, staleTime: 1000, networkMode: "always" },
    mutations: { ...WHILE_LOST, networkMode: "always" },
  },
});

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
