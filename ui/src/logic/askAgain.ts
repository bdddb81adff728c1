import type { QueryClient, QueryKey } from "@tanstack/react-query";

/**
 * Ask anew for all that rests on what was just kept.
 *
 * A first answer still under way was asked before the change; it is called off, or it would count
 * as fresh when it comes.
 */
export async function askAgain(queries: QueryClient, ...keys: QueryKey[]): Promise<void> {
  await Promise.all(keys.map((queryKey) => queries.cancelQueries({ queryKey })));
  await Promise.all(keys.map((queryKey) => queries.invalidateQueries({ queryKey })));
}
