interface FilePressProps {
  children: React.ReactNode;
  /** Which files may be chosen. */
  accept: string;
  /** Have it taken by the camera at the back of a tablet or phone. */
  camera?: boolean;
  disabled?: boolean;
  className?: string;
  onFile: (file: File) => void;
}

/** A press by which a file is chosen, or a photo taken. */
export function FilePress({
  children,
  accept,
  camera,
  disabled,
  className = "press inline-flex cursor-pointer items-center",
  onFile,
}: FilePressProps) {
  return (
    <label className={`${className} focus-within:outline-3`}>
      {children}
      <input
        type="file"
        accept={accept}
        {...(camera ? { capture: "environment" } : {})}
        disabled={disabled}
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          // The same one may be chosen again.
          event.target.value = "";
          if (file) onFile(file);
        }}
      />
    </label>
  );
}
