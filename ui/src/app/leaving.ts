/**
 * A field that is kept when it is left is kept also when its page is: no browser says that it is left
 * by a reload, by a step back or by putting the window away. It stays where the hands are.
 */
export function keepOnLeaving(): void {
  const leave = () => {
    document.activeElement?.dispatchEvent(new FocusEvent("focusout", { bubbles: true }));
  };
  addEventListener("pagehide", leave);
  addEventListener("popstate", leave);
  document.addEventListener("visibilitychange", () => document.hidden && leave());
}
