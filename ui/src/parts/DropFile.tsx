import { useEffect, useEffectEvent, useState } from "react";

const hasFiles = (event: DragEvent): boolean =>
  event.dataTransfer?.types.includes("Files") ?? false;

interface DropFileProps {
  /** What a file is taken for, while one is held over the screen. */
  says: string;
  onFile: (file: File) => void;
}

/** Takes a file that is dropped anywhere on the screen, so that none opens in its place. */
export function DropFile({ says, onFile }: DropFileProps) {
  const [isOver, setIsOver] = useState(false);
  const take = useEffectEvent(onFile);
  useEffect(() => {
    const over = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      setIsOver(true);
    };
    // What it leaves for is named, but where it leaves the window.
    const leave = (event: DragEvent) => {
      if (event.relatedTarget === null) setIsOver(false);
    };
    const drop = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      setIsOver(false);
      const [file] = event.dataTransfer?.files ?? [];
      if (file) take(file);
    };
    window.addEventListener("dragover", over);
    window.addEventListener("dragleave", leave);
    window.addEventListener("drop", drop);
    return () => {
      window.removeEventListener("dragover", over);
      window.removeEventListener("dragleave", leave);
      window.removeEventListener("drop", drop);
    };
  }, []);
  return (
    isOver && (
      <p className="pointer-events-none fixed inset-3 z-50 grid place-items-center border-4 border-dashed border-enamel bg-paper/85 text-3xl font-bold">
        {says}
      </p>
    )
  );
}
