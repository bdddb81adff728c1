const BEGIN = "finebatch.typed.";

/** Under this name is remembered that a card is being pasted on a screen, into its dough or a part. */
export const pastingOf = (path: string, home: string | number): string => `pasting ${path} ${home}`;

const sameKind = (one: unknown, other: unknown): boolean =>
  one === null ||
  other === null ||
  (typeof one === typeof other && Array.isArray(one) === Array.isArray(other));

/** What was typed under that name in this window and not kept yet; the `usual` where nothing was, or
 * what was is of another kind. */
export function remembered<T>(name: string, usual: T): T {
  try {
    const text = sessionStorage.getItem(BEGIN + name);
    if (text === null) return usual;
    const found: unknown = JSON.parse(text);
    return sameKind(found, usual) ? (found as T) : usual;
  } catch {
    return usual;
  }
}

/** Remember what is typed, until it is as usual again. */
export function remember<T>(name: string, value: T, usual: T): void {
  try {
    const text = JSON.stringify(value);
    if (text === JSON.stringify(usual)) sessionStorage.removeItem(BEGIN + name);
    else sessionStorage.setItem(BEGIN + name, text);
  } catch {
    // A full store loses what is typed only when the page is left.
  }
}

/** What was typed is kept, or wanted no more. */
export function forget(name: string): void {
  sessionStorage.removeItem(BEGIN + name);
}

/** It is kept, unless something else was typed since. */
export function forgetSame<T>(name: string, value: T): void {
  if (sessionStorage.getItem(BEGIN + name) === JSON.stringify(value)) forget(name);
}

/** Nothing that was typed may keep a screen from being shown. */
export function forgetAll(): void {
  for (const key of Object.keys(sessionStorage))
    if (key.startsWith(BEGIN)) sessionStorage.removeItem(key);
}
