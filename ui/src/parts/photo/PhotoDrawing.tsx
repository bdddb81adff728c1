import { useEffect, useRef, useState } from "react";
import {
  CORNER_NAMES,
  type Corners,
  type Measured,
  middleOf,
  moved,
  outlineOf,
  type Place,
  type PutRight,
} from "../../logic/photo";
import { useWidth } from "../useWidth";
import { CornerHandle } from "./CornerHandle";

/** How wide the drawing is in its own units. */
const WIDE = 1000;
/** How large a name stands on the screen, however large the photo does. */
const NAME_PX = 16;

interface PhotoDrawingProps {
  photo: File;
  measured: Measured | undefined;
  corners: readonly Place[] | undefined;
  right: PutRight;
  picked: string | null;
  onCorners: (corners: Corners) => void;
  onPick: (name: string) => void;
}

/** The photo with what was measured on it: the sheet's corners, and each piece's outline. */
export function PhotoDrawing(props: PhotoDrawingProps) {
  const { photo, measured, corners, right, picked, onCorners, onPick } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const [ratio, setRatio] = useState(0.75);
  const [frame, width] = useWidth<HTMLDivElement>(WIDE);
  const unit = WIDE / width;
  useEffect(() => {
    let gone = false;
    createImageBitmap(photo).then(
      (picture) => {
        if (gone || !canvas.current) return;
        const scale = Math.min(1, 1600 / Math.max(picture.width, picture.height));
        canvas.current.width = Math.round(picture.width * scale);
        canvas.current.height = Math.round(picture.height * scale);
        canvas.current
          .getContext("2d")
          ?.drawImage(picture, 0, 0, canvas.current.width, canvas.current.height);
        setRatio(picture.height / picture.width);
      },
      // What is no picture is told by who measures it.
      () => {},
    );
    return () => {
      gone = true;
    };
  }, [photo]);
  const scale = { x: WIDE, y: WIDE * ratio };
  const line = (points: readonly Place[]) =>
    points.map(({ x, y }) => `${x * scale.x},${y * scale.y}`).join(" ");
  return (
    // Not higher than what stands below it leaves.
    <div ref={frame} className="relative" style={{ maxWidth: `${62 / ratio}vh` }}>
      <canvas ref={canvas} className="block w-full bg-wash" />
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing is no fieldset */}
      <svg
        role="group"
        aria-label="The photo, with what was measured on it"
        viewBox={`0 0 ${WIDE} ${WIDE * ratio}`}
        className="absolute inset-0 h-full w-full overflow-visible"
      >
        {corners && (
          <polygon
            points={line(corners)}
            className="fill-none stroke-yolk"
            strokeWidth={3}
            strokeDasharray="12 8"
          />
        )}
        {measured?.empty.map((circle) => (
          <polygon
            key={line(circle)}
            points={line(circle)}
            className="fill-none stroke-white"
            strokeWidth={4}
            strokeDasharray="10 10"
          />
        ))}
        {measured?.pieces.map((one) => {
          const { name } = one.piece;
          const isStruck = right.struck.includes(name);
          const middle = middleOf(one.outline);
          return (
            // biome-ignore lint/a11y/useSemanticElements: a button in a drawing
            <g
              key={name}
              role="button"
              tabIndex={0}
              aria-pressed={picked === name}
              aria-label={isStruck ? `${name}, struck out` : name}
              className={`group cursor-pointer outline-none ${isStruck ? "opacity-60" : ""}`}
              onClick={() => onPick(name)}
              onKeyDown={(event) => {
                if (event.key !== "Enter" && event.key !== " ") return;
                onPick(name);
                event.preventDefault();
              }}
            >
              <polygon
                points={line(outlineOf(one, right))}
                className={`fill-transparent group-focus-visible:[stroke-width:9] ${picked === name ? "stroke-yolk" : "stroke-white"}`}
                strokeWidth={picked === name ? 8 : 5}
              />
              <polygon
                points={line(outlineOf(one, right))}
                className={`fill-none ${one.touches.length > 0 ? "stroke-[#a8201a]" : "stroke-[#1d3a8f]"}`}
                strokeWidth={2.5}
                strokeDasharray={isStruck ? "6 6" : undefined}
              />
              <text
                x={middle.x * scale.x}
                y={middle.y * scale.y}
                dy="0.35em"
                textAnchor="middle"
                fontSize={NAME_PX * unit}
                strokeWidth={(NAME_PX / 4) * unit}
                className="fill-black stroke-white font-bold [paint-order:stroke]"
              >
                {name}
              </text>
              {isStruck && (
                <path
                  d={`M${middle.x * scale.x - 26} ${middle.y * scale.y + 26} l52 -52`}
                  className="stroke-[#a8201a]"
                  strokeWidth={7}
                />
              )}
            </g>
          );
        })}
        {corners?.map((at, n) => (
          <CornerHandle
            key={CORNER_NAMES[n]}
            label={`The sheet's ${CORNER_NAMES[n]}`}
            at={at}
            scale={scale}
            unit={unit}
            onMove={(to) => onCorners(moved(corners, n, to))}
          />
        ))}
      </svg>
    </div>
  );
}
