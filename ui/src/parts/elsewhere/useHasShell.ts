import { useEffect, useState } from "react";

/** Whether the screens are there when no server is: it takes a moment at the first visit. */
export function useHasShell(): boolean {
  const [has, setHas] = useState(false);
  useEffect(() => {
    void navigator.serviceWorker?.ready.then(() => setHas(true));
  }, []);
  return has;
}
