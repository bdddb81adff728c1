import { KEY_SHEET } from "../logic/keys";
import { useKeyDialog } from "../parts/useKeyDialog";

const KEY = "?";

/** Every key on one sheet, opened by a key of its own or a press. */
export function KeySheet() {
  const { open, show, close, dialog } = useKeyDialog(KEY);
  return (
    <>
      <button
        type="button"
        className="icon-press min-h-11 text-lg max-sm:hidden pointer-coarse:hidden"
        aria-label="Keys"
        aria-keyshortcuts={KEY}
        onClick={show}
      >
        <span aria-hidden="true" className="border border-current px-1.5 text-[0.9375rem]">
          {KEY}
        </span>
      </button>
      <dialog
        {...dialog}
        aria-label="Keys"
        className="m-auto w-[52rem] max-w-[94vw] border-2 border-ink bg-sheet p-5 text-ink backdrop:bg-dark/40"
      >
        <div className="flex items-baseline justify-between gap-3">
          <h2 className="text-2xl font-bold">Keys</h2>
          <button type="button" className="press min-h-9" onClick={close}>
            Close
          </button>
        </div>
        <div className="mt-2 gap-8 sm:columns-2">
          {(open ? KEY_SHEET : []).map(([where, keys]) => (
            <section key={where} aria-label={where} className="mb-4 break-inside-avoid">
              <h3 className="border-b border-ink font-bold">{where}</h3>
              <dl className="grid grid-cols-[5.5rem_minmax(0,1fr)] gap-x-3">
                {keys.map(([key, does]) => (
                  <div
                    key={key}
                    className="col-span-2 grid grid-cols-subgrid border-b border-line py-1"
                  >
                    <dt className="font-bold">{key}</dt>
                    <dd>{does}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
        </div>
      </dialog>
    </>
  );
}
