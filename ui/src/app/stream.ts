import { type QueryClient, type QueryKey, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import {
  askAnew,
  clockQuery,
  hearSession,
  KEYS,
  TOLD,
  type Wire,
  wireQuery,
} from "../logic/queries";
import { meet } from "./upgrade";

/** It beats each second: so long without a beat is said, and after the longer time it is opened anew. */
const SILENT_MS = 3_000;
const OPEN_ANEW_MS = 12_000;

/** What is asked again when an event comes. */
const ASK_AGAIN: Record<string, QueryKey[]> = {
  session: [KEYS.weighing],
  devices: [KEYS.devices],
  network: [KEYS.network, KEYS.me],
};

/** Whether this tab is looked at. */
function useVisible(): boolean {
  const [visible, setVisible] = useState(document.visibilityState !== "hidden");
  useEffect(() => {
    const look = () => setVisible(document.visibilityState !== "hidden");
    document.addEventListener("visibilitychange", look);
    return () => document.removeEventListener("visibilitychange", look);
  }, []);
  return visible;
}

/**
 * Keep one stream of events open while the page is looked at, or rings (`rings`); a lost one is
 * shown, and opened again.
 *
 * A browser opens six connections to one server at the most: streams of tabs that nobody looks at
 * would leave none for anything else.
 */
export function useStream(rings: boolean): void {
  const queries = useQueryClient();
  const visible = useVisible();
  const open = visible || rings;
  useEffect(() => {
    if (!open) return;
    let source = opened(queries);
    let heard = Date.now();
    const hear = () => {
      heard = Date.now();
      if (source.readyState === EventSource.OPEN) say(queries, "on");
    };
    const events = ["beat", "session", "devices", "network", "scale", "oven"];
    const listen = () => {
      for (const event of events) source.addEventListener(event, hear);
      source.addEventListener("open", hear);
    };
    listen();
    const watch = setInterval(() => {
      const closed = source.readyState === EventSource.CLOSED;
      if (!closed && Date.now() - heard < SILENT_MS) return;
      say(queries, "lost");
      if (!closed && Date.now() - heard < OPEN_ANEW_MS) return;
      source.close();
      source = opened(queries);
      hear();
      listen();
    }, 1000);
    return () => {
      clearInterval(watch);
      source.close();
      // What happens until it is opened again is asked for then.
      queries.setQueryData<Wire>(wireQuery.queryKey, "shut");
    };
  }, [queries, open]);
}

function opened(queries: QueryClient): EventSource {
  const source = new EventSource("/api/stream");
  source.addEventListener("open", () => {
    const was = queries.getQueryData(wireQuery.queryKey);
    say(queries, "on");
    if (was !== "lost" && was !== "shut") return;
    // Whatever happened while the stream was lost, and what could not be answered meanwhile.
    for (const key of [KEYS.session, ...Object.values(ASK_AGAIN).flat()]) ask(queries, key);
    queries.invalidateQueries({ predicate: (query) => query.state.status === "error" });
  });
  source.addEventListener("error", () => say(queries, "lost"));
  source.addEventListener("hello", (message) =>
    meet(JSON.parse((message as MessageEvent<string>).data), queries),
  );
  source.addEventListener("clock", (message) =>
    queries.setQueryData(clockQuery.queryKey, JSON.parse((message as MessageEvent<string>).data)),
  );
  for (const [event, keys] of Object.entries(ASK_AGAIN)) {
    source.addEventListener(event, () => {
      for (const key of keys) ask(queries, key);
    });
  }
  // Another file is in the place of the one that was: nothing that is known holds.
  source.addEventListener("restored", () => askAnew(queries));
  source.addEventListener("session", (message) =>
    hearSession(queries, JSON.parse((message as MessageEvent<string>).data)),
  );
  for (const device of ["scale", "oven"] as const) {
    source.addEventListener(device, (message) =>
      queries.setQueryData(
        TOLD[device].queryKey,
        JSON.parse((message as MessageEvent<string>).data),
      ),
    );
  }
  return source;
}

function say(queries: QueryClient, wire: Wire): void {
  if (queries.getQueryData(wireQuery.queryKey) !== wire)
    queries.setQueryData<Wire>(wireQuery.queryKey, wire);
}

const ask = (queries: QueryClient, queryKey: QueryKey) => queries.invalidateQueries({ queryKey });
