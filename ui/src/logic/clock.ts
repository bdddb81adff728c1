let serverAheadMs = 0;

/** Set by the server's time, in ms since 1970, as an answer just told it. */
export function setClock(serverNow: number): void {
  setAhead(serverNow - Date.now());
}

/** The same by how far it is ahead of this device's (ms): of an answer that is kept. */
export function setAhead(ms: number): void {
  serverAheadMs = ms;
}

/** The time by the server's clock: a device's own may be wrong, and countdowns would be with it. */
export const serverNow = (): number => Date.now() + serverAheadMs;

/** How far the server's clock is ahead of this device's (ms). */
export const aheadMs = (): number => serverAheadMs;
