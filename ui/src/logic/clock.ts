let serverAheadMs = 0;

/** Set by the server's time, in ms since 1970, as an answer just told it. */
export function setClock(serverNow: number): void {
  serverAheadMs = serverNow - Date.now();
}

/** The time by the server's clock: a device's own may be wrong, and countdowns would be with it. */
export const serverNow = (): number => Date.now() + serverAheadMs;
