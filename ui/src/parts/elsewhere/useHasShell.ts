import { useEffect, useState } from "react";

/** Whether the screens are there when no server is; null until that is known. */
export function useHasShell(): boolean | null {
  const [has, setHas] = useState<boolean | null>(null);
  useEffect(() => {
    let over = false;
    const look = async () => {
      const worker = await navigator.serviceWorker?.getRegistration().catch(() => undefined);
      if (!over) setHas(Boolean(worker?.active));
    };
    void look();
    // It takes a moment at the first visit.
    const again = setInterval(look, 2_000);
    return () => {
      over = true;
      clearInterval(again);
    };
  }, []);
  return has;
}
