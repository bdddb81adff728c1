import { FilePress } from "../FilePress";

const PICTURES = "image/jpeg,image/png";

/** A photo of a bake: taken where a finger presses the screen, chosen everywhere. */
export function PhotoPresses({ onPhoto }: { onPhoto: (photo: File) => void }) {
  return (
    <>
      <FilePress
        accept={PICTURES}
        camera
        className="press hidden min-h-12 cursor-pointer items-center pointer-coarse:inline-flex"
        onFile={onPhoto}
      >
        Take a photo
      </FilePress>
      <FilePress
        accept={PICTURES}
        className="press inline-flex cursor-pointer items-center pointer-coarse:min-h-12"
        onFile={onPhoto}
      >
        Choose a photo
      </FilePress>
    </>
  );
}
