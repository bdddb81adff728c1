const KEY = "finebatch.dough";

/** Keep which dough was looked at last, so that the stages lead to it. */
export function rememberDough(id: number): void {
  localStorage.setItem(KEY, String(id));
}

export function forgetDough(): void {
  localStorage.removeItem(KEY);
}

/** The dough in the address, else the one looked at last, else none. */
export function lastDough(pathname: string): number | null {
  const inAddress = /\/(?:dough|tray|plan|book)\/(\d+)/.exec(pathname)?.[1];
  const id = Number(inAddress ?? localStorage.getItem(KEY));
  return Number.isInteger(id) && id > 0 ? id : null;
}
