import { type ReactNode, type Ref, useId } from "react";
import { Notice } from "./Notice";

interface AskFirstProps {
  dialog: Ref<HTMLDialogElement>;
  title: ReactNode;
  /** What happens then. */
  children: ReactNode;
  problem: Error | null;
  no: string;
  yes: string;
  pending?: boolean;
  onNo: () => void;
  onYes: () => void;
}

/** What is asked before something that takes much away. */
export function AskFirst(props: AskFirstProps) {
  const title = useId();
  return (
    <dialog
      ref={props.dialog}
      aria-labelledby={title}
      className="m-auto w-96 max-w-[90vw] border-2 border-ink bg-sheet p-6 text-ink backdrop:bg-dark/40"
    >
      <h2 id={title} className="text-xl font-bold">
        {props.title}
      </h2>
      <p className="mt-2">{props.children}</p>
      <Notice problem={props.problem} />
      <div className="mt-4 flex justify-end gap-3">
        <button type="button" className="press" onClick={props.onNo}>
          {props.no}
        </button>
        <button
          type="button"
          className="press press-main"
          disabled={props.pending}
          onClick={props.onYes}
        >
          {props.yes}
        </button>
      </div>
    </dialog>
  );
}
