import { useCallback, useEffect, useRef, useState } from "react";

const TYPED_INTO = "input, textarea, select, [contenteditable=true], dialog";

/** A dialog that a key opens from any screen, unless something is being typed; `open` is whether it
 * is, so that what stands in it need not be there before. */
export function useKeyDialog(key: string) {
  const dialog = useRef<HTMLDialogElement>(null);
  const [open, setOpen] = useState(false);
  const show = useCallback(() => {
    setOpen(true);
    dialog.current?.showModal();
  }, []);
  useEffect(() => {
    const hear = (event: KeyboardEvent) => {
      if (event.key !== key || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.target instanceof Element && event.target.closest(TYPED_INTO)) return;
      event.preventDefault();
      show();
    };
    addEventListener("keydown", hear);
    return () => removeEventListener("keydown", hear);
  }, [key, show]);
  return {
    open,
    show,
    close: () => dialog.current?.close(),
    dialog: { ref: dialog, onClose: () => setOpen(false) },
  };
}
